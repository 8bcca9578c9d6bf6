import { barStarts, type SectionPlace } from '#core/document/form'
import { clock } from '#core/time/beat-grid'
import { countWords, TICKS_PER_QUARTER } from '#core/time/meter'

/** The place in words is given to the eighth. */
const EIGHTH_TICKS = TICKS_PER_QUARTER / 2

/** Where a tick of the song is: "Verse 2, bar 3, the and of 4", and "pass 1 of 2 · bar 19 · 0:41.3". */
export function placeWords(
  places: readonly SectionPlace[],
  tick: number,
  seconds: number,
): { place: string; detail: string } {
  const { section, startTicks, firstBar } =
    places.findLast((entry) => entry.startTicks <= tick + 0.5) ?? places[0]!
  const starts = barStarts(section)
  const inSection = tick - startTicks
  const last = starts.findLastIndex((start, index) => start <= inSection + 0.5 && index < section.bars.length)
  const bar = Math.max(0, last)
  const { meter, free } = section.bars[bar]!
  const eighth = Math.floor((inSection - starts[bar]! + 1) / EIGHTH_TICKS) * EIGHTH_TICKS
  const count = free ? 'free time' : countWords(meter, eighth)
  const { passes } = section
  const pass = Math.min(passes, Math.floor(bar / (section.bars.length / passes)) + 1)
  const detail = [
    passes > 1 ? `pass ${pass} of ${passes}` : '',
    `bar ${firstBar + bar + 1}`,
    clock(seconds, 1),
  ]
  return {
    place: `${section.name}, bar ${bar + 1}, ${/^\d/.test(count) ? `beat ${count}` : count}`,
    detail: detail.filter(Boolean).join(' · '),
  }
}
