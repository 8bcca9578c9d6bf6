// Listening again around what stands: the whole recording, or only a stretch of it.
import { isUnnamed } from '#core/document/form'
import type { Key } from '#core/music/pitch'
import type { Given } from '#core/hear/analysis'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'

/** A key as chords are heard in it; modes are heard as neither major nor minor. */
function heardKey(key: Key | undefined): Pick<Given, 'key'> {
  if (key?.mode !== 'major' && key?.mode !== 'minor') return {}
  return { key: { tonic: key.tonic, mode: key.mode } }
}

export function useHearAgain({ flat, pulsed, holds, problem }: BeatWork) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()

  /** What stands in the document, as conditions to what is heard. */
  function conditions(): Given {
    const named = store.sections.some((section) => !isUnnamed(section))
    const beats = flat.value.filter((beat) => !beat.free)
    const seconds = (one: boolean): number[] =>
      beats.filter((beat) => beat.one === one).map((beat) => beat.seconds)
    return {
      beats: pulsed(),
      ones: seconds(true),
      notOnes: seconds(false),
      ...(named ? { sectionStarts: holds.value.slice(1) } : {}),
      ...(store.song?.keyUnknown ? {} : heardKey(store.song?.key)),
    }
  }
  const sectionNow = (): string | undefined => {
    const { map, places } = store
    const tick = map ? secondsToTicks(map, transport.position() + 0.02) : 0
    return (places.findLast((place) => place.startTicks <= tick) ?? places[0])?.section.id
  }
  return {
    /** Hears bars, chords and form again on the beats and free stretches as they are now. */
    async all(): Promise<void> {
      if (flat.value.length === 0) await hearing.listen()
      else await hearing.again(conditions())
    },
    /** Listens again to the loop, or to a section, on its bars, in its key. */
    async inside(sectionId = sectionNow()): Promise<void> {
      const { map, places } = store
      const place = places.find(({ section }) => section.id === sectionId)
      if (!map || !place) {
        problem.value = 'Lay out the bars first: then a section or a loop can be listened to again.'
        return
      }
      const { loop } = transport
      const start = loop?.startSeconds ?? ticksToSeconds(map, place.startTicks)
      const end = loop?.endSeconds ?? ticksToSeconds(map, place.startTicks + place.lengthTicks)
      const given = { ...conditions(), ...heardKey(place.section.key) }
      if (!(await hearing.inside({ start, end }, given))) return
      const open = hearing.suggestions.some((suggestion) => suggestion.kind === 'chords')
      const heard = `Listened to ${loop ? 'the loop' : place.section.name} again: `
      problem.value =
        heard +
        (open
          ? 'what is new is drawn as a suggestion where nothing was set.'
          : 'every chord there is set, so nothing is offered. Its rivals are with each chord.')
    },
  }
}
export type HearAgain = ReturnType<typeof useHearAgain>
