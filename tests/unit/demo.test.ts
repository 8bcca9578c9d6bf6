import { hasMark } from '../../core/marks/marks-of'
import { createHash } from 'node:crypto'
import { readFileSync, statSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../../core/result'
import { checkSong } from '../../core/check/check'
import { pitchClassOf } from '../../core/music/pitch'
import { readChordSymbol } from '../../core/music/chord-name'
import { soundPart } from '../../core/score/sound-song'
import { allBars, mainSource, sectionPlaces, songTimeMap } from '../../core/document/form'
import { parseCall } from '../../core/call/parse'
import { speak } from '../../core/call/speak'
import { stringLetters } from '../../core/call/strings'
import { checkHarmony } from '../../core/neck/lines/harmony-check'
import { figureContent } from '../../core/document/figure-content'
import { coverage } from '../../core/timeline/coverage'
import { stepTicks } from '../../core/time/meter'
import { readSong } from '../../core/document/migrations'
import { ticksToSeconds } from '../../core/time/beat-grid'
import { saltOnTheSignal } from '../../demo/salt-on-the-signal'
import { ninthPlatform } from '../../demo/ninth-platform'
import { performBand } from '../../demo/perform-band'
import { buildScore } from '../../demo/score'
import { decodeAudio } from '../../node/decode'
import { level } from '../support/pitch'

interface Truth {
  beats: number[]
  downbeats: number[]
  tempo: number
  key: { tonic: string; mode: string }
  tuningCents: number
  chords: { start: number; end: number; label: string }[]
  sections: { start: number; end: number; label: string }[]
  notes: Record<string, [number, number, number][]>
}
const songOf = (name: string) => must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const truthOf = (name: string) => JSON.parse(readFileSync(`demo/truth/${name}.json`, 'utf8')) as Truth
const salt = songOf('salt-on-the-signal')
const truth = truthOf('salt-on-the-signal')

describe.each(['salt-on-the-signal', 'ninth-platform'])('the recording of %s', (name) => {
  const bytes = readFileSync(`public/demo/${name}.ogg`)
  it('is the one its song names, and small enough to ship', () => {
    expect(mainSource(songOf(name))!.audioHash).toBe(createHash('sha256').update(bytes).digest('hex'))
    expect(statSync(`public/demo/${name}.ogg`).size).toBeLessThan(4_000_000)
  })
  it('is mastered like a record: loud, not clipped, quiet at the end', async () => {
    const {
      channels: [mono],
      sampleRate,
    } = (await decodeAudio(bytes)) as { channels: [Float32Array]; sampleRate: number }
    const seconds = mono.length / sampleRate
    expect(seconds).toBeCloseTo(mainSource(songOf(name))!.durationSeconds!, 1)
    const loudness = 20 * Math.log10(level(mono, sampleRate, seconds * 0.3, seconds * 0.7))
    expect(loudness).toBeGreaterThan(-20)
    expect(loudness).toBeLessThan(-10)
    expect(mono.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0)).toBeLessThan(1.05)
    expect(level(mono, sampleRate, seconds - 0.2, seconds)).toBeLessThan(0.05)
  })
  it('has a truth whose times rise and fit together', () => {
    const { beats, downbeats, chords, sections, notes } = truthOf(name)
    beats.slice(1).forEach((beat, index) => expect(beat).toBeGreaterThan(beats[index]!))
    expect(downbeats.every((beat) => beats.includes(beat))).toBe(true)
    sections.slice(1).forEach((section, index) => expect(section.start).toBeCloseTo(sections[index]!.end, 3))
    for (const chord of chords) expect(readChordSymbol(chord.label), chord.label).toBeDefined()
    expect(Object.keys(notes)).toContain('drums')
  })
})

