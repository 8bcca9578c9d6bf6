import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { decodeAudio } from '../../node/decode'
import { nodeFft } from '../../node/fft'
import { barsFromBeats } from '../time/flat-beats'
import { noise, pluck } from '../../tests/support/tones'
import { analyse } from './analyse'
import { beatsFromAnalysis } from './beats-from-analysis'
import { analysisSchema } from './analysis'
import { interpret } from './interpret'
import { symbolLabel } from './decode/chord-labels'
import { Cancelled, quietJob } from './job'
import { outlineOf } from './features/waveform'
import {
  boundaryScore,
  chordScores,
  keyScore,
  matchScore,
  pairwiseScore,
  tempoScore,
  tuningError,
} from './metrics'
import { lowering, type MakeFft } from './features/spectrum'
import { takeIn } from './features/feature-extraction'

const RATE = 22_050
const FOUR = { beats: 4, unit: 4 } as const
let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})

/** Kick on one and three, snare on two and four, a chord that changes with the bar. */
function drums(bpm: number, seconds: number, startSeconds = 0.4): { mono: Float32Array; beats: number[] } {
  const mono = new Float32Array(RATE * seconds)
  const beats: number[] = []
  for (let beat = 0; startSeconds + (beat * 60) / bpm < seconds - 0.3; beat++) {
    const at = startSeconds + (beat * 60) / bpm
    beats.push(at)
    const kick = beat % 2 === 0
    const hz = [110, 130.8, 98, 146.8][Math.floor(beat / 4) % 4]!
    let seed = beat + 1
    for (let i = 0; i < RATE * 0.28; i++) {
      seed = (seed * 16807) % 2147483647
      const place = Math.round(at * RATE) + i
      if (place >= mono.length) break
      mono[place]! +=
        (kick
          ? 0.8 * Math.sin(2 * Math.PI * 60 * (i / RATE)) * Math.exp(-i / 1500)
          : 0.5 * (seed / 1073741823 - 1) * Math.exp(-i / 900)) +
        0.12 * Math.sin((2 * Math.PI * 4 * hz * i) / RATE) * Math.exp(-i / 4000)
    }
  }
  return { mono, beats }
}
const run = (mono: Float32Array) => analyse({ channels: [mono], sampleRate: RATE }, makeFft, quietJob)

