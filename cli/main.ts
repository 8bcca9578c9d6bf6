// The core from the command line. Each command is read in only when it is asked for: the command line starts
// at once, and nothing that only sounds or listens is loaded to name a grip.
import { readFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import type { Song } from '../core/document/schema'
import { Complaint, type Answer, type Flags } from './answer'

const USAGE = `Usage:
  npm run -s cli -- analyse IN.wav [--out OUT.json]   beats and bars of a recording, as JSON
  npm run -s cli -- check SONG [--recording IN.wav]   what is missing, does not add up, cannot be played,
                                                      is heard otherwise
  npm run -s cli -- draft IN.wav --from 61.2 --to 68 [--side left|right|centre] [--low 40] [--high 88]
        [--beats ANALYSIS.json]                       what one player plays there, note by note
  npm run -s cli -- accents IN.wav --from 61.2 --to 68 [--of kick|left|right]   when somebody accents there
  npm run -s cli -- timeline SONG                     the unrolled form, bar by bar
  npm run -s cli -- render SONG --out X.wav           the chart as sound
  npm run -s cli -- export SONG --format musicxml|mxl|midi|csv|chords|svg|pdf|wav [--part NAME]
        [--section NAME] --out FILE                   for other programs; says what is left out
  npm run -s cli -- import FILE --out SONG.json [--into SONG --part NAME] [--timing sixteenths]
        [--pitches frets|pitches]                     from MusicXML, MIDI, CSV, chords; says what it asks
  npm run -s cli -- name-grip x57765                  names, degrees, reach, fingers of a grip
  npm run -s cli -- grips "F#m7/E" [--after x02220] [--count 5] [--easier]
  npm run -s cli -- call "G seven seven, hammer seven nine eleven" [--step 1/8]
  npm run -s cli -- call --batch --json   JSON lines {call, step, setup, tuning, key} in, answers out
  npm run -s cli -- speak SONG --figure NAME [--strings numbers] [--words said]
  npm run -s cli -- paths SONG --figure NAME          the same line elsewhere on the neck
  npm run -s cli -- harmony SONG --figure NAME --interval 3 --direction below [--key "D minor"] [--parallel]
        paths and harmony: [--on-strings "1 2"] [--from-fret 12] [--no-open]   where on the neck
  npm run -s cli -- zones "A minor pentatonic"         where a scale lies on the neck, zone by zone
  npm run -s cli -- shapes "F#m7"                     the movable shapes of a chord
  npm run -s cli -- tension [--gauges "10 13 17 26 36 46"]   how tight each string is (thousandths of an inch)
  npm run -s cli -- improvise SONG --section NAME     what to improvise with there, and why
  npm run -s cli -- riffs SONG                        the scales of all riffs on one root
  npm run -s cli -- licks SONG                        named phrases, where else they are played, how often
  npm run -s cli -- scale SONG --figure NAME          the scales a line fits
  npm run -s cli -- coverage SONG [--part NAME]       how much of a part its figures open up
  npm run -s cli -- plan SONG [--order used|song|rhythm|easy] [--part NAME]
                                                      steps to learn it: share, minutes, difficulty and why
  npm run -s cli -- ladder --from 60 --to 100 [--clean 3]   tempos to climb
SONG is a song file (.zip) or a song document (.json). Where two parts share a figure’s name: --part NAME.
Grips and calls take --tuning "E2 A2 D3 G3 B3 E4" (low to high), --capo N, --frets N, --key "E minor".
A grip is written low to high (x muted, frets over 9 with dashes), and lists of strings in answers go
low to high too; string 1 is the highest.
Keys are as sounding. Answers are words on a terminal and JSON in a pipe; --json asks for JSON anywhere.`

/** Commands that take a word or a phrase, and those that take a song. */
const TEXT_COMMANDS: Record<string, () => Promise<(text: string, flags: Flags) => Answer>> = {
  'name-grip': async () => (await import('./grip-commands')).nameGrip,
  grips: async () => (await import('./grip-commands')).grips,
  call: async () => (await import('./call-command')).call,
  zones: async () => (await import('./neck-commands')).zones,
  shapes: async () => (await import('./neck-commands')).shapes,
}
const SONG_COMMANDS: Record<string, () => Promise<(song: Song, flags: Flags) => Answer>> = {
  speak: async () => (await import('./figure-commands')).speakFigure,
  paths: async () => (await import('./figure-commands')).pathsOf,
  harmony: async () => (await import('./figure-commands')).harmonyOf,
  scale: async () => (await import('./figure-commands')).scaleOf,
  improvise: async () => (await import('./neck-commands')).improvise,
  licks: async () => (await import('./neck-commands')).licks,
  riffs: async () => (await import('./neck-commands')).riffs,
  coverage: async () => (await import('./teach-commands')).coverageOf,
  plan: async () => (await import('./teach-commands')).plan,
}
/** Commands that listen to a stretch of a recording. */
const RECORDING_COMMANDS: Record<string, () => Promise<(path: string, flags: Flags) => Promise<Answer>>> = {
  draft: async () => (await import('./draft-command')).draft,
  accents: async () => (await import('./accents-command')).accents,
}
/** Commands that write what they find themselves. */
const WRITING_COMMANDS: Record<string, (input: string, out: string | undefined) => Promise<void>> = {
  analyse: async (input, out) => (await import('./analyse-command')).analyseFile(input, out),
  timeline: async (input) => (await import('./timeline-command')).printTimeline(await documentOf(input)),
  render: async (input, out) => {
    if (out === undefined) throw new Complaint(USAGE)
    await (await import('./render-command')).render(await documentOf(input), out)
  },
}
const documentOf = async (path: string): Promise<Song> => (await import('./read-document')).readDocument(path)

const SWITCHES = ['json', 'easier', 'parallel', 'batch', 'no-open']
const VALUES = [
  'after',
  'beats',
  'before',
  'capo',
  'clean',
  'count',
  'direction',
  'figure',
  'format',
  'frets',
  'from',
  'from-fret',
  'gauges',
  'high',
  'interval',
  'into',
  'key',
  'low',
  'of',
  'on-strings',
  'order',
  'out',
  'part',
  'pitches',
  'recording',
  'section',
  'side',
  'step',
  'strings',
  'timing',
  'to',
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
async function batch(flags: Flags): Promise<number> {
  const { callBatch } = await import('./call-command')
  for (const line of callBatch(readFileSync(0, 'utf8'), flags)) console.log(line)
  return 0
}

async function run({ words: [command, input], flags }: { words: string[]; flags: Flags }): Promise<number> {
  if (command === 'call' && 'batch' in flags) return batch(flags)
  if (command === 'ladder') return print((await import('./teach-commands')).ladder(flags), flags)
  if (command === 'tension') return print((await import('./neck-commands')).tension(flags), flags)
  if (command === undefined || input === undefined) throw new Complaint(USAGE)
  const own = <T>(commands: Record<string, T>): T | undefined =>
    Object.hasOwn(commands, command) ? commands[command] : undefined
  const ofText = own(TEXT_COMMANDS)
  if (ofText) return print((await ofText())(input, flags), flags)
  if (command === 'check') return print(await check(input, flags), flags)
  const ofRecording = own(RECORDING_COMMANDS)
  if (ofRecording) return print(await (await ofRecording())(input, flags), flags)
  if (command === 'export' || command === 'import') return exchange(command, input, flags)
  const ofSong = own(SONG_COMMANDS)
  if (ofSong) return print((await ofSong())(await documentOf(input), flags), flags)
  const writing = own(WRITING_COMMANDS)
  if (!writing) throw new Complaint(USAGE)
  await writing(input, flags.out)
  return 0
}

async function exchange(command: 'export' | 'import', input: string, flags: Flags): Promise<number> {
  const { exportFile, importToSong } = await import('./exchange-commands')
  const answer =
    command === 'import' ? importToSong(input, flags) : exportFile(await documentOf(input), flags)
  return print(await answer, flags)
}

/** A song that breaks the rules of a song is checked all the same: that is the first finding. */
async function check(input: string, { recording }: Flags): Promise<Answer> {
  const { song, damage } = (await import('./read-document')).readToCheck(input)
  const heard =
    recording === undefined ? [] : await (await import('./recording-check')).heardFindings(song, recording)
  return (await import('./check-command')).check(song, damage, heard)
}

/** Runs one command line. Resolves with the exit code. */
export async function main(args: readonly string[]): Promise<number> {
  try {
    return await run(flagsOf(args))
  } catch (error) {
    if (!(error instanceof Complaint)) throw error
    if (args.includes('--json')) console.log(JSON.stringify({ error: { message: error.message } }))
    else console.error(error.message)
    return 1
  }
}

if (process.argv[1]?.endsWith('main.ts')) process.exit(await main(process.argv.slice(2)))
