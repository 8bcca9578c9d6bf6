// Other ways to count the recording, heard one after the other with a click before one is taken.
import { readCount, READINGS, tempoOf, type Reading } from '#core/time/count-readings'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'

export interface Counted {
  name: string
  bpm: number
  beats: number[]
  ones: number[]
  /** One of the ways the present beats can be read; else a tempo that was heard beside it. */
  reading?: Reading
}

export function useCountReadings(beats: BeatWork) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const heardIndex = ref(-1)

  const options = computed<Counted[]>(() => {
    const pulsed = beats.flat.value.filter((beat) => !beat.free)
    const present = pulsed.length ? pulsed.map((beat) => beat.seconds) : (hearing.analysis?.beats ?? [])
    if (present.length < 4 || !store.song) return []
    const ones = new Set(hearing.analysis?.downbeats)
    const first = pulsed.length
      ? pulsed.findIndex((beat) => beat.one)
      : present.findIndex((beat) => ones.has(beat))
    const meter = hearing.analysis?.meter ?? store.song.meter
    return READINGS.map((reading) => {
      const counted = readCount(present, Math.max(0, first), reading, meter)
      return { name: reading, bpm: tempoOf(counted.beats) ?? 0, ...counted, reading }
    }).filter(({ bpm }) => bpm >= 30 && bpm <= 320)
  })
  const heard = computed(() => options.value[heardIndex.value])
  const sounding = computed(() => transport.playing && transport.scope.kind === 'count')

  function hear(index: number): void {
    heardIndex.value = index
    const option = options.value[index]
    if (option) transport.hearCount(option.beats, option.ones)
  }
  return {
    options,
    heard,
    heardIndex,
    sounding,
    hear,
    next: (): void => {
      if (options.value.length) hear((heardIndex.value + 1) % options.value.length)
    },
    take: (index = heardIndex.value): void => {
      const option = options.value[index]
      if (!option?.reading) return
      transport.stop()
      beats.countAs(option.reading)
      heardIndex.value = -1
    },
  }
}
export type CountReadings = ReturnType<typeof useCountReadings>
