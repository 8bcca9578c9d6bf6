import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../../result'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import { nameChord, readChordSymbol } from '../../music/chord-name'
import { tuningsFor } from '../../instrument/tunings'
import { newPart } from '../../document/new-song'
import type { Part, Stroke } from '../../document/schema'
import { difficultyWord, fingeredGrip, fingeringWords, fingerGrip } from './fingering'
import { easedGrips, isComfortable, movingGrip, reachMm } from './eased-grip'
import { gripFacts, readGrip, writeGrip } from './grip'
import { gripProgression, gripSpans, gripsFor, symbolOf } from './grip-search'
import { fingerSpanMm, HANDS, USUAL_HAND } from '../hand'
import { soundingMidi } from '../../document/part-pitch'

const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const dropD: Part = {
  ...guitar,
  tuning: tuningsFor('guitar-6').find((tuning) => tuning.name === 'Dropped low string to D')!,
}
const baritone = newPart({ id: 'bar', name: 'Baritone', kind: 'baritone-6' })
const bass = newPart({ id: 'b', name: 'Bass', kind: 'bass-4' })
const C = { tonic: 'C', mode: 'major' as const }
const grip = (text: string) => readGrip(text, 6)!
const fingers = (text: string) =>
  fingerGrip(grip(text), guitar)
    ?.fingers.map((finger) => finger ?? '-')
    .reverse()
    .join('')

describe('names of a grip', () => {
  const facts = (text: string) => gripFacts({ key: C }, guitar, grip(text), 'shape')
  it('says degrees, what is missing and what is doubled', () => {
    expect(facts('x32010')).toMatchObject({
      degrees: ['3', 'R', '5', '3', 'R', undefined],
      doubled: ['3', 'R'],
      family: 'open',
    })
    expect(facts('x3234x').names[0]).toMatchObject({ symbol: 'C7#9', omitted: ['5'] })
    expect(facts('x323xx').names[0]).toMatchObject({
      symbol: 'C7',
      omitted: ['5'],
      reason: 'root in the bass, without the fifth',
    })
  })
  it('tells first from second inversion, and a slash bass', () => {
    const best = (text: string) => facts(text).names[0]!
    expect(
      [best('xx2010'), best('332010'), best('0x2010')].map((name) => [name.symbol, name.inversion]),
    ).toEqual([
      ['C/E', 1],
      ['C/G', 2],
      ['C/E', 1],
    ])
    expect(best('x02010').symbol).toBe('Am7')
    expect(best('200232')).toMatchObject({ symbol: 'D/F#', inversion: 1 })
  })
  it('names a seventh without its third, and a ninth whose root the bass has', () => {
    expect(nameChord([48, 55, 58], C)[0]!.symbol).toBe('C7(no 3)')
    expect(nameChord([47, 50, 53], C).map((name) => name.symbol)).toContain('G7(no root)')
  })
})

