import { defineStore } from 'pinia'
import { acceptArgs, openSuggestions, proposed, type SuggestionKind, tuningTaken } from '#core/suggest/heard'
import { ANALYSIS_VERSION, analysisSchema, type Analysis, type Given } from '#core/hear/analysis'
import { withInside } from '#core/hear/inside'
import { database } from '#platform/database'
import type { JobHandle, Session } from '#platform/worker-job'
import type { ListeningTask } from '../workers/listening.worker'
import { useRecording } from '../session/recording'
import { listeningWorker } from '../session/workers'
import { useSong } from './song'

const STAGES: Record<string, string> = {
  onsets: 'hearing attacks',
  beats: 'following the pulse',
  tuning: 'measuring the tuning',
  pitches: 'hearing pitches',
  sides: 'hearing left and right',
  bars: 'finding the one',
  form: 'comparing sections',
  chords: 'naming chords',
}
/** Where each stage lies in the whole work, by the time it takes. */
const WEIGHTS: [string, number][] = [
  ['onsets', 0.22],
  ['beats', 0.14],
  ['tuning', 0.06],
  ['pitches', 0.3],
  ['sides', 0.1],
  ['bars', 0.02],
  ['form', 0.04],
  ['chords', 0.12],
]

/**
 * What was heard in the open song's recording: evidence beside the document, computed in a worker that
 * stays for further questions.
 */
