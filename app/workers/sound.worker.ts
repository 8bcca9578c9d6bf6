// Thin: holds the bank and the open document, renders the next block of every stem on request.
import { applyPatch, type Patch } from '#core/document/patch'
import type { Song } from '#core/document/schema'
import { openBank, type Bank } from '#core/sound/bank'
import { soundsOf } from '#core/sound/needed-sounds'
import { stemsOf, type Score } from '#core/sound/score'
import { StemRenderer, type StemPlan } from '#core/sound/stems'

export type SoundMessage =
  | { kind: 'bank'; bytes: ArrayBuffer }
  | { kind: 'song'; song: Song }
  | { kind: 'patch'; patch: Patch }
  | { kind: 'start'; plan: StemPlan; score?: Score | undefined; run: number }
  | { kind: 'more'; frames: number }

let bank: Bank | undefined
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
      song = message.song
      return prepare()
    case 'patch':
      song = song && applyPatch(song, message.patch)
      return
    case 'start':
      return start(message.plan, message.score, message.run)
    case 'more':
      return more(message.frames)
  }
}

function start(plan: StemPlan, score: Score | undefined, number: number): void {
  const stems = score && song ? stemsOf(song, score) : plan.stems
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
    waiting = [...waiting.filter(({ kind }) => kind === 'song' || kind === 'patch'), data]
  else waiting.push(data)
}
