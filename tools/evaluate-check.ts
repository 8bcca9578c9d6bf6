// `npm run evaluate:check`: how many mistakes put into the demo songs at random the check finds, from the
// document alone and held against a recording: the one that ships, and the same song played with other
// sounds. And how much it finds in the songs as they are, where there is nothing.
import { readFileSync } from 'node:fs'
import { readSong } from '../core/document/migrations'
import type { Song } from '../core/document/schema'
import type { Recording } from '../core/hear/features/recording'
import { quietJob } from '../core/hear/job'
import { must } from '../core/result'
import { checkSong } from '../core/check/check'
import { recordingCheck, type RecordingCheck } from '../core/check/recording/recording-check'
import { openBank } from '../core/sound/bank'
import type { SoundingEvent } from '../core/score/sounding-event'
import { coldKiln } from '../demo/cold-kiln'
import { mix } from '../demo/mix'
import { performBand } from '../demo/perform-band'
import { seededRandom } from '../demo/random'
import { saltOnTheSignal } from '../demo/salt-on-the-signal'
import { buildScore, type SongPlan } from '../demo/score'
import { MISTAKES, withMistake, type Mistake } from '../tests/support/injected-mistakes'
import { decodeAudio } from '../node/decode'
import { nodeFft } from '../node/fft'

/** So many mistakes of each kind are put into the two songs. */
const COUNT = Number(process.env.COUNT ?? 34)
const SEED = Number(process.env.SEED ?? 12)
const makeFft = await nodeFft()

interface Subject {
  name: string
  song: Song
  listen: RecordingCheck
  known: Set<string>
}
async function subject(name: string, song: Song, recording: Recording): Promise<Subject> {
  const listen = recordingCheck(recording, makeFft)
  const heard = await listen(song, quietJob)
  for (const { words } of heard) console.log(`${name}, as it is: ${words}`)
  return { name, song, listen, known: new Set(checkSong(song, 0, heard).open.map(({ id }) => id)) }
}

async function asShipped(id: string): Promise<Subject> {
  const song = must(readSong(JSON.parse(readFileSync(`demo/songs/${id}.json`, 'utf8'))))
  return subject(id, song, await decodeAudio(readFileSync(`public/demo/${id}.ogg`)))
}

const file = readFileSync('public/sound/bank.sf3')
const bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
/** The same song with the application's own sounds, its guitars played with others than in the demo. */
async function withOtherSounds(
  plan: SongPlan,
  sounds: Record<string, SoundingEvent['sound']>,
): Promise<Subject> {
  const score = buildScore(plan, { hash: '0'.repeat(64) })
  const stems = performBand(score, { timingSeconds: 0.0055 }).map((stem) => ({
    ...stem,
    events: stem.events.map((event) => ({ ...event, sound: sounds[stem.name] ?? event.sound })),
  }))
  const last = Math.max(...stems.flatMap(({ events }) => events.map(({ endSeconds }) => endSeconds)))
  const sounded = { sampleRate: 44_100, seconds: last + 2, targetRms: 0.15, drive: 1.1, reverbSeconds: 1.2 }
  return subject(`${plan.id}, other sounds`, score.song, {
    channels: mix(bank, stems, sounded),
    sampleRate: 44_100,
  })
}

interface Tally {
  alone: number
  held: number
  made: number
}

const line = (name: string, { alone, held, made }: Tally): string =>
  name.padEnd(22) + `${alone} of ${made}`.padStart(10) + `${held} of ${made}`.padStart(17)

async function found(
  subjects: readonly Subject[],
  mistake: Mistake,
  draw: (below: number) => number,
): Promise<Tally> {
  const tally = { alone: 0, held: 0, made: 0 }
  while (tally.made < COUNT) {
    const { name, song, listen, known } = subjects[draw(subjects.length)]!
    const broken = withMistake(song, mistake, draw)
    if (!broken) continue
    tally.made++
    const read = readSong(broken.song)
    const isNew = ({ id }: { id: string }): boolean => !known.has(id)
    const alone = !read.ok || checkSong(read.value).open.some(isNew)
    const held = alone || (read.ok && (await listen(read.value, quietJob)).some(isNew))
    if (alone) tally.alone++
    if (held) tally.held++
    else console.log(`${name}, not found: ${mistake}, ${broken.where}`)
  }
  return tally
}

const sets: [string, Subject[]][] = [
  ['as shipped', [await asShipped('salt-on-the-signal'), await asShipped('cold-kiln')]],
  [
    'other sounds',
    [
      await withOtherSounds(saltOnTheSignal, { g1: 'driven', g2: 'distorted', g3: 'driven', ac: 'clean' }),
      await withOtherSounds(coldKiln(false), { kiln: 'driven' }),
    ],
  ],
]
for (const [name, subjects] of sets) {
  const random = seededRandom(SEED)
  const draw = (below: number): number => Math.floor(random() * below)
  console.log(`\n${name.padEnd(22)}document  with the record`)
  const sum = { alone: 0, held: 0, made: 0 }
  for (const mistake of MISTAKES) {
    const { alone, held, made } = await found(subjects, mistake, draw)
    sum.alone += alone
    sum.held += held
    sum.made += made
    console.log(line(mistake, { alone, held, made }))
  }
  console.log(line('all', sum))
}
