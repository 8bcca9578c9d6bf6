// What a figure asks of the hands at a tempo, measured on what sounds: stretch, shifts, pace, slurs, bends,
// leaps over strings, muting, syncopation. Difficulty is made of these and of nothing else.
import type { Content, Figure, Part } from '../document/schema'
import { fingerPlaceMm } from '../instrument/neck'
import { barTicks, beatTicks } from '../time/meter'
import { performContent, type PlayedNote } from '../score/perform'

export interface Demands {
  /** Widest distance along the neck between fingers that are down together, mm, and the frets of it. */
  stretchMm: number
  stretchFrets: [number, number] | undefined
  /** Frets the hand travels beyond a position, per second in the hardest bar; and the widest jump. */
  shiftPerSecond: number
  widestShift: number
  /** Beginnings a second in the densest bar. */
  pace: number
  /** Hammered, pulled or slid, in the bar that has most. */
  slursPerBar: number
  /** Bent, a wide bend for more, in the bar that has most. */
  bendsPerBar: number
  /** Strings leapt over from one note to the next, in the bar that has most; through a grip for less. */
  leapsPerBar: number
  /** Changes between muted, ringing and dead, in the bar that has most. */
  muteChangesPerBar: number
  /** Share of beginnings that are off the beat with nothing on the next one. */
  syncopation: number
  /** Beginnings in all of it. */
  strokes: number
}

/** Four frets lie under the hand without a shift. */
const POSITION_FRETS = 3

/** The same at one onset. */
interface Onset {
  tick: number
  notes: PlayedNote[]
}

function onsetsOf(notes: readonly PlayedNote[]): Onset[] {
  const byTick = new Map<number, PlayedNote[]>()
  for (const note of notes) {
    const own = byTick.get(note.startTicks)
    if (own) own.push(note)
    else byTick.set(note.startTicks, [note])
  }
  return [...byTick]
    .map(([tick, together]): Onset => ({ tick, notes: together }))
    .sort((a, b) => a.tick - b.tick)
}

/** Fretted by the hand on this note; nothing of an open string. */
function fretsOf({ notes }: Onset, part: Part): number[] {
  return notes.flatMap(({ harmonic, origin: { fret = 0 } }) =>
    harmonic || fret === 0 ? [] : [fret + part.instrument.capo],
  )
}

/** The hardest bar decides: a figure is as hard as it gets. */
export function demandsOf(
  content: Content,
  figure: Pick<Figure, 'lengthTicks' | 'meter'>,
  part: Part,
  secondsPerTick: number,
): Demands {
  const onsets = onsetsOf(performContent(content, figure, part))
  const bar = Math.min(barTicks(figure.meter), figure.lengthTicks)
  const barSeconds = Math.max(0.001, bar * secondsPerTick)
  const shifts = shiftsOf(onsets, part)
  const most = (of: readonly { tick: number; amount: number }[]): number => mostInABar(of, bar)
  const each = (list: readonly Onset[]) => list.map(({ tick }) => ({ tick, amount: 1 }))
  return {
    ...stretchOf(onsets, part),
    shiftPerSecond: most(shifts) / barSeconds,
    widestShift: Math.max(0, ...shifts.map(({ amount }) => amount)),
    pace: most(each(onsets)) / barSeconds,
    slursPerBar: most(each(onsets.filter(({ notes }) => notes.some(isSlurred)))),
    bendsPerBar: most(bendsOf(onsets)),
    leapsPerBar: most(leapsOf(onsets)),
    muteChangesPerBar: most(each(muteChanges(onsets))),
    syncopation: syncopationOf(onsets, figure),
    strokes: onsets.length,
  }
}

function mostInABar(list: readonly { tick: number; amount: number }[], bar: number): number {
  const bars = new Map<number, number>()
  for (const { tick, amount } of list) {
    const index = Math.floor(tick / bar)
    bars.set(index, (bars.get(index) ?? 0) + amount)
  }
  return Math.max(0, ...bars.values())
}

