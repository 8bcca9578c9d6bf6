// Two recordings of one song, laid beside each other: dynamic time warping of their harmony (Sakoe and
// Chiba 1978; chroma as Müller 2015), the second moved by semitones until it fits best. Says which time in
// one is which in the other and where one has what the other lacks.
import { checkpoint, type JobContext } from './job'
import { chromaOf, notesIn, spectrumOf, type PitchSpectrum } from './features/pitch-spectrum'

const STEP_SECONDS = 0.25
/** Frames of the smoothed chroma that decide the first, coarse path. */
const COARSE = 4
/** How far the fine path may leave the coarse one, in frames. */
const BAND = 24

export interface Alignment {
  /** Semitones the second recording sounds above the first. */
  semitones: number
  /** Mean likeness along the path, 0–1. */
  likeness: number
  /** Rising in both. */
  points: { first: number; second: number }[]
  /** Stretches that only one of them has, at least four seconds. */
  only: { which: 'first' | 'second'; start: number; end: number }[]
}

/** Pitch classes of the middle and top registers over time, scaled to length 1; zero where nothing sounds. */
export function chromaFrames(pitches: PitchSpectrum, durationSeconds: number): Float64Array[] {
  return Array.from({ length: Math.max(1, Math.floor(durationSeconds / STEP_SECONDS)) }, (_, index) => {
    const chroma = chromaOf(notesIn(spectrumOf(pitches, index * STEP_SECONDS, (index + 1) * STEP_SECONDS)))
    const out = new Float64Array(12)
    for (let k = 0; k < 12; k++)
      out[k] = Math.sqrt(chroma[k]! * 0.5 + chroma[12 + k]! + 0.7 * chroma[24 + k]!)
    const length = Math.sqrt(out.reduce((sum, value) => sum + value * value, 0)) || 1
    return out.map((value) => value / length)
  })
}
const likeness = (a: Float64Array, b: Float64Array, shift: number): number => {
  let sum = 0
  for (let k = 0; k < 12; k++) sum += a[k]! * b[(k + shift + 12) % 12]!
  return sum
}

const coarsen = (frames: readonly Float64Array[]): Float64Array[] =>
  Array.from({ length: Math.ceil(frames.length / COARSE) }, (_, index) => {
    const out = new Float64Array(12)
    for (const frame of frames.slice(index * COARSE, (index + 1) * COARSE))
      frame.forEach((value, k) => {
        out[k]! += value
      })
    const length = Math.sqrt(out.reduce((sum, value) => sum + value * value, 0)) || 1
    return out.map((value) => value / length)
  })

/**
 * Cheapest path through all pairs; `allowed` limits the second index per first. Ends are free: one may
 * begin or end before the other.
 */
function warp(
  a: readonly Float64Array[],
  b: readonly Float64Array[],
  shift: number,
  allowed: (i: number) => [number, number],
): { cost: number; path: [number, number][] } {
  const width = b.length
  const score = Array.from({ length: a.length }, () => new Float64Array(width).fill(Number.POSITIVE_INFINITY))
  const from = Array.from({ length: a.length }, () => new Uint8Array(width))
  for (let i = 0; i < a.length; i++) {
    const [low, high] = allowed(i)
    for (let j = low; j <= high; j++) {
      const cost = 1 - likeness(a[i]!, b[j]!, shift)
      if (i === 0 || j === 0) {
        score[i]![j] = cost + 0.25 * (i + j) * 0.2
        continue
      }
      const [diagonal, up, left] = [
        score[i - 1]![j - 1]! + cost,
        score[i - 1]![j]! + cost + 0.22,
        score[i]![j - 1]! + cost + 0.22,
      ]
      if (diagonal <= up && diagonal <= left) {
        score[i]![j] = diagonal
        from[i]![j] = 1
      } else if (up <= left) {
        score[i]![j] = up
        from[i]![j] = 2
      } else {
        score[i]![j] = left
        from[i]![j] = 3
      }
    }
  }
  let best: [number, number] = [a.length - 1, width - 1]
  let cheapest = score[a.length - 1]![width - 1]!
  for (let j = 0; j < width; j++)
    if (score[a.length - 1]![j]! + 0.05 * (width - 1 - j) < cheapest) {
      cheapest = score[a.length - 1]![j]! + 0.05 * (width - 1 - j)
      best = [a.length - 1, j]
    }
  for (let i = 0; i < a.length; i++)
    if (score[i]![width - 1]! + 0.05 * (a.length - 1 - i) < cheapest) {
      cheapest = score[i]![width - 1]! + 0.05 * (a.length - 1 - i)
      best = [i, width - 1]
    }
  const path: [number, number][] = []
  for (let [i, j] = best; ;) {
    path.push([i, j])
    const step = from[i]![j]!
    if (step === 0) break
    if (step !== 3) i--
    if (step !== 2) j--
  }
  return { cost: cheapest / Math.max(a.length, width), path: path.reverse() }
}

