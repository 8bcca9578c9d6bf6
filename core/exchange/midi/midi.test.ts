import { readFileSync } from 'node:fs'
import { parseMidi, writeMidi, type MidiEvent } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { readSong } from '../../document/migrations'
import { EMPTY_CONTENT, type Mark, type Song } from '../../document/schema'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import { BAR, figureOf, noteAt, placeOf, run, smallSong } from '../../../tests/support/small-song'
import { scoreFromSong } from '../score/from-song'
import { songFromScore } from '../score/to-song'
import type { Timing } from '../import-questions'
import { readMidiFile } from './read-midi'
import { BEND_SEMITONES, writeMidiFile } from './write-midi'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))

/** Events of a track with the tick each stands at. */
function timed(song: Song, track: number): (MidiEvent & { tick: number })[] {
  let tick = 0
  return parseMidi(writeMidiFile(song).bytes).tracks[track]!.map((event) => ({
    ...event,
    tick: (tick += event.deltaTime),
  }))
}
/** The verse played by one note with a mark. */
function marked(mark: Mark, lengthTicks = 2 * Q): Song {
  const note = { ...noteAt(0, 2, 10), lengthTicks, marks: [mark] }
  const figure = figureOf('marked', { content: { ...EMPTY_CONTENT, notes: [note] } })
  return run(run(smallSong(), 'addFigure', { figure }), 'setPlacement', {
    placement: placeOf('p', { figureId: 'marked' }),
  })
}

describe('a song as a MIDI file', () => {
  it('begins every note on its tick, at its pitch', () => {
    const song = run(smallSong(), 'setPlacement', { placement: placeOf('p', { passes: 4 }) })
    const starts = timed(song, 1).filter(({ type }) => type === 'noteOn')
    expect(starts.map(({ tick }) => tick)).toEqual(
      scoreFromSong(song).parts[0]!.notes.map(({ startTicks }) => startTicks),
    )
    expect(starts).toHaveLength(8)
    expect(starts.every((event) => event.type === 'noteOn' && event.noteNumber === 55)).toBe(true)
  })

  it('follows the record: tempo at every beat that differs, meters, sections', () => {
    const song = demo('salt-on-the-signal')
    const form = timed(song, 0)
    const score = scoreFromSong(song)
    const tempo = form.flatMap((event) => (event.type === 'setTempo' ? [event] : []))
    expect(tempo.map(({ tick }) => tick)).toEqual(score.tempo.map(({ startTicks }) => startTicks))
    tempo.forEach(({ microsecondsPerBeat }, index) =>
      expect(60e6 / microsecondsPerBeat).toBeCloseTo(score.tempo[index]!.quartersPerMinute, 3),
    )
    const markers = form.flatMap((event) => (event.type === 'marker' ? [event.text] : []))
    expect(markers).toEqual(song.sectionOrder.map((id) => song.sections[id]!.name))
    const meters = form.flatMap((event) => (event.type === 'timeSignature' ? [event.numerator] : []))
    expect(meters).toEqual([4, 3, 4])
  })

  it('bends within three cents of the course, and is straight again after', () => {
    for (const shape of ['plain', 'bend and release', 'pre-bend', 're-bend'] as const) {
      const song = marked({ kind: 'bend', semitones: 2, shape })
      const wheel = timed(song, 1).flatMap((event) =>
        event.type === 'pitchBend'
          ? [{ tick: event.tick - 8 * BAR, cents: (event.value / 8192) * BEND_SEMITONES * 100 }]
          : [],
      )
      const at = (tick: number): number => wheel.findLast((event) => event.tick <= tick)?.cents ?? 0
      const highest = Math.max(...wheel.map(({ cents }) => cents))
      expect(Math.abs(highest - 200)).toBeLessThan(3)
      // A plain bend of two semitones goes up evenly over half a beat.
      if (shape === 'plain')
        for (let tick = 0; tick < Q / 2; tick += 97)
          expect(Math.abs(at(tick) - (200 * tick) / (Q / 2))).toBeLessThan(3)
      expect(Math.abs(at(2 * Q))).toBeLessThan(1)
    }
  })

  it('leaves out what has no pitch and says so', () => {
    const { notes, dropped } = writeMidiFile(marked({ kind: 'dead' }))
    expect(notes).toEqual([0, 0])
    expect(dropped.map(({ what, count }) => `${count} ${what}`)).toContain('1 dead strokes')
  })

  it('gives no two parts a channel', () => {
    const song = demo('salt-on-the-signal')
    const channels = parseMidi(writeMidiFile(song).bytes).tracks.map(
      (track) => new Set(track.flatMap((event) => ('channel' in event ? [event.channel] : []))),
    )
    const all = channels.flatMap((set) => [...set])
    expect(new Set(all).size).toBe(all.length)
    expect(all).not.toContain(9)
  })
})