const isBent = ({ curve, joins }: PlayedNote): boolean => curve.length > 0 || joins === 'release'
const isSlurred = (note: PlayedNote): boolean =>
  !isBent(note) && (note.attack === 'slurred' || note.joins === 'slide' || note.slidTo === true)

/** Each bend counts once, one of more than a half step by its semitones. */
function bendsOf(onsets: readonly Onset[]): { tick: number; amount: number }[] {
  return onsets.flatMap(({ tick, notes }) => {
    const bent = notes.filter(isBent)
    if (!bent.length) return []
    const reach = bent.map(({ curve }) => Math.max(1, ...curve.map(({ semitones }) => Math.abs(semitones))))
    return [{ tick, amount: Math.max(...reach) }]
  })
}

/** A leap while the string before rings on is one of the picking hand alone. */
const THROUGH_A_GRIP = 0.25
/** Strings between one single note and the next. */
function leapsOf(onsets: readonly Onset[]): { tick: number; amount: number }[] {
  return onsets.flatMap((onset, index) => {
    const [before, now] = [onsets[index - 1]?.notes, onset.notes]
    const [from, to] = [before?.[0], now[0]]
    if (!from || !to || before?.length !== 1 || now.length !== 1) return []
    const over = Math.abs(from.string - to.string) - 1
    if (over <= 0) return []
    const ringsOn = from.letRing || from.endTicks > to.startTicks
    return [{ tick: onset.tick, amount: ringsOn ? over * THROUGH_A_GRIP : over }]
  })
}

function stretchOf(onsets: readonly Onset[], part: Part): Pick<Demands, 'stretchMm' | 'stretchFrets'> {
  let widest: Pick<Demands, 'stretchMm' | 'stretchFrets'> = { stretchMm: 0, stretchFrets: undefined }
  for (const onset of onsets) {
    const frets = fretsOf(onset, part)
    if (frets.length < 2) continue
    const [low, high] = [Math.min(...frets), Math.max(...frets)]
    const { scaleLengthMm } = part.instrument
    const stretchMm = fingerPlaceMm(high, scaleLengthMm) - fingerPlaceMm(low, scaleLengthMm)
    if (stretchMm > widest.stretchMm) widest = { stretchMm, stretchFrets: [low, high] }
  }
  return widest
}

/** How far the hand leaves its position, in frets, at each onset where it does. */
function shiftsOf(onsets: readonly Onset[], part: Part): { tick: number; amount: number }[] {
  const shifts: { tick: number; amount: number }[] = []
  let position: number | undefined
  for (const onset of onsets) {
    const frets = fretsOf(onset, part)
    if (frets.length === 0) continue
    const [low, high] = [Math.min(...frets), Math.max(...frets)]
    position ??= low
    const below = Math.max(0, position - low)
    const amount = Math.max(below, high - position - POSITION_FRETS)
    if (amount <= 0) continue
    position = below > 0 ? low : Math.max(1, high - POSITION_FRETS)
    shifts.push({ tick: onset.tick, amount })
  }
  return shifts
}

/** Onsets at which what is muted, ringing or dead changes. */
function muteChanges(onsets: readonly Onset[]): Onset[] {
  const stateOf = ({ notes }: Onset): string => {
    if (notes.every(({ dead }) => dead)) return 'dead'
    return notes.some(({ palmMute }) => palmMute) ? 'muted' : 'open'
  }
  return onsets.filter((onset, index) => {
    const before = onsets[index - 1]
    return before !== undefined && stateOf(before) !== stateOf(onset)
  })
}

function syncopationOf(onsets: readonly Onset[], { meter }: Pick<Figure, 'meter'>): number {
  if (onsets.length === 0) return 0
  const beat = beatTicks(meter)
  const on = new Set(onsets.map(({ tick }) => tick))
  const pushed = onsets.filter(({ tick }) => tick % beat !== 0 && !on.has(Math.ceil(tick / beat) * beat))
  return pushed.length / onsets.length
}