export async function alignRecordings(
  first: readonly Float64Array[],
  second: readonly Float64Array[],
  job: JobContext,
): Promise<Alignment> {
  const [a, b] = [coarsen(first), coarsen(second)]
  const mean = (frames: readonly Float64Array[]): Float64Array => {
    const out = new Float64Array(12)
    for (const frame of frames)
      frame.forEach((value, k) => {
        out[k]! += value / frames.length
      })
    return out
  }
  // The three shifts whose overall pitch classes fit best are tried in full.
  const shifts = Array.from({ length: 12 }, (_, shift) => ({
    shift,
    value: likeness(mean(a), mean(b), shift),
  }))
    .sort((x, y) => y.value - x.value)
    .slice(0, 4)
  let best: { shift: number; cost: number; path: [number, number][] } | undefined
  for (const { shift } of shifts) {
    await checkpoint(job, 'comparing', 0.2)
    const found = warp(a, b, shift, () => [0, b.length - 1])
    if (!best || found.cost < best.cost) best = { shift, ...found }
  }
  const { shift, path } = best!
  await checkpoint(job, 'comparing', 0.7)
  const centre = new Map<number, [number, number]>()
  for (const [i, j] of path)
    for (let k = 0; k < COARSE; k++) {
      const at = i * COARSE + k
      const known = centre.get(at)
      centre.set(at, [
        Math.min(known?.[0] ?? Infinity, j * COARSE),
        Math.max(known?.[1] ?? 0, j * COARSE + COARSE),
      ])
    }
  const clamp = (value: number): number => Math.max(0, Math.min(second.length - 1, value))
  const [edgeFirst, edgeLast] = [path[0]!, path.at(-1)!]
  const fine = warp(first, second, shift, (i) => {
    const [low, high] =
      centre.get(i) ??
      (i < edgeFirst[0] * COARSE ? [0, edgeFirst[1] * COARSE] : [edgeLast[1] * COARSE, second.length - 1])
    return [clamp(low - BAND), clamp(high + BAND)]
  })
  const points = fine.path.map(([i, j]) => ({
    first: (i + 0.5) * STEP_SECONDS,
    second: (j + 0.5) * STEP_SECONDS,
  }))
  const total = fine.path.reduce((sum, [i, j]) => sum + likeness(first[i]!, second[j]!, shift), 0)
  return {
    semitones: shift > 6 ? shift - 12 : shift,
    likeness: total / fine.path.length,
    points,
    only: loneStretches(fine.path, first.length, second.length),
  }
}

const LONE_SECONDS = 4
function loneStretches(
  path: readonly [number, number][],
  firstLength: number,
  secondLength: number,
): Alignment['only'] {
  const only: Alignment['only'] = []
  const add = (which: 'first' | 'second', from: number, to: number): void => {
    if ((to - from) * STEP_SECONDS >= LONE_SECONDS)
      only.push({ which, start: from * STEP_SECONDS, end: to * STEP_SECONDS })
  }
  add('first', 0, path[0]![0])
  add('second', 0, path[0]![1])
  for (let k = 1; k < path.length;) {
    let end = k
    const [i, j] = path[k - 1]!
    while (end < path.length && path[end]![1] === j) end++
    if (end > k) {
      add('first', i, path[end - 1]![0])
      k = end
      continue
    }
    while (end < path.length && path[end]![0] === i) end++
    if (end > k) {
      add('second', j, path[end - 1]![1])
      k = end
      continue
    }
    k++
  }
  add('first', path.at(-1)![0] + 1, firstLength)
  add('second', path.at(-1)![1] + 1, secondLength)
  return only
}

/** The time in the second recording at which the first is at `seconds`; beyond the path it runs on evenly. */
export function firstToSecond(points: Alignment['points'], seconds: number): number {
  const at = points.findIndex((point) => point.first > seconds)
  if (at === 0) return Math.max(0, points[0]!.second - (points[0]!.first - seconds))
  if (at === -1) return points.at(-1)!.second + seconds - points.at(-1)!.first
  const [a, b] = [points[at - 1]!, points[at]!]
  return a.second + ((seconds - a.first) / (b.first - a.first)) * (b.second - a.second)
}
