// Thin: holds the bank, renders the next block of every stem on request.
import { openBank, type Bank } from '#core/sound/bank'
import type { SoundingEvent } from '#core/playing/sounding-event'
import { StemRenderer, type StemPlan } from '#core/sound/stems'

type Message = { kind: 'bank'; bytes: ArrayBuffer } | { kind: 'start'; plan: StemPlan; run: number } | { kind: 'more'; frames: number } | { kind: 'prepare'; events: SoundingEvent[] }
let bank: Bank | undefined
let renderer: StemRenderer | undefined
let run = 0
let waiting: Message[] = []

function handle(message: Message): void {
  // Reading a sample out of the bank takes milliseconds: done before the first key press, not after it.
  if (message.kind === 'prepare') for (const event of message.events) bank!.layers(event)
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
