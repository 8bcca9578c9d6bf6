// The decoders by themselves, on evidence that is made by hand: what they must find, and what they must not
// be talked out of.
import { describe, expect, it } from 'vitest'
import type { OnsetStrength } from '../features/onset-strength'
import { quietJob } from '../job'
import { stretchesOf } from '../stretches'
import { placeInBar } from './bars'
import { decode, medianBpm } from './beats'
import { QUALITIES, writeLabel, type Quality } from './chord-labels'
import { addLow, bassOf } from './chord-bass'
import { decodeChords, type Span, type SpanEvidence } from './chord-chain'
import type { HeardChord } from './chords'
import { likenessMatrix, type BarSound } from './bar-sound'
import { riffRoot } from './riff'

const RATE = 100
/** Attacks of strength one at moments in seconds, in a recording of so many seconds. */
function attacks(seconds: number, moments: readonly number[]): OnsetStrength {
  const curve = (): Float32Array => new Float32Array(seconds * RATE)
  const all = curve()
  for (const at of moments) all[Math.round(at * RATE)] = 1
  const bands = Array.from({ length: seconds * 10 }, () => new Float32Array(24).fill(1))
  return {
    framesPerSecond: RATE,
    all,
    low: all.slice(),
    mid: curve(),
    high: curve(),
    change: curve(),
    loudness: curve().fill(1),
    raw: 1,
    bands,
    bandsPerSecond: 10,
  }
}
const every = (gap: number, from: number, until: number): number[] =>
  Array.from({ length: Math.floor((until - from) / gap) }, (_, index) => from + index * gap)
const beatsOf = async (onsets: OnsetStrength, range = { slowest: 80, fastest: 180 }) => {
  const track = await decode(onsets, range, quietJob)
  return { bpm: medianBpm(track), beats: track.beatFrames.map((frame) => frame / track.framesPerSecond) }
}

describe('beats', () => {
  it('lie on attacks that return evenly', async () => {
    const moments = every(0.5, 0.3, 20)
    const { bpm, beats } = await beatsOf(attacks(20, moments))
    expect(bpm).toBeCloseTo(120, 0)
    for (const at of moments.slice(1, -1))
      expect(Math.min(...beats.map((beat) => Math.abs(beat - at)))).toBeLessThan(0.03)
  })
  it('go on where an attack is missing, and heed none between', async () => {
    const moments = every(0.6, 0.2, 24).filter((_, index) => index % 5 !== 3)
    const { bpm, beats } = await beatsOf(attacks(24, [...moments, 7.11, 13.47]))
    expect(bpm).toBeCloseTo(100, 0)
    const gaps = beats.slice(1).map((beat, index) => beat - beats[index]!)
    expect(gaps.every((gap) => gap > 0.5 && gap < 0.7)).toBe(true)
  })
  it('follow a band that slows down', async () => {
    const moments: number[] = []
    for (let at = 0.3, gap = 0.46; at < 30; at += gap, gap *= 1.005) moments.push(at)
    const { beats } = await beatsOf(attacks(30, moments))
    for (const at of moments.slice(2, -2))
      expect(Math.min(...beats.map((beat) => Math.abs(beat - at)))).toBeLessThan(0.06)
  })
  it('are counted at the tempo that is asked for', async () => {
    const onsets = attacks(20, every(0.4, 0.2, 20))
    expect((await beatsOf(onsets, { slowest: 70, fastest: 80 })).bpm).toBeCloseTo(75, 0)
    expect((await beatsOf(onsets, { slowest: 140, fastest: 160 })).bpm).toBeCloseTo(150, 0)
  })
})

describe('stretches without a pulse', () => {
  const beats = [...every(0.5, 5, 10), ...every(0.5, 14, 20)]
  it('are an opening, a hole, and an end', () => {
    const free = stretchesOf(beats, attacks(30, []), 30).filter((one) => one.kind === 'free')
    expect(free.map(({ start, end }) => [start, end])).toEqual([
      [0, 5],
      [9.5, 14],
      [20, 30],
    ])
  })
  it('are none where the pulse runs through', () => {
    const through = every(0.5, 0.5, 30)
    expect(stretchesOf(through, attacks(30, through), 30)).toEqual([])
  })
})

const STATES = 12 * QUALITIES.length + 1
/** Evidence for a chord on a root, as sure as `share`; everything else alike. */
function sounding(root: number, share: number): SpanEvidence {
  const logs = new Float64Array(STATES).fill(Math.log((1 - share) / (STATES - 1)))
  logs[root * QUALITIES.length] = Math.log(share)
  return { logs, low: undefined, notes: new Float32Array(84), chroma: new Float32Array(36), loud: 1 }
}
/** The guitars' lowest note, and what else stands there. */
const lowest = (strengths: Record<number, number>): Float32Array =>
  Float32Array.from({ length: 12 }, (_, pitchClass) => strengths[pitchClass] ?? 0.3)
const spans = (count: number): Span[] =>
  Array.from({ length: count }, (_, index) => ({
    start: index,
    end: index + 1,
    at: index % 4 === 0 ? 'one' : 'beat',
    early: false,
  }))
const rootsOf = (path: readonly number[]): number[] =>
  path.map((state) => Math.floor(state / QUALITIES.length))

