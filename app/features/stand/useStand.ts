// What stands on the stand: one part through the whole song bar by bar, and which bar it is now.
import { barAtTick, secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { sectionSide, type SideBar } from '#core/review/compare/compare-sides'
import { foldedPart } from '#core/teach/folded'
import { sectionPlaces } from '#core/document/form'
import { barTicks } from '#core/time/meter'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

/** A bar of the song as the stand shows it. */
export interface StandBar extends SideBar {
  sectionName: string
  barInSection: number
  barsInSection: number
  startTicks: number
  endTicks: number
}

export function useStand(partId: () => string) {
  const store = useSong()
  const transport = useTransport()
  const bars = computed((): StandBar[] => {
    const song = store.heardSong
    if (!song) return []
    return sectionPlaces(song).flatMap(({ section, startTicks }) => {
      let at = startTicks
      return (sectionSide(song, section.id, partId())?.bars ?? []).map((bar, index) => {
        const start = at
        at += barTicks(bar.meter)
        return {
          ...bar,
          sectionName: section.name,
          barInSection: index + 1,
          barsInSection: section.bars.length,
          startTicks: start,
          endTicks: at,
        }
      })
    })
  })
  const folded = computed(() => (store.heardSong ? foldedPart(store.heardSong, partId()) : []))
  const index = ref(0)
  const now = computed(() => bars.value[index.value])
  const next = computed(() => bars.value.slice(index.value + 1, index.value + 4))
  const nextSection = computed(() => {
    const name = now.value?.sectionName
    const later = bars.value.slice(index.value).find((bar) => bar.sectionName !== name)
    return later && folded.value.find((line) => line.startTicks === later.startTicks)
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
