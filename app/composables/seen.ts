import { useIntersectionObserver } from '@vueuse/core'

/** Drawn this far outside the window already, so that scrolling never shows an empty place. */
const AHEAD = '600px'

/** True once an element has come near the window: long lists draw only what was near it. */
export function useSeen(element: Ref<HTMLElement | undefined>): Ref<boolean> {
  const seen = ref(false)
  const { stop } = useIntersectionObserver(
    element,
    (entries) => {
      if (!entries.some((entry) => entry.isIntersecting)) return
      seen.value = true
      stop()
    },
    { rootMargin: AHEAD },
  )
  return seen
}
