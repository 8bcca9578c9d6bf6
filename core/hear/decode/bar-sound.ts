// What each bar sounds like: its harmony beat by beat, its colour and its drums; and how like two bars are.
import type { OnsetStrength } from '../features/onset-strength'

export interface BarSound {
  start: number
  end: number
  /** Chroma of four quarters of the bar, three registers of 12 each, every register scaled to length 1. */
  harmony: Float64Array[]
  /** Mean level in each band, logarithmic. */
  colour: Float64Array
  /** Onsets in low, middle and high bands over eight places of the bar. */
  rhythm: Float64Array
  loudness: number
}
const QUARTERS = 4
/** Places of a bar at which drums are looked at. */
export const PLACES = 8

const unit = (values: Float64Array): Float64Array => {
  let sum = 1e-9
  for (const value of values) sum += value * value
  const scale = 1 / Math.sqrt(sum)
  return values.map((value) => value * scale)
}
export const cosine = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let dot = 0
  let aa = 1e-9
  let bb = 1e-9
  for (let i = 0; i < a.length; i++) {
    dot += a[i]! * b[i]!
    aa += a[i]! ** 2
    bb += b[i]! ** 2
  }
  return dot / Math.sqrt(aa * bb)
}

/** Describes each bar. `chromaAt` gives the 36 pitch-class strengths of a stretch. */
export function describeBars(
  barStarts: readonly number[],
  endSeconds: number,
  onsets: OnsetStrength,
  chromaAt: (start: number, end: number) => Float32Array,
): BarSound[] {
  const rate = onsets.framesPerSecond
  const bars = barStarts.map((start, index): BarSound => {
    const end = barStarts[index + 1] ?? endSeconds
    const harmony = Array.from({ length: QUARTERS }, (_, quarter) => {
      const chroma = chromaAt(
        start + ((end - start) * quarter) / QUARTERS,
        start + ((end - start) * (quarter + 1)) / QUARTERS,
      )
      const out = new Float64Array(36)
      for (let register = 0; register < 3; register++)
        out.set(unit(Float64Array.from(chroma.subarray(register * 12, register * 12 + 12))), register * 12)
      return out
    })
    const bands = onsets.bands[0]?.length ?? 0
    const colour = new Float64Array(bands)
    const first = Math.max(0, Math.floor(start * onsets.bandsPerSecond))
    const last = Math.min(
      onsets.bands.length - 1,
      Math.max(first, Math.floor(end * onsets.bandsPerSecond) - 1),
    )
    for (let t = first; t <= last; t++)
      for (let band = 0; band < bands; band++) colour[band]! += onsets.bands[t]![band]! / (last - first + 1)
    const rhythm = new Float64Array(3 * PLACES)
    ;[onsets.low, onsets.mid, onsets.high].forEach((curve, row) => {
      for (let place = 0; place < PLACES; place++) {
        const from = (start + ((end - start) * (place - 0.5)) / PLACES) * rate
        for (
          let t = Math.max(0, Math.floor(from));
          t < Math.min(curve.length, from + ((end - start) * rate) / PLACES);
          t++
        )
          rhythm[row * PLACES + place] = Math.max(rhythm[row * PLACES + place]!, curve[t]!)
      }
    })
    let loudness = 0
    const [from, to] = [Math.floor(start * rate), Math.floor(end * rate)]
    for (let t = from; t < to; t++) loudness += onsets.loudness[t] ?? 0
    return {
      start,
      end,
      harmony,
      colour,
      rhythm,
      loudness: Math.log(1e-6 + loudness / Math.max(1, to - from)),
    }
  })
  scaleColumns(bars.map((bar) => bar.colour))
  scaleColumns(bars.map((bar) => bar.rhythm))
  return bars
}
/** Each column to mean 0 and deviation 1 over the song, in place. */
function scaleColumns(rows: Float64Array[]): void {
  for (let column = 0; column < (rows[0]?.length ?? 0); column++) {
    const mean = rows.reduce((sum, row) => sum + row[column]!, 0) / rows.length
    const deviation =
      Math.sqrt(rows.reduce((sum, row) => sum + (row[column]! - mean) ** 2, 0) / rows.length) + 0.15
    for (const row of rows) row[column] = (row[column]! - mean) / deviation
  }
}

/** Likeness of the harmony of two bars, the second moved up by semitones: 0–1. */
export function harmonyLikeness(a: BarSound, b: BarSound, shift = 0): number {
  let sum = 0
  for (let quarter = 0; quarter < QUARTERS; quarter++)
    for (let register = 0; register < 3; register++)
      for (let k = 0; k < 12; k++)
        sum +=
          a.harmony[quarter]![register * 12 + k]! *
          b.harmony[quarter]![register * 12 + ((k + shift + 12) % 12)]!
  return sum / (QUARTERS * 3)
}
export const distance = (a: Float64Array, b: Float64Array): number => {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2
  return Math.sqrt(sum / Math.max(1, a.length))
}
export const meanOf = (
  bars: readonly BarSound[],
  pick: (bar: BarSound) => Float64Array,
): Float64Array | undefined => {
  if (bars.length === 0) return undefined
  const out = new Float64Array(pick(bars[0]!).length)
  for (const bar of bars)
    pick(bar).forEach((value, index) => {
      out[index]! += value / bars.length
    })
  return out
}

/** Harmony likeness of every pair of bars; quadratic in bars. */
export function likenessMatrix(bars: readonly BarSound[]): Float64Array[] {
  const rows = bars.map(() => new Float64Array(bars.length))
  for (let a = 0; a < bars.length; a++)
    for (let b = a; b < bars.length; b++) {
      const value = harmonyLikeness(bars[a]!, bars[b]!)
      rows[a]![b] = value
      rows[b]![a] = value
    }
  return rows
}
