// The core from the command line: analyse, check, timeline, render; grips, calls and lines
// (grip-commands.ts, call-command.ts, figure-commands.ts).
import { parseArgs } from 'node:util'
import { readFileSync, writeFileSync } from 'node:fs'
import { findings } from '../core/review/findings'
import { analyse } from '../core/listen/analyse'
import { quietJob } from '../core/listen/job'
import { soundPart } from '../core/timeline/sound-song'
import { readSongFile } from '../core/exchange/song-file'
import { orderedParts, songTimeMap } from '../core/document/form'
import { readSong } from '../core/document/migrations'
import { unroll } from '../core/timeline/unroll'
import { clock, ticksToSeconds } from '../core/time/beat-grid'
import { openBank } from '../core/sound/bank'
import { renderEvents } from '../core/sound/player'
import { readWav, writeWav } from '../core/sound/wav'
import type { Song } from '../core/document/schema'
import { decodeAudio } from '../tools/decode'
import { nodeFft } from '../tools/fft'
import { Complaint, type Answer, type Flags } from './answers'
import { call, callBatch } from './call-command'
import { harmonyOf, pathsOf, scaleOf, speakFigure } from './figure-commands'
import { grips, nameGrip } from './grip-commands'

const USAGE = `Usage:
  npm run -s cli -- analyse IN.wav [--out OUT.json]   beats and bars of a recording, as JSON
  npm run -s cli -- check SONG                        what is missing or does not add up
  npm run -s cli -- timeline SONG                     the unrolled form, bar by bar
  npm run -s cli -- render SONG --out X.wav           the chart as sound
  npm run -s cli -- name-grip x57765                  names, degrees, reach, fingers of a grip
  npm run -s cli -- grips "F#m7/E" [--after x02220] [--count 5] [--easier]
  npm run -s cli -- call "G seven seven, hammer seven nine eleven" [--step 1/8]
  npm run -s cli -- call --batch --json   JSON lines {call, step, setup, tuning, key} in, answers out
  npm run -s cli -- speak SONG --figure NAME [--strings numbers] [--words said]
  npm run -s cli -- paths SONG --figure NAME          the same line elsewhere on the neck
  npm run -s cli -- harmony SONG --figure NAME --interval 3 --direction below [--key "D minor"] [--parallel]
  npm run -s cli -- scale SONG --figure NAME          the scales a line fits
SONG is a song file (.zip) or a song document (.json). Where two parts share a figure’s name: --part NAME.
Grips and calls take --tuning "E2 A2 D3 G3 B3 E4" (low to high), --capo N, --frets N, --key "E minor".
A grip is written low to high (x muted, frets over 9 with dashes), and lists of strings in answers go
low to high too; string 1 is the highest.
Keys are as sounding. Answers are words on a terminal and JSON in a pipe; --json asks for JSON anywhere.`

function readDocument(path: string): Song {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(path)
  } catch {
    throw new Complaint(`There is no readable file ${path}.`)
  }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const file = readSongFile(bytes)
    if (!file.ok) throw new Complaint(file.refusal.message)
    return file.value.song
  }
  let data: unknown
  try {
    data = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Complaint(`${path} is neither a song file nor JSON.`)
  }
  const song = readSong(data)
  if (!song.ok) throw new Complaint(song.refusal.message)
  return song.value
}

async function analyseFile(path: string, out: string | undefined): Promise<void> {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(path)
  } catch {
    throw new Complaint(`There is no readable file ${path}.`)
  }
  const recording = readWav(bytes) ?? (await decodeAudio(bytes).catch(() => undefined))
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
    const cells = bar.parts.map((cell) =>
      cell.plays.length
        ? cell.plays
            .map((play) => (play.figureId ? `${song.figures[play.figureId]!.name} (${play.pass})` : 'rests'))
            .join(' + ')
        : 'not charted',
    )
    console.log(
      [
        bar.barIndex + 1,
        map ? clock(ticksToSeconds(map, bar.startTicks), 1) : '',
        song.sections[bar.sectionId]!.name,
        bar.barInSection + 1,
        ...cells,
      ].join('\t'),
    )
  }
}

