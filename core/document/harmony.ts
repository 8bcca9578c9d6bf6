// Chords of a section in the hand: named, put in, moved at either end, divided, taken away, copied to what
// returns. Each gives the whole row of chords again; undefined when nothing sensible could be done.
import { transposeSymbol } from '../music/chord-name'
import { barStarts, sectionTicks } from './form'
import type { Section, Song } from './schema'

export type Chord = Section['harmony'][number]
export type Harmony = readonly Chord[]

const endOf = (chord: Chord): number => chord.startTicks + chord.lengthTicks
const inOrder = (chords: Chord[]): Chord[] => chords.sort((a, b) => a.startTicks - b.startTicks)
/** A chord a person has decided on is no longer a guess. */
const decided = ({ confidence: _guessed, ...chord }: Chord): Chord => chord

/** The chord that sounds at a tick of its section. */
export const chordAt = (harmony: Harmony, tick: number): Chord | undefined =>
  harmony.findLast((chord) => chord.startTicks <= tick && tick < endOf(chord))

/** A chord over a stretch; what lay under it gives way, before and after it sounds on. */
export function withChord(harmony: Harmony, chord: Chord): Chord[] {
  const [from, to] = [chord.startTicks, endOf(chord)]
  const around = harmony.flatMap((other) => {
    const pieces: Chord[] = []
    if (other.startTicks < from)
      pieces.push({ ...other, lengthTicks: Math.min(endOf(other), from) - other.startTicks })
    if (endOf(other) > to) {
      const start = Math.max(other.startTicks, to)
      pieces.push({ ...other, startTicks: start, lengthTicks: endOf(other) - start })
    }
    return pieces
  })
  return inOrder([...around, decided(chord)])
}

/** The chord that begins at a tick under another name. */
export const renamedChord = (harmony: Harmony, startTicks: number, symbol: string): Chord[] =>
  harmony.map((chord) => (chord.startTicks === startTicks ? decided({ ...chord, symbol }) : chord))

/** The same chord struck again at a tick inside it: two to go on with. */
export function dividedChord(harmony: Harmony, startTicks: number, atTicks: number): Chord[] | undefined {
  const chord = harmony.find((one) => one.startTicks === startTicks)
  if (!chord || atTicks <= startTicks || atTicks >= endOf(chord)) return undefined
  const second = { ...chord, startTicks: atTicks, lengthTicks: endOf(chord) - atTicks }
  const first = { ...chord, lengthTicks: atTicks - startTicks }
  return inOrder([...harmony.filter((one) => one !== chord), first, second])
}

/** Without a chord: the one before it sounds on, where there is one that reaches it. */
export function withoutChord(harmony: Harmony, startTicks: number): Chord[] {
  const gone = harmony.find((one) => one.startTicks === startTicks)
  if (!gone) return [...harmony]
  return harmony
    .filter((one) => one !== gone)
    .map((one) =>
      endOf(one) === gone.startTicks ? { ...one, lengthTicks: one.lengthTicks + gone.lengthTicks } : one,
    )
}

/**
 * A chord begins earlier or later. What ends where it began ends where it begins; nothing gets shorter than
 * `leastTicks`.
 */
export function movedStart(
  harmony: Harmony,
  startTicks: number,
  move: { byTicks: number; leastTicks: number; earliestTicks: number },
): Chord[] | undefined {
  const chord = harmony.find((one) => one.startTicks === startTicks)
  if (!chord) return undefined
  const before = harmony.findLast((one) => one.startTicks < startTicks)
  const start = startTicks + move.byTicks
  const floor = before ? before.startTicks + move.leastTicks : move.earliestTicks
  if (start < floor || endOf(chord) - start < move.leastTicks) return undefined
  return harmony.map((one) => {
    if (one === chord) return decided({ ...one, startTicks: start, lengthTicks: endOf(one) - start })
    const touches = one === before && (endOf(one) === startTicks || endOf(one) > start)
    return touches ? { ...one, lengthTicks: start - one.startTicks } : one
  })
}

/** A chord ends earlier or later; what begins where it ended begins where it ends. */
export function movedEnd(
  harmony: Harmony,
  startTicks: number,
  move: { byTicks: number; leastTicks: number; latestTicks: number },
): Chord[] | undefined {
  const chord = harmony.find((one) => one.startTicks === startTicks)
  if (!chord) return undefined
  const after = harmony.find((one) => one.startTicks > startTicks)
  const end = endOf(chord) + move.byTicks
  const ceiling = after ? endOf(after) - move.leastTicks : move.latestTicks
  if (end > ceiling || end - startTicks < move.leastTicks) return undefined
  return harmony.map((one) => {
    if (one === chord) return decided({ ...one, lengthTicks: end - startTicks })
    const touches = one === after && (one.startTicks === endOf(chord) || one.startTicks < end)
    return touches ? { ...one, startTicks: end, lengthTicks: endOf(one) - end } : one
  })
}

/** A chord moves as a whole by so much; its neighbours make room. */
export function movedChord(
  harmony: Harmony,
  startTicks: number,
  move: { byTicks: number; leastTicks: number; earliestTicks: number; latestTicks: number },
): Chord[] | undefined {
  const ends = { ...move }
  if (move.byTicks < 0) {
    const earlier = movedStart(harmony, startTicks, ends)
    return earlier && movedEnd(earlier, startTicks + move.byTicks, ends)
  }
  const later = movedEnd(harmony, startTicks, ends)
  return later && movedStart(later, startTicks, ends)
}

/** The chords of a section as every section that returns it would have them, moved as it is moved. */
export function harmonyOfReturns(song: Song, sectionId: string): { sectionId: string; harmony: Chord[] }[] {
  const from = song.sections[sectionId]
  if (!from) return []
  return Object.values(song.sections).flatMap((section) => {
    const { returns } = section
    if (returns?.sectionId !== sectionId) return []
    const starts = barStarts(from)
    const { firstBar = 0, barCount = from.bars.length - firstBar } = returns
    const [start, end] = [starts[firstBar] ?? 0, starts[firstBar + barCount] ?? sectionTicks(from)]
    const room = Math.min(sectionTicks(section), end - start)
    const copied = from.harmony
      .filter((chord) => endOf(chord) > start && chord.startTicks < end)
      .map((chord) => ({
        ...chord,
        startTicks: firstBar === 0 ? chord.startTicks - start : Math.max(0, chord.startTicks - start),
        symbol: returns.shiftSemitones
          ? transposeSymbol(chord.symbol, returns.shiftSemitones, section.key ?? song.key)
          : chord.symbol,
      }))
      .filter((chord) => chord.startTicks < room)
      .map((chord) => ({ ...chord, lengthTicks: Math.min(chord.lengthTicks, room - chord.startTicks) }))
    // What is longer than the section it returns keeps its own chords there.
    const own = section.harmony.filter((chord) => chord.startTicks >= room)
    return [{ sectionId: section.id, harmony: inOrder([...copied, ...own]) }]
  })
}

/** Stretches of a section, at least so long, in which no chord is set. */
export function withoutChords(section: Section, leastTicks: number): { from: number; to: number }[] {
  const gaps: { from: number; to: number }[] = []
  let at = 0
  for (const chord of inOrder([...section.harmony])) {
    if (chord.startTicks - at >= leastTicks) gaps.push({ from: at, to: chord.startTicks })
    at = Math.max(at, endOf(chord))
  }
  const end = sectionTicks(section)
  if (end - at >= leastTicks) gaps.push({ from: at, to: end })
  return gaps
}