export const useHearing = defineStore('hearing', () => {
  const store = useSong()
  const recordings = useRecording()
  const analysis = shallowRef<Analysis>()
  const progress = ref<{ words: string; fraction: number }>()
  const problem = ref('')
  let session: Session | undefined
  let sessionHash = ''
  /** Counts questions, so that one that was given up does not go on. */
  let questions = 0
  let job: JobHandle<Analysis> | undefined
  let shownHash = ''

  const cacheKey = (hash: string): string => `${hash}/${ANALYSIS_VERSION}`
  function report(stage: string, fraction: number): void {
    let before = 0
    for (const [name, weight] of WEIGHTS) {
      if (name === stage) {
        progress.value = { words: STAGES[stage] ?? stage, fraction: before + weight * fraction }
        return
      }
      before += weight
    }
  }

  /**
   * Takes what is known of the present recording from the database or, for the demo songs, from what ships
   * with it. Computes nothing.
   */
  async function recall(): Promise<boolean> {
    const hash = store.source?.audioHash
    if (!hash) {
      analysis.value = undefined
      shownHash = ''
      return false
    }
    if (shownHash === hash && analysis.value) return true
    analysis.value = undefined
    shownHash = hash
    const known = (await database.analyses.get(cacheKey(hash)))?.analysis ?? (await shipped(hash))
    if (shownHash !== hash || !known) return false
    analysis.value = Object.freeze(known)
    return true
  }
  async function shipped(hash: string): Promise<Analysis | undefined> {
    const answer = await fetch(`/api/demo/analysis/${hash}`).catch(() => undefined)
    if (!answer?.ok) return undefined
    const parsed = analysisSchema.safeParse(await answer.json().catch(() => undefined))
    return parsed.success && parsed.data.version === ANALYSIS_VERSION ? parsed.data : undefined
  }

  /** Runs one question; true when it was answered. `again` keeps what was taken in. */
  async function ask(hash: string, given: Given): Promise<Analysis | undefined> {
    problem.value = ''
    const number = ++questions
    // Only a recording that was taken in whole can be asked about again.
    const again = session?.alive() && sessionHash === hash
    let task: ListeningTask = { want: 'again', given }
    let transfer: Transferable[] = []
    progress.value = { words: again ? 'hearing again' : 'decoding', fraction: 0 }
    if (!again) {
      const recording = await recordings.forWorker(hash)
      // Stopped, or asked anew, while it was still being decoded.
      if (number !== questions) return undefined
      if (!recording) {
        progress.value = undefined
        problem.value = 'The recording is not on this machine: choose its file first.'
        return undefined
      }
      const { channels, sampleRate } = recording
      task = { want: 'analysis', recording: { channels, sampleRate }, given }
      transfer = recording.transfer
      session?.close()
      session = listeningWorker.openSession()
      sessionHash = ''
    }
    const own = session!
    const asked = own.ask<Analysis>(task, {
      transfer,
      onProgress: report,
      onFound: (partial) => {
        if (shownHash === hash && !store.source?.grid) analysis.value = Object.freeze(partial)
      },
    })
    job = asked
    const result = await asked.result
    // Stopped and asked anew: the later question has its own worker and its own progress.
    if (job === asked) progress.value = undefined
    // An answer that came just after it was stopped is kept in the worker, but nobody wants to see it now.
    if (result.ok) {
      if (session === own) sessionHash = hash
      return number === questions ? result.value : undefined
    }
    own.close()
    if (session === own) sessionHash = ''
    if (result.refusal.code !== 'cancelled') problem.value = result.refusal.message
    return undefined
  }

  /** Listens to the whole recording, or takes what was kept. */
  async function listen(): Promise<void> {
    const hash = store.source?.audioHash
    if (!hash || progress.value) return
    if ((await recall()) && analysis.value?.chords !== undefined) return
    const found = await ask(hash, {})
    if (!found || shownHash !== hash) return
    analysis.value = Object.freeze(found)
    await database.analyses.put({ hash: cacheKey(hash), analysis: found }).catch(() => undefined)
    if (found.beats.length === 0)
      problem.value = 'No steady pulse was heard. Tap along with T while it plays, or mark the bars by hand.'
  }

  /** Hears again under conditions; what was heard before is replaced for this window, not in the cache. */
  async function again(given: Given): Promise<Analysis | undefined> {
    const hash = store.source?.audioHash
    if (!hash || progress.value) return undefined
    const found = await ask(hash, given)
    if (found && shownHash === hash) analysis.value = Object.freeze(found)
    return found
  }
  /** Hears a stretch again under conditions; outside it everything stays as it was heard. */
  async function inside(stretch: { start: number; end: number }, given: Given): Promise<boolean> {
    const before = analysis.value
    const hash = store.source?.audioHash
    if (!hash || progress.value) return false
    const found = await ask(hash, given)
    if (!found || shownHash !== hash) return false
    analysis.value = Object.freeze(before ? withInside(before, found, stretch) : found)
    return true
  }
  function cancel(): void {
    questions++
    job?.cancel()
    job = undefined
    progress.value = undefined
    // What was heard so far is half a hearing: it goes, unless it was there before.
    if (!analysis.value?.chords) analysis.value = undefined
  }
  function close(): void {
    cancel()
    session?.close()
    sessionHash = ''
    shownHash = ''
    analysis.value = undefined
    problem.value = ''
  }

  watch(
    () => analysis.value?.key,
    (key) => {
      store.heardKey = key
    },
  )
  /** What is half heard is drawn, and nothing of it can be accepted yet. */
  const whole = computed(() => (progress.value ? undefined : analysis.value))
  const suggestions = computed(() =>
    store.song && store.onMainSource && whole.value ? openSuggestions(store.song, whole.value) : [],
  )
  /** The document as it would be with every suggestion taken: what Listen draws. */
  const view = computed(() =>
    store.song && analysis.value && store.onMainSource && analysis.value.downbeats.length > 1
      ? proposed(store.song, analysis.value)
      : store.heardSong,
  )

  /** Takes suggestions into the document as one change. */
  function accept(
    kinds: readonly SuggestionKind[],
    only?: { startSeconds: number; endSeconds: number; sectionId?: string | undefined },
  ): boolean {
    if (!store.song || !whole.value) {
      if (progress.value)
        store.notice = {
          text: 'Still listening: wait until all of it is heard, or stop it.',
          kind: 'refusal',
        }
      return false
    }
    const told = kinds.includes('tuning') ? tuningTaken(store.song, whole.value) : ''
    const done = store.run('acceptHeard', acceptArgs(store.song, whole.value, kinds, only))
    if (done && told) store.notice = { text: told, kind: 'done' }
    return done
  }
  const acceptAll = (): boolean => accept(suggestions.value.map((suggestion) => suggestion.kind))

  return {
    analysis,
    progress,
    problem,
    suggestions,
    view,
    recall,
    listen,
    again,
    inside,
    cancel,
    close,
    accept,
    acceptAll,
  }
})
