// What the hand holds at the beginning or the end of a bar, low to high: "x355xx", or "x-10-12-12-x-x".
import type { UnrolledBar } from '#core/review/compare/unrolled-part'

export function shapeOf(
  { notes, strings }: Pick<UnrolledBar, 'notes' | 'strings'>,
  which: 'first' | 'last',
): string {
  const sounding = notes.filter(({ dead }) => !dead)
  const tick = (which === 'first' ? sounding[0] : sounding.at(-1))?.tick
  const struck = sounding.filter((note) => note.tick === tick)
  const frets = Array.from(
    { length: strings },
    (_, index) => struck.find(({ string }) => string === strings - index)?.fret ?? 'x',
  )
  return frets.join(frets.some((fret) => String(fret).length > 1) ? '-' : '')
}
