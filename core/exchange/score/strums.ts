// Notes that were struck in one movement, as a stroke over a grip again: what the thumb or the fingers
// pluck, and three strings and more that a pick takes together. Everything else stays single notes.
import { same } from '../../same'
import { strokeMarkSchema, type MarkKind } from '../../marks'
import { hasMark, sameMark } from '../../marks/marks-of'
import type { Content, Grip, GripSpan, MuteSpan, Stroke } from '../../document/schema'
import type { WrittenNote } from './written-score'

const LEAST_STRINGS = 3
/** Marks a stroke can bear, or a span over it. */
const OF_STROKE = new Set<MarkKind>(['accent', 'choke', 'staccato', 'palm mute', 'let ring', 'slide'])

export interface Strums extends Pick<Content, 'grips' | 'strokes' | 'mutes'> {
  /** What stays single notes. */
  single: WrittenNote[]
}

const sameMarks = (one: WrittenNote, other: WrittenNote): boolean =>
  one.marks.length === other.marks.length &&
  one.marks.every((mark) => other.marks.some((theirs) => sameMark(mark, theirs)))
const handOf = ({ pick, pluck }: WrittenNote): Stroke['direction'] | undefined => pluck ?? pick

/** Whether a group that begins together is one movement of the hand. */
function isStroke(group: readonly WrittenNote[]): boolean {
  const [first] = group
  if (!first || !handOf(first) || first.marks.some(({ kind }) => !OF_STROKE.has(kind))) return false
  if (!first.pluck && group.length < LEAST_STRINGS) return false
  return group.every(
    (note) =>
      handOf(note) === handOf(first) && note.lengthTicks === first.lengthTicks && sameMarks(note, first),
  )
}

/** Notes of one figure, from its start; `strings` is how many the part has. */
export function strumsOf(notes: readonly WrittenNote[], strings: number): Strums {
  const groups = new Map<number, WrittenNote[]>()
  for (const note of notes) {
    const group = groups.get(note.startTicks)
    if (group) group.push(note)
    else groups.set(note.startTicks, [note])
  }
  const found: Strums = { grips: [], strokes: [], mutes: [], single: [] }
  for (const group of [...groups.values()].sort((a, b) => a[0]!.startTicks - b[0]!.startTicks))
    if (isStroke(group)) addStroke(found, group, strings)
    else found.single.push(...group)
  // A grip that goes on under a note of its own is lifted there.
  return { ...found, grips: found.grips.map((span, index) => until(span, found.grips[index + 1])) }
}

const until = (span: GripSpan, next: GripSpan | undefined): GripSpan =>
  next && next.startTicks < span.startTicks + span.lengthTicks
    ? { ...span, lengthTicks: next.startTicks - span.startTicks }
    : span

function addStroke(found: Strums, group: readonly WrittenNote[], strings: number): void {
  const first = group[0]!
  const { startTicks, lengthTicks, marks } = first
  const id = `${found.strokes.length + 1}`
  const grip = gripOf(group, strings)
  const last = found.grips.at(-1)
  const held = last && same(last.grip, grip) ? last : undefined
  if (held) held.lengthTicks = Math.max(held.lengthTicks, startTicks + lengthTicks - held.startTicks)
  else found.grips.push({ id: `g${id}`, startTicks, lengthTicks, grip })
  found.strokes.push({
    id: `s${id}`,
    startTicks,
    lengthTicks,
    direction: handOf(first)!,
    marks: marks.flatMap((mark) => strokeMarkSchema.safeParse(mark).data ?? []),
  })
  if (hasMark(first, 'let ring')) ring(found.mutes, startTicks, lengthTicks)
}

function gripOf(group: readonly WrittenNote[], strings: number): Grip {
  return {
    strings: Array.from({ length: strings }, (_, index) => {
      const note = group.find(({ string }) => string === index + 1)
      if (!note) return { fret: null }
      return { fret: note.fret, ...(note.finger ? { finger: note.finger } : {}) }
    }),
  }
}

/** Rings that touch are one. */
function ring(mutes: MuteSpan[], startTicks: number, lengthTicks: number): void {
  const last = mutes.at(-1)
  if (last && last.startTicks + last.lengthTicks >= startTicks)
    last.lengthTicks = Math.max(last.lengthTicks, startTicks + lengthTicks - last.startTicks)
  else mutes.push({ id: `r${mutes.length + 1}`, startTicks, lengthTicks, mark: { kind: 'let ring' } })
}
