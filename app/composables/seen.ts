import { useIntersectionObserver } from '@vueuse/core'

/** Drawn this far outside the window already, so that scrolling never shows an empty place. */
const AHEAD = '600px'

/**
 * True once an element has come near what is seen of the page: long lists draw only what was near it. The
 * page scrolls in its `main`; a margin around the window would be cut off there.
 */
export function useSeen(element: Ref<HTMLElement | undefined>): Ref<boolean> {
  const seen = ref(false)
  const { stop } = useIntersectionObserver(
    element,
    (entries) => {
      if (!entries.some((entry) => entry.isIntersecting)) return
      seen.value = true
      stop()
    },
    { root: computed(() => element.value?.closest('main')), rootMargin: AHEAD },
  )
  return seen
}
