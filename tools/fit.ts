// npm run fit -- [pulse] [bars] [chords]: fits the small networks of core/listen on drawn songs (never on
// those that are measured) and writes core/listen/models/*.json. Songs and what is heard in them are kept
// in .cache, so a second run is quick.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { drawnWish } from '../demo/evaluation/compose'
import { material } from '../demo/evaluation/render'
import { barInput, beatDescriptions } from '../core/listen/decode/bars'
import { medianBpm, readings } from '../core/listen/decode/beats'
import { quietJob } from '../core/listen/job'
import { onsetStrength } from '../core/listen/features/onset-strength'
import { pitchSpectrum } from '../core/listen/features/pitch-spectrum'
import { pulseProfile } from '../core/listen/decode/pulse'
import { hear } from '../core/listen/features/recording'
import { matchScore } from '../core/listen/metrics'
import { chordRows } from './fit-chords'
import { formLessons, type YesNo } from './fit-form'
import { keyGroups } from './fit-key'
import { fitNet, type Group } from './fit-net'
import { nodeFft } from './fft'

const SONGS = Number(process.env.SONGS ?? 120)
const FIRST = 100
/**
 * Banks of Debian's fluid-soundfont-gm and opl3-soundfont, and the shipped one; the one measured with is
 * not among them.
 */
const FIT_SOUNDS = ['house', 'third', 'third', 'fourth'] as const
const wanted = new Set(process.argv.slice(2))
const want = (name: string): boolean => wanted.size === 0 || wanted.has(name)
const makeFft = await nodeFft()
mkdirSync('.cache/fit', { recursive: true })

interface Learned {
  pulse: { profile: number[]; f: number; right: boolean }[][]
  bars: { input: number[]; one: boolean }[]
  chords: Group[]
  boundaries: YesNo[]
  returns: YesNo[]
}

/** Everything a song teaches; kept as JSON under the hash of the code's own version below. */
const VERSION = 'c7'
async function learn(seed: number): Promise<Learned> {
  const sounds = FIT_SOUNDS[seed % 4]!
  const digest = createHash('sha1').update(`${VERSION}${seed}${sounds}`).digest('hex')
  const path = `.cache/fit/${digest.slice(0, 12)}.json`
  if (existsSync(path)) return JSON.parse(readFileSync(path, 'utf8')) as Learned
  const { truth, ...recording } = await material(drawnWish(seed), sounds)
  const heard = hear(recording)
  const onsets = await onsetStrength(heard.mono, heard.sampleRate, makeFft, quietJob)
  const pitches = await pitchSpectrum(
    heard.mono,
    { sampleRate: heard.sampleRate, tuningCents: truth.tuningCents },
    makeFft,
    quietJob,
  )
  const tracks = await readings(onsets, quietJob)
  const right = (bpm: number): boolean => Math.abs(bpm / truth.tempo - 1) < 0.05
  const LENGTH = 40
  const pulse: Learned['pulse'] = []
  const end = truth.beats.at(-1)!
  for (let from = truth.beats[0]!; from + 20 < end; from += 16) {
    pulse.push(
      tracks
        .map((track) => {
          const beatFrames = track.beatFrames.filter(
            (frame) =>
              frame / track.framesPerSecond >= from && frame / track.framesPerSecond < from + LENGTH * 0.6,
          )
          const f = matchScore(
            truth.beats.filter((beat) => beat >= from && beat < from + LENGTH * 0.6),
            beatFrames.map((frame) => frame / track.framesPerSecond),
          ).f
          return {
            profile: beatFrames.length >= 8 ? [...pulseProfile({ ...track, beatFrames }, onsets)] : [],
            f,
            right: right(medianBpm(track)) && f > 0.85,
          }
        })
        .filter((entry) => entry.profile.length),
    )
  }
  const bars: Learned['bars'] = []
  const scoreOf = (candidate: (typeof tracks)[number]): number =>
    matchScore(
      truth.beats,
      candidate.beatFrames.map((frame) => frame / candidate.framesPerSecond),
    ).f
  const track = tracks
    .filter((candidate) => right(medianBpm(candidate)))
    .sort((a, b) => scoreOf(b) - scoreOf(a))[0]
  if (track) {
    const rows = beatDescriptions(track, onsets, pitches)
    const near = (list: number[], time: number): boolean =>
      list.some((value) => Math.abs(value - time) < 0.07)
    track.beatFrames.forEach((frame, beat) => {
      const time = frame / track.framesPerSecond
      if (near(truth.beats, time))
        bars.push({
          input: [...barInput(rows, beat)].map((value) => Number(value.toPrecision(4))),
          one: near(truth.downbeats, time),
        })
    })
  }
  const learned = { pulse, bars, chords: chordRows(truth, pitches), ...formLessons(truth, onsets, pitches) }
  writeFileSync(path, JSON.stringify(learned))
  return learned
}