describe('Salt on the Signal', () => {
  it('has five parts, every kind of section that matters, and a free opening', () => {
    expect(salt.partOrder).toHaveLength(5)
    const kinds = new Set(Object.values(salt.sections).map((section) => section.kind))
    for (const kind of ['intro', 'verse', 'pre-chorus', 'chorus', 'bridge', 'solo', 'outro', 'stop'] as const)
      expect(kinds).toContain(kind)
    expect(sectionPlaces(salt)[0]!.section.bars.every((bar) => bar.free)).toBe(true)
  })
  it('is tuned a half step down and 14 cents flat', () => {
    expect(Object.values(salt.parts).every((part) => part.tuning.shapeOffset === -1)).toBe(true)
    expect(truth.tuningCents).toBe(-14)
    expect(pitchClassOf(truth.key.tonic)).toBe(3)
    const fraction = (midi: number): number => Math.round((midi - Math.round(midi)) * 100)
    expect(new Set(truth.notes.b!.map(([, , midi]) => fraction(midi)))).toEqual(new Set([-14]))
  })
  it('has the grid of its truth', () => {
    const map = songTimeMap(salt)!
    const starts = map.barStartTicks.map((tick) => ticksToSeconds(map, tick)).slice(4)
    starts.forEach((seconds, index) => expect(seconds).toBeCloseTo(truth.downbeats[index]!, 3))
    expect(allBars(salt)).toHaveLength(98)
  })
  it('has anticipated chords at their real places, on the and of four', () => {
    const [, , , early] = salt.sections.verse1!.harmony
    expect(early!.startTicks).toBe(3 * 40_320 - 5040)
  })
  it('is charted whole but for one stretch, and leaves two doubts open on purpose', () => {
    expect(checkSong(salt).open.map((finding) => finding.words)).toEqual([
      'Guitar 2 in Outro: 2 bars not charted, from bar 15.',
    ])
    const open = coverage(salt).map((sum) => sum.totalTicks - sum.chartedTicks)
    expect(open).toEqual([0, 2 * 40_320, 0, 0, 0])
    expect(Object.values(salt.doubts).map((doubt) => doubt.status)).toEqual(['open', 'open'])
  })
  it('has its third line made from the first, with one exception', () => {
    const third = salt.figures['solo-third']!
    expect(third.derivedFrom).toMatchObject({
      figureId: 'solo-lead',
      interval: -3,
      exceptions: [{ semitones: -5 }],
    })
    const parts = { first: salt.parts.g2!, second: salt.parts.g3! }
    expect(
      checkHarmony(
        { first: salt.figures['solo-lead']!.content, second: third.content },
        parts,
        third.derivedFrom!,
      ).every((check) => check.fits),
    ).toBe(true)
    const strict = checkHarmony({ first: salt.figures['solo-lead']!.content, second: third.content }, parts, {
      ...third.derivedFrom!,
      exceptions: [],
    })
    expect(strict.filter((check) => !check.fits).map((check) => check.startTicks)).toEqual([3 * 40_320])
  })
  it('speaks of every figure in calls that enter it again', () => {
    for (const figure of Object.values(salt.figures)) {
      const part = salt.parts[figure.partId]!
      const options = {
        letters: stringLetters(salt, part),
        meter: figure.meter,
        subdivision: figure.feel.subdivision,
        school: figure.school,
        stepTicks: stepTicks(figure.meter, figure.feel.subdivision),
      }
      const content = figureContent(salt, figure)
      const call = speak(content, { ...options, strings: 'letters' })
        .map((line) => line.text)
        .join('\n')
      const back = parseCall(call, { ...options, part })
      if (!back.ok) throw new Error(`${figure.name}: ${back.error.message}\n${call}`)
      expect(
        back.value.content.notes.map((note) => [note.startTicks, note.string, note.fret, note.lengthTicks]),
        figure.name,
      ).toEqual(
        content.notes
          .toSorted((a, b) => a.startTicks - b.startTicks || b.string - a.string)
          .map((note) => [note.startTicks, note.string, note.fret, note.lengthTicks]),
      )
      expect(
        back.value.content.strokes.map((stroke) => [
          stroke.startTicks,
          stroke.direction,
          hasMark(stroke, 'dead'),
        ]),
      ).toEqual(
        content.strokes.map((stroke) => [stroke.startTicks, stroke.direction, hasMark(stroke, 'dead')]),
      )
    }
  })
  it('plays its chart where the record has it', () => {
    const chart = soundPart(salt, 'b').map((event) => event.startSeconds)
    const record = truth.notes.b!.map(([start]) => start)
    const far = chart.filter((start) => !record.some((other) => Math.abs(other - start) < 0.03))
    expect(chart.length).toBeGreaterThan(200)
    expect(far).toEqual([])
  })
})

describe('Ninth Platform', () => {
  it('ships as a recording only', () => {
    const song = songOf('ninth-platform')
    expect(song.sectionOrder).toEqual([])
    expect(song.partOrder).toEqual([])
    expect(mainSource(song)!.grid).toBeUndefined()
  })
  it('swings, and counts its break in two dotted quarters', () => {
    const score = buildScore(ninthPlatform, { hash: '0'.repeat(64) })
    const place = sectionPlaces(score.song).find((entry) => entry.section.id === 'break')!
    expect(place.section.bars[0]!.meter).toEqual({ beats: 6, unit: 8 })
    expect(mainSource(score.song)!.grid!.bars[place.firstBar]!.beatSeconds).toHaveLength(2)
    expect(score.song.feel.swing.ratio).toBeCloseTo(0.64)
  })
})

describe('the band', () => {
  const score = buildScore(saltOnTheSignal, { hash: '0'.repeat(64) })
  it('plays the same for the same seed', () =>
    expect(performBand(score, { timingSeconds: 0.006 })).toEqual(
      performBand(score, { timingSeconds: 0.006 }),
    ))
  it('is human, within reason', () => {
    const exact = soundPart(score.song, 'b')
    const played = performBand(score, { timingSeconds: 0.006 }).find((stem) => stem.name === 'b')!.events
    const shifts = played.map((event, index) => event.startSeconds - exact[index]!.startSeconds)
    expect(Math.max(...shifts.map(Math.abs))).toBeLessThan(0.03)
    expect(new Set(shifts).size).toBeGreaterThan(100)
  })
})
