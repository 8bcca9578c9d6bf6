// Thin: holds a recording, hears it through ears piece by piece, hands over the whole as far as it is heard.
import loadFft from '@echogarden/pffft-wasm/simd'
import { EARS_SIZE, earsPieces, type Ears } from '#core/hear/ears/ears'
import { packedFft, type PackedFft } from '#core/hear/features/packed-fft'

export type EarsMessage =
  | { kind: 'recording'; channels: readonly Float32Array[]; sampleRate: number }
  | { kind: 'hear'; ears: Ears; fromSeconds: number; run: number }
  | { kind: 'plain'; run: number }
export interface EarsAnswer {
  run: number
  /** The whole recording: what is not heard yet is as it was. */
  channels?: Float32Array[]
  /** 0 to 1. */
  done: number
}

let channels: readonly Float32Array[] = []
let sampleRate = 44_100
let run = 0
let fft: PackedFft | undefined

/** After so many pieces what is heard so far is handed over: soon at first, then seldom. */
const HANDED_OVER = new Set([1, 3, 8, 20, 50])
const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))

function handOver(whole: readonly Float32Array[], done: number): void {
  const copies = whole.map((channel) => channel.slice())
  const answer: EarsAnswer = { run, channels: copies, done }
  self.postMessage(answer, { transfer: copies.map((copy) => copy.buffer) })
}

async function hear(ears: Ears, fromSeconds: number, mine: number): Promise<void> {
  fft ??= packedFft(await loadFft(), EARS_SIZE)
  const [left, right] = [
    channels[0] ?? new Float32Array(0),
    channels[1] ?? channels[0] ?? new Float32Array(0),
  ]
  const whole: [Float32Array, Float32Array] = [left.slice(), right.slice()]
  let [heard, pieces] = [0, 0]
  for (const piece of earsPieces(channels, ears, { sampleRate, fromSeconds }, fft)) {
    if (mine !== run) return
    whole[0].set(piece.channels[0], piece.startFrame)
    whole[1].set(piece.channels[1], piece.startFrame)
    heard += piece.channels[0].length
    pieces++
    const done = heard / Math.max(1, left.length)
    if (HANDED_OVER.has(pieces) && done < 1) handOver(whole, done)
    else self.postMessage({ run, done } satisfies EarsAnswer)
    await pause()
  }
  if (mine === run) handOver(whole, 1)
}

self.onmessage = ({ data }: MessageEvent<EarsMessage>) => {
  if (data.kind === 'recording') {
    ;({ channels, sampleRate } = data)
    return
  }
  run = data.run
  if (data.kind === 'plain') handOver(channels, 1)
  else void hear(data.ears, data.fromSeconds, data.run)
}
