// Reading the marks of a note.
import type { Articulation } from '.'

interface Marked {
  articulations: readonly Articulation[]
}

export const hasMark = (note: Marked, kind: Articulation['kind']): boolean =>
  note.articulations.some((mark) => mark.kind === kind)

/** Struck by the fretting hand, not by the pick. */
export const isSlurred = (note: Marked): boolean =>
  note.articulations.some(
    (mark) =>
      mark.kind === 'hammer-on' ||
      mark.kind === 'pull-off' ||
      (mark.kind === 'slide' && mark.how === 'legato'),
  )
