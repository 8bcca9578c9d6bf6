// The recording of the open song: decoded once, held here, lent to whoever plays, hears, checks or proves it.
import { defineStore } from 'pinia'
import type { Recording } from '#core/hear/features/recording'
import { handedOver, lendable, type HandedOver } from '#platform/samples'
import { loadRecording } from '../composables/songFiles'

export type RecordingState = 'none' | 'loading' | 'ready' | 'missing'

/** The one rate everything works at; the sound card converts. */
export const WORKING_RATE = 44_100

/** What an import has decoded already: the song that is opened next has it. */
let arrived: { hash: string; channels: Float32Array[] } | undefined
export const keepDecoded = ({ hash, channels }: { hash: string; channels: Float32Array[] }): void => {
  arrived = { hash, channels }
}

export const useRecording = defineStore('recording', () => {
  const state = ref<RecordingState>('none')
  let held: { hash: string; recording: Recording } | undefined
  let opening: { hash: string; done: Promise<Recording | undefined> } | undefined

  async function decoded(hash: string): Promise<Recording | undefined> {
    const known = arrived?.hash === hash ? arrived : undefined
    arrived = undefined
    const found = known ?? (await loadRecording(hash, WORKING_RATE))
    return found && { channels: await lendable(found.channels), sampleRate: WORKING_RATE }
  }

  /** The recording with this hash, decoded the first time it is asked for; undefined when it is not here. */
  async function open(hash: string): Promise<Recording | undefined> {
    if (held?.hash === hash) return held.recording
    if (opening?.hash === hash) return opening.done
    held = undefined
    const done = decoded(hash).catch(() => undefined)
    const mine = { hash, done }
    opening = mine
    const recording = await done
    // Another one was asked for meanwhile.
    if (opening !== mine) return undefined
    opening = undefined
    if (recording) held = { hash, recording }
    return recording
  }
  /** What is open now, to be read where it lies. */
  const lent = (): Recording | undefined => held?.recording

  /** The recording as a worker takes it; undefined when it is not here. */
  async function forWorker(hash: string): Promise<(HandedOver & { sampleRate: number }) | undefined> {
    const recording = await open(hash)
    return recording && { ...(await handedOver(recording.channels)), sampleRate: recording.sampleRate }
  }

  function close(): void {
    held = undefined
    opening = undefined
    state.value = 'none'
  }
  return { state, open, lent, forWorker, close }
})
