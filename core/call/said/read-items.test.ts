// What is said, piece by piece, before it stands on strings: words, notes, movements, grips, counts.
import { newPart } from '../../document/new-song'
import { readGrip, writeGrip } from '../../neck/grips/grip'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import type { CallContext } from '../reading'
import { describe, expect, it } from 'vitest'
import type { Item, ItemOf } from './items'
import { lexemes } from './lexemes'
import { readItems } from './read-items'

const context: CallContext = {
  part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }),
  letters: ['E', 'B', 'G', 'D', 'A', 'E'],
  meter: { beats: 4, unit: 4 },
  subdivision: 'eighths',
  stepTicks: Q / 2,
}
const held: CallContext = {
  ...context,
  content: {
    grips: [{ id: 'g', startTicks: 0, lengthTicks: 4 * Q, grip: readGrip('x02210', 6)! }],
    notes: [],
    strokes: [],
    mutes: [],
  },
}
const specText = (spec: {
  letter?: string
  which?: string | undefined
  number?: number
  bass?: boolean
}): string => (spec.bass ? 'bass' : `${spec.which ?? ''}${spec.letter ?? spec.number ?? ''}`)

const noteText = (item: ItemOf<'note'>): string => {
  const on = item.strings ? `@${item.strings.map(specText).join('+')}` : ''
  const marks = item.marks.map((mark) => `{${mark.kind}}`).join('')
  const count = item.count > 1 ? `x${item.count}` : ''
  return `${item.move ? `${item.move}~` : ''}${item.dead ? 'dead' : item.fret}${on}${marks}${count}`
}
const strokeText = (item: ItemOf<'stroke'>): string =>
  `${item.dead ? 'dead ' : ''}${item.direction ?? 'strum'}${item.count > 1 ? `x${item.count}` : ''}`
/** An item in a few signs: 7 a fret, @G its string named with it, ~ a movement, [G] strings, | a stop. */
const SHORT: { [K in Item['k']]?: (item: ItemOf<K>) => string } = {
  note: noteText,
  strings: (item) => `[${item.after ? '<' : ''}${item.specs.map(specText).join('+')}]`,
  stop: (item) => (item.text === 'then' ? 'then' : '|'),
  chord: (item) => item.symbol,
  grip: (item) => writeGrip(item.grip),
  stroke: strokeText,
  mark: ({ mark, reach }) => `${mark.kind} ${typeof reach === 'string' ? reach : `last ${reach.last}`}`,
  times: (item) => `${item.times} times`,
  place: (item) => `${item.rest ? 'rest ' : ''}at ${item.ticks / (Q / 2)}`,
  again: (item) => `again ${item.ways.map((way) => way.how).join(' ')}`.trim(),
  change: (item) => `change: ${item.change.what}`,
  length: ({ length }) => `for ${'ticks' in length ? `${length.ticks / Q} beats` : `${length.steps} steps`}`,
}
const short = (item: Item): string => (SHORT[item.k] as ((one: Item) => string) | undefined)?.(item) ?? item.k
const items = (call: string, where = context): string => readItems(call, where).items.map(short).join(' ')

describe('words', () => {
  it.each([
    ['hammer on to 9', 'word hammer, word to, number 9'],
    ['hammer-on', 'word hammer'],
    ['7-9-11', 'number 7, number 9, number 11'],
    ['down-up', 'word down, word up'],
    ['two fives', 'number two, number fives'],
    ['open Ds', 'word open, letter D'],
    ['the thirteenth fret', 'ordinal thirteenth, word fret'],
    ['x02210', 'grip x02210'],
    ['x-12-14-14-14-12', 'grip x-12-14-14-14-12'],
    ['D/F# Am7', 'chord D/F#, chord Am7'],
    ['let it ring into', 'word ring, word into'],
    ['at the same time', 'word together'],
    ['half-step bend', 'word halfstep, word bend'],
    ['four times', 'number four, word times'],
    ['play it x3', 'word repeat, count x'],
    ['7; 8. 9\n10', 'number 7, stop ;, number 8, stop ., number 9, stop \n, number 10'],
  ])('%s', (call, read) =>
    expect(
      lexemes(call, 6)
        .map((one) => `${one.kind} ${one.text}`)
        .join(', '),
    ).toBe(read),
  )
  it('keep their places, “the” with what follows it, and say what is one word with a dash', () => {
    const [string, other] = lexemes('on the G-string', 6).slice(1)
    expect(string).toMatchObject({ text: 'G', the: true, at: 7, end: 8 })
    expect(other).toMatchObject({ text: 'string', dash: true })
  })
})

