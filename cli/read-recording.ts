// A sound file, or a piece of it, for commands that listen.
import { existsSync } from 'node:fs'
import { openSoundFile } from '../node/sound-file'
import { Complaint } from './answer'

export interface RecordingPiece {
  channels: Float32Array[]
  sampleRate: number
  /** Where the piece begins in the recording, seconds. */
  offset: number
}

/** The first two channels of a file between two seconds, decoded as it is read. Complains in a sentence. */
export async function recordingPiece(path: string, from = 0, to = Infinity): Promise<RecordingPiece> {
  const unreadable = new Complaint(`${path} is not a sound file that can be read.`)
  if (!existsSync(path)) throw new Complaint(`There is no readable file ${path}.`)
  const sound = await openSoundFile(path).catch(() => undefined)
  if (!sound) throw unreadable
  const { sampleRate } = sound
  const [first, last] = [Math.max(0, Math.floor(from * sampleRate)), Math.ceil(to * sampleRate)]
  const kept: Float32Array[][] = []
  let at = 0
  try {
    for await (const block of sound.pieces) {
      const length = block[0]?.length ?? 0
      if (at < last && at + length > first)
        kept.push(block.slice(0, 2).map((one) => one.slice(Math.max(0, first - at), Math.max(0, last - at))))
      at += length
      if (at >= last) break
    }
  } catch {
    throw unreadable
  }
  if (kept.length === 0) throw new Complaint(`${path} ends before ${from} seconds.`)
  const channels = kept[0]!.map((_, channel) => joined(kept.map((block) => block[channel]!)))
  return { channels, sampleRate, offset: first / sampleRate }
}

function joined(blocks: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(blocks.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const block of blocks) {
    all.set(block, at)
    at += block.length
  }
  return all
}
