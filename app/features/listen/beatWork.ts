// The work on beats in Listen: finding them, tapping, correcting. Each correction is one named transaction.
import { beatsFromAnalysis } from '#core/listen/beats-from-analysis'
import type { Analysis } from '#core/listen/analysis'
import {
  applyTaps,
  beatsFromGrid,
  countIn,
  doublePulse,
  halvePulse,
  insertBeat,
  markFree,
  recount,
  removeBeat,
  type FlatBeat,
} from '#core/time/flat-beats'
import { ticksToSeconds } from '#core/time/beat-grid'
import { countedBeats, meterName, type Meter } from '#core/time/meter'
import { allBars, isUnnamed } from '#core/document/form'
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

  function apply(beats: FlatBeat[], what: string, end = endSeconds.value): boolean {
    return store.run('setBeats', {
      beats: beats.map((beat) => ({ ...beat })),
      endSeconds: Math.max(end, (beats.at(-1)?.seconds ?? 0) + 0.05),
      what,
      newSectionId: randomId(),
    })
  }

  /** Lays a list of heard beats out, keeping free bars: what the computer counts again under conditions. */
  function relay(found: Analysis, what: string): void {
    const ones = found.downbeats
    const near = (seconds: number): boolean => ones.some((one) => Math.abs(one - seconds) < 0.02)
    const kind = found.meter ?? meter.value
    let first = true
    apply(
      flat.value.map((beat): FlatBeat => {
        if (beat.free) {
          first = true
          return beat
        }
        const one = first || near(beat.seconds)
        first = false
        return one
          ? { seconds: beat.seconds, one: true, meter: { beats: kind.beats, unit: kind.unit } }
          : { seconds: beat.seconds, one: false }
      }),
      what,
    )
  }
  const pulsed = (): number[] => flat.value.filter((beat) => !beat.free).map((beat) => beat.seconds)

  /**
   * This beat is the one: the bars of the whole song are found again around it and what was fixed before.
   * Without a recording the count is only shifted.
   */
  async function theOne(seconds: number, onlyFromHere: boolean): Promise<void> {
    if (flat.value.length === 0) return
    const index = nearest(seconds)
    const fixed = flat.value[index]!.seconds
    if (onlyFromHere || transport.recordingState !== 'ready') {
      apply(recount(flat.value, index, meter.value, !onlyFromHere), 'this is the one')
      return
    }
    // What was taken back by undo is no longer fixed.
    const stands = (one: number): boolean =>
      flat.value.some((beat) => beat.one && Math.abs(beat.seconds - one) < 0.05)
    hearing.ones = [...hearing.ones.filter((one) => Math.abs(one - fixed) > 0.05 && stands(one)), fixed]
    const found = await hearing.again({
      beats: pulsed(),
      ones: hearing.ones,
      beatsPerBar: countedBeats(meter.value),
    })
    if (found) relay(found, 'this is the one')
    else apply(recount(flat.value, index, meter.value, true), 'this is the one')
  }
  /** Counts the recording at another tempo: everything is found again in that range. */
  async function countAt(bpm: number): Promise<void> {
    const found = await hearing.again({ bpmRange: [bpm * 0.93, bpm * 1.07] })
    if (!found || !store.source?.grid) return
    const laid = beatsFromAnalysis(found, meter.value)
    apply(laid.beats, `count ${bpm.toFixed(0)} a minute`, laid.endSeconds)
  }
  /** Hears bars, chords and form again on the beats and free stretches as they are now. */
  async function hearAgain(): Promise<void> {
    if (flat.value.length === 0) {
      await hearing.listen()
      return
    }
    const sections = store.places.slice(1).map((place) => ticksToSeconds(store.map!, place.startTicks))
    await hearing.again({
      beats: pulsed(),
      ones: flat.value.filter((beat) => beat.one && !beat.free).map((beat) => beat.seconds),
      ...(store.sections.some((section) => !isUnnamed(section)) ? { sectionStarts: sections } : {}),
    })
  }

  const nearest = (seconds: number): number =>
    flat.value.reduce(
      (best, beat, index) =>
        Math.abs(beat.seconds - seconds) < Math.abs(flat.value[best]!.seconds - seconds) ? index : best,
      0,
    )

  function tap(): void {
    if (!transport.playing) {
      problem.value = 'Start playing, then tap T on every beat.'
      return
    }
    const now = transport.position()
    // Taps belong together while they keep coming; a seek or a pause starts anew.
    const last = taps.value.at(-1)
    taps.value = last !== undefined && (now <= last || now - last > 2.5) ? [now] : [...taps.value, now]
  }
  /** Puts the taps in place of the beats they cover. */
  function keepTaps(): void {
    if (taps.value.length < 4) {
      taps.value = []
      return
    }
    if (flat.value.length === 0)
      apply(
        recount(
          taps.value.map((seconds) => ({ seconds, one: false })),
          0,
          meter.value,
          false,
        ),
        'tap the beats',
        store.source?.durationSeconds,
      )
    else apply(applyTaps(flat.value, taps.value, meter.value), `tap ${taps.value.length} beats`)
    taps.value = []
  }

  return {
    problem,
    taps,
    flat,
    tap,
    keepTaps,
    nearest,
    theOne,
    countAt,
    hearAgain,
    halve: () => {
      apply(halvePulse(flat.value, meter.value), 'halve the pulse')
    },
    double: () => {
      apply(doublePulse(flat.value, endSeconds.value, meter.value), 'double the pulse')
    },
    insert: (seconds: number) => {
      apply(insertBeat(flat.value, seconds), 'insert a beat')
    },
    remove: (seconds: number) => {
      if (flat.value.length) apply(removeBeat(flat.value, nearest(seconds)), 'remove a beat')
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
      apply(markFree(flat.value, from, to, meter.value), 'mark free time')
    },
  }
}
export type BeatWork = ReturnType<typeof useBeatWork>
