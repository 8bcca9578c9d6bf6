// render SONG --out X.wav: the chart as sound.
import { readFileSync, writeFileSync } from 'node:fs'
import { orderedParts } from '../core/document/form'
import type { Song } from '../core/document/schema'
import { openBank } from '../core/sound/bank'
import { levelTo } from '../core/sound/levelled'
import { renderEvents } from '../core/sound/player'
import { writeWav } from '../core/sound/wav'
import { soundPart } from '../core/score/sound-song'

/** Every part at its place between left and right, two channels, as loud as a play-along. */
export async function render(song: Song, out: string): Promise<void> {
  const bytes = readFileSync(new URL('../public/sound/bank.sf3', import.meta.url))
  const bank = await openBank(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer,
  )
  const stems = orderedParts(song).map((part) => ({ pan: part.pan, events: soundPart(song, part.id) }))
  const seconds = 1 + Math.max(0, ...stems.flatMap((stem) => stem.events.map((event) => event.endSeconds)))
  const sampleRate = 44_100
  const channels = [0, 1].map(() => new Float32Array(Math.ceil(seconds * sampleRate)))
  for (const stem of stems) {
    const mono = renderEvents(bank, stem.events, { sampleRate, seconds })
    const angle = ((stem.pan + 1) * Math.PI) / 4
    mono.forEach((value, frame) => {
      channels[0]![frame]! += value * Math.cos(angle) * 0.6
      channels[1]![frame]! += value * Math.sin(angle) * 0.6
    })
  }
  levelTo(channels, sampleRate)
  writeFileSync(out, writeWav(channels, sampleRate))
}
