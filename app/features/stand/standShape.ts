// What the hand holds at the beginning or the end of a bar, low to high: "x355xx", or "x-10-12-12-x-x".
// Strings that are struck together are held; a single note is no shape.
import type { UnrolledBar } from '#core/compare/unrolled-part'

const LEAST_STRINGS = 2

export function shapeOf(
  { notes, strings }: Pick<UnrolledBar, 'notes' | 'strings'>,
  which: 'first' | 'last',
): string | undefined {
  const sounding = notes.filter(({ dead }) => !dead)
  const tick = (which === 'first' ? sounding[0] : sounding.at(-1))?.tick
  const struck = sounding.filter((note) => note.tick === tick)
  if (struck.length < LEAST_STRINGS) return undefined
  const frets = Array.from(
    { length: strings },
    (_, index) => struck.find(({ string }) => string === strings - index)?.fret ?? 'x',
  )
  return frets.join(frets.some((fret) => String(fret).length > 1) ? '-' : '')
}
