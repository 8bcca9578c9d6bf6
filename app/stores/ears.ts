import { defineStore } from 'pinia'
import type { Ears } from '#core/hear/ears/ears'
import { earsForPart, earsOf, earsWords, type EarsChoice } from '#core/hear/ears/presets'
import { copied } from '#platform/samples'
import type { JobHandle, Session } from '#platform/worker-job'
import type { ListeningTask } from '../workers/listening.worker'
import { useSong } from './song'
import { useRecording } from '../session/recording'
import { listeningWorker } from '../session/workers'
import { useTransport } from './transport'

/** What of the recording is heard: a place, a register, without drums; chosen by buttons or for a part. */
export const useEars = defineStore('ears', () => {
  const store = useSong()
  const transport = useTransport()
  const recordings = useRecording()
  const choice = ref<EarsChoice>({})
  /** The part whose place is listened to; the choice of buttons is set aside meanwhile. */
  const partId = ref<string>()
  /** How much of the recording has been heard anew, 0 to 1; undefined when nothing is under way. */
  const progress = ref<number>()
  let session: Session | undefined
  /** What is under way now; what was asked before is not played any more. */
  let job: JobHandle<Float32Array[]> | undefined

  const active = computed(() => partId.value !== undefined || earsWords(choice.value) !== '')
  const words = computed(() => {
    const part = partId.value && store.song?.parts[partId.value]
    if (part) return part.name
    return earsWords(choice.value) || 'everything'
  })

  /** The recording as it is. */
  async function hearAll(): Promise<void> {
    job?.cancel()
    job = undefined
    progress.value = undefined
    const recording = recordings.lent()
    if (!recording) return
    const channels = await copied(recording.channels)
    // Meanwhile other ears may have been chosen, or another song opened: neither is played over.
    if (!job && recordings.lent() === recording) await transport.hearInstead(channels)
  }
  async function listen(ears: Ears): Promise<void> {
    const recording = recordings.lent()
    if (!recording) return
    if (!session?.alive()) session = listeningWorker.openSession()
    progress.value = 0
    const fromSeconds = transport.loop?.startSeconds ?? transport.position()
    // Where memory is not shared a copy goes there: what is played is not taken away.
    const own = session.ask<Float32Array[]>(
      { want: 'ears', recording, ears, fromSeconds } satisfies ListeningTask,
      {
        onProgress: (_stage, share) => {
          progress.value = share
        },
        onFound: (channels) => void transport.hearInstead(channels),
      },
    )
    job = own
    const heard = await own.result
    if (job !== own) return
    progress.value = undefined
    if (heard.ok) await transport.hearInstead(heard.value)
  }
  function choose(next: EarsChoice): void {
    partId.value = undefined
    choice.value = next
    void (earsWords(next) ? listen(earsOf(next)) : hearAll())
  }
  /** One of a row of buttons: the same again takes it back. */
  function toggle<K extends keyof EarsChoice>(kind: K, value: EarsChoice[K]): void {
    choose({ ...choice.value, [kind]: choice.value[kind] === value ? undefined : value })
  }
  /** Hears where a part sits; the same part again, everything. */
  function hearPart(id: string): void {
    const part = store.song?.parts[id]
    if (!part) return
    if (partId.value === id) {
      choose({})
      return
    }
    choice.value = {}
    partId.value = id
    void listen(earsForPart({ pan: part.pan, bass: part.role === 'bass' }))
  }
  /** Another recording or another song: everything is heard again. */
  function reset(): void {
    choice.value = {}
    partId.value = undefined
    progress.value = undefined
    job = undefined
    session?.close()
    session = undefined
  }
  watch(
    () => recordings.state,
    (state) => {
      if (state !== 'ready') reset()
    },
  )
  return { choice, partId, progress, active, words, toggle, choose, hearPart, reset }
})