describe('fingers on a grip', () => {
  it.each([
    ['022000', '-12---'],
    ['x32010', '-32-1-'],
    ['x02210', '--231-'],
    ['133211', '134211'],
    ['xx0232', '---132'],
    ['x57765', '-13421'],
    ['355xxx', '134---'],
  ])('%s is held %s', (text, held) => expect(fingers(text)).toBe(held))
  it('are written on the grip, a flat first finger as a barre, and said in words', () => {
    const written = (text: string) => fingeredGrip(grip(text), fingerGrip(grip(text), guitar)!)
    expect(written('133211')).toMatchObject({
      barre: { fret: 1, fromString: 6, toString: 1 },
      strings: [{ fret: 1, finger: '1' }, {}, { finger: '2' }, {}, {}, {}],
    })
    expect(written('x02210').barre).toBeUndefined()
    expect(fingeringWords(grip('x355xx'), fingerGrip(grip('x355xx'), guitar)!, guitar)).toBe(
      'first finger fret 3, third finger fret 5, little finger fret 5, 60 mm apart on a 648 mm scale',
    )
    expect(fingeringWords(grip('000000'), fingerGrip(grip('000000'), guitar)!, guitar)).toBe('')
  })
  it('knows what no hand holds', () => {
    expect(fingers('123456')).toBeUndefined()
    expect(gripFacts({ key: C }, guitar, grip('123456'), 'shape').caution).toContain('more than four')
  })
  it('never lays a flat finger over a string that must ring lower, and orders fingers by fret', () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.integer({ min: 0, max: 5 }), { nil: null }), { minLength: 6, maxLength: 6 }),
        (frets) => {
          const fingering = fingerGrip({ strings: frets.map((fret) => ({ fret })) }, guitar)
          if (!fingering) return
          for (const barre of fingering.barres)
            for (let string = barre.toString; string <= barre.fromString; string++)
              expect(frets[string - 1] === null || frets[string - 1]! >= barre.fret).toBe(true)
          const held = fingering.fingers.flatMap((finger, index) =>
            finger && finger !== 'T' ? [{ finger, fret: frets[index]! }] : [],
          )
          for (const a of held)
            for (const b of held) if (a.finger < b.finger) expect(a.fret).toBeLessThanOrEqual(b.fret)
        },
      ),
      { numRuns: 300 },
    )
  })
  it('finds the barre harder than the open chord, and the same stretch easier up the neck', () => {
    const difficulty = (text: string) => fingerGrip(grip(text), guitar)!.difficulty
    expect(difficulty('133211')).toBeGreaterThan(difficulty('022100'))
    expect(difficulty('1xx5xx')).toBeGreaterThan(difficulty('9-x-x-13-x-x'))
    expect(difficultyWord(difficulty('022000'))).toBe('easy')
  })
  it('says the widest stretch first, and what lies beyond most hands', () => {
    const wide = fingerGrip(grip('1x3x56'), guitar)!
    expect(wide.reasons[0]).toMatch(/^fingers 1 and 3 128 mm apart/)
    expect(wide.reasons.at(-1)).toBe('strings 3 and 5 are damped between sounding ones')
    expect([difficultyWord(wide.difficulty), difficultyWord(4.7)]).toEqual(['beyond most hands', 'hard'])
  })
  it('gives each pair of fingers its share of the hand', () => {
    expect(fingerSpanMm('1', '4', USUAL_HAND)).toBe(100)
    expect(fingerSpanMm('2', '3', USUAL_HAND)).toBeLessThan(fingerSpanMm('1', '2', USUAL_HAND))
    expect(HANDS.map((hand) => hand.cautionMm).sort((a, b) => a - b)[0]).toBeLessThan(80)
  })
})