describe('frets and strings', () => {
  it.each([
    ['9 on the G', '9 [<G]'],
    ['third string, 7, 9', '[3] | 7 | 9'],
    ['ninth fret on the D string', '9 [<D]'],
    ['open low E, open, 3', '0@lowE | 0 | 3'],
    ['D and G open', '0@D+G'],
    ['two fives on the A', '5x2 [<A]'],
    ['fifth fret of the second and third strings together', '5 [<2+3] together'],
    ['the top three at 10', '[3+2+1] 10'],
    ['5 on the A with 7 on the D', '5 [<A] 7 [<D]'],
    ['frets 12, 11 and 9', '12 | 11 and 9'],
    ['four on its own at five', '[4] 5'],
    ['power chord on 3 of the low E', '3 [<lowE]'],
    ['barre the top two at 5', '5@2+1'],
    ['two dead notes on the low E', 'deadx2 [<lowE]'],
    ['5, 7, 5, all on the A', '5 | 7 | 5 | [<A]'],
    ['two notes on the D, 5 and 7', '[D] | 5 and 7'],
  ])('%s', (call, read) => expect(items(call)).toBe(read))
  it('passes over words that carry nothing, and tells which they were', () => {
    const call = 'okay so you play 7 on the G'
    const { items: said, empty, unknown } = readItems(call, context)
    expect(said.map(short).join(' ')).toBe('7 [<G]')
    expect(empty.map(({ at, end }) => call.slice(at, end)).join(' ')).toBe('okay so you play')
    expect(unknown).toEqual([])
  })
})

describe('movements, bends and marks', () => {
  it.each([
    ['hammer on from 2 to 4 on the D', '2 hammer~4 [<D]'],
    ['7 on the D, slide up to 9 and back', '7 [<D] | slide~9 slide~7'],
    ['slide into 11 from below on the B', '11{slide} [<B]'],
    ['quick hammer-on and pull-off on the B, 6 8 6', '[B] | 6 hammer~8 pull~6'],
    ['12, 10 on the B as a pull-off', '12 | pull~10 [<B]'],
    ['pull off to the open string', 'pull~0'],
    ['5, up to 7, back to 5', '5 | 7 | 5'],
    ['bend the 8 a whole step', '8{bend}'],
    ['half-step bend at 13', '13{bend}'],
    ['two bends on 10 of the B', '10{bend}x2 [<B]'],
    ['7 on the G, bend it up and let it down', '7{bend} [<G] |'],
    ['12th fret harmonic on the D', '12 natural harmonic before [<D]'],
    ['all palm muted, 0 0 3', 'palm mute following | 0 0 3'],
    ['0 0 3, palm mute all of that except the last', '0 0 3 | palm mute all but last'],
    ['2 3 2, let these three ring', '2 3 2 | let ring last 3'],
    ['grace note hammer from 1 to 2', '2{grace}'],
  ])('%s', (call, read) => expect(items(call)).toBe(read))
})

describe('grips, strokes, counts', () => {
  it.each([
    ['an A minor', 'Am'],
    ['D over F sharp', 'D/F#'],
    ['E seven sharp nine', 'E7#9'],
    ['C with a G in the bass', 'C/G'],
    ['B flat major to an F', 'Bb F'],
    ['G D Em C', 'G D Em C'],
    ['two bars of G, one of D', 'G | D'],
    ['G for four, A for four', 'G for 4 beats | A for 4 beats'],
    ['E shape barre at the fifth fret', '577655'],
    ['Em, down, two dead ones, up', 'Em | down | dead strumx2 | up'],
    ['A7, chuck chuck', 'A7 | dead strum dead strum'],
    ['E, on one, and the and of two', 'E | at 0 | and at 3'],
    ['A5, one and two, rest on three', 'A5 | at 0 at 1 at 2 rest at 4'],
    ['C, all downs, four of them', 'C | downx4'],
  ])('%s', (call, read) => expect(items(call)).toBe(read))
  it.each([
    ['5 3 2 3', 'grip@5 grip@3 grip@2 grip@3'],
    ['A G B high E', 'grip@A grip@G grip@B grip@highE'],
    ['bass note, then G and B together', 'grip@bass | then grip@G+B'],
    ['mute the A and the high E', 'change: mute'],
    ['lift the finger off the G string, leave the rest', 'change: open |'],
    ['take the first finger off', 'change: lift finger'],
    ['now with F sharp in the bass', 'change: bass'],
    ['add the pinky at 3 on the high E', 'change: fret'],
    ['just the top three strings of that', 'change: only'],
  ])('over a grip that is held: %s', (call, read) => expect(items(call, held)).toBe(read))
})

describe('again, and no', () => {
  it.each([
    ['same thing on the B', 'again strings'],
    ['that whole thing up two frets', 'again frets'],
    ['an octave higher', 'again octave'],
    ['same again, but finish on 7 of the D', 'again'],
    ['a third above, in the key', 'again harmony'],
    ['same shape, one set of strings higher', 'again set'],
    ['the last two notes again', 'again'],
    ['5 on the A, three times', '5 [<A] | 3 times'],
    ['10, 12 again', '10 | 12'],
    ['8, sorry, 9 on the D', '9 [<D]'],
    ['7 on the G, no, the B', '7 [<B] |'],
    ['5 on the A, I mean 7 on the A', '7 [<A]'],
    ['10 on the B, 12, scratch that, 13', '10 [<B] | | 13'],
    ['3 on the low E, no wait, 5, then 3', '5 [<lowE] | | then 3'],
  ])('%s', (call, read) => expect(items(call)).toBe(read))
})
