import type { Song } from '#core/document/schema'
import { SongSender } from '#core/document/song-wire'
import type { Score } from '#core/sound/score'
import type { MeasuredSpan, SoundMessage } from '../workers/sound.worker'
import type { SoundPort } from '#platform/audio-engine'
import { plain } from '#platform/plain'

let worker: Worker | undefined
let bank: 'none' | 'loading' | 'there' = 'none'
/** Why the chart is silent, in a sentence; undefined while all is well. */
const problem = ref<string>()
export const useSoundProblem = () => problem

/** The sound worker, started early so that the bank is read before the first key press. */
export function warmSound(): Worker {
  if (!worker) {
    worker = new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module' })
    worker.addEventListener('message', ({ data }: MessageEvent<{ kind: string }>) => {
      if (data.kind === 'ready') bank = 'there'
      if (data.kind === 'bank failed') bankFailed()
    })
  }
  if (bank === 'none') void loadBank(worker)
  return worker
}

/** Fetches the sounds; what fails is said, and tried again when it is next needed. */
async function loadBank(port: Worker): Promise<void> {
  bank = 'loading'
  try {
    const answer = await fetch('/sound/bank.sf3')
    if (!answer.ok) throw new Error(String(answer.status))
    const bytes = await answer.arrayBuffer()
    port.postMessage({ kind: 'bank', bytes }, [bytes])
    problem.value = undefined
  } catch {
    bankFailed()
  }
}
function bankFailed(): void {
  bank = 'none'
  problem.value = 'The sounds of the chart could not be loaded: only the recording is heard.'
}

/** What of the document the worker has. */
const songs = new SongSender()

/** Gives the worker the song as it is now: whole the first time, then what changed. */
export function sendSong(song: Song): void {
  if (songs.has(song)) return
  warmSound().postMessage(plain({ kind: 'song', sent: songs.pack(song) } satisfies SoundMessage))
}

let measurements = 0
/** Loudness of the chart of the song that was sent, over some stretches, in decibels. */
export function measureChart(score: Score, spans: MeasuredSpan[]): Promise<number> {
  const port = warmSound()
  const asked = ++measurements
  return new Promise((resolve) => {
    const receive = ({ data }: MessageEvent<{ kind: string; asked: number; decibels: number }>): void => {
      if (data.kind !== 'measured' || data.asked !== asked) return
      port.removeEventListener('message', receive)
      resolve(data.decibels)
    }
    port.addEventListener('message', receive)
    port.postMessage({ kind: 'measure', score: plain(score), spans, asked } satisfies SoundMessage)
  })
}

export function soundPort(): SoundPort {
  const port = warmSound()
  return {
    start: ({ score, ...plan }, run) =>
      warmSound().postMessage({ kind: 'start', run, score, plan: plain(plan) }),
    more: (frames) => port.postMessage({ kind: 'more', frames }),
    onBlocks: (receive) => {
      port.addEventListener('message', ({ data }) => {
        if (data.kind === 'blocks') receive(data.run, data.names, data.blocks)
      })
    },
    dispose: () => {
      port.terminate()
      worker = undefined
      songs.startAnew()
      bank = 'none'
    },
  }
}