describe('grips for a chord', () => {
  const texts = (symbol: string, part = guitar, wishes = {}) =>
    must(gripsFor(symbol, part, { count: 8, ...wishes })).map((found) => writeGrip(found.grip))
  it.each([
    ['C', 'x32010'],
    ['E', '022100'],
    ['Am', 'x02210'],
    ['F', '133211'],
    ['G7', '320001'],
    ['Bm', '799777'],
    ['Cmaj7', 'x32000'],
    ['D/F#', '200232'],
  ])('offers for %s the grip everyone knows', (symbol, known) => expect(texts(symbol)).toContain(known))
  it.each([
    ['C', 'x32010'],
    ['Am', 'x02210'],
    ['E', '022100'],
    ['Em', '022000'],
    ['D', 'xx0232'],
    ['Dm', 'xx0231'],
    ['A', 'x02220'],
    ['F', '133211'],
    ['F#m', '244222'],
    ['B7', 'x21202'],
    ['Am7', 'x02010'],
    ['G6', '320000'],
    ['D/F#', '200232'],
    ['C/E', '032010'],
    ['A5', 'x022xx'],
    ['E5', '022xxx'],
    ['Bb', 'x13331'],
    ['Dsus4', 'xx0233'],
    ['C9', 'x32333'],
    ['A13', '544000'],
  ])('puts first for %s what a hand knows first: %s', (symbol, first) => expect(texts(symbol)[0]).toBe(first))
  it(
    'puts the full strum before the one that must stop short, and the easy one first ' + 'only when asked',
    () => {
      expect(texts('G').findIndex((text) => text === '320003')).toBeLessThan(4)
      expect(texts('F', guitar, { easierFirst: true })[0]).not.toBe('133211')
    },
  )
  it('says which tones a grip leaves out', () => {
    const reasonsOf = (symbol: string, text: string, part = guitar) =>
      must(gripsFor(symbol, part, { count: 60 }))
        .find((found) => writeGrip(found.grip) === text)!
        .reasons.join(', ')
    expect(reasonsOf('C9', 'x3233x')).toContain('the fifth left out')
    expect(reasonsOf('C', 'x32010')).not.toContain('left out')
    expect(reasonsOf('Em', '0xxx', bass)).toBe('one string rings, the minor third and the fifth left out')
  })
  it('sounds every tone of the chord and no other, on every tuning', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('C', 'F#m7', 'Bb7', 'Ebmaj7', 'Dsus4', 'Gm6', 'A9', 'C#dim', 'E5', 'Bm7b5'),
        fc.constantFrom(guitar, dropD, baritone, {
          ...guitar,
          instrument: { ...guitar.instrument, capo: 3 },
        }),
        (symbol, part) => {
          const chord = readChordSymbol(symbol)!
          const classes = new Set(chord.semitones.map((semitones) => (chord.root + semitones) % 12))
          for (const { grip: found, fingering } of must(gripsFor(symbol, part))) {
            const sounding = found.strings.flatMap((string, index) =>
              string.fret === null ? [] : [soundingMidi(part, index + 1, string.fret) % 12],
            )
            expect(sounding.every((pitchClass) => classes.has(pitchClass))).toBe(true)
            expect(new Set(sounding).size).toBeGreaterThanOrEqual(
              classes.size - (classes.size > 3 ? (classes.size > 4 ? 2 : 1) : 0),
            )
            expect(fingering.fingers.filter(Boolean).length).toBe(
              found.strings.filter((string) => string.fret).length,
            )
          }
        },
      ),
      { numRuns: 40 },
    )
  })
  it('stays near the grip before, and gives the easier ones first if asked', () => {
    expect(texts('F#m7/E', guitar, { after: grip('x02220') })).toContain('002222')
    const easiest = must(gripsFor('F', guitar, { easierFirst: true, count: 4 })).map(
      (found) => found.fingering.difficulty,
    )
    expect(Math.max(...easiest)).toBeLessThan(3)
    expect(must(gripsFor('Am', guitar, { after: grip('577555'), count: 1 }))[0]!.grip.strings[0]!.fret).toBe(
      5,
    )
  })
  it('takes the wanted top note, and a range of frets', () => {
    for (const found of must(gripsFor('Am', guitar, { topClass: 0, count: 3 }))) {
      const sounding = found.grip.strings.flatMap((string, index) =>
        string.fret === null ? [] : [soundingMidi(guitar, index + 1, string.fret)],
      )
      expect(Math.max(...sounding) % 12).toBe(0)
    }
    expect(
      must(gripsFor('A', guitar, { frets: { from: 5, to: 9 } })).every(({ grip: found }) =>
        found.strings.every((string) => !string.fret || (string.fret >= 5 && string.fret <= 9)),
      ),
    ).toBe(true)
  })
  it('holds a power chord with one finger on a dropped string, and one or two strings on a bass', () => {
    expect(texts('G5', dropD)).toContain('555xxx')
    for (const found of must(gripsFor('Em', bass)))
      expect(found.grip.strings.filter((string) => string.fret !== null).length).toBeLessThanOrEqual(2)
    expect(writeGrip(must(gripsFor('Em', bass, { count: 1 }))[0]!.grip)).toBe('0xxx')
  })
  it('chooses a progression as a whole', () => {
    const chosen = must(gripProgression(['Em', 'C', 'G', 'D'], guitar))
    expect(chosen.map(({ grip: found }) => symbolOf(found, guitar, C))).toEqual(['Em', 'C', 'G', 'D'])
    const high = must(gripProgression(['F#m', 'D', 'A', 'E'], guitar, { frets: { from: 4, to: 9 } }))
    const lows = high.map(({ grip: found }) =>
      Math.min(...found.strings.flatMap((string) => (string.fret ? [string.fret] : []))),
    )
    expect(Math.max(...lows) - Math.min(...lows)).toBeLessThanOrEqual(3)
  })
  it('lays a progression under its chords, cut at both ends of the figure', () => {
    const spans = gripSpans(
      [
        { startTicks: -100, lengthTicks: 300 },
        { startTicks: 200, lengthTicks: 200 },
        { startTicks: 400, lengthTicks: 900 },
        { startTicks: 1300, lengthTicks: 50 },
      ],
      ['x32010', '022000', '133211', '320003'].map((text) => grip(text)),
      1000,
      () => 'i',
    )
    expect(spans.map((span) => [span.startTicks, span.lengthTicks, writeGrip(span.grip)])).toEqual([
      [0, 200, 'x32010'],
      [200, 200, '022000'],
      [400, 600, '133211'],
    ])
  })
  it('refuses what is no chord', () =>
    expect(gripsFor('Hm', guitar)).toMatchObject({ ok: false, refusal: { code: 'chord' } }))
})

