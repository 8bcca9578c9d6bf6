// What a drawn song teaches the networks of core/hear, kept in .cache under the hash of what it was made
// from: a second run is quick.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { drawnRecord, drawnWish, type Wish } from '../demo/evaluation/compose'
import { material } from '../demo/evaluation/render'
import type { Truth } from '../demo/evaluation/perform'
import { barInput, beatDescriptions } from '../core/hear/decode/bars'
import { medianBpm, readings, type BeatTrack } from '../core/hear/decode/beats'
import { believed, clickReadings } from '../core/hear/decode/click-readings'
import { steadyClick } from '../core/hear/decode/steady-click'
import { quietJob } from '../core/hear/job'
import { onsetStrength, type OnsetStrength } from '../core/hear/features/onset-strength'
import { pitchSpectrum } from '../core/hear/features/pitch-spectrum'
import { pulseProfile } from '../core/hear/decode/pulse'
import { hear, type Heard } from '../core/hear/features/recording'
import { matchScore } from '../core/hear/metrics'
import { chordRows } from './fit-chords'
import { formLessons, type YesNo } from './fit-form'
import type { Group } from './fit-net'
import { nodeFft } from '../node/fft'

/** Songs of each kind: by rule as a band plays them, and as dense and ugly as records. */
const SONGS = Number(process.env.SONGS ?? 180)
const RECORDS = Number(process.env.RECORDS ?? 100)
const FIRST = 100
const FIRST_RECORD = 1000
/** Raised when what is taken from a song changes. */
const VERSION = 'd2'
/**
 * Banks of Debian's fluid-soundfont-gm and opl3-soundfont, and the shipped one; the one measured with is
 * not among them.
 */
const FIT_SOUNDS = ['house', 'third', 'third', 'fourth'] as const
const makeFft = await nodeFft()
const FOLDER = '.cache/fit'

interface Reading {
  profile: number[]
  right: boolean
}
export interface Lesson {
  compound: boolean
  /** For each stretch, the readings of its pulse. */
  pulse: Reading[][]
  bars: { input: number[]; one: boolean }[]
  chords: Group[]
  boundaries: YesNo[]
  returns: YesNo[]
}

/** The songs the networks are fitted to. */
export const fittedWishes = (): { wish: Wish; seed: number }[] => [
  ...Array.from({ length: SONGS }, (_, index) => ({ wish: drawnWish(FIRST + index), seed: FIRST + index })),
  ...Array.from({ length: RECORDS }, (_, index) => ({
    wish: drawnRecord(FIRST_RECORD + index),
    seed: FIRST_RECORD + index,
  })),
]

/** Stretches of this length are looked at every STEP_SECONDS. */
const STRETCH_SECONDS = 24
const STEP_SECONDS = 16
/** A reading this near the true tempo, with its beats where the true ones are, is right. */
const SAME_TEMPO = 0.05
const SAME_BEATS = 0.85

const secondsOf = (track: BeatTrack): number[] =>
  track.beatFrames.map((frame) => frame / track.framesPerSecond)

function stretchReadings(truth: Truth, tracks: readonly BeatTrack[], onsets: OnsetStrength): Reading[][] {
  const stretches: Reading[][] = []
  const end = truth.beats.at(-1)!
  for (let from = truth.beats[0]!; from + 20 < end; from += STEP_SECONDS) {
    const inside = (seconds: number): boolean => seconds >= from && seconds < from + STRETCH_SECONDS
    stretches.push(
      tracks.flatMap((track): Reading[] => {
        const beatFrames = track.beatFrames.filter((frame) => inside(frame / track.framesPerSecond))
        if (beatFrames.length < 8) return []
        const { f } = matchScore(truth.beats.filter(inside), secondsOf({ ...track, beatFrames }))
        const near = Math.abs(medianBpm(track) / truth.tempo - 1) < SAME_TEMPO
        return [
          {
            profile: [...pulseProfile({ ...track, beatFrames }, onsets)].map((value) =>
              Number(value.toPrecision(4)),
            ),
            right: near && f > SAME_BEATS,
          },
        ]
      }),
    )
  }
  return stretches
}

function barLessons(truth: Truth, track: BeatTrack, rows: readonly Float64Array[]): Lesson['bars'] {
  const near = (list: number[], time: number): boolean => list.some((value) => Math.abs(value - time) < 0.07)
  return secondsOf(track).flatMap((time, beat) =>
    near(truth.beats, time)
      ? [
          {
            input: [...barInput(rows, beat)].map((value) => Number(value.toPrecision(4))),
            one: near(truth.downbeats, time),
          },
        ]
      : [],
  )
}

/** The click's readings where the song has one: listening looks at no others then. */
async function tracksOf(
  { rises, durationSeconds }: Heard,
  onsets: OnsetStrength,
): Promise<{ band: BeatTrack[]; click: BeatTrack[] }> {
  const click = believed(await steadyClick(rises, makeFft, quietJob))
  return {
    band: await readings(onsets, quietJob),
    click: click ? clickReadings(click, durationSeconds, onsets.framesPerSecond) : [],
  }
}

async function heard({ wish, seed }: { wish: Wish; seed: number }): Promise<Lesson> {
  const { truth, ...recording } = await material(wish, FIT_SOUNDS[seed % 4]!)
  const whole = await hear(recording)
  const { mono, sampleRate } = whole
  const onsets = await onsetStrength(mono, sampleRate, makeFft, quietJob)
  const tuned = { sampleRate, tuningCents: truth.tuningCents }
  const pitches = await pitchSpectrum(mono, tuned, makeFft, quietJob)
  const { band, click } = await tracksOf(whole, onsets)
  const scoreOf = (track: BeatTrack): number => matchScore(truth.beats, secondsOf(track)).f
  const [track] = [...click, ...band]
    .filter((candidate) => Math.abs(medianBpm(candidate) / truth.tempo - 1) < SAME_TEMPO)
    .sort((a, b) => scoreOf(b) - scoreOf(a))
  return {
    compound: wish.meter === '6/8',
    pulse: [...stretchReadings(truth, band, onsets), ...stretchReadings(truth, click, onsets)],
    bars: track ? barLessons(truth, track, beatDescriptions(track, onsets, pitches)) : [],
    chords: chordRows(truth, pitches),
    ...formLessons(truth, onsets, pitches),
  }
}

/** What a song teaches, from the cache if it is there. */
export async function lessonOf(song: { wish: Wish; seed: number }): Promise<Lesson> {
  mkdirSync(FOLDER, { recursive: true })
  const digest = createHash('sha1')
    .update(`${VERSION}${JSON.stringify(song)}`)
    .digest('hex')
  const path = `${FOLDER}/${digest.slice(0, 12)}.json`
  if (existsSync(path)) return JSON.parse(readFileSync(path, 'utf8')) as Lesson
  const lesson = await heard(song)
  writeFileSync(path, JSON.stringify(lesson))
  return lesson
}