function check(song: Song): void {
  const list = findings(song)
  for (const finding of list) console.log(`${finding.kind}: ${finding.text}`)
  console.log(
    list.length
      ? `${list.length} ${list.length === 1 ? 'finding' : 'findings'}`
      : 'Nothing missing, everything adds up.',
  )
}

async function render(song: Song, out: string): Promise<void> {
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
  writeFileSync(out, writeWav(channels, sampleRate))
}

/** Commands that take a word or a phrase, and those that take a song. */
const TEXT_COMMANDS: Record<string, (text: string, flags: Flags) => Answer> = {
  'name-grip': nameGrip,
  grips,
  call,
}
const SONG_COMMANDS: Record<string, (song: Song, flags: Flags) => Answer> = {
  speak: speakFigure,
  paths: pathsOf,
  harmony: harmonyOf,
  scale: scaleOf,
}

const SWITCHES = ['json', 'easier', 'parallel', 'batch']
const VALUES = [
  'after',
  'before',
  'capo',
  'count',
  'direction',
  'figure',
  'frets',
  'interval',
  'key',
  'out',
  'part',
  'step',
  'strings',
  'tuning',
  'words',
]
const OPTIONS = Object.fromEntries([
  ...SWITCHES.map((name) => [name, { type: 'boolean' as const }]),
  ...VALUES.map((name) => [name, { type: 'string' as const }]),
])
/** "--name value" and "--switch" apart from the plain words. A value may be negative: "--interval -3". */
function flagsOf(args: readonly string[]): { words: string[]; flags: Flags } {
  const { positionals, values } = parseArgs({
    args: [...args],
    options: OPTIONS,
    allowPositionals: true,
    strict: false,
  })
  const flags: Flags = {}
  for (const [name, value] of Object.entries(values)) {
    if (!Object.hasOwn(OPTIONS, name)) throw new Complaint(`There is no --${name}.\n${USAGE}`)
    if (VALUES.includes(name) && (typeof value !== 'string' || value.startsWith('--')))
      throw new Complaint(`--${name} wants a value after it.`)
    flags[name] = typeof value === 'string' ? value : ''
  }
  return { words: positionals, flags }
}

function print({ data, words, failed }: Answer, flags: Flags): number {
  console.log('json' in flags || !process.stdout.isTTY ? JSON.stringify(data) : words)
  return failed ? 1 : 0
}

/** Calls from standard input, a line of JSON each. */
function batch(flags: Flags): number {
  for (const line of callBatch(readFileSync(0, 'utf8'), flags)) console.log(line)
  return 0
}

/** Runs one command line. Resolves with the exit code. */
export async function main(args: readonly string[]): Promise<number> {
  try {
    const {
      words: [command, input],
      flags,
    } = flagsOf(args)
    if (command === 'call' && 'batch' in flags) return batch(flags)
    if (command === undefined || input === undefined) throw new Complaint(USAGE)
    if (Object.hasOwn(TEXT_COMMANDS, command)) return print(TEXT_COMMANDS[command]!(input, flags), flags)
    if (Object.hasOwn(SONG_COMMANDS, command))
      return print(SONG_COMMANDS[command]!(readDocument(input), flags), flags)
    if (command === 'analyse') await analyseFile(input, flags.out)
    else if (command === 'timeline') printTimeline(readDocument(input))
    else if (command === 'check') check(readDocument(input))
    else if (command === 'render' && flags.out) await render(readDocument(input), flags.out)
    else throw new Complaint(USAGE)
    return 0
  } catch (error) {
    if (!(error instanceof Complaint)) throw error
    if (args.includes('--json')) console.log(JSON.stringify({ error: { message: error.message } }))
    else console.error(error.message)
    return 1
  }
}

if (process.argv[1]?.endsWith('main.ts')) process.exit(await main(process.argv.slice(2)))
