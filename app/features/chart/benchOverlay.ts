// What lies under and over the tablature of the bench: the recording's outline, boxes of selected bars, the
// playhead, and the cursor, kept where it is seen.
import { outlinePolygon } from '#core/engrave/listen-lines'
import { tickToX, type Tab, type TabMetrics, type TabSystem } from '#core/engrave/tab-measures'
import type { BarSpan } from '#core/document/figure-bars'
import type { Figure } from '#core/document/schema'
import { ticksToSeconds } from '#core/time/beat-grid'
import { barTicks } from '#core/time/meter'
import { useEachFrame } from '~/composables/eachFrame'
import { useOutline } from '~/composables/outline'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

/** A box in each system for what lies of a stretch in it, px. */
export const boxesOver = (
  systems: readonly TabSystem[],
  { from, to }: BarSpan,
): { x: number; y: number; width: number; height: number }[] =>
  systems.flatMap((system) => {
    const [start, end] = [Math.max(from, system.startTicks), Math.min(to, system.endTicks)]
    if (end <= start) return []
    const x = tickToX(system, start)
    return [{ x, y: system.top, width: tickToX(system, end) - x, height: system.bottom - system.top }]
  })

const CLEAR_PX = 24

/** Whatever edits is seen: the cursor stays clear of what lies over the bench. */
export function useKeepInView(
  board: Ref<HTMLElement | undefined>,
  cursor: Ref<HTMLElement | undefined>,
  moved: () => unknown[],
): void {
  watch(moved, async () => {
    await nextTick()
    const over = board.value?.closest('.bench')?.querySelector('.hands')
    if (!cursor.value) return
    cursor.value.style.scrollMarginBottom = `${(over?.clientHeight ?? 0) + CLEAR_PX}px`
    cursor.value.scrollIntoView({ block: 'nearest' })
  })
}

/** The outline of the recording under each bar, where the figure is placed: points of polygons. */
export function useOutlines(
  figure: () => Figure,
  drawing: Ref<Tab | undefined>,
  metrics: Ref<TabMetrics>,
): Ref<string[]> {
  const store = useSong()
  const transport = useTransport()
  const outline = useOutline()
  return computed(() => {
    const place = transport.figurePlace(figure().id)
    const { map } = store
    const sound = outline.value
    if (!place?.placed || !sound || !map || !drawing.value) return []
    const bar = barTicks(figure().meter)
    const under = (system: TabSystem, from: number): string => {
      const x = tickToX(system, from)
      const points = outlinePolygon(sound, 'peaks', {
        fromSeconds: ticksToSeconds(map, place.startTicks + from),
        toSeconds: ticksToSeconds(map, place.startTicks + from + bar),
        x,
        width: tickToX(system, from + bar) - x,
        baseY: system.outlineY + metrics.value.outlineRow,
        height: metrics.value.outlineRow - 2,
      })
      return points.map((value) => Math.round(value * 10) / 10).join(' ')
    }
    return drawing.value.systems.flatMap((system) =>
      Array.from({ length: Math.round((system.endTicks - system.startTicks) / bar) }, (_, index) =>
        under(system, system.startTicks + index * bar),
      ),
    )
  })
}

/** A line moved by hand with what sounds, frame by frame; its system is scrolled to when it comes to it. */
export function usePlayhead(
  drawing: Ref<Tab | undefined>,
  tickHeard: () => number,
): Ref<HTMLElement | undefined> {
  const playhead = ref<HTMLElement>()
  let shown: TabSystem | undefined
  useEachFrame(() => {
    const element = playhead.value
    if (!element || !drawing.value) return
    const at = tickHeard()
    const system = drawing.value.systems.find(({ startTicks, endTicks }) => at >= startTicks && at < endTicks)
    element.style.opacity = system ? '1' : '0'
    if (system) {
      element.style.transform = `translate(${tickToX(system, at)}px, ${system.outlineY}px)`
      element.style.height = `${system.bottom - system.outlineY}px`
      if (system !== shown) element.scrollIntoView({ block: 'nearest' })
    }
    shown = system
  })
  return playhead
}
