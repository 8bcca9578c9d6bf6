/** Width of an element in pixels, following its size. */
export function useElementWidth(element: Ref<HTMLElement | undefined>): Ref<number> {
  const width = ref(0)
  const observer = new ResizeObserver(([entry]) => {
    if (entry) width.value = Math.floor(entry.contentRect.width)
  })
  watch(
    element,
    (now, before) => {
      if (before) observer.unobserve(before)
      if (now) observer.observe(now)
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => observer.disconnect())
  return width
}
