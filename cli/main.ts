// The core from the command line: analyse, check, timeline, render.
import { readFileSync, writeFileSync } from 'node:fs'
import { findings } from '../core/check/findings'
import { analyse } from '../core/listen/analyse'
import { quietJob } from '../core/listen/job'
import { soundPart } from '../core/playing/sound-song'
import { readSongFile } from '../core/files/song-file'
import { orderedParts, songTimeMap } from '../core/song/form'
import { readSong } from '../core/song/migrations'
import { unroll } from '../core/song/unroll'
import { clock, ticksToSeconds } from '../core/time/beat-grid'
import { openBank } from '../core/sound/bank'
import { renderEvents } from '../core/sound/player'
import { readWav, writeWav } from '../core/sound/wav'
import type { Song } from '../core/song/schema'
import { decodeAudio } from '../scripts/decode'
import { nodeFft } from '../scripts/fft'

const USAGE = `Usage:
  npm run -s cli -- analyse IN.wav [--out OUT.json]   beats and bars of a recording, as JSON
  npm run -s cli -- check SONG                        what is missing or does not add up
  npm run -s cli -- timeline SONG                     the unrolled form, bar by bar
  npm run -s cli -- render SONG --out X.wav           the chart as sound
SONG is a song file (.zip) or a song document (.json).`

class Complaint extends Error {}

function readDocument(path: string): Song {
  let bytes: Uint8Array
  try { bytes = readFileSync(path) } catch { throw new Complaint(`There is no readable file ${path}.`) }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const file = readSongFile(bytes)
    if (!file.ok) throw new Complaint(file.refusal.message)
    return file.value.song
  }
  let data: unknown
  try { data = JSON.parse(new TextDecoder().decode(bytes)) } catch { throw new Complaint(`${path} is neither a song file nor JSON.`) }
  const song = readSong(data)
  if (!song.ok) throw new Complaint(song.refusal.message)
  return song.value
}

async function analyseFile(path: string, out: string | undefined): Promise<void> {
  let bytes: Uint8Array
  try { bytes = readFileSync(path) } catch { throw new Complaint(`There is no readable file ${path}.`) }
  const recording = readWav(bytes) ?? await decodeAudio(bytes).catch(() => undefined)
  if (!recording?.channels[0]?.length) throw new Complaint(`${path} is not a sound file that can be read.`)
  const { durationSeconds: _length, ...analysis } = await analyse(recording, await nodeFft(), quietJob)
  const text = `${JSON.stringify(analysis)}\n`
  if (out) writeFileSync(out, text)
  else process.stdout.write(text)
}

function printTimeline(song: Song): void {
  const map = songTimeMap(song)
  const parts = orderedParts(song)
  console.log(['bar', 'time', 'section', 'in it', ...parts.map((part) => part.name)].join('\t'))
  for (const bar of unroll(song)) {
    const cells = bar.parts.map((cell) => (cell.plays.length ? cell.plays.map((play) => (play.figureId ? `${song.figures[play.figureId]!.name} (${play.pass})` : 'rests')).join(' + ') : 'not charted'))
    console.log([bar.barIndex + 1, map ? clock(ticksToSeconds(map, bar.startTicks), 1) : '', song.sections[bar.sectionId]!.name, bar.barInSection + 1, ...cells].join('\t'))
  }
}

function check(song: Song): void {
  const list = findings(song)
  for (const finding of list) console.log(`${finding.kind}: ${finding.text}`)
  console.log(list.length ? `${list.length} findings` : 'Nothing missing, everything adds up.')
}

async function render(song: Song, out: string): Promise<void> {
  const bytes = readFileSync(new URL('../public/sound/bank.sf3', import.meta.url))
  const bank = await openBank(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer)
  const stems = orderedParts(song).map((part) => ({ pan: part.pan, events: soundPart(song, part.id) }))
  const seconds = 1 + Math.max(0, ...stems.flatMap((stem) => stem.events.map((event) => event.endSeconds)))
  const sampleRate = 44_100
  const channels = [0, 1].map(() => new Float32Array(Math.ceil(seconds * sampleRate)))
  for (const stem of stems) {
    const mono = renderEvents(bank, stem.events, { sampleRate, seconds })
    const angle = ((stem.pan + 1) * Math.PI) / 4
    mono.forEach((value, frame) => { channels[0]![frame]! += value * Math.cos(angle) * 0.6; channels[1]![frame]! += value * Math.sin(angle) * 0.6 })
  }
  writeFileSync(out, writeWav(channels, sampleRate))
}

/** Runs one command line. Resolves with the exit code. */
export async function main(args: readonly string[]): Promise<number> {
  const outAt = args.indexOf('--out')
  const out = outAt === -1 ? undefined : args[outAt + 1]
  const [command, input] = args.filter((_, index) => outAt === -1 || (index !== outAt && index !== outAt + 1))
  try {
    if (!input) throw new Complaint(USAGE)
    if (command === 'analyse') await analyseFile(input, out)
    else if (command === 'timeline') printTimeline(readDocument(input))
    else if (command === 'check') check(readDocument(input))
    else if (command === 'render' && out) await render(readDocument(input), out)
    else throw new Complaint(USAGE)
    return 0
  } catch (error) {
    if (!(error instanceof Complaint)) throw error
    console.error(error.message)
    return 1
  }
}

if (process.argv[1]?.endsWith('main.ts')) process.exit(await main(process.argv.slice(2)))
