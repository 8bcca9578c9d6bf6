import { defineStore } from 'pinia'
import type { Ears } from '#core/hear/ears/ears'
import { earsForPart, earsOf, earsWords, type EarsChoice } from '#core/hear/ears/presets'
import { plain } from '#platform/plain'
import type { EarsAnswer, EarsMessage } from '../workers/ears.worker'
import { useSong } from './song'
import { useRecording } from '../session/recording'
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
  let worker: Worker | undefined
  let held: readonly Float32Array[] | undefined
  let run = 0

  const active = computed(() => partId.value !== undefined || earsWords(choice.value) !== '')
  const words = computed(() => {
    const part = partId.value && store.song?.parts[partId.value]
    if (part) return part.name
    return earsWords(choice.value) || 'everything'
  })

  function receive({ data }: MessageEvent<EarsAnswer>): void {
    if (data.run !== run) return
    progress.value = data.done < 1 ? data.done : undefined
    if (data.channels) void transport.hearInstead(data.channels)
  }
  /** A worker that has the recording; undefined when there is none. */
  function workerFor(): Worker | undefined {
    const recording = recordings.lent()
    if (!recording) return undefined
    if (!worker) {
      worker = new Worker(new URL('../workers/ears.worker.ts', import.meta.url), { type: 'module' })
      worker.addEventListener('message', receive)
    }
    if (held !== recording.channels) {
      held = recording.channels
      // Where memory is not shared a copy goes there: what is played is not taken away.
      worker.postMessage({ kind: 'recording', ...recording } satisfies EarsMessage)
    }
    return worker
  }

  function listen(ears: Ears | undefined): void {
    const port = workerFor()
    if (!port) return
    run++
    progress.value = 0
    const fromSeconds = transport.loop?.startSeconds ?? transport.position()
    const message: EarsMessage = ears
      ? { kind: 'hear', ears: plain(ears), fromSeconds, run }
      : { kind: 'plain', run }
    port.postMessage(message)
  }
  function choose(next: EarsChoice): void {
    partId.value = undefined
    choice.value = next
    listen(earsWords(next) ? earsOf(next) : undefined)
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
    listen(earsForPart({ pan: part.pan, bass: part.role === 'bass' }))
  }
  /** Another recording or another song: everything is heard again. */
  function reset(): void {
    run++
    choice.value = {}
    partId.value = undefined
    progress.value = undefined
    held = undefined
    worker?.terminate()
    worker = undefined
  }
  watch(
    () => recordings.state,
    (state) => {
      if (state !== 'ready') reset()
    },
  )
  return { choice, partId, progress, active, words, toggle, choose, hearPart, reset }
})
