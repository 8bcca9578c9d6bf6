// What a panel shows on the neck under the bench instead of what is fretted: a scale, a zone, a shape.
import type { NeckDot } from '#core/engrave/neck'

const shown = shallowRef<readonly NeckDot[]>([])

/** Dots shown while the component that shows them is there. */
export function useNeckShown() {
  onBeforeUnmount(() => {
    shown.value = []
  })
  return shown
}
/** The same, only to look at. */
export const neckShown = shown
