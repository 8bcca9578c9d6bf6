// Reading and changing the marks of a note, a stroke or anything else that bears them.
import type { Mark, MarkKind } from '.'

export interface Marked {
  marks: readonly Mark[]
}
export type MarkOf<Kind extends MarkKind> = Extract<Mark, { kind: Kind }>

/** Whether it bears a mark of one of these kinds. */
export const hasMark = ({ marks }: Marked, ...kinds: readonly MarkKind[]): boolean =>
  marks.some(({ kind }) => kinds.includes(kind))

/** Its mark of a kind; undefined where it has none. */
export const markOf = <Kind extends MarkKind>({ marks }: Marked, kind: Kind): MarkOf<Kind> | undefined =>
  marks.find((mark): mark is MarkOf<Kind> => mark.kind === kind)

/** The marks without those of a kind. */
export const withoutMark = <M extends { kind: MarkKind }>(marks: readonly M[], kind: MarkKind): M[] =>
  marks.filter((mark) => mark.kind !== kind)

/** The marks with this one instead of any other of its kind. */
export const withMark = <M extends { kind: MarkKind }>(marks: readonly M[], mark: M): M[] => [
  ...withoutMark(marks, mark.kind),
  mark,
]

/** Reached by the fretting hand, without a stroke of the pick. */
export const isSlurred = (marked: Marked): boolean =>
  hasMark(marked, 'hammer-on', 'pull-off') || markOf(marked, 'slide')?.how === 'legato'

/** Whether two marks say the same. */
export function sameMark(one: Mark, other: Mark): boolean {
  const facts = (mark: Mark): [string, unknown][] =>
    Object.entries(mark).filter(([, value]) => value !== undefined)
  const others = new Map(facts(other))
  return facts(one).length === others.size && facts(one).every(([name, value]) => others.get(name) === value)
}
