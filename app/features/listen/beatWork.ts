// The work on beats in Listen: finding them, tapping, correcting. Each correction is one named transaction.
import { beatsFromAnalysis } from '#core/hear/beats-from-analysis'
import {
  countIn,
  doublePulse,
  halvePulse,
  holdOnes,
  isOne,
  markFree,
  nearestBeat,
  shiftOnes,
} from '#core/time/correct-beats'
import { beatsFromGrid, insertBeat, removeBeat, type FlatBeat } from '#core/time/flat-beats'
import { applyTaps, countTaps, meantTaps } from '#core/time/tapped-beats'
import { ticksToSeconds } from '#core/time/beat-grid'
import { readCount, readingMeter, type Reading } from '#core/time/count-readings'
import { countedBeats, meterName, type Meter } from '#core/time/meter'
import { allBars } from '#core/document/form'
import { randomId } from '#platform/files'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

export function useBeatWork() {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const problem = ref('')
  const taps = ref<number[]>([])

  const flat = computed<FlatBeat[]>(() =>
    store.song && store.source?.grid ? beatsFromGrid(allBars(store.song), store.source.grid) : [],
  )
  const endSeconds = computed(() => store.source?.grid?.endSeconds ?? store.source?.durationSeconds ?? 0)
  const meter = computed(() => store.song!.meter)

  /** Where sections begin in the recording: bars begin there before and after every correction. */
  const holds = computed(() =>
    store.map
      ? store.places.map(({ startTicks, section }) =>
          ticksToSeconds(store.map!, startTicks - section.pickupTicks),
        )
      : [],
  )

  function apply(
    beats: FlatBeat[],
    what: string,
    { end = endSeconds.value, charted }: { end?: number | undefined; charted?: 'double' | 'halve' } = {},
  ): boolean {
    return store.run('setBeats', {
      beats: beats.map((beat) => ({ ...beat })),
      endSeconds: Math.max(end, (beats.at(-1)?.seconds ?? 0) + 0.05),
      what,
      newSectionId: randomId(),
      ...(charted ? { charted } : {}),
    })
  }

  const pulsed = (): number[] => flat.value.filter((beat) => !beat.free).map((beat) => beat.seconds)

  /** This beat is the one: in all bars around it that are counted alike, or only from here on. */
  function theOne(seconds: number, onlyFromHere: boolean): void {
    if (flat.value.length === 0) return
    const index = nearestBeat(flat.value, seconds)
    if (isOne(flat.value, index)) problem.value = 'This beat is the one already.'
    else if (apply(shiftOnes(flat.value, index, onlyFromHere), 'this is the one')) problem.value = ''
  }
  /** Counts the recording at another tempo: everything is found again in that range. */
  async function countAt(bpm: number): Promise<void> {
    const found = await hearing.again({ bpmRange: [bpm * 0.93, bpm * 1.07] })
    if (!found || !store.source?.grid) return
    const laid = beatsFromAnalysis(found, meter.value)
    const beats = holdOnes(laid.beats, holds.value, meter.value)
    apply(beats, `count ${bpm.toFixed(0)} a minute`, { end: laid.endSeconds })
  }
  function halve(): void {
    apply(halvePulse(flat.value, holds.value), 'halve the pulse', { charted: 'halve' })
  }
  function double(): void {
    apply(doublePulse(flat.value, endSeconds.value), 'double the pulse', { charted: 'double' })
  }
  /** Counts the whole recording another way. */
  function countAs(reading: Reading): void {
    if (!store.source?.grid && !hearing.accept(['bars'])) return
    if (reading === 'half') return halve()
    if (reading === 'double') return double()
    const times = pulsed()
    const one = flat.value.filter((beat) => !beat.free).findIndex((beat) => beat.one)
    const counted = readCount(times, Math.max(0, one), reading, meter.value)
    const ones = new Set(counted.ones)
    const own = readingMeter(reading, meter.value)
    const found = counted.beats.map((seconds, index): FlatBeat =>
      ones.has(seconds) || index === 0 ? { seconds, one: true, meter: own } : { seconds, one: false },
    )
    const free = flat.value.filter((beat) => beat.free)
    const kept = found.filter((beat) => beat.seconds < endSeconds.value - 0.05)
    const all = [...kept, ...free].sort((a, b) => a.seconds - b.seconds)
    const beats = holdOnes(all, holds.value, own)
    if (own === meter.value) apply(beats, `count ${reading}`)
    else countInMeter(beats, own, `counted ${reading}`)
  }
  /** The whole recording in another meter, which is the song's from then on: one step. */
  function countInMeter(beats: FlatBeat[], wanted: Meter, words: string): void {
    const end = Math.max(endSeconds.value, (beats.at(-1)?.seconds ?? 0) + 0.05)
    const laid = { beats: [...beats], endSeconds: end, what: words, newSectionId: randomId() }
    store.run('acceptHeard', { meter: wanted, beats: laid, words })
  }
  /** The bars of the loop in three; when they are, in the song's meter again. */
  function countLoop(): void {
    const { loop } = transport
    if (!loop) {
      problem.value = 'Loop the bars first (drag over them, or Alt B): then M counts them in three.'
      return
    }
    const inside = flat.value.find((beat) => beat.one && beat.seconds >= loop.startSeconds - 0.02)
    const three = inside?.meter && countedBeats(inside.meter) === 3
    const wanted: Meter = three ? meter.value : { beats: 3, unit: 4 }
    apply(
      countIn(flat.value, loop.startSeconds - 0.02, loop.endSeconds - 0.02, wanted),
      `count the loop in ${meterName(wanted)}`,
    )
  }

  function tap(): void {
    if (!transport.playing) {
      problem.value = 'Start playing, then tap T on every beat.'
      return
    }
    problem.value = ''
    const now = transport.position()
    // Taps belong together while they keep coming; a seek or a pause starts anew.
    const last = taps.value.at(-1)
    taps.value = last !== undefined && (now <= last || now - last > 2.5) ? [now] : [...taps.value, now]
  }
  /** Puts the taps in place of the beats they cover. */
  function keepTaps(): void {
    if (meantTaps(taps.value).length < 4) {
      if (taps.value.length) problem.value = 'Tap at least four beats in a row, then keep them.'
      taps.value = []
      return
    }
    if (flat.value.length === 0)
      apply(countTaps(meantTaps(taps.value), meter.value), 'tap the beats', {
        end: store.source?.durationSeconds,
      })
    else apply(applyTaps(flat.value, taps.value, meter.value, holds.value), `tap ${taps.value.length} beats`)
    taps.value = []
  }

  return {
    problem,
    taps,
    flat,
    tap,
    keepTaps,
    nearest: (seconds: number) => nearestBeat(flat.value, seconds),
    theOne,
    countAt,
    pulsed,
    holds,
    countAs,
    countLoop,
    halve,
    double,
    insert: (seconds: number) => {
      apply(insertBeat(flat.value, seconds), 'insert a beat')
    },
    remove: (seconds: number) => {
      if (flat.value.length) apply(removeBeat(flat.value, nearestBeat(flat.value, seconds)), 'remove a beat')
    },
    moveTo: (index: number, seconds: number) =>
      apply(
        flat.value.map((beat, at) => (at === index ? { ...beat, seconds } : beat)),
        'move a beat',
      ),
    nudge: (index: number, bySeconds: number) =>
      apply(
        flat.value.map((beat, at) =>
          at === index ? { ...beat, seconds: Math.max(0, beat.seconds + bySeconds) } : beat,
        ),
        `nudge a beat by ${Math.round(bySeconds * 1000)} ms`,
      ),
    /** Counts a section's beats in another meter. */
    countSection: (sectionId: string, wanted: Meter) => {
      const at = store.places.findIndex((place) => place.section.id === sectionId)
      const seconds = (index: number): number =>
        store.places[index]
          ? ticksToSeconds(store.map!, store.places[index].startTicks)
          : endSeconds.value + 1
      if (at >= 0 && store.map)
        apply(
          countIn(flat.value, seconds(at), seconds(at + 1), wanted),
          `count ${store.places[at]!.section.name} in ${meterName(wanted)}`,
        )
    },
    free: (from: number, to: number) => {
      apply(markFree(flat.value, { from, to }, meter.value, holds.value), 'mark free time')
    },
  }
}
export type BeatWork = ReturnType<typeof useBeatWork>
