import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { newPart, newSong } from '../document/new-song'
import { EMPTY_CONTENT, type Content, type Note, type Part, type Stroke } from '../document/schema'
import { tuningsFor } from '../instrument/tunings'
import { gripFacts, readGrip, shapeFamily, writeGrip } from '../neck/grips/grip'
import { pitchName, soundingMidi, stringName } from '../document/part-pitch'
import { performContent } from './perform'
import { pendulumDirection } from '../neck/strokes'

const song = { ...newSong({ id: 's', title: 'S', artist: '' }), key: { tonic: 'Eb', mode: 'minor' as const } }
const standard = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const halfDown: Part = { ...standard, tuning: tuningsFor('guitar-6')[1]! }
const grip = (text: string) => readGrip(text, 6)!
const FOUR = { beats: 4, unit: 4 } as const
const figure = { lengthTicks: 8 * Q, meter: FOUR }
const note = (over: Partial<Note>): Note => ({
  id: 'n',
  string: 3,
  fret: 7,
  startTicks: 0,
  lengthTicks: Q,
  marks: [],
  ...over,
})
const stroke = (over: Partial<Stroke>): Stroke => ({
  id: 's',
  startTicks: 0,
  lengthTicks: Q,
  direction: 'down',
  marks: [],
  ...over,
})
const perform = (content: Partial<Content>, part = standard, shift = 0) =>
  performContent({ ...EMPTY_CONTENT, ...content }, figure, part, shift)
const held = (text: string, startTicks = 0, lengthTicks = 4 * Q) => ({
  id: `g${startTicks}`,
  startTicks,
  lengthTicks,
  grip: grip(text),
})

describe('names by shape and as sounding', () => {
  it('calls an E shape E, sounding E flat, a half step down', () => {
    expect(gripFacts(song, halfDown, grip('022100'), 'shape').names[0]!.symbol).toBe('E')
    expect(gripFacts(song, halfDown, grip('022100'), 'sounding').names[0]!.symbol).toBe('Eb')
    expect(soundingMidi(halfDown, 6, 0)).toBe(39)
    expect(pitchName(song, halfDown, 39, 'shape')).toBe('E2')
    expect(pitchName(song, halfDown, 39, 'sounding')).toBe('Eb2')
  })
  it('counts frets from the capo', () => {
    const capo: Part = { ...standard, instrument: { ...standard.instrument, capo: 3 } }
    expect(soundingMidi(capo, 6, 2)).toBe(45)
    expect(
      gripFacts({ key: { tonic: 'G', mode: 'major' } }, capo, grip('022100'), 'shape').names[0]!.symbol,
    ).toBe('E')
    expect(
      gripFacts({ key: { tonic: 'G', mode: 'major' } }, capo, grip('022100'), 'sounding').names[0]!.symbol,
    ).toBe('G')
  })
  it('names strings by number or letter, the two E strings apart', () => {
    const letters = [1, 2, 3, 4, 5, 6].map((string) =>
      stringName(song, halfDown, string, { strings: 'letters', naming: 'shape' }),
    )
    expect(letters).toEqual(['e', 'B', 'G', 'D', 'A', 'E'])
    expect(stringName(song, halfDown, 5, { strings: 'letters', naming: 'sounding' })).toBe('Ab')
    expect(stringName(song, halfDown, 5, { strings: 'numbers', naming: 'sounding' })).toBe('5')
  })
})

describe('grips', () => {
  it('reads and writes the usual text, low to high', () => {
    expect(writeGrip(grip('x32010'))).toBe('x32010')
    expect(writeGrip(grip('x-12-14-14-14-12'))).toBe('x-12-14-14-14-12')
    expect(grip('x32010').strings[0]).toEqual({ fret: 0 })
    expect(readGrip('x3201', 6)).toBeUndefined()
    expect(readGrip('hello!', 6)).toBeUndefined()
  })
  it.each([
    ['022xxx', 'power'],
    ['x32010', 'open'],
    ['x35553', 'movable, root on string 5'],
    ['133211', 'movable, root on string 6'],
    ['3x5xxx', 'octave'],
    ['555xxx', 'one finger'],
    ['xxx553', 'three-string triad'],
  ])('files %s under %s', (text, family) => {
    const padded = text.length === 6 ? text : `x${text}`
    expect(shapeFamily(grip(padded))).toBe(family)
  })
  it('measures reach in millimetres and cautions over the limit', () => {
    const easy = gripFacts(song, standard, grip('x32010'), 'shape')
    const wide = gripFacts(song, standard, grip('1xx6xx'), 'shape')
    expect(easy.reachMm).toBeGreaterThan(50)
    expect(easy.caution).toBeUndefined()
    expect(wide.caution).toContain('stop at pain')
    expect(gripFacts(song, standard, grip('x-12-14-14-14-12'), 'shape').reachMm).toBeLessThan(easy.reachMm)
  })
  it('gives each string its degree', () => {
    expect(
      gripFacts({ key: { tonic: 'C', mode: 'major' } }, standard, grip('x32010'), 'shape').degrees,
    ).toEqual(['3', 'R', '5', '3', 'R', undefined])
  })
})

