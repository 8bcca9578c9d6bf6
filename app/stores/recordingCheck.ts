import type { HandedOver } from '#platform/samples'
import { defineStore } from 'pinia'
import type { Finding } from '#core/check/finding'
import type { JobHandle, Session } from '#platform/worker-job'
import { useSong } from './song'
import { useRecording } from '../session/recording'
import { listeningWorker } from '../session/workers'

/** Where each stage begins in the whole work, and how much of it it is. */
const STAGES: Record<string, [number, number]> = {
  tuning: [0.02, 0.13],
  sides: [0.15, 0.25],
  notes: [0.4, 0.6],
}

/**
 * The chart held against the open recording: asked for once, then kept up with every change. The worker keeps
 * what it heard, so that a change costs little.
 */
export const useRecordingCheck = defineStore('recording check', () => {
  const store = useSong()
  const recording = useRecording()
  const findings = shallowRef<readonly Finding[]>()
  /** 0 to 1 while the whole recording is listened to. */
  const progress = ref<number>()
  const problem = ref('')
  let session: Session | undefined
  let job: JobHandle<Finding[]> | undefined
  const hash = computed(() => store.source?.audioHash)
  const ready = computed(() => recording.state === 'ready' && Boolean(store.map))

  function close(): void {
    session?.close()
    session = undefined
    findings.value = undefined
    progress.value = undefined
    problem.value = ''
  }
  watch([() => store.song?.id, hash], close)
  // The song was left: what the worker holds of its recording is let go.
  watch(
    () => recording.state,
    (state) => {
      if (state === 'none') close()
    },
  )

  async function ask(given?: HandedOver & { sampleRate: number }): Promise<void> {
    const song = store.heardSong
    if (!song || !session) return
    const sound = given && { channels: given.channels, sampleRate: given.sampleRate }
    const task = { want: 'recording check', song, nameShift: store.nameShift, recording: sound }
    const own = session.ask<Finding[]>(task, {
      transfer: given?.transfer ?? [],
      onProgress: (stage, fraction) => {
        const [from, share] = STAGES[stage] ?? [0, 0]
        if (progress.value !== undefined) progress.value = from + share * fraction
      },
    })
    job = own
    const made = await own.result
    if (job !== own) return
    progress.value = undefined
    if (made.ok) {
      findings.value = made.value
      // The song was changed while its recording was listened to.
      if (store.heardSong !== song) void ask()
    } else if (made.refusal.code !== 'cancelled') problem.value = made.refusal.message
  }

  /** Listens to the whole recording and says what it has against the chart. */
  async function listen(): Promise<void> {
    if (hash.value === undefined || !ready.value) return
    close()
    session = listeningWorker.openSession()
    progress.value = 0
    const own = session
    const given = await recording.forWorker(hash.value)
    if (given && session === own) await ask(given)
  }
  watch([() => store.heardSong, () => store.nameShift], () => {
    if (findings.value && progress.value === undefined) void ask()
  })
  return { findings, progress, problem, ready, listen, stop: close }
})
