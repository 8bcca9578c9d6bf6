// Drawing along with the music: nothing runs while nothing moves.
import { useTransport } from '~/stores/transport'

/**
 * Does something at every frame while the music plays. While it stands, it is done once after each change of
 * what it reads.
 */
export function useEachFrame(work: (now: number) => void): void {
  const transport = useTransport()
  let frame = 0
  const loop = (now: number): void => {
    frame = requestAnimationFrame(loop)
    work(now)
  }
  onMounted(() => {
    watch(
      () => transport.playing,
      (playing) => {
        cancelAnimationFrame(frame)
        if (playing) frame = requestAnimationFrame(loop)
      },
      { immediate: true },
    )
    watchEffect(
      () => {
        if (!transport.playing) work(performance.now())
      },
      { flush: 'post' },
    )
  })
  onBeforeUnmount(() => cancelAnimationFrame(frame))
}
