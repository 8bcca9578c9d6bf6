// Thin: holds the bank and the open document, renders the next block of every stem on request.
import type { Song } from '#core/document/schema'
import { SongReceiver, type SentSong } from '#core/document/song-wire'
import { openBank, type Bank } from '#core/sound/bank'
import { soundsOf } from '#core/sound/needed-sounds'
import { stemsOf, type Score } from '#core/sound/score'
import { loudnessOf } from '#core/sound/loudness'
import { StemRenderer, type StemPlan } from '#core/sound/stems'

export interface MeasuredSpan {
  startSeconds: number
  endSeconds: number
}
export type SoundMessage =
  | { kind: 'bank'; bytes: ArrayBuffer }
  | { kind: 'song'; sent: SentSong }
  | { kind: 'start'; plan: StemPlan; score?: Score | undefined; run: number }
  | { kind: 'more'; frames: number }
  | { kind: 'measure'; score: Score; spans: MeasuredSpan[]; asked: number }

let bank: Bank | undefined
const songs = new SongReceiver()
let song: Song | undefined
let renderer: StemRenderer | undefined
let run = 0
/** Counts songs, so that what an earlier one needs is no longer read. */
let prepared = 0
let waiting: SoundMessage[] = []

/**
 * Reads the samples a song needs out of the bank, one at a time: it takes milliseconds each, and a request to
 * play must not wait behind all of them.
 */
function prepare(): void {
  const mine = ++prepared
  const needed = song ? soundsOf(song) : undefined
  const next = (): void => {
    const event = mine === prepared ? needed?.next().value : undefined
    if (!event) return
    bank?.layers(event)
    setTimeout(next)
  }
  setTimeout(next)
}

function handle(message: SoundMessage): void {
  switch (message.kind) {
    case 'song':
      song = songs.unpack(message.sent)
      if ('whole' in message.sent) prepare()
      return
    case 'start':
      return start(message.plan, message.score, message.run)
    case 'more':
      return more(message.frames)
    case 'measure':
      return void measure(message)
  }
}

function start(plan: StemPlan, score: Score | undefined, number: number): void {
  const stems = score && song ? [...stemsOf(song, score), ...plan.stems] : plan.stems
  renderer = new StemRenderer(bank!, { ...plan, stems })
  run = number
}

function more(frames: number): void {
  if (!renderer) return
  const blocks = renderer.render(frames)
  self.postMessage(
    { kind: 'blocks', run, names: renderer.names, blocks },
    { transfer: blocks.map((block) => block.buffer) },
  )
}

/** The chart is measured at this rate: what lies above adds nothing to how loud it is. */
const MEASURING_RATE = 22_050
const PIECE_SECONDS = 0.5

/** How loud the chart is over some stretches; between pieces a request to play goes first. */
async function measure({ score, spans, asked }: Extract<SoundMessage, { kind: 'measure' }>): Promise<void> {
  const blocks: Float32Array[] = []
  for (const { startSeconds, endSeconds } of spans) {
    if (!bank || !song) break
    const plan = { fromSeconds: startSeconds, speed: 1, leadSeconds: 0, clickSeconds: [] }
    const rendered = new StemRenderer(bank, {
      ...plan,
      stems: stemsOf(song, score),
      sampleRate: MEASURING_RATE,
    })
    for (let at = startSeconds; at < endSeconds; at += PIECE_SECONDS) {
      blocks.push(summed(rendered.render(Math.round(PIECE_SECONDS * MEASURING_RATE))))
      await new Promise((resolve) => setTimeout(resolve))
    }
  }
  self.postMessage({ kind: 'measured', asked, decibels: loudnessOf([joined(blocks)], MEASURING_RATE) })
}
function summed(stems: readonly Float32Array[]): Float32Array {
  const sum = new Float32Array(stems[0]?.length ?? 0)
  for (const stem of stems) stem.forEach((value, i) => (sum[i] = (sum[i] ?? 0) + value))
  return sum
}
function joined(blocks: readonly Float32Array[]): Float32Array {
  const whole = new Float32Array(blocks.reduce((sum, block) => sum + block.length, 0))
  let at = 0
  for (const block of blocks) {
    whole.set(block, at)
    at += block.length
  }
  return whole
}

async function takeBank(bytes: ArrayBuffer): Promise<void> {
  try {
    bank = await openBank(bytes)
  } catch {
    self.postMessage({ kind: 'bank failed' })
    return
  }
  self.postMessage({ kind: 'ready' })
  for (const message of waiting) handle(message)
  waiting = []
}

self.onmessage = ({ data }: MessageEvent<SoundMessage>) => {
  if (data.kind === 'bank') void takeBank(data.bytes)
  else if (bank) handle(data)
  // Only the newest request to play matters while the bank loads; the song and its changes all do.
  else if (data.kind === 'start')
    waiting = [...waiting.filter(({ kind }) => kind !== 'start' && kind !== 'more'), data]
  else waiting.push(data)
}