describe('beats', () => {
  it.each([84, 100, 126, 150])('follows a plain beat at %i a minute', async (bpm) => {
    const { mono, beats } = drums(bpm, 20)
    const found = await run(mono)
    expect(matchScore(beats, found.beats).f).toBeGreaterThan(0.93)
    expect(tempoScore(bpm, found.tempo, false)).toBe(1)
    expect(
      matchScore(
        beats.filter((_, index) => index % 4 === 0),
        found.downbeats,
      ).f,
    ).toBeGreaterThan(0.85)
    expect(analysisSchema.safeParse(found).success).toBe(true)
  })
  it.each([
    [
      'salt-on-the-signal',
      {
        beats: 0.95,
        ones: 0.93,
        root: 0.9,
        majmin: 0.82,
        sevenths: 0.7,
        exact: 0.65,
        boundaries: 0.75,
        labels: 0.8,
      },
    ],
    [
      'ninth-platform',
      {
        beats: 0.9,
        ones: 0.87,
        root: 0.95,
        majmin: 0.94,
        sevenths: 0.9,
        exact: 0.88,
        boundaries: 0.85,
        labels: 0.9,
      },
    ],
  ] as const)('hears %s well: the floor no change may lower', async (name, floor) => {
    const truth = JSON.parse(readFileSync(`demo/truth/${name}.json`, 'utf8')) as {
      beats: number[]
      downbeats: number[]
      tempo: number
      key: { tonic: string; mode: string }
      tuningCents: number
      chords: { start: number; end: number; label: string }[]
      sections: { start: number; end: number; label: string }[]
    }
    const recording = await decodeAudio(readFileSync(`public/demo/${name}.ogg`))
    const found = await analyse(recording, makeFft, quietJob)
    const chords = chordScores(
      truth.chords.map((chord) => ({ ...chord, label: symbolLabel(chord.label) })),
      found.chords!,
    )
    const scores = {
      beats: matchScore(truth.beats, found.beats).f,
      ones: matchScore(truth.downbeats, found.downbeats).f,
      ...chords,
      boundaries: boundaryScore(truth.sections, found.sections!, 0.5),
      labels: pairwiseScore(truth.sections, found.sections!),
    }
    for (const [measure, least] of Object.entries(floor))
      expect(scores[measure as keyof typeof scores], measure).toBeGreaterThanOrEqual(least)
    expect(tempoScore(truth.tempo, found.tempo, false)).toBe(1)
    expect(keyScore(truth.key, found.key).exact).toBe(1)
    expect(tuningError(truth.tuningCents, found.tuningCents)).toBeLessThan(2)
    // What ships is what is computed.
    const hash = createHash('sha256')
      .update(readFileSync(`public/demo/${name}.ogg`))
      .digest('hex')
    const shipped = analysisSchema.parse(JSON.parse(readFileSync(`demo/analyses/${hash}.json`, 'utf8')))
    expect([shipped.version, shipped.beats.length, shipped.chords?.map((chord) => chord.label)]).toEqual([
      found.version,
      found.beats.length,
      found.chords?.map((chord) => chord.label),
    ])
  })
  it.each<[string, () => Float32Array]>([
    ['silence', () => new Float32Array(RATE * 8)],
    ['a moment', () => new Float32Array(RATE).fill(0.1)],
    ['nothing at all', () => new Float32Array(0)],
  ])('claims nothing about %s', async (_, make) => {
    expect((await run(make())).beats).toEqual([])
  })
  it('survives broken samples and clipping', async () => {
    const { mono } = drums(110, 8)
    mono.fill(Number.NaN, 30_000, 31_000)
    const found = await run(mono.map((value) => Math.max(-0.2, Math.min(0.2, value))))
    expect(found.beats.every(Number.isFinite)).toBe(true)
  })
  it('stops when it is told to', async () => {
    let asked = 0
    await expect(
      analyse({ channels: [drums(110, 20).mono], sampleRate: RATE }, makeFft, {
        ...quietJob,
        isCancelled: () => ++asked > 2,
      }),
    ).rejects.toBeInstanceOf(Cancelled)
  })
  it('reports growing progress by stage', async () => {
    const seen: string[] = []
    await analyse({ channels: [drums(110, 12).mono], sampleRate: RATE }, makeFft, {
      ...quietJob,
      report: (stage, fraction) => {
        seen.push(`${stage} ${fraction.toFixed(2)}`)
      },
    })
    expect([...new Set(seen.map((entry) => entry.split(' ')[0]))]).toEqual([
      'onsets',
      'beats',
      'tuning',
      'pitches',
      'bars',
      'form',
      'chords',
    ])
  })
})

describe('what a person already knows', () => {
  it(
    'is a condition: bars are found around a fixed one, beats in a given range, ' +
      'nothing in a free stretch',
    async () => {
      const { mono, beats } = drums(120, 24)
      const sound = await takeIn({ channels: [mono], sampleRate: RATE }, makeFft, quietJob)
      const plain = await interpret(sound, {}, quietJob)
      const other = beats[9]!
      expect(matchScore(plain.downbeats, [other]).precision).toBe(0)
      const fixed = await interpret(sound, { beats: plain.beats, ones: [other], beatsPerBar: 4 }, quietJob)
      expect(fixed.beats).toEqual(plain.beats)
      expect(matchScore([other], fixed.downbeats).recall).toBe(1)
      // Not only a shift of one bar: the bars before and after agree with it.
      expect(
        matchScore(
          beats.filter((_, index) => index % 4 === 1),
          fixed.downbeats,
        ).f,
      ).toBeGreaterThan(0.6)
      const slow = await interpret(sound, { bpmRange: [56, 64] }, quietJob)
      expect(slow.tempo).toBeCloseTo(60, 0)
      const free = await interpret(sound, { free: [{ start: 8, end: 14 }] }, quietJob)
      expect(free.beats.filter((beat) => beat > 8 && beat < 13.9)).toEqual([])
      expect(free.beats.some((beat) => beat > 14)).toBe(true)
      expect(
        free.stretches?.some(
          (stretch) => stretch.kind === 'free' && stretch.start < 8.1 && stretch.end > 13.9,
        ),
      ).toBe(true)
    },
  )
})

