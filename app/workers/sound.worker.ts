// Thin: holds the bank, renders the next block of every stem on request.
import { openBank, type Bank } from '#core/sound/bank'
import type { SoundingEvent } from '#core/playing/sounding-event'
import { StemRenderer, type StemPlan } from '#core/sound/stems'

type Message = { kind: 'bank'; bytes: ArrayBuffer } | { kind: 'start'; plan: StemPlan; run: number } | { kind: 'more'; frames: number } | { kind: 'prepare'; events: SoundingEvent[] }
let bank: Bank | undefined
let renderer: StemRenderer | undefined
let run = 0
let waiting: Message[] = []
const toPrepare: SoundingEvent[] = []

/** Reads samples out of the bank one at a time: it takes milliseconds each, and a request to play must not wait behind all of them. */
function prepareNext(): void {
  const event = toPrepare.shift()
  if (!event) return
  bank!.layers(event)
  setTimeout(prepareNext)
}

function handle(message: Message): void {
  if (message.kind === 'prepare') { const idle = toPrepare.length === 0; toPrepare.push(...message.events); if (idle) setTimeout(prepareNext) }
  else if (message.kind === 'start') { renderer = new StemRenderer(bank!, message.plan); run = message.run }
  else if (message.kind === 'more' && renderer) {
    const blocks = renderer.render(message.frames)
    self.postMessage({ kind: 'blocks', run, names: renderer.names, blocks }, { transfer: blocks.map((block) => block.buffer) })
  }
}

self.onmessage = async ({ data }: MessageEvent<Message>) => {
  if (data.kind === 'bank') {
    bank = await openBank(data.bytes)
    self.postMessage({ kind: 'ready' })
    for (const message of waiting) handle(message)
    waiting = []
  } else if (bank) handle(data)
  // Only the newest request to play matters while the bank loads.
  else waiting = [...(data.kind === 'start' ? waiting.filter((message) => message.kind === 'prepare') : waiting), data]
}
