import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { transact } from '../editing/transact'
import { readSong } from '../document/migrations'
import type { Song } from '../document/schema'
import { figureContent, placementTicks } from '../document/figure-content'
import { cellPlacements } from '../timeline/cells'
import { barTicks } from '../time/meter'
import { readFormCall, type FormContext, type FormReading } from './read-form-call'

const song: Song = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const idOf = (table: Record<string, { id: string; name: string }>, name: string): string =>
  Object.values(table).find((one) => one.name === name)!.id
const section = (name: string): string => idOf(song.sections, name)
const part = (name: string): string => idOf(song.parts, name)
let made = 0
const context: FormContext = {
  song,
  sectionId: section('Verse 2'),
  partId: part('Guitar 2'),
  newId: () => `made${made++}`,
  sounding: (symbol) => symbol,
}
function understood(call: string, more: Partial<FormContext> = {}): Extract<FormReading, { ok: true }> {
  const reading = readFormCall(call, { ...context, ...more })
  if (!reading.ok) throw new Error(reading.error.message)
  return reading
}
/** The song after a call was entered. */
const after = (call: string, more: Partial<FormContext> = {}): Song => {
  const { change } = understood(call, more)
  return must(transact(song, 'enterFormCall', { what: call.slice(0, 160), ...change })).song
}
const cell = (of: Song, partName: string, sectionName: string) =>
  cellPlacements(of, section(sectionName), part(partName))

describe('calls over the form', () => {
  it('one section as another, its last bar left open', () => {
    const next = after('Chorus 2 as Chorus 1 but the last bar')
    const [end] = cell(next, 'Guitar 1', 'Chorus 2').slice(-1)
    if (end?.kind !== 'figure') throw new Error('nothing played')
    const figure = next.figures[end.passFigures?.at(-1)?.figureId ?? end.figureId]!
    const bar = barTicks(figure.meter)
    const last = end.startTicks + placementTicks(next, end) - bar
    expect(last).toBe(7 * bar)
    const inFigure = figure.lengthTicks - bar
    const content = figureContent(next, figure)
    expect(content.notes.some((note) => note.startTicks >= inFigure)).toBe(false)
    expect([...content.notes, ...content.strokes].length).toBeGreaterThan(0)
  })
  it('one section as another that is longer, its passes cut', () =>
    expect(cell(after('verse two like verse one'), 'Guitar 1', 'Verse 2').map((one) => one.kind)).toContain(
      'figure',
    ))
  it('so often, later at other frets', () => {
    const placements = cell(
      after('guitar 2 in chorus 1 twice, second time up two frets'),
      'Guitar 2',
      'Chorus 1',
    )
    expect(placements.map((one) => one.kind === 'figure' && [one.passes, one.shiftFrets])).toEqual([
      [1, 0],
      [1, 2],
    ])
    expect(after('chorus twice').sections[section('Chorus 1')]?.passes).toBe(2)
  })
  it('who rests, and where', () => {
    expect(cell(after('guitar 2 rests here'), 'Guitar 2', 'Verse 2')).toMatchObject([{ kind: 'rests' }])
    const all = after('everyone rests in the bridge')
    for (const name of ['Guitar 1', 'Acoustic', 'Bass'])
      expect(cell(all, name, 'Bridge')).toMatchObject([{ kind: 'rests' }])
    const every = understood('bass rests in every chorus')
    expect(every.change.cells.map((one) => one.sectionId)).toEqual(
      ['Chorus 1', 'Chorus 2', 'Chorus 3'].map(section),
    )
  })
  it('what is played, as often as it fits', () =>
    expect(cell(after('guitar 1 plays verse chug in verse 2'), 'Guitar 1', 'Verse 2')).toMatchObject([
      { kind: 'figure', passes: 2 },
    ]))
  it.each([
    ['8 bars of G, D, Em, C, two each', ['G', 'D', 'Em', 'C'], [0, 2, 4, 6]],
    ['two bars of Em, two bars of C, four bars of D', ['Em', 'C', 'D'], [0, 2, 4]],
    ['8 bars of G and C, a bar each', ['G', 'C', 'G', 'C', 'G', 'C', 'G', 'C'], [0, 1, 2, 3, 4, 5, 6, 7]],
  ])('chords in a row: %s', (call, symbols, bars) => {
    const { harmony } = after(call).sections[section('Verse 2')]!
    expect(harmony.map((chord) => chord.symbol)).toEqual(symbols)
    expect(harmony.map((chord) => chord.startTicks / 40_320)).toEqual(bars)
  })
  it('chords where they are said to be, as they sound', () => {
    const next = after('in the bridge: Am, F, C, G', { sounding: (symbol) => `${symbol}7` })
    expect(next.sections[section('Bridge')]?.harmony.slice(0, 4).map((chord) => chord.symbol)).toEqual([
      'Am7',
      'F7',
      'C7',
      'G7',
    ])
  })
  it('says before Enter what it will do, and what it took for granted', () => {
    expect(understood('guitar 2 rests here').says).toBe('Guitar 2 rests in Verse 2')
    expect(understood('chorus twice').assumed).toEqual(['in Chorus 1'])
    expect(understood('verse 2 as verse 1 but the last two bars').says).toMatch(/last 2 bars left open$/)
  })
  it.each([
    ['frobnicate', /no call over the form/],
    ['verse 2 as verse 2', /already/],
    ['9 bars of G, D, Em', /longer than Verse 2, which has 8/],
    ['verse 9 as chapter 3', /Which section/],
    ['guitar 1 plays verse chug in verse 2, 99 times', /does not fit/],
    ['x'.repeat(500), /may have 400/],
  ])('refuses in words, and changes nothing: %s', (call, why) => {
    const reading = readFormCall(call, context)
    expect(reading.ok ? '' : reading.error.message).toMatch(why)
  })
  it('is one step to undo', () => {
    const { change } = understood('verse 2 as verse 1 but the last bar')
    const applied = must(transact(song, 'enterFormCall', { what: 'call', ...change }))
    expect(applied.label).toBe('call')
    expect(readSong(JSON.parse(JSON.stringify(applied.song))).ok).toBe(true)
  })
})