describe('a grip too wide', () => {
  const wide = grip('x-5-9-x-10-x')
  const small = HANDS.find((hand) => hand.name === 'Small hand')!
  it('is eased within the hand’s limit', () => {
    expect(reachMm(wide, guitar)).toBeGreaterThan(USUAL_HAND.cautionMm)
    const eased = easedGrips(wide, guitar, C)
    expect(eased.length).toBeGreaterThan(1)
    for (const one of eased) expect(reachMm(one.grip, guitar)).toBeLessThanOrEqual(USUAL_HAND.cautionMm)
  })
  it('goes by the student’s hand', () => {
    const span = grip('2xx5xx')
    expect([isComfortable(span, guitar, USUAL_HAND), isComfortable(span, guitar, small)]).toEqual([
      true,
      false,
    ])
    expect(gripFacts({ key: C }, guitar, span, 'shape', small).caution).toContain('small hand')
  })
  it(
    'lets one finger move in time where the strings are plucked one by one, on the ' +
      'count where it is needed',
    () => {
      const pluck = (string: number, at: number): Stroke => ({
        id: `s${at}`,
        startTicks: at * Q,
        lengthTicks: Q,
        direction: 'fingers',
        strings: [string],
        marks: [],
      })
      const span = { id: 'g', startTicks: 0, lengthTicks: 4 * Q, grip: grip('x-5-9-x-10-x') }
      const moving = movingGrip(span, [pluck(5, 0), pluck(4, 1), pluck(2, 2), pluck(4, 3)], guitar)!
      expect(moving.moves[0]).toMatchObject({ tick: Q, toString: 4, fret: 9 })
      for (const part of moving.spans) expect(isComfortable(part.grip, guitar, USUAL_HAND)).toBe(true)
      expect(moving.spans.reduce((sum, part) => sum + part.lengthTicks, 0)).toBe(4 * Q)
      expect(movingGrip(span, [{ ...pluck(5, 0), strings: undefined }, pluck(4, 1)], guitar)).toBeUndefined()
      // One end of the stretch is done before the other begins: one move, where the fewest fingers go.
      const once = movingGrip(span, [pluck(5, 0), pluck(4, 1), pluck(4, 2), pluck(2, 3)], guitar)!
      expect(once.spans).toHaveLength(2)
      expect(new Set(once.moves.map(({ tick }) => tick))).toEqual(new Set([Q]))
      const notes = [pluck(5, 0), pluck(4, 1), pluck(2, 2)].map(({ startTicks, strings }) => ({
        startTicks,
        marks: [],
        strings: strings!,
      }))
      expect(movingGrip(span, notes, guitar)!.spans).toHaveLength(2)
    },
  )
})
