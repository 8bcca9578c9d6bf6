// The work on beats in Listen: finding them, tapping, correcting. Each correction is one named transaction.
import { beatsFromAnalysis, ANALYSIS_VERSION, type Analysis } from '#core/listen/analyse'
import { applyTaps, beatsFromGrid, countIn, doublePulse, halvePulse, insertBeat, markFree, recount, removeBeat, type FlatBeat } from '#core/time/flat-beats'
import { ticksToSeconds } from '#core/time/beat-grid'
import { meterName, type Meter } from '#core/time/meter'
import { allBars } from '#core/song/form'
import { database } from '#platform/database'
import { decodeRecording, monoOf } from '#platform/recording'
import { randomId } from '#platform/files'
import { runJob, type JobHandle } from '#platform/worker-job'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { analysisWorker } from './songFiles'

const ANALYSIS_RATE = 44_100

export function useBeatWork() {
  const store = useSong()
  const transport = useTransport()
  const finding = ref<{ stage: string; fraction: number }>()
  const problem = ref('')
  const taps = ref<number[]>([])
  let job: JobHandle<Analysis> | undefined

  const flat = computed<FlatBeat[]>(() => (store.song && store.source?.grid ? beatsFromGrid(allBars(store.song), store.source.grid) : []))
  const endSeconds = computed(() => store.source?.grid?.endSeconds ?? store.source?.durationSeconds ?? 0)
  const meter = computed(() => store.song!.meter)

  function apply(beats: FlatBeat[], what: string, end = endSeconds.value): boolean {
    return store.run('setBeats', { beats: beats.map((beat) => ({ ...beat })), endSeconds: Math.max(end, (beats.at(-1)?.seconds ?? 0) + 0.05), what, newSectionId: randomId() })
  }

  /** Computes the beats in a worker, or takes them from the cache, and lays them out. */
  async function find(): Promise<void> {
    const hash = store.source?.audioHash
    const row = hash ? await database.audio.get(hash) : undefined
    problem.value = ''
    if (!row || !hash) { problem.value = 'The recording is not on this machine: choose its file first.'; return }
    const cacheKey = `${hash}/${ANALYSIS_VERSION}`
    let analysis = (await database.analyses.get(cacheKey))?.analysis
    if (!analysis) {
      finding.value = { stage: 'decoding', fraction: 0 }
      const recording = await decodeRecording(await row.blob.arrayBuffer(), ANALYSIS_RATE).catch(() => undefined)
      if (!recording) { finding.value = undefined; problem.value = 'The recording could not be decoded again.'; return }
      const mono = monoOf(recording.channels)
      const words: Record<string, string> = { onsets: 'hearing attacks', beats: 'following the pulse', bars: 'finding the one' }
      job = runJob<Analysis>(analysisWorker, { mono, sampleRate: recording.sampleRate, want: 'beats' }, { transfer: [mono.buffer], onProgress: (stage, fraction) => { finding.value = { stage: words[stage] ?? stage, fraction } } })
      const result = await job.result
      finding.value = undefined
      if (!result.ok) { if (result.refusal.code !== 'cancelled') problem.value = result.refusal.message; return }
      analysis = result.value
      await database.analyses.put({ hash: cacheKey, analysis }).catch(() => undefined)
    }
    if (analysis.beats.length === 0) problem.value = 'No steady pulse was heard. Tap along with T while it plays, or mark the bars by hand.'
    const laid = beatsFromAnalysis(analysis, meter.value)
    apply(laid.beats, 'lay out the beats heard', laid.endSeconds)
  }
  const cancel = (): void => { job?.cancel(); finding.value = undefined }

  const nearest = (seconds: number): number => flat.value.reduce((best, beat, index) => (Math.abs(beat.seconds - seconds) < Math.abs(flat.value[best]!.seconds - seconds) ? index : best), 0)

  function tap(): void {
    if (!transport.playing) { problem.value = 'Start playing, then tap T on every beat.'; return }
    const now = transport.position()
    // Taps belong together while they keep coming; a seek or a pause starts anew.
    const last = taps.value.at(-1)
    taps.value = last !== undefined && (now <= last || now - last > 2.5) ? [now] : [...taps.value, now]
  }
  /** Puts the taps in place of the beats they cover. */
  function keepTaps(): void {
    if (taps.value.length < 4) { taps.value = []; return }
    if (flat.value.length === 0) apply(recount(taps.value.map((seconds) => ({ seconds, one: false })), 0, meter.value, false), 'tap the beats', store.source?.durationSeconds)
    else apply(applyTaps(flat.value, taps.value, meter.value), `tap ${taps.value.length} beats`)
    taps.value = []
  }

  return {
    finding, problem, taps, flat, find, cancel, tap, keepTaps, nearest,
    theOne: (seconds: number, onlyFromHere: boolean) => { if (flat.value.length) apply(recount(flat.value, nearest(seconds), meter.value, !onlyFromHere), 'this is the one') },
    halve: () => { apply(halvePulse(flat.value, meter.value), 'halve the pulse') },
    double: () => { apply(doublePulse(flat.value, endSeconds.value, meter.value), 'double the pulse') },
    insert: (seconds: number) => { apply(insertBeat(flat.value, seconds), 'insert a beat') },
    remove: (seconds: number) => { if (flat.value.length) apply(removeBeat(flat.value, nearest(seconds)), 'remove a beat') },
    moveTo: (index: number, seconds: number) => apply(flat.value.map((beat, at) => (at === index ? { ...beat, seconds } : beat)), 'move a beat'),
    nudge: (index: number, bySeconds: number) => apply(flat.value.map((beat, at) => (at === index ? { ...beat, seconds: Math.max(0, beat.seconds + bySeconds) } : beat)), `nudge a beat by ${Math.round(bySeconds * 1000)} ms`),
    /** Counts a section's beats in another meter. */
    countSection: (sectionId: string, wanted: Meter) => {
      const at = store.places.findIndex((place) => place.section.id === sectionId)
      const seconds = (index: number): number => (store.places[index] ? ticksToSeconds(store.map!, store.places[index].startTicks) : endSeconds.value + 1)
      if (at >= 0 && store.map) apply(countIn(flat.value, seconds(at), seconds(at + 1), wanted), `count ${store.places[at]!.section.name} in ${meterName(wanted)}`)
    },
    free: (from: number, to: number) => { apply(markFree(flat.value, from, to, meter.value), 'mark free time') },
  }
}