describe('no confident invention', () => {
  const random = noise(11)
  const tone = (hz: number): Float32Array =>
    Float32Array.from({ length: RATE * 12 }, (_, index) => 0.3 * Math.sin((2 * Math.PI * hz * index) / RATE))
  it.each<[string, () => Float32Array]>([
    ['noise', () => new Float32Array(RATE * 15).map(() => 0.3 * random())],
    ['a hum', () => tone(220)],
    [
      'a click',
      () => {
        const out = new Float32Array(RATE * 8)
        out[RATE] = 1
        return out
      },
    ],
  ])('%s has no beats, no chords, no key', async (_, make) => {
    const found = await run(make())
    expect([found.beats.length, found.chords, found.key, found.sections]).toEqual([
      0,
      undefined,
      undefined,
      undefined,
    ])
  })
  it('a lone metronome has beats and nothing else', async () => {
    const out = new Float32Array(RATE * 16)
    for (let beat = 0; beat < 30; beat++)
      for (let i = 0; i < 400; i++)
        out[Math.round((0.5 + beat * 0.5) * RATE) + i] = 0.8 * Math.sin(i / 3.5) * Math.exp(-i / 90)
    const found = await run(out)
    expect(found.tempo).toBeCloseTo(120, 0)
    expect([found.chords, found.key, found.tuningCents]).toEqual([undefined, undefined, undefined])
  })
  it('a piece without a pulse is not counted through', async () => {
    const out = new Float32Array(RATE * 40)
    const jitter = noise(4)
    for (let at = 0.4, k = 0; at < 38; at += 0.35 + 0.9 * Math.abs(jitter()), k++)
      pluck(out, { midi: [55, 59, 62, 64, 57][k % 5]!, start: at, length: 1.2 })
    expect((await run(out)).beats).toEqual([])
  })
  it.each<[string, (channels: Float32Array[]) => Float32Array[]]>([
    ['one side wired the wrong way round', ([left]) => [left!, left!.map((value) => -value)]],
    ['an offset', (channels) => channels.map((channel) => channel.map((value) => value + 0.4))],
    [
      'holes',
      (channels) =>
        channels.map((channel) => channel.map((value, index) => (index % 9973 < 40 ? Number.NaN : value))),
    ],
  ])('hears through %s', async (_, spoil) => {
    const { mono, beats } = drums(112, 16)
    const found = await analyse(
      { channels: spoil([mono, mono.slice()]), sampleRate: RATE },
      makeFft,
      quietJob,
    )
    expect(matchScore(beats, found.beats).f).toBeGreaterThan(0.9)
  })
})

describe('laying out what was heard', () => {
  it('puts a free bar before a late pulse and bars after it', () => {
    const analysis = {
      version: 'x',
      beats: [10, 10.5, 11, 11.5, 12, 12.5, 13, 13.5],
      downbeats: [10, 12],
      durationSeconds: 20,
    }
    const { bars } = barsFromBeats(beatsFromAnalysis(analysis, FOUR).beats, 14, FOUR)
    expect(bars.map((bar) => Boolean(bar.free))).toEqual([true, false, false])
  })
  it('lays out one free bar where no pulse was heard', () => {
    expect(beatsFromAnalysis({ version: 'x', beats: [], downbeats: [], durationSeconds: 9 }, FOUR)).toEqual({
      beats: [{ seconds: 0, one: true, free: true, meter: FOUR }],
      endSeconds: 9,
    })
  })
})

