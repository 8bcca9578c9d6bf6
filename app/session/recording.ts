// The recording of the open song: decoded once, held here, lent to whoever plays, hears, checks or proves it.
import { defineStore } from 'pinia'
import type { Recording } from '#core/hear/features/recording'
import { RecordingHolder } from '#platform/recording-holder'
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

async function decoded(hash: string): Promise<Recording | undefined> {
  const known = arrived?.hash === hash ? arrived : undefined
  arrived = undefined
  const found = known ?? (await loadRecording(hash, WORKING_RATE))
  return found && { channels: await lendable(found.channels), sampleRate: WORKING_RATE }
}

export const useRecording = defineStore('recording', () => {
  const state = ref<RecordingState>('none')
  const holder = new RecordingHolder(decoded)

  /** The recording with this hash, decoded the first time it is asked for; undefined when it is not here. */
  const open = (hash: string): Promise<Recording | undefined> => holder.open(hash)
  /** What is open now, to be read where it lies. */
  const lent = (): Recording | undefined => holder.lent

  /** The recording as a worker takes it; undefined when it is not here. */
  async function forWorker(hash: string): Promise<(HandedOver & { sampleRate: number }) | undefined> {
    const recording = await open(hash)
    return recording && { ...(await handedOver(recording.channels)), sampleRate: recording.sampleRate }
  }

  function close(): void {
    holder.close()
    state.value = 'none'
  }
  return { state, open, lent, forWorker, close }
})