describe('chords by their degrees', () => {
  it('are the chords of the key, whatever the names on the page', () => {
    const named = { sounding: (symbol: string) => `${symbol}7` }
    const harmony = after('verse 2: I VI III VII', named).sections[section('Verse 2')]!.harmony
    expect(harmony.slice(0, 4).map(({ symbol }) => symbol)).toEqual(['Eb', 'Cb', 'Gb', 'Db'])
  })
})

describe('landmarks and rigs over the form', () => {
  const landmarks = (call: string) => understood(call).change.spots ?? []
  it('puts words, stops and entries at their bar and count', () => {
    const BAR = 40_320
    expect(landmarks('cue “Here we go” in verse 2, bar 3 on 4')).toMatchObject([
      {
        kind: 'landmark',
        landmark: 'cue words',
        text: 'Here we go',
        place: { sectionId: section('Verse 2'), startTicks: 2 * BAR + (BAR * 3) / 4 },
      },
    ])
    const counted = landmarks('cue “one two three, on 4, in the bridge” in verse 2')
    expect(counted).toMatchObject([
      { text: 'one two three, on 4, in the bridge', place: { sectionId: section('Verse 2'), startTicks: 0 } },
    ])
    expect(landmarks('everybody stops in the bridge, bar 2 on the and of three')).toMatchObject([
      // The bridge is in three.
      {
        landmark: 'stop time',
        place: { sectionId: section('Bridge'), startTicks: (BAR * 3) / 4 + (BAR * 5) / 8 },
      },
    ])
    expect(landmarks('guitar 2 comes in on a cue in the last chorus')).toMatchObject([
      { landmark: 'cued entry', place: { partId: part('Guitar 2'), startTicks: 0 } },
    ])
  })
  it('keeps them in the song, and refuses a bar or words that are not there', () => {
    const next = after('stop time in chorus 1, bar 4')
    expect(Object.values(next.spots).filter(({ landmark }) => landmark === 'stop time')).toHaveLength(1)
    expect(readFormCall('stop time in the bridge, bar 99', context)).toMatchObject({ ok: false })
    expect(readFormCall('cue in verse 2', context)).toMatchObject({ ok: false })
  })
  it('reads a rig phrase by phrase and keeps what it does not know as it was said', () => {
    const call =
      'rig of guitar 1 in the bridge: neck pickup, crunch, Compressor before all, delay dotted eighth ' +
      '3 repeats, mix half past 1, octave above, filter 900 Hz, old blue box, with the pick'
    const rig = after(call).parts[part('Guitar 1')]!.sectionRigs!.find(
      ({ sectionId }) => sectionId === section('Bridge'),
    )!.rig
    expect(rig).toMatchObject({ pickup: 'neck', gain: 'crunch', strike: 'pick' })
    expect(rig.effects).toMatchObject([
      { kind: 'compressor', words: 'Compressor before all' },
      { kind: 'delay', delayTicks: 7560, repeats: 3, knobs: [{ name: 'mix', clock: 13.5 }] },
      { kind: 'octave', semitones: 12 },
      { kind: 'filter', cutoffHz: 900 },
      { kind: 'other', words: 'old blue box' },
    ])
    const told = after('rig: clean, slapback delay eighth, filter half open, octave below only').parts[
      part('Guitar 2')
    ]!
    expect(told.rig!.effects.map(({ kind, words }) => [kind, words])).toEqual([
      ['delay', 'slapback'],
      ['filter', 'half open'],
      ['octave', 'only'],
    ])
    expect(after('rig: bridge pickup').parts[part('Guitar 2')]!.rig).toMatchObject({ pickup: 'bridge' })
    expect(readFormCall('rig of guitar 1:', context)).toMatchObject({ ok: false })
  })
})
