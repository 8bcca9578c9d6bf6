// Where the music is: in words for the playing bar, and as a section and a tick for the pages that follow it.
import type { SectionPlace } from '#core/document/form'
import type { Song } from '#core/document/schema'
import { clock, secondsToTicks, type TimeMap } from '#core/time/beat-grid'
import { placeWords } from './place-words'

/** The open song, as far as a place in it is told. */
interface Placed {
  song: Song | undefined
  map: TimeMap | undefined
  places: readonly SectionPlace[]
}

interface Here {
  sectionId: string
  tick: number
}
const samePlace = (a: Here | undefined, b: Here | undefined): boolean =>
  a?.sectionId === b?.sectionId && a?.tick === b?.tick

export function useWhereabouts(open: Placed) {
  const words = ref({ place: '', detail: '' })
  /** While it plays, a few times a second. */
  const here = shallowRef<Here>()

  /** Says where a moment of the recording is. */
  function tell(seconds: number, playing: boolean): void {
    const { map, places, song } = open
    const begins = map?.seconds[0]
    if (!map || begins === undefined || places.length === 0) {
      words.value = { place: song ? 'No bars accepted yet' : '', detail: clock(seconds, 1) }
      return
    }
    if (seconds < begins) {
      words.value = { place: 'Before the first bar', detail: clock(seconds, 1) }
      return
    }
    const tick = Math.max(0, Math.min(map.endTicks - 1, secondsToTicks(map, seconds)))
    words.value = placeWords(places, tick, seconds)
    const section = places.findLast((entry) => entry.startTicks <= tick)?.section
    const place = playing && section ? { sectionId: section.id, tick: Math.floor(tick) } : undefined
    if (!samePlace(place, here.value)) here.value = place
  }
  return { words, here, tell }
}