describe('a MIDI file as a song', () => {
  it.each(['salt-on-the-signal', 'cold-kiln'])('has the notes of %s where they were', (name) => {
    const song = demo(name)
    const { score } = must(readMidiFile(writeMidiFile(song).bytes, name))
    const again = must(songFromScore(score, { id: 'x', sourceName: name })).song
    expect(again.sectionOrder).toHaveLength(song.sectionOrder.length)
    score.parts.forEach((part, index) => {
      const wanted = timed(song, index + 1).flatMap((event) =>
        event.type === 'noteOn' ? [`${event.tick} ${event.noteNumber}`] : [],
      )
      expect(part.notes.map(({ startTicks, midi }) => `${startTicks} ${midi}`).sort()).toEqual(wanted.sort())
    })
  })

  it.each(['plain', 'bend and release', 'pre-bend'] as const)('hears a bend in the wheel: %s', (shape) => {
    const { score } = must(
      readMidiFile(writeMidiFile(marked({ kind: 'bend', semitones: 1.5, shape })).bytes, 'x'),
    )
    expect(score.parts[0]!.notes[0]!.marks).toEqual([{ kind: 'bend', semitones: 1.5, shape }])
  })

  it('puts a bent note under a finger, not on an open string', () => {
    const song = marked({ kind: 'bend', semitones: 1, shape: 'plain' })
    const open = { ...noteAt(0, 2, 5), marks: [] }
    const low = figureOf('low', {
      content: {
        ...EMPTY_CONTENT,
        notes: [
          { ...song.figures.marked!.content.notes[0]!, string: 2, fret: 5 },
          { ...open, startTicks: BAR },
        ],
      },
    })
    const with64 = run(run(smallSong(), 'addFigure', { figure: low }), 'setPlacement', {
      placement: placeOf('p', { figureId: 'low' }),
    })
    const { score } = must(readMidiFile(writeMidiFile(with64).bytes, 'x'))
    expect(score.parts[0]!.notes.map(({ midi, fret }) => [midi, fret > 0])).toContainEqual([64, true])
    expect(songFromScore(score, { id: 'x', sourceName: 'x' }).ok).toBe(true)
  })

  it('lays what lies low on an instrument that reaches it', () => {
    const track = (name: string, note: number): MidiEvent[] => [
      { deltaTime: 0, meta: true, type: 'trackName', text: name },
      { deltaTime: 0, type: 'noteOn', channel: 0, noteNumber: note, velocity: 90 },
      { deltaTime: 96, type: 'noteOff', channel: 0, noteNumber: note, velocity: 0 },
      { deltaTime: 0, meta: true, type: 'endOfTrack' },
    ]
    const bytes = Uint8Array.from(
      writeMidi({
        header: { format: 1, numTracks: 3, ticksPerBeat: 96 },
        tracks: [track('Riff', 38), track('Low bass', 23), track('Very low', 12)],
      }),
    )
    const { score, dropped } = must(readMidiFile(bytes, 'low'))
    expect(
      score.parts.map(({ name, instrument, tuning }) => [name, instrument.kind, tuning.openMidi.at(-1)]),
    ).toEqual([
      ['Riff', 'guitar-6', 38],
      ['Low bass', 'bass-5', 23],
      ['Very low', 'guitar-6', 40],
    ])
    expect(dropped).toMatchObject([{ what: 'notes off the neck', count: 1 }])
    expect(score.parts[0]!.notes[0]).toMatchObject({ startTicks: 0, lengthTicks: Q })
  })

  it('is read however many events it has', () => {
    const count = 400_000
    const body = new Uint8Array(count * 4 + 4)
    for (let index = 0; index < count; index++) body.set([0, 0xb0, 7, 90], index * 4)
    body.set([0, 0xff, 0x2f, 0], count * 4)
    const size = [
      body.length >>> 24,
      (body.length >>> 16) & 255,
      (body.length >>> 8) & 255,
      body.length & 255,
    ]
    const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, ...size]
    const bytes = new Uint8Array(head.length + body.length)
    bytes.set(head)
    bytes.set(body, head.length)
    const result = readMidiFile(bytes, 'x')
    expect(result.ok || result.refusal.message).toContain('no notes')
  })

  it('is refused in a sentence when it is none or has nothing', () => {
    const words = (bytes: Uint8Array): string => {
      const result = readMidiFile(bytes, 'x')
      return result.ok ? 'read' : result.refusal.message
    }
    expect(words(Uint8Array.from([1, 2, 3]))).toContain('not a MIDI file')
    expect(words(writeMidiFile(smallSong()).bytes)).toContain('no notes')
    expect(words(writeMidiFile(marked({ kind: 'tap' })).bytes.slice(0, 60))).toContain('damaged')
  })
})