describe('chords', () => {
  it('are what sounds, span by span', () => {
    const roots = [0, 0, 0, 0, 7, 7, 7, 7, 9, 9, 9, 9]
    const { path } = decodeChords(
      spans(12),
      roots.map((root) => sounding(root, 0.8)),
    )
    expect(rootsOf(path)).toEqual(roots)
  })
  it('do not change for one doubtful stretch between beats', () => {
    const heard = [0, 0, 0, 5, 0, 0, 0, 0].map((root, index) => sounding(root, index === 3 ? 0.02 : 0.8))
    expect(new Set(rootsOf(decodeChords(spans(8), heard).path))).toEqual(new Set([0]))
  })
  it('come with how likely each is: shares that add up, the best of them the one that is named', () => {
    const { path, posterior } = decodeChords(
      spans(4),
      [0, 0, 5, 5].map((root) => sounding(root, 0.7)),
    )
    posterior.forEach((shares, t) => {
      expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9)
      expect(shares.indexOf(Math.max(...shares))).toBe(path[t])
    })
  })
  it('stand on the lowest note of the guitars, or have their fifth there', () => {
    const { logs } = sounding(2, 0.3)
    const before = logs.slice()
    addLow(logs, lowest({ 9: 1, 4: 0.75 }))
    const gains = Array.from(
      { length: 12 },
      (_, root) => logs[root * QUALITIES.length]! - before[root * QUALITIES.length]!,
    )
    // A as root most, D with A as its fifth next, E a little, and nothing for the rest.
    expect(gains[9]).toBeGreaterThan(2 * gains[2]!)
    expect(gains[2]).toBeGreaterThan(gains[4]!)
    expect(gains[4]).toBeGreaterThan(0)
    expect(gains[0]).toBe(0)
  })
  it('have the guitars’ lowest note as bass when it is one of theirs and known for most of them', () => {
    const member = (low?: Float32Array): SpanEvidence => ({ ...sounding(2, 0.8), low })
    const chord = { root: 2, quality: 'maj' as const }
    expect(bassOf(chord, [member(lowest({ 9: 1 })), member(lowest({ 9: 1 })), member()])).toBe(9)
    expect(bassOf(chord, [member(lowest({ 9: 1 })), member(), member()])).toBe(2)
    expect(bassOf(chord, [member(lowest({ 8: 1 })), member(lowest({ 8: 1 }))])).toBe(2)
  })
  it('are none where there is nothing', () => {
    expect(decodeChords([], [])).toEqual({ path: [], posterior: [] })
  })
})

/** A bar of one harmony and one colour. */
const barOf = (index: number, tone: number): BarSound => {
  const chord = Float64Array.from({ length: 36 }, (_, at) => (at % 12 === tone ? 0.9 : 0.02))
  return {
    start: index * 2,
    end: index * 2 + 2,
    harmony: [chord, chord, chord, chord],
    colour: new Float64Array(24).fill(tone / 3),
    rhythm: new Float64Array(24).fill(0.2),
    loudness: tone,
  }
}

describe('the form', () => {
  const bars = Array.from({ length: 24 }, (_, index) => barOf(index, [0, 5, 0][index >> 3]!))
  it('likens a bar to itself and to its returns more than to others', () => {
    const matrix = likenessMatrix(bars)
    expect(matrix[0]![16]!).toBeGreaterThan(matrix[0]![8]!)
    expect(matrix[3]![3]!).toBeCloseTo(matrix[3]![19]!, 6)
    matrix.forEach((row, a) => row.forEach((value, b) => expect(value).toBe(matrix[b]![a])))
  })
})

describe('bars', () => {
  /** Odds of the one on every fourth beat, a beat later from `turn` on. */
  const odds = (count: number, turn: number): number[] =>
    Array.from({ length: count }, (_, beat) => ((beat - (beat >= turn ? 1 : 0)) % 4 === 0 ? 3 : -3))
  const ones = (scores: readonly number[], toClick: boolean): number[] =>
    placeInBar(scores, { fixed: new Map(), usual: undefined, toClick }).flatMap(({ place }, beat) =>
      place === 0 ? [beat] : [],
    )
  it('slip for a while where a band may have, not in a song that was counted to a click', () => {
    const scores = [...odds(20, 12), ...odds(20, 20)]
    const regular = Array.from({ length: 10 }, (_, bar) => 4 * bar)
    expect(ones(scores, true)).toEqual(regular)
    expect(ones(odds(64, 32), true)).toContain(33)
    expect(ones(odds(64, 32), false)).toContain(33)
  })
  it('follow what a person said of a beat', () => {
    const said = placeInBar(odds(24, 24), { fixed: new Map([[9, true]]), usual: 4, toClick: true })
    expect(said.findIndex(({ place }) => place === 0)).toBe(1)
  })
})

describe('a riff', () => {
  const chord = (start: number, end: number, root: number, quality: Quality): HeardChord => ({
    start,
    end,
    chord: { root, quality, bass: root },
    confidence: 0.4,
    rivals: [],
  })
  it('stands on one root under changing notes', () => {
    const chords = [chord(0, 4, 4, '5'), chord(4, 5, 7, '5'), chord(5, 9, 4, 'min'), chord(9, 12, 4, '7#9')]
    expect(riffRoot(chords)).toBe(4)
  })
  it('is not a progression, nor a chord that stays', () => {
    expect(riffRoot([chord(0, 4, 4, '5'), chord(4, 8, 7, '5'), chord(8, 12, 9, '5')])).toBeUndefined()
    expect(riffRoot([chord(0, 4, 4, 'min'), chord(4, 12, 4, 'min')])).toBeUndefined()
    expect(riffRoot([])).toBeUndefined()
  })
})

describe('roots outside the key', () => {
  it('are named as they are read: no double sharps', () => {
    const label = { root: 7, quality: 'maj' as const, bass: 2 }
    expect(writeLabel(label, { tonic: 'F#', mode: 'major' })).toBe('G:maj/D')
    expect(writeLabel(label, { tonic: 'Gb', mode: 'major' })).toBe('G:maj/D')
    expect(writeLabel({ ...label, root: 6, bass: 6 }, { tonic: 'Db', mode: 'major' })).toBe('Gb:maj')
  })
})