describe('the strumming hand', () => {
  it('swings down on the beat and up between', () => {
    expect([0, 1, 2, 3].map((step) => pendulumDirection(step * (Q / 2), FOUR, 'eighths'))).toEqual([
      'down',
      'up',
      'down',
      'up',
    ])
    expect([0, 1, 2, 3].map((step) => pendulumDirection(step * (Q / 4), FOUR, 'sixteenths'))).toEqual([
      'down',
      'up',
      'down',
      'up',
    ])
  })
  it('sweeps from the low string on a down stroke and from the high one on an up stroke', () => {
    const order = (direction: Stroke['direction']) =>
      perform({ grips: [held('022100')], strokes: [stroke({ direction })] })
        .toSorted((a, b) => a.strumShare - b.strumShare)
        .map((played) => played.string)
    expect(order('down')).toEqual([6, 5, 4, 3, 2, 1])
    expect(order('up')).toEqual([1, 2, 3, 4, 5, 6])
  })
  it('leaves muted strings silent and plucks only those asked for', () => {
    expect(perform({ grips: [held('x32010')], strokes: [stroke({})] })).toHaveLength(5)
    expect(
      perform({ grips: [held('x32010')], strokes: [stroke({ strings: [2, 5] })] })
        .map((played) => played.midi)
        .sort(),
    ).toEqual([48, 60])
  })
  it('clicks dead strokes on the strings of the grip and keeps palm mutes on theirs', () => {
    const played = perform({
      grips: [held('022xxx')],
      strokes: [
        stroke({ marks: [{ kind: 'dead' }] }),
        stroke({ startTicks: Q, marks: [{ kind: 'palm mute', pressure: 'firm' }] }),
      ],
    })
    expect(played.filter((entry) => entry.dead)).toHaveLength(3)
    expect(played.filter((entry) => entry.palmMute === 'firm')).toHaveLength(3)
  })
  it('strikes a grip without a hand pattern once and holds it', () => {
    const played = perform({ grips: [held('022xxx')] })
    expect(played).toHaveLength(3)
    expect(played[0]!.endTicks).toBe(4 * Q)
  })
  it('cuts a choked stroke short', () =>
    expect(
      perform({ grips: [held('022xxx')], strokes: [stroke({ marks: [{ kind: 'choke' }] })] })[0]!.endTicks,
    ).toBeLessThan(Q / 2))
})

describe('notes', () => {
  it('ends a note when its string is struck again, whatever rings', () => {
    const played = perform({
      notes: [note({ lengthTicks: 4 * Q }), note({ id: 'm', startTicks: Q, fret: 9 })],
      mutes: [{ id: 'r', mark: { kind: 'let ring' }, startTicks: 0, lengthTicks: 8 * Q }],
    })
    expect(played[0]!.endTicks).toBe(Q)
    expect(played[1]!.endTicks).toBe(8 * Q)
  })
  it('bends to the amount asked for, and back on a release', () => {
    const top = (shape: 'plain' | 'pre-bend' | 'release') =>
      perform({ notes: [note({ marks: [{ kind: 'bend', semitones: 2, shape }] })] })[0]!.curve
    expect(top('plain').at(-1)!.semitones).toBe(2)
    expect(top('pre-bend')[0]).toEqual({ ticks: 0, semitones: 2 })
    expect(top('release').at(-1)!.semitones).toBe(0)
  })
  it('plays slurred notes softer and without a pick', () => {
    const [picked, hammered] = perform({
      notes: [note({}), note({ id: 'h', startTicks: Q, fret: 9, marks: [{ kind: 'hammer-on' }] })],
    })
    expect(hammered!.attack).toBe('slurred')
    expect(hammered!.loudness).toBeLessThan(picked!.loudness)
  })
  it('sounds natural harmonics at their pitch', () => {
    const pitch = (fret: number) =>
      perform({ notes: [note({ string: 6, fret, marks: [{ kind: 'natural harmonic' }] })] })[0]!.midi
    expect(pitch(12)).toBe(52)
    expect(pitch(7)).toBe(59)
    expect(pitch(5)).toBe(64)
  })
  it('moves everything when a placement is shifted by frets', () =>
    expect(perform({ notes: [note({})] }, standard, 2)[0]!.midi).toBe(
      perform({ notes: [note({})] })[0]!.midi + 2,
    ))
  it('takes palm mute from a span or from the note', () => {
    const span = {
      id: 'p',
      mark: { kind: 'palm mute' as const, pressure: 'light' as const },
      startTicks: 0,
      lengthTicks: Q,
    }
    expect(
      perform({ notes: [note({}), note({ id: 'm', startTicks: Q })], mutes: [span] }).map(
        (played) => played.palmMute,
      ),
    ).toEqual(['light', undefined])
    expect(
      perform({
        notes: [note({ marks: [{ kind: 'palm mute', pressure: 'firm' }] })],
        mutes: [span],
      })[0]!.palmMute,
    ).toBe('firm')
  })
})

