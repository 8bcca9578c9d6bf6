// What stands on the stand: one part through the whole song bar by bar, and which bar it is now.
import { barAtTick, secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { unrolledPart } from '#core/compare/unrolled-part'
import { foldedPart } from '#core/teach/folded'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

export function useStand(partId: () => string) {
  const store = useSong()
  const transport = useTransport()
  const bars = computed(() => (store.heardSong ? unrolledPart(store.heardSong, partId()) : []))
  const folded = computed(() => (store.heardSong ? foldedPart(store.heardSong, partId()) : []))
  const index = ref(0)
  const now = computed(() => bars.value[index.value])
  const next = computed(() => bars.value.slice(index.value + 1, index.value + 4))
  const nextSection = computed(() => {
    const id = now.value?.sectionId
    const later = bars.value.slice(index.value).find((bar) => bar.sectionId !== id)
    return later && folded.value.find(({ sectionId }) => sectionId === later.sectionId)
  })

  const tickNow = (): number =>
    store.map
      ? Math.max(0, Math.min(store.map.endTicks - 1, secondsToTicks(store.map, transport.position())))
      : 0
  /** Turns to the bar that sounds. */
  function follow(): void {
    if (store.map && bars.value.length)
      index.value = Math.max(0, Math.min(bars.value.length - 1, barAtTick(store.map, tickNow())))
  }
  /** Turns by the foot: the music goes there too. */
  function turn(by: number): void {
    index.value = Math.max(0, Math.min(bars.value.length - 1, index.value + by))
    const bar = bars.value[index.value]
    if (bar && store.map) transport.seek(ticksToSeconds(store.map, bar.startTicks))
  }
  /** How much of the bar is over, 0 to 1. */
  function share(): number {
    const bar = now.value
    return bar ? (tickNow() - bar.startTicks) / (bar.endTicks - bar.startTicks) : 0
  }
  return { store, transport, bars, folded, index, now, next, nextSection, follow, turn, share }
}
export type Stand = ReturnType<typeof useStand>
