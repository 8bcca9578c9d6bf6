// A second line to a first, laid on the neck with the same rhythm and marks.
import type { Key } from '../../music/pitch'
import { ok, refuse, type Result } from '../../result'
import type { Mark, Content, Note, Part } from '../../document/schema'
import { soundingMidi } from '../../document/part-pitch'
import { harmonyClashes, type Clash } from './harmony-clashes'
import { harmonyPitch, type ChordAt, type HarmonyRule } from './harmony-rule'
import { onPath, pathNotes, pitched } from './line'
import { isWish, pathWhere } from './neck-wish'
import { findPaths, type LinePath, type PathNote } from './path'

export interface HarmonyLine {
  notes: Note[]
  /** Semitones from the first line, per note. */ intervals: number[]
  clashes: Clash[]
  remarks: { startTicks: number; text: string }[]
}

/** A bend as the second line has it: as far as the key asks, held, or slid to when it would be too far. */
function followBend(
  mark: Mark,
  bent: (semitones: number) => number,
): { mark: Mark | undefined; text?: string } {
  if (mark.kind !== 'bend') return { mark }
  const top = bent(mark.semitones)
  if (top < 0.5) return { mark: undefined, text: 'the bend has no room in the key: the note is held' }
  if (top <= 3) return { mark: { ...mark, semitones: top } }
  return {
    mark: { kind: 'slide', how: 'shift' },
    text: `the bend would have to reach ${top} semitones: slide or pick it instead`,
  }
}

/** The second line, on the neck of a part. Refused when it leaves the neck or no hand can play it. */
export function harmonyLine(
  content: Content,
  from: Part,
  to: Part,
  rule: HarmonyRule,
  chords: readonly ChordAt[] = [],
): Result<HarmonyLine> {
  const lead = pitched(content)
  if (lead.length === 0) return refuse('no-notes', 'There are no notes here to put a second line to.')
  const remarks: HarmonyLine['remarks'] = []
  const wanted = lead.map((note) =>
    harmonyPitch(soundingMidi(from, note.string, note.fret), note.startTicks, rule),
  )
  const drafts = lead.map((note, index) => {
    const own = soundingMidi(from, note.string, note.fret)
    const bent = (by: number): number =>
      harmonyPitch(own + by, note.startTicks, { ...rule, exceptions: [] }) - wanted[index]!
    const marks = note.marks.map((mark) => followBend(mark, bent))
    remarks.push(...marks.flatMap(({ text }) => (text ? [{ startTicks: note.startTicks, text }] : [])))
    return { ...note, marks: marks.flatMap(({ mark }) => mark ?? []) }
  })
  const neck: PathNote[] = pathNotes(drafts, from).map((note, index) => ({
    ...note,
    midi: wanted[index]!,
    slurred: note.slurred && keepsDirection(drafts, wanted, index),
  }))
  const path =
    rule.where && isWish(rule.where)
      ? pathWhere(neck, to, rule.key, rule.where)
      : nearFirst(neck, lead, to, rule.key)
  if (!path.ok) return path
  const laid = onPath(drafts, path.value, false).map((note, index): Note => ({
    ...note,
    id: lead[index]!.id,
    marks: redirected(note, index, drafts, wanted),
  }))
  return ok({
    notes: laid,
    intervals: wanted.map((midi, index) => midi - soundingMidi(from, lead[index]!.string, lead[index]!.fret)),
    clashes: harmonyClashes(lead, wanted, chords, { from, rule }),
    remarks,
  })
}

/**
 * Frets beside the first line's within which a second line is looked for, and by how much harder it may be
 * there than at its easiest.
 */
const BESIDE_FRETS = 4
const HARDER = { factor: 1.4, more: 4 }
/**
 * The best path near where the first line is played: two guitarists look at each other's hands. Elsewhere
 * only where that is much easier.
 */
function nearFirst(
  notes: readonly PathNote[],
  lead: readonly Note[],
  part: Part,
  key: Key,
): Result<LinePath> {
  const beside = besideFirst(notes, lead, part, key)
  if (beside) return ok(beside)
  const best = findPaths(notes, part, key, {}, 1)
  const frets = lead.flatMap((note) => (note.fret > 0 ? [note.fret] : []))
  if (!best.ok || frets.length === 0) return best.ok ? ok(best.value[0]!) : best
  const [easiest] = best.value
  const near = findPaths(
    notes,
    part,
    key,
    {
      frets: { from: Math.max(1, Math.min(...frets) - BESIDE_FRETS), to: Math.max(...frets) + BESIDE_FRETS },
      noOpen: true,
    },
    1,
  )
  return ok(
    near.ok && near.value[0]!.cost <= easiest!.cost * HARDER.factor + HARDER.more ? near.value[0]! : easiest!,
  )
}

/** Fewer notes on one string are no run along it. */
const LEAST_RUN = 3
/** Where the first line runs along one string, the second runs along one too, beside it, where it can. */
function besideFirst(
  notes: readonly PathNote[],
  lead: readonly Note[],
  part: Part,
  key: Key,
): LinePath | undefined {
  const own = new Set(lead.map(({ string }) => string))
  const frets = new Set(lead.map(({ fret }) => fret))
  if (own.size !== 1 || frets.size < LEAST_RUN) return undefined
  const strings = part.tuning.openMidi.flatMap((_, index) => {
    if (own.has(index + 1)) return []
    const open = soundingMidi(part, index + 1, 0)
    const apart = notes.map(({ midi }, at) => Math.abs(midi - open - (lead[at]?.fret ?? 0)))
    const pressed = notes.every(({ midi }) => midi > open)
    return pressed && Math.max(...apart) <= BESIDE_FRETS
      ? [{ string: index + 1, far: Math.max(...apart) }]
      : []
  })
  const nearest = strings.sort((a, b) => a.far - b.far)[0]
  const path = nearest && pathWhere(notes, part, key, { strings: [nearest.string] })
  return path?.ok ? path.value : undefined
}

const slurSource = (notes: readonly Note[], index: number): number => {
  for (let at = index - 1; at >= 0; at--) if (notes[at]!.string === notes[index]!.string) return at
  return -1
}
/** A slur needs two different pitches on the second line as well. */
function keepsDirection(notes: readonly Note[], wanted: readonly number[], index: number): boolean {
  const source = slurSource(notes, index)
  return source >= 0 && wanted[source] !== wanted[index]
}
/**
 * Where the second line moves the other way, a hammer-on is a pull-off; where it stays, the note is picked.
 */
function redirected(
  note: Note,
  index: number,
  drafts: readonly Note[],
  wanted: readonly number[],
): Note['marks'] {
  const source = slurSource(drafts, index)
  const step = source < 0 ? 0 : wanted[index]! - wanted[source]!
  return note.marks.flatMap((mark): Note['marks'] => {
    if (mark.kind === 'hammer-on' || mark.kind === 'pull-off') {
      if (step === 0) return []
      return [step > 0 ? { kind: 'hammer-on' } : { kind: 'pull-off' }]
    }
    if (mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift') && step === 0) return []
    return [mark]
  })
}