describe('must', () => {
  it('unwraps, or throws with code and reason', () => {
    expect(must({ ok: true, value: 3 })).toBe(3)
    expect(() => must({ ok: false, refusal: { code: 'x', message: 'why' } })).toThrow('x: why')
  })
})

describe('what is slid, kept and scraped', () => {
  const bends = (over: Partial<Note>, shape: 'bend and hold' | 'release'): Note =>
    note({ ...over, marks: [{ kind: 'bend', semitones: 2, shape }] })
  it('slides a whole grip without striking it again', () => {
    const grips = [held('577655', 0, 2 * Q), held('799877', 2 * Q, 2 * Q)]
    const strokes = [
      stroke({ lengthTicks: 2 * Q }),
      stroke({ id: 't', startTicks: 2 * Q, lengthTicks: Q, marks: [{ kind: 'slide', how: 'legato' }] }),
    ]
    const played = perform({ grips, strokes })
    expect(played).toHaveLength(6)
    for (const { curve, endTicks } of played) {
      expect(endTicks).toBe(3 * Q)
      expect(curve[0]!.semitones).toBe(0)
      expect(curve.at(-1)!.semitones).toBe(2)
    }
    const struck = perform({
      grips,
      strokes: [strokes[0]!, { ...strokes[1]!, marks: [{ kind: 'slide', how: 'shift' }] }],
    })
    expect(struck).toHaveLength(12)
    expect(struck.filter(({ startTicks }) => startTicks === 0).every(({ curve }) => curve.length > 2)).toBe(
      true,
    )
  })
  it('slides a grip in from beside it', () => {
    const stroked = stroke({ marks: [{ kind: 'slide', how: 'in from below', frets: 2 }] })
    const played = perform({ grips: [held('577655')], strokes: [stroked] })
    expect(played.map(({ curve }) => curve[0]!.semitones)).toEqual(Array(6).fill(-2))
  })
  it('keeps a bend while another string is struck, and lets it down where that is written', () => {
    const notes = [
      bends({ string: 2 }, 'bend and hold'),
      note({ id: 'o', string: 1, startTicks: Q }),
      bends({ id: 'r', string: 2, startTicks: 3 * Q }, 'release'),
    ]
    const bent = perform({ notes }).filter(({ string }) => string === 2)
    expect(bent).toHaveLength(1)
    expect(bent[0]).toMatchObject({ startTicks: 0, endTicks: 4 * Q })
    const at = (tick: number): number => bent[0]!.curve.findLast(({ ticks }) => ticks <= tick)!.semitones
    expect([at(2 * Q), at(3 * Q), at(4 * Q)]).toEqual([2, 2, 0])
  })
  it('takes a slide up again after another string', () => {
    const notes = [
      note({ string: 2, fret: 5 }),
      note({ id: 'o', string: 1, fret: 0, startTicks: Q }),
      note({
        id: 's',
        string: 2,
        fret: 9,
        startTicks: 2 * Q,
        marks: [{ kind: 'slide', how: 'legato' }],
      }),
    ]
    const slid = perform({ notes }).filter(({ string }) => string === 2)
    expect(slid).toHaveLength(1)
    expect(slid[0]).toMatchObject({ endTicks: 3 * Q })
    expect(slid[0]!.curve.at(-1)!.semitones).toBe(4)
  })
  it('rasps along the strings as noise that climbs and comes back', () => {
    const [noise] = perform({ notes: [note({ marks: [{ kind: 'scrape', way: 'there and back' }] })] })
    expect(noise).toMatchObject({ dead: true, scraped: true })
    expect(noise!.curve.map(({ semitones }) => semitones)).toEqual([0, 24, 0])
  })
})
