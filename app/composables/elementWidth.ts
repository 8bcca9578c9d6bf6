import { useElementSize } from '@vueuse/core'

/** Width of an element in whole pixels, following its size. */
export function useElementWidth(element: Ref<HTMLElement | undefined>): ComputedRef<number> {
  const { width } = useElementSize(element)
  return computed(() => Math.floor(width.value))
}