describe('measures', () => {
  it('counts hits one to one', () => {
    expect(matchScore([1, 2, 3, 4], [1.05, 2.2, 3, 3.02, 4.06]).f).toBeCloseTo((2 * 0.6 * 0.75) / 1.35)
    expect(matchScore([], []).f).toBe(1)
    expect(matchScore([1], []).f).toBe(0)
  })
  it('forgives an octave only when asked', () => {
    expect(tempoScore(120, 60, false)).toBe(0)
    expect(tempoScore(120, 60, true)).toBe(1)
    expect(tempoScore(120, undefined, true)).toBe(0)
  })
})

describe('measures of chords, form, key and tuning', () => {
  const span = (labels: string[]) => labels.map((label, index) => ({ start: index, end: index + 1, label }))
  it('weigh chords by time and vocabulary', () => {
    const scores = chordScores(
      span(['C:maj', 'A:min7', 'G:7', 'E:5', 'F:maj/A']),
      span(['C:maj', 'A:min', 'G:maj', 'E:min', 'F:maj']),
    )
    expect([scores.root, scores.majmin, scores.exact]).toEqual([1, 1, 0.2])
    expect(scores.sevenths).toBeCloseTo(0.5)
    expect(chordScores(span(['E:5']), span(['E:5'])).majmin).toBeNaN()
    expect(chordScores(span(['C:maj', 'N']), []).root).toBe(0.5)
  })
  it('leave the ends of the file out of the boundaries, and compare labels by pairs', () => {
    const truth = [
      { start: 0, end: 10, label: 'a' },
      { start: 10, end: 20, label: 'b' },
      { start: 20, end: 30, label: 'a' },
    ]
    expect(
      boundaryScore(
        truth,
        truth.map((section) => ({ ...section, start: section.start + 0.4 })),
        0.5,
      ),
    ).toBe(1)
    expect(boundaryScore(truth, [{ start: 0, end: 30, label: 'x' }], 3)).toBe(0)
    expect(
      pairwiseScore(
        truth,
        truth.map((section) => ({ ...section, label: `${section.label}!` })),
      ),
    ).toBe(1)
    expect(
      pairwiseScore(
        truth,
        truth.map((section, index) => ({ ...section, label: String(index) })),
      ),
    ).toBeLessThan(0.85)
  })
  it('know related keys, and that 49 cents up and 50 down are neighbours', () => {
    expect(keyScore({ tonic: 'C', mode: 'major' }, { tonic: 'A', mode: 'minor' })).toEqual({
      exact: 0,
      weighted: 0.3,
    })
    expect(keyScore({ tonic: 'Eb', mode: 'minor' }, { tonic: 'D#', mode: 'minor' }).exact).toBe(1)
    expect(keyScore({ tonic: 'C', mode: 'major' }, { tonic: 'G', mode: 'major' }).weighted).toBe(0.5)
    expect(tuningError(49, -50)).toBe(1)
    expect(tuningError(0, undefined)).toBe(50)
  })
})

describe('outline', () => {
  it('shows the loudest sample of each hundredth of a second', () => {
    const mono = new Float32Array(RATE)
    mono[RATE / 2] = -0.5
    const { peaks, ratePerSecond } = outlineOf(mono, RATE)
    expect(peaks.length).toBe(ratePerSecond)
    expect(peaks[50]).toBe(255)
    expect(peaks[10]).toBe(0)
  })
  it('lowers the rate without losing the length', () => {
    const lower = lowering(96_000)
    for (const piece of [1001, 94_000, 999]) lower.take(new Float32Array(piece).fill(0.5))
    expect(lower.sampleRate).toBe(24_000)
    expect(lower.samples()).toEqual(new Float32Array(24_000).fill(0.5))
  })
})