const lessons: Learned[] = []
// Two processes can hear the songs between them: HALF=0 and HALF=1 each take every other one and stop there.
if (process.env.HALF) {
  for (let seed = FIRST + Number(process.env.HALF); seed < FIRST + SONGS; seed += 2) await learn(seed)
  process.exit(0)
}
for (let seed = FIRST; seed < FIRST + SONGS; seed++) {
  lessons.push(await learn(seed))
  if (seed % 10 === 9) console.log(`${seed + 1 - FIRST} songs heard`)
}
const log = (text: string): void => console.log(text)
const write = (name: string, weights: object): void =>
  writeFileSync(`core/listen/models/${name}.json`, `${JSON.stringify(weights)}\n`)

if (want('key')) {
  const groups = keyGroups()
  console.log(`key: ${groups.length} songs`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 8,
    outputs: 2,
    rounds: 40,
    rate: 0.005,
    decay: 1e-3,
    log,
  })
  write('key', weights)
}
if (want('pulse')) {
  // Songs in 6/8 are few and the hardest to count: they weigh more.
  const groups: Group[] = lessons.flatMap(({ pulse }, index) =>
    pulse
      .filter((chunk) => chunk.some((entry) => entry.right))
      .map((chunk) => ({
        rows: chunk.map((entry) => entry.profile),
        right: chunk.findIndex((entry) => entry.right),
        weight: drawnWish(FIRST + index).meter === '6/8' ? 3 : 1,
      })),
  )
  console.log(`pulse: ${groups.length} stretches`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 14,
    outputs: 1,
    rounds: 50,
    rate: 0.004,
    decay: 3e-3,
    log,
  })
  write('pulse', weights)
}
if (want('bars')) {
  const groups: Group[] = lessons.flatMap(({ bars }) =>
    bars.map(({ input, one }) => ({ rows: [input], right: 0, target: one ? 1 : 0 })),
  )
  console.log(`bars: ${groups.length} beats`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 16,
    outputs: 1,
    rounds: 30,
    rate: 0.003,
    decay: 1e-3,
    binary: true,
    log,
  })
  write('bars', weights)
}
const yesNo = (name: 'boundaries' | 'returns', file: string, hidden: number): void => {
  const groups: Group[] = lessons.flatMap((lesson) =>
    lesson[name].map(({ input, yes }) => ({
      rows: [name === 'returns' && input.length === 9 ? input.filter((_, index) => index !== 1) : input],
      right: 0,
      target: yes ? 1 : 0,
    })),
  )
  console.log(`${name}: ${groups.length}`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden,
    outputs: 1,
    rounds: 60,
    rate: 0.004,
    decay: 2e-3,
    binary: true,
    log,
  })
  write(file, weights)
}
if (want('boundary')) yesNo('boundaries', 'boundary', 8)
if (want('return')) yesNo('returns', 'return', 6)
if (want('chords')) {
  const groups = lessons.flatMap(({ chords }) => chords)
  console.log(`chords: ${groups.length} spans`)
  const weights = fitNet(groups, {
    hidden: 32,
    outputs: 17,
    none: true,
    rounds: 24,
    rate: 0.004,
    decay: 1e-4,
    log,
  })
  write('chords', weights)
}