describe('a file played by hand', () => {
  /** A file of one track with notes: seconds are halves of a quarter at 120. */
  const played = (
    notes: readonly { at: number; length: number; midi: number; channel?: number }[],
    format: 0 | 1 = 1,
  ) => {
    const events = notes
      .flatMap(({ at, length, midi, channel = 0 }) => [
        { at, event: { type: 'noteOn' as const, channel, noteNumber: midi, velocity: 90 } },
        { at: at + length, event: { type: 'noteOff' as const, channel, noteNumber: midi, velocity: 0 } },
      ])
      .sort((a, b) => a.at - b.at)
    let before = 0
    const track = events.map(({ at, event }): MidiEvent => {
      const deltaTime = Math.round((at - before) * 480)
      before += deltaTime / 480
      return { ...event, deltaTime }
    })
    const end: MidiEvent = { deltaTime: 0, meta: true, type: 'endOfTrack' }
    const header = { format, numTracks: 1, ticksPerBeat: 480 }
    return Uint8Array.from(writeMidi({ header, tracks: [[...track, end]] }))
  }
  const startsOf = (bytes: Uint8Array, timing?: Timing) => {
    const { score, questions } = must(readMidiFile(bytes, 'x', { timing }))
    return { starts: score.parts[0]!.notes.map(({ startTicks }) => startTicks / Q), questions }
  }
  /** A hand is up to 30 ms early or late, always the same way. */
  const late = (index: number): number => 0.03 + 0.055 * Math.sin(7 * index)

  it('is written to the coarsest grid it fits, and says so; another is taken when it is wanted', () => {
    const line = Array.from({ length: 24 }, (_, index) => ({
      at: 0.1 + index * 0.25 + 0.5 * late(index),
      length: 0.2,
      midi: 52 + (index % 5),
    }))
    const { starts, questions } = startsOf(played(line.map((note) => ({ ...note, at: note.at - 0.1 }))))
    expect(questions).toMatchObject([{ id: 'timing', taken: 'sixteenths' }])
    expect(starts).toEqual(line.map((_, index) => index * 0.25))
    expect(startsOf(played(line), 'as played').starts).not.toEqual(starts)
  })

  it('finds eighths and triplets', () => {
    const line = (step: number) =>
      Array.from({ length: 24 }, (_, index) => ({
        at: index * step + late(index),
        length: step * 0.8,
        midi: 50 + index,
      }))
    expect(startsOf(played(line(0.5))).questions[0]!.taken).toBe('eighths')
    expect(startsOf(played(line(1 / 3))).questions[0]!.taken).toBe('triplets')
  })

  it('has chords that were rolled within 50 ms, not runs that are as fast', () => {
    const chord = [40, 47, 52].map((midi, index) => ({ at: 1 + index * 0.04, length: 1, midi }))
    const run = [60, 62, 64].map((midi, index) => ({ at: 3 + index * 0.08, length: 0.08, midi }))
    expect(startsOf(played([...chord, ...run]), 'as played').starts).toEqual([
      1,
      1,
      1,
      3,
      expect.closeTo(3.08, 2),
      expect.closeTo(3.16, 2),
    ])
  })

  it('asks nothing of a file that a program wrote', () => {
    const line = [0, 1 / 3, 2 / 3, 1, 1.25, 1.5, 1.625].map((at) => ({ at, length: 0.125, midi: 52 }))
    expect(startsOf(played(line)).questions).toEqual([])
  })

  it('is parted by channel where everything is in one track, its drums named', () => {
    const bytes = played(
      [0, 1, 2].flatMap((at) => [
        { at, length: 1, midi: 52, channel: 0 },
        { at, length: 1, midi: 30, channel: 1 },
        { at, length: 1, midi: 36, channel: 9 },
      ]),
      0,
    )
    const { score, dropped } = must(readMidiFile(bytes, 'x'))
    expect(score.parts.map(({ name, notes }) => [name, notes.length])).toEqual([
      ['Channel 1', 3],
      ['Channel 2', 3],
    ])
    expect(dropped.map(({ what, count }) => `${count} ${what}`)).toEqual(['3 drum notes of “Drums”'])
  })
})
