// What lies over the tablature of the bench: boxes of selected bars, and the cursor, kept where it is seen.
import { tickToX, type TabSystem } from '#core/engrave/tab-measures'
import type { BarSpan } from '#core/document/figure-bars'

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
