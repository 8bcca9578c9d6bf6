import { defineStore } from 'pinia'
import { barAtTick, secondsToTicks } from '#core/time/beat-grid'
import { sectionWords } from '#core/check/finding'
import { barPlace } from '#core/doubts/charted-note'
import type { Place, Spot } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from './song'
import { useTransport } from './transport'

/**
 * Marking a place on any page: a doubt, something to hear again, a remark. The page says which place is
 * meant; where none does, it is the bar that sounds.
 */
export const useMarking = defineStore('marking', () => {
  const store = useSong()
  const transport = useTransport()
  /** The places that pages offer, the innermost last. */
  const offers = shallowRef<(() => Place | undefined)[]>([])
  /** What was marked last, until it is looked at. */
  const marked = shallowRef<{ words: string; key: string }>()

  /** The bar of the form that sounds or would be played. */
  function barHere(): Place | undefined {
    const { map, heardSong: song } = store
    if (!map || !song) return undefined
    const tick = Math.max(0, Math.min(map.endTicks - 1, secondsToTicks(map, transport.position())))
    return barPlace(song, Math.max(0, barAtTick(map, tick)))
  }

  function placeNow(): Place | undefined {
    for (const offer of offers.value.toReversed()) {
      const place = offer()
      if (place) return place
    }
    return barHere()
  }
  /** Runs what marks a place; says so, or that there is no place yet. */
  function mark(run: (place: Place, id: string) => string | undefined): void {
    const place = placeNow()
    const section = place && store.song?.sections[place.sectionId]
    if (!place || !section) {
      store.notice = { text: 'There are no bars yet to mark: lay the recording out first.', kind: 'refusal' }
      return
    }
    const what = run(place, randomId())
    if (what)
      marked.value = { words: `${section.name}, ${sectionWords(section, place.startTicks)}`, key: what }
  }
  const doubt = (question = ''): void =>
    mark((place, id) =>
      store.run('setDoubt', { doubt: { id, place, question, readings: [], status: 'open' } })
        ? `doubt/${id}`
        : undefined,
    )
  const spot = (kind: NonNullable<Spot['kind']>): void =>
    mark((place, id) => {
      const landmark = kind === 'landmark' ? { landmark: 'cue words' as const, onSheet: true } : {}
      const made = store.run('setSpot', { spot: { id, place, text: '', done: false, kind, ...landmark } })
      return made ? `spot/${id}` : undefined
    })
  /** What is said of the place that was marked last; nothing said leaves it as it is. */
  function say(words: string): void {
    const [table, id = ''] = marked.value?.key.split('/') ?? []
    const text = words.trim().slice(0, 2000)
    if (!text || !store.song) return
    const { [id]: asked } = store.song.doubts
    const { [id]: noted } = store.song.spots
    if (table === 'doubt' && asked) store.run('setDoubt', { doubt: { ...asked, question: text } })
    else if (table === 'spot' && noted) store.run('setSpot', { spot: { ...noted, text } })
  }
  return { offers, marked, doubt, spot, say }
})

/** A page says which place is meant while it is open. */
export function useMarkPlace(offer: () => Place | undefined): void {
  const marking = useMarking()
  onMounted(() => {
    marking.offers = [...marking.offers, offer]
  })
  onBeforeUnmount(() => {
    marking.offers = marking.offers.filter((other) => other !== offer)
  })
}
