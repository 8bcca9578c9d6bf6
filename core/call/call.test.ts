import { hasMark, markOf } from '../marks/marks-of'
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { newPart } from '../document/new-song'
import {
  EMPTY_CONTENT,
  type Mark,
  type Content,
  type GripSpan,
  type MuteSpan,
  type Note,
  type Stroke,
} from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { readGrip } from '../neck/grips/grip'
import { parseCall, type CallContext, type CallResult } from './parse'
import { speak } from './speak'
import { callString, findString, stringLetters } from './strings'
import { numberOf, WORDS, wordOf } from './vocabulary'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const letters = stringLetters({ key: { tonic: 'E', mode: 'minor' } }, part)
const FOUR = { beats: 4, unit: 4 } as const
const context: CallContext = {
  part,
  letters,
  meter: FOUR,
  subdivision: 'eighths',
  stepTicks: Q / 2,
  gripFor: (symbol) => (symbol === 'Em' ? readGrip('022000', 6) : undefined),
}
const call = (text: string, more: Partial<CallContext> = {}): CallResult =>
  parseCall(text, { ...context, ...more })
const content = (text: string, more: Partial<CallContext> = {}): Content => {
  const result = call(text, more)
  if (!result.ok) throw new Error(`${text}: ${result.error.message}`)
  return result.value.content
}
/** "3/7" string and fret, "h p s" how reached, "+2" when longer than a step. */
const short = (text: string): string =>
  content(text)
    .notes.map((note) => {
      const move = note.marks
        .map((mark) => ({ 'hammer-on': 'h', 'pull-off': 'p', slide: 's' })[mark.kind as string] ?? '')
        .join('')
      const eighths = note.lengthTicks / (Q / 2)
      return `${note.string}/${note.fret}${move}${eighths === 1 ? '' : `+${eighths}`}`
    })
    .join(' ')
const error = (text: string, more: Partial<CallContext> = {}) => {
  const result = call(text, more)
  if (result.ok) throw new Error(`understood: ${text}`)
  return { ...result.error, word: text.slice(result.error.at, result.error.end) }
}

describe('calls as teachers say them', () => {
  it.each([
    ['on G seven seven, hammer seven nine eleven, B eight eight', '3/7 3/7 3/7 3/9h 3/11h 2/8 2/8'],
    ['high E eight pull seven pull five', '1/8 1/7p 1/5p'],
    ['slide D nine to twelve', '4/9 4/12s'],
    [
      'D string seven five seven five, A seven five three, low E three slide five',
      '4/7 4/5 4/7 4/5 5/7 5/5 5/3 6/3 6/5s',
    ],
    ['g 7h9p7 b 8 8 e 5.', '3/7 3/9h 3/7p 2/8 2/8 1/5+1.5'],
    ['3:7 9, 2:8', '3/7 3/9 2/8'],
    ['third string seven-nine', '3/7 3/9'],
    ['seven nine on the G', '3/7 3/9'],
    ['A2h4 G7', '5/2 5/4h 3/7'],
    ['G 7 hammer on 9 pull off 7', '3/7 3/9h 3/7p'],
    ['G 7, hammer 9, 7', '3/7 3/9h 3/7'],
    ['D 7 5, twice', '4/7 4/5 4/7 4/5'],
    ['( D 7 5 ) *3', '4/7 4/5 4/7 4/5 4/7 4/5'],
    ['D 7 5 again', '4/7 4/5 4/7 4/5'],
    ['G 7 9 7\nsame again but last note 5', '3/7 3/9 3/7 3/7 3/9 3/5'],
    ['G 7 9 7\nsame again but last two notes B 8 10', '3/7 3/9 3/7 3/7 2/8 2/10'],
    ['G 7 9 7\nsame again but first note 5', '3/7 3/9 3/7 3/5 3/9 3/7'],
    ['G 7 for a quarter 9 for 3, 7 ~, 5 *4', '3/7+2 3/9+3 3/7+2 3/5+4'],
    ['G 7 rest 9', '3/7 3/9'],
    ['low E: 0 0 3 0', '6/0 6/0 6/3 6/0'],
    ['fifth string third fret', '5/3'],
    ['sixth string open, 12th fret', '6/0 6/12'],
    ['4th string 5 7 slide up to 9', '4/5 4/7 4/9s'],
    ['D hammer from 5 to 7', '4/5 4/7h'],
    ['G 9 slide back to 7 and then 5', '3/9 3/7s 3/5'],
    ['open A string, two, open, two', '5/0 5/2 5/0 5/2'],
    ['G open A 5', '3/0 5/5'],
    ['slide up from 5 to 7 on D', '4/5 4/7s'],
    ['play G 7, then just 9', '3/7 3/9'],
    ['in 16ths G 7 9, quavers 5', '3/7+0.5 3/9+0.5 3/5'],
    ['G 7, two beats rest, 9', '3/7 3/9'],
    ['(D 7 5) x3', '4/7 4/5 4/7 4/5 4/7 4/5'],
    ['triplets G 5 7 9', '3/5+0.6666666666666666 3/7+0.6666666666666666 3/9+0.6666666666666666'],
    ['quarter note rest, G 7, rest two beats', '3/7'],
    ['A 2 power for 2', '5/2+2 4/4+2'],
    ['power E 3 3 slide 5', '6/3 5/5 6/3 5/5 6/5s 5/7s'],
    ['A 2 octave, 4', '5/2 3/4 5/4'],
    ['low E open, high E open', '6/0 1/0'],
    ['E open e open', '6/0 1/0'],
  ])('%s', (text, notes) => expect(short(text)).toBe(notes))
  it('puts notes together, and one fret across strings', () => {
    expect(content('D 9 and B 10, A 7').notes.map((note) => [note.string, note.startTicks])).toEqual([
      [4, 0],
      [2, 0],
      [5, Q / 2],
    ])
    expect(content('hold x02220, two dead, three on four-three-two')).toMatchObject({
      strokes: [
        { marks: [{ kind: 'dead' }], direction: 'down' },
        { marks: [{ kind: 'dead' }], direction: 'up' },
      ],
      notes: [{ string: 4, fret: 3, startTicks: Q }, { string: 3 }, { string: 2 }],
    })
  })
  it('bends, releases and shakes', () => {
    expect(content('G nine bend two, release, seven wide vibrato').notes.map((note) => note.marks)).toEqual([
      [{ kind: 'bend', semitones: 2, shape: 'plain' }],
      [{ kind: 'bend', semitones: 2, shape: 'release' }],
      [{ kind: 'vibrato', width: 'wide' }],
    ])
    expect(
      content('B 8 bend half and release, 10 pre-bend full, 8 bend 1.5 and hold').notes.map(
        (note) => note.marks[0],
      ),
    ).toMatchObject([
      { semitones: 1, shape: 'bend and release' },
      { semitones: 2, shape: 'pre-bend' },
      { semitones: 1.5, shape: 'bend and hold' },
    ])
  })
  it('takes a mark said first through its whole clause, as one says it', () => {
    expect(content('palm mute low E open open, three').notes.map((note) => note.marks)).toEqual([
      [{ kind: 'palm mute', pressure: 'medium' }],
      [{ kind: 'palm mute', pressure: 'medium' }],
      [],
    ])
    expect(content('let ring D 2 G 2 B 3, ghost E 0').notes.map((note) => note.marks[0]!.kind)).toEqual([
      'let ring',
      'let ring',
      'let ring',
      'ghost',
    ])
    expect(content('7 on the G, bend up one tone and release').notes).toMatchObject([
      { fret: 7, marks: [{ kind: 'bend', semitones: 2, shape: 'bend and release' }] },
    ])
    expect(content('D 5 5 7, let it ring').notes.map((note) => note.marks.length)).toEqual([0, 0, 1])
    expect(
      content('high e 15 full bend, 12 half step bend and release').notes.map((note) => note.marks),
    ).toEqual([
      [{ kind: 'bend', semitones: 2, shape: 'plain' }],
      [{ kind: 'bend', semitones: 1, shape: 'bend and release' }],
    ])
    expect(content('hold x32010, two dead, one chord, double stop 7 on G and B')).toMatchObject({
      strokes: [{ marks: [{ kind: 'dead' }] }, { marks: [{ kind: 'dead' }] }, { marks: [] }],
      notes: [
        { string: 3, fret: 7 },
        { string: 2, fret: 7 },
      ],
    })
    expect(
      content('natural harmonic twelve on G, pinch harmonic A 5').notes.map((note) => note.marks),
    ).toEqual([[{ kind: 'natural harmonic' }], [{ kind: 'pinched harmonic', semitones: 12 }]])
    expect(
      content('hold Em, strum down down up, mute, mute, up').strokes.map(
        (stroke) => `${hasMark(stroke, 'dead') ? 'x' : ''}${stroke.direction}`,
      ),
    ).toEqual(['down', 'down', 'up', 'xup', 'xdown', 'up'])
    expect(
      content('accent G 7 hammer 9, G 5, vibrato').notes.map((note) => [note.marks.map(({ kind }) => kind)]),
    ).toEqual([[['accent']], [['hammer-on', 'accent']], [['vibrato']]])
    expect(
      content('palm firm down down, up').strokes.map((stroke) => markOf(stroke, 'palm mute')?.pressure),
    ).toEqual(['firm', 'firm', undefined])
    expect(content('A 2 power palm firm accent').notes).toMatchObject([
      { marks: [{ kind: 'palm mute' }, { kind: 'accent' }] },
      { marks: [{ kind: 'palm mute' }, { kind: 'accent' }] },
    ])
    expect(
      content('power E 0 0', {
        part: { ...part, tuning: { ...part.tuning, openMidi: [64, 59, 55, 50, 45, 38] } },
      }).notes.map((note) => note.fret),
    ).toEqual([0, 0, 0, 0])
  })
  it.each([
    ['bend a whole step', 2],
    ['bend up a half step', 1],
    ['bend two semitones', 2],
    ['bend one step', 2],
    ['bend two steps', 4],
    ['bend by 1.5', 1.5],
    ['bend full', 2],
    ['bend a quarter tone', 0.5],
    ['bend a semitone', 1],
  ])('G 9 %s: %f semitones', (said, semitones) => {
    const { notes } = content(`G 9 ${said}, 7`)
    expect(notes[0]!.marks).toEqual([{ kind: 'bend', semitones, shape: 'plain' }])
    expect(notes).toHaveLength(2)
  })
  it.each([
    ['E minor', 'Em'],
    ['B flat major seven', 'Bbmaj7'],
    ['D over F sharp', 'D/F#'],
    ['A sus four', 'Asus4'],
    ['the C add nine', 'Cadd9'],
    ['the F#m7', 'F#m7'],
    ['E minor seven', 'Em7'],
    ['A seven', 'A7'],
    ['G power', 'G5'],
    ['F#m7/E', 'F#m7/E'],
  ])('hold %s asks for %s', (said, symbol) => {
    const asked: string[] = []
    content(`hold ${said}, down`, {
      gripFor: (name) => {
        asked.push(name)
        return readGrip('022000', 6)
      },
    })
    expect(asked).toEqual([symbol])
  })
  it('plays the bass string of a grip and the others', () => {
    expect(content('hold x32010, bass chord bass chord').strokes.map((stroke) => stroke.strings)).toEqual([
      [5],
      [1, 2, 3, 4],
      [5],
      [1, 2, 3, 4],
    ])
    expect(content('bass chord', { content: content('hold 320003') }).strokes[0]!.strings).toEqual([6])
    expect(content('hold x32010, two dead, chord').strokes.at(-1)!.strings).toBeUndefined()
  })
  it('holds grips by name or strings, one after the other or under what follows', () => {
    expect(content('hold Em for 8, hold x32010 for 8, pluck 6 4 3 2').grips).toMatchObject([
      { startTicks: 0, lengthTicks: 4 * Q },
      { startTicks: 4 * Q, lengthTicks: 4 * Q },
    ])
    expect(content('hold Em, down down, hold x32010, down').grips).toMatchObject([
      { startTicks: 0, lengthTicks: Q },
      { startTicks: Q, lengthTicks: Q / 2 },
    ])
    expect(content('hold the x02220, down').grips[0]!.grip).toEqual(readGrip('x02220', 6))
    expect(content('hold 133211 fingered 134211 barre 1 from 6 to 1').grips[0]!.grip).toMatchObject({
      barre: { fret: 1, fromString: 6, toString: 1 },
      strings: [{ finger: '1' }, {}, { finger: '2' }, { finger: '4' }, {}, {}],
    })
  })
  it('goes to places and changes the step', () => {
    expect(content('at bar 2 on 3, G 7, at the and of 4, 9').notes.map((note) => note.startTicks)).toEqual([
      6 * Q,
      7.5 * Q,
    ])
    expect(content('in sixteenths G 7 9 in triplets 7').notes.map((note) => note.lengthTicks)).toEqual([
      Q / 4,
      Q / 4,
      Q / 3,
    ])
    expect(content('palm firm [ low E open open ] A 2').mutes).toMatchObject([
      { mark: { kind: 'palm mute', pressure: 'firm' }, startTicks: 0, lengthTicks: Q },
    ])
  })
})

describe('strings in every way they are said', () => {
  const strings = (text: string) => content(text).notes.map((note) => `${note.string}/${note.fret}`)
  it.each<[string, string[]]>([
    ['7 on low E', ['6/7']],
    ['7 on the high E', ['1/7']],
    ['3 on string 4', ['4/3']],
    ['five on low E and A', ['6/5', '5/5']],
    ['5 on string 6 and string 5', ['6/5', '5/5']],
    ['7 on E-A-D', ['6/7', '5/7', '4/7']],
    ['B flat', []],
    ['5 on low E and A 7', ['6/5', '5/7']],
    ['7 9 on G string', ['3/7', '3/9']],
    ['string three 5', ['3/5']],
    ['string 3, 5 7', ['3/5', '3/7']],
    ['2nd string 8, first 9', []],
    ['5: 2', ['5/2']],
    ['3:x7', ['3/7']],
    ['6:o', ['6/0']],
    ['G x5', ['3/5']],
  ])('%s', (text, expected) => {
    if (expected.length === 0) {
      expect(call(text).ok).toBe(false)
      return
    }
    expect(strings(text)).toEqual(expected)
  })
  it('puts a stroke on some of them', () => {
    expect(
      content('hold Em, down on low E and A, up on 3-2-1, down on G').strokes.map((stroke) => stroke.strings),
    ).toEqual([[5, 6], [1, 2, 3], [3]])
    expect(content('hold Em, d u d, A 2').strokes.map((stroke) => stroke.direction)).toEqual([
      'down',
      'up',
      'down',
    ])
  })
  it('knows flats, sharps and three strings of one name', () => {
    const openDflat = { letters: ['Eb', 'Bb', 'Gb', 'Db', 'Ab', 'Eb'] }
    expect(content('B flat 3, Gb 5, e flat 7', openDflat).notes.map((note) => note.string)).toEqual([2, 3, 1])
    expect(
      content('high D 1, middle D 2, low D 3', { letters: ['D', 'A', 'F#', 'D', 'A', 'D'] }).notes.map(
        (note) => note.string,
      ),
    ).toEqual([1, 4, 6])
    expect(content('F sharp 4', { letters: ['D', 'A', 'F#', 'D', 'A', 'D'] }).notes[0]!.string).toBe(3)
  })
  it('changes one note of a line said before, by place', () => {
    const frets = (text: string) =>
      content(text)
        .notes.slice(3)
        .map((note) => note.fret)
    expect([
      frets('G 7 9 7\nsame again but note 2 5'),
      frets('G 7 9 7\nsame again, but the last note 5'),
      frets('G 7 9 7\nsame again but third note 10'),
    ]).toEqual([
      [7, 5, 7],
      [7, 9, 5],
      [7, 9, 10],
    ])
  })
  it.each([
    ['string 7 on', /Which string\?|no string 7/],
    ['7 on', /On which strings/],
    ['down on string 9', /no string 9/],
    ['string', /Say its number/],
    ['low H 3', /Which string is “low H”/],
    ['fingered x01230', /Hold one first/],
    ['hold Em fingered 99', /one sign a string/],
    ['barre 2', /belongs to a grip/],
    ['hold Em barre 2 from 9 to 1', /From which string/],
    ['hold', /Which grip/],
    ['hold xyz', /no grip for 6 strings/],
    ['hold x-30-30-x-x-x', /beyond the neck/],
    ['pluck', /Which strings, in order/],
    ['bass', /of which grip/],
    ['times', /How many times/],
    ['twice', /nothing before this to repeat/],
    ['G 7, 99 times', /up to 64/],
    ['same again', /no line before/],
    ['G 7 9\nsame again but', /But which note/],
    ['G 7 9\nsame again but ninth note 3', /has 2 notes/],
    ['G 7 9\nsame again but last two notes 5', /1 more note is missing/],
    ['G 7 for', /How long/],
    ['G 7 for 0', /no length/],
    ['tie', /nothing before this to lengthen/],
    ['at bar', /Which bar/],
    ['at the and of 9', /no count 9/],
    ['at', /At which place/],
    ['in', /In which steps/],
    ['G 7 in from beside', /Slid in from where/],
    ['slide in 7', /Say the fret first/],
    ['G 7 grace', /which fret/i],
    ['grace 20 to 3', /within seven frets|which string/i],
    ['G 7 pick sideways', /Picked which way/],
    ['G 7 finger 7', /Which finger/],
    ['palm firm [', /does not end/],
    ['palm firm [ ]', /nothing inside/],
    ['G 7 ]', /closes no muting/],
    ['[', /begins a stretch/],
    ['palming', /for how long/],
    ['trill 9', /say the fret first|which string/i],
    ['G 21 trill 24', /beyond the neck|highest/i],
    ['*', /wants a number/],
    ['70 down', /say it in bars/],
    ['G 7 and G 9', /Two notes on one string/],
  ])('“%s” stops with a reason', (text, message) => expect(error(text).message).toMatch(message))
})

describe('what cannot be played says why, where, and what is nearest', () => {
  it.each([
    ['e 5 and e 7', '7', /two notes on one string at once/i, '2:12'],
    ['G 30', '30', /highest is 22/, '1:21'],
    ['G 7 B hammer 9', '9', /stays on its string/, '9'],
    ['E open bend 2', 'bend', /open string cannot be bent/, undefined],
    ['G 9 hammer 7', '7', /is a pull-off/, 'pull 7'],
    ['G 7 pull 9', '9', /is a hammer-on/, 'hammer 9'],
    ['G 7 hamer 9', 'hamer', /not a word/, 'hammer'],
    ['H 7', 'H', /not a word/, 'high'],
    ['string 9 7', 'string', /no string 9/, 'string 6'],
    ['( G 7', '7', /not closed/, ')'],
    ['G 7 )', ')', /closes nothing/, undefined],
    ['7 9', '7', /which string/i, 'G 7'],
    ['Bb 7', 'Bb', /no string “Bb”/, 'G'],
    ['A 0 0 0 0 0 0 0 0 0 |', '|', /9 of 8 eighths/, 'in triplets'],
    ['release', 'release', /no bend/, 'bend 2, release'],
    ['eighth G 7', 'eighth', /for this note, or from here on/, 'in eighths'],
    ['high E 7 power', 'power', /no string above/, '2:12 power'],
    ['power chord', 'power', /of which note/, 'A 2 power'],
    ['G 9 bend nine', 'bend', /between 0.25 and 5/i, 'full'],
  ])('%s', (text, word, message, suggestion) => {
    const found = error(text)
    expect(found.word).toBe(word)
    expect(found.message).toMatch(message)
    if (suggestion) expect(found.suggestions).toContain(suggestion)
  })
  it('says by how much a bar is overfull, and what to do about it', () => {
    expect(error('A 0 0 0 0 0 0 0 0 0', { lengthTicks: 4 * Q })).toMatchObject({
      message: 'Bar 1 would hold 9 of 8 eighths.',
      overTicks: Q / 2,
      suggestions: ['tie over into a new bar', 'squeeze into a tuplet', 'a longer bar'],
    })
  })
  it('never crashes and never gives half a call, whatever is typed', () => {
    const words = fc.constantFrom(
      ...WORDS.flatMap((word) => [word.word, word.short ?? word.word]),
      ...letters,
      'G7',
      '7h9',
      '12',
      '0',
      '99',
      'two',
      'half',
      '*3',
      '(',
      ')',
      '[',
      ']',
      '|',
      ',',
      '\n',
      'bar',
      'x02220',
      'Em',
      'but',
      'last',
      'note',
      '1/8',
      '3/2',
      '4-3-2',
      'x5',
      '2:8',
      '٣',
      '💥',
      'ticks',
      '-1',
      'from',
      'below',
    )
    fc.assert(
      fc.property(
        fc.array(fc.oneof({ weight: 9, arbitrary: words }, { weight: 1, arbitrary: fc.string() }), {
          maxLength: 40,
        }),
        fc.option(
          fc.integer({ min: 1, max: 8 }).map((bars) => bars * 4 * Q),
          { nil: undefined },
        ),
        (list, lengthTicks) => {
          const text = list.join(' ')
          const result = call(text, lengthTicks === undefined ? {} : { lengthTicks })
          if (result.ok) {
            for (const event of [...result.value.content.notes, ...result.value.content.strokes])
              expect(event.lengthTicks).toBeGreaterThan(0)
            for (const note of result.value.content.notes)
              expect(note.fret <= 22 && note.string >= 1 && note.string <= 6).toBe(true)
          } else {
            expect(result.error.message.length).toBeGreaterThan(5)
            expect(
              result.error.at >= 0 && result.error.end <= text.length && result.error.at < result.error.end,
            ).toBe(true)
          }
        },
      ),
      { numRuns: 3000 },
    )
  })
})

// Contents of everything the language covers, and the same content without ids and in one order.
const marksText = (marks: readonly Mark[]): string[] =>
  marks.map((mark) => JSON.stringify(Object.entries(mark).sort())).sort()
const plain = (value: Content) => ({
  grips: value.grips.map(({ id: _, ...span }) => span),
  strokes: value.strokes.map(({ id: _, marks, ...stroke }) => ({ ...stroke, marks: marksText(marks) })),
  mutes: value.mutes
    .map(({ id: _, ...mute }) => mute)
    .sort((a, b) => a.startTicks - b.startTicks || a.mark.kind.localeCompare(b.mark.kind)),
  notes: value.notes
    .map(({ id: _, marks, ...note }) => ({
      ...note,
      marks: marksText(marks),
    }))
    .sort((a, b) => a.startTicks - b.startTicks || a.string - b.string),
})
const lengths = fc.oneof(
  fc.constantFrom(Q / 4, Q / 3, Q / 2, Q, 1.5 * Q, 2 * Q, 6 * Q),
  fc.integer({ min: 1, max: 3 * Q }),
)
const optional = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined })
const marks = fc
  .subarray<Mark>(
    [
      { kind: 'vibrato', width: 'wide' },
      { kind: 'trill', frets: 2 },
      { kind: 'tremolo picking' },
      { kind: 'natural harmonic' },
      { kind: 'pinched harmonic', semitones: 19 },
      { kind: 'arm', semitones: -2, how: 'dip' },
      { kind: 'rake' },
      { kind: 'ghost' },
      { kind: 'staccato' },
      { kind: 'let ring' },
      { kind: 'palm mute', pressure: 'light' },
      { kind: 'choke' },
      { kind: 'tap' },
      { kind: 'dead' },
      { kind: 'grace', frets: -1 },
      { kind: 'bend', semitones: 0.75, shape: 'plain' },
      { kind: 'slide', how: 'out' },
      { kind: 'slide', how: 'in from below', frets: 2 },
    ],
    { maxLength: 3 },
  )
  .map((list) => list.filter((mark, index) => list.findIndex((other) => other.kind === mark.kind) === index))
const bends = fc
  .constantFrom<Mark['kind'] & 'bend'>('bend')
  .chain(() =>
    fc.tuple(
      fc.constantFrom(0.25, 0.5, 1, 2, 3),
      fc.constantFrom('plain', 'pre-bend', 'release', 'bend and hold', 're-bend', 'bend and release'),
    ),
  )
  .map(([semitones, shape]): Mark => ({ kind: 'bend', semitones, shape }) as Mark)
const event = fc.record({
  gap: fc.oneof({ weight: 4, arbitrary: fc.constant(0) }, { weight: 1, arbitrary: lengths }),
  length: lengths,
  rings: optional(lengths),
  strings: fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 3 }),
  fret: fc.integer({ min: 2, max: 14 }),
  step: fc.integer({ min: 1, max: 3 }),
  move: optional(fc.constantFrom('hammer-on', 'pull-off', 'legato', 'shift')),
  marks,
  bend: optional(bends),
  accent: fc.boolean(),
  pick: optional(fc.constantFrom('down' as const, 'up' as const)),
  finger: optional(fc.constantFrom('T' as const, '1' as const, '4' as const)),
  again: fc.boolean(),
})
function notesOf(events: readonly (typeof event extends fc.Arbitrary<infer T> ? T : never)[]): Note[] {
  const notes: Note[] = []
  let at = 0
  let before: Note[] = []
  for (const [index, one] of events.entries()) {
    at += one.gap
    const strings = one.again && before[0] ? [before[0].string] : one.strings
    const group = strings.map((string, place): Note => {
      const source = before.find((note) => note.string === string)
      const move = source && place === 0 && strings.length === 1 && before.length === 1 ? one.move : undefined
      const fret =
        !move || !source
          ? one.fret
          : move === 'pull-off'
            ? Math.max(0, source.fret - one.step)
            : Math.min(20, source.fret + one.step)
      const own: Mark[] =
        move && fret !== source!.fret
          ? [move === 'hammer-on' || move === 'pull-off' ? { kind: move } : { kind: 'slide', how: move }]
          : []
      const extra = one.marks.filter(
        (mark) =>
          !(own[0]?.kind === 'slide' && mark.kind === 'slide') &&
          (fret > 0 || !['vibrato', 'bend', 'grace'].includes(mark.kind)),
      )
      const bend = one.bend && fret > 0 && !extra.some((mark) => mark.kind === 'bend') ? [one.bend] : []
      return {
        id: `n${index}/${place}`,
        string,
        fret,
        startTicks: at,
        lengthTicks: place === 0 ? one.length : (one.rings ?? one.length),
        marks: [...own, ...extra, ...bend].slice(0, 8),
        ...(one.accent ? { marks: [{ kind: 'accent' }] } : {}),
        ...(one.pick ? { pick: one.pick } : {}),
        ...(one.finger ? { finger: one.finger } : {}),
      }
    })
    notes.push(...group)
    before = group
    at +=
      one.rings && one.rings > one.length
        ? one.length
        : Math.max(one.length, ...group.map((note) => note.lengthTicks))
  }
  return notes
}
const stroke = fc.record({
  gap: fc.constantFrom(0, 0, 0, Q / 2, 777),
  length: lengths,
  direction: fc.constantFrom('down' as const, 'up' as const, 'thumb' as const, 'fingers' as const),
  strings: optional(fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 4 })),
  plain: fc.subarray(['accent', 'dead', 'choke', 'staccato'] as const),
  pressure: optional(fc.constantFrom('light' as const, 'medium' as const, 'firm' as const)),
})
function strokesOf(list: readonly (typeof stroke extends fc.Arbitrary<infer T> ? T : never)[]): Stroke[] {
  let at = 0
  return list.map(({ gap, length, strings, pressure, plain, direction }, index) => {
    at += gap
    const picked = direction === 'down' || direction === 'up'
    const made: Stroke = {
      direction,
      marks: [
        ...plain.filter((kind) => picked || kind !== 'dead').map((kind) => ({ kind })),
        ...(pressure ? [{ kind: 'palm mute' as const, pressure }] : []),
      ],
      id: `s${index}`,
      startTicks: at,
      lengthTicks: length,
      ...(strings ? { strings: strings.toSorted((a, b) => a - b) } : {}),
    }
    at += length
    return made
  })
}
const grips = fc
  .array(
    fc.record({
      gap: fc.constantFrom(0, 0, Q),
      length: lengths,
      shape: fc.constantFrom('022xxx', 'x-12-14-14-14-12', '133211'),
      fingers: fc.boolean(),
    }),
    { maxLength: 4 },
  )
  .map((list): GripSpan[] => {
    let at = 0
    return list.map(({ gap, length, shape, fingers }, index) => {
      at += gap
      const grip = readGrip(shape, 6)!
      const span = {
        id: `g${index}`,
        startTicks: at,
        lengthTicks: length,
        grip: fingers
          ? {
              strings: grip.strings.map((string) =>
                string.fret ? { ...string, finger: '1' as const } : string,
              ),
              barre: { fret: 1, fromString: 6, toString: 1 },
            }
          : grip,
      }
      at += length
      return span
    })
  })
const mutes = fc
  .array(
    fc.record({
      startTicks: fc.integer({ min: 0, max: 8 }).map((step) => step * Q),
      lengthTicks: lengths,
      kind: fc.constantFrom('palm mute' as const, 'let ring' as const),
    }),
    { maxLength: 3 },
  )
  .map((list) =>
    list
      .filter((mute, index) => list.findIndex((other) => other.startTicks === mute.startTicks) === index)
      .map(({ kind, ...mute }, index): MuteSpan => ({
        ...mute,
        id: `m${index}`,
        mark: kind === 'palm mute' ? { kind, pressure: 'firm' } : { kind },
      })),
  )

describe('spoken back', () => {
  it('says a dead stroke and the plain one after it apart, muted alike', () => {
    const strokes = (['down', 'up', 'down'] as const).map((direction, at): Stroke => ({
      id: `s${at}`,
      direction,
      startTicks: (at * Q) / 2,
      lengthTicks: Q / 2,
      marks: [
        ...(at === 1 ? [{ kind: 'dead' as const }] : []),
        ...(at ? [{ kind: 'palm mute' as const, pressure: 'light' as const }] : []),
      ],
    }))
    const options = {
      letters,
      strings: 'letters',
      meter: FOUR,
      subdivision: 'eighths',
      stepTicks: Q / 2,
    } as const
    const text = speak({ ...EMPTY_CONTENT, strokes }, options)
    expect(text).not.toContain('dead down')
  })
  it.each(['letters', 'numbers'] as const)(
    'parses to the figure it was spoken from, strings by %s',
    (school) => {
      fc.assert(
        fc.property(
          fc.array(event, { maxLength: 12 }),
          fc.array(stroke, { maxLength: 8 }),
          grips,
          mutes,
          fc.constantFrom('eighths' as const, 'triplets' as const, 'sixteenths' as const),
          fc.boolean(),
          (events, strokes, gripSpans, muteSpans, subdivision, tuned) => {
            const figure: Content = {
              ...EMPTY_CONTENT,
              notes: notesOf(events),
              strokes: strokesOf(strokes),
              grips: gripSpans,
              mutes: muteSpans,
            }
            const stepTicks = { eighths: Q / 2, triplets: Q / 3, sixteenths: Q / 4 }[subdivision]
            const text = speak(figure, {
              letters,
              strings: school,
              meter: FOUR,
              subdivision,
              stepTicks,
              ...(tuned ? { openMidi: part.tuning.openMidi } : {}),
            })
              .map((line) => line.text)
              .join('\n')
            const back = call(text, { subdivision, stepTicks })
            if (!back.ok)
              throw new Error(
                `${text}\n${back.error.message} at ${text.slice(back.error.at, back.error.end)}`,
              )
            expect(plain(back.value.content), text).toEqual(plain(figure))
          },
        ),
        { numRuns: 400 },
      )
    },
  )
  it('says a root with its fifth or octave as one, and a palm mute once for all it covers', () => {
    const options = {
      letters,
      strings: 'letters' as const,
      meter: FOUR,
      subdivision: 'eighths' as const,
      stepTicks: Q / 2,
      openMidi: part.tuning.openMidi,
    }
    const back = (text: string) => {
      const lines = speak(content(text), options)
        .map((line) => line.text)
        .join('\n')
      expect(plain(content(lines)), lines).toEqual(plain(content(text)))
      return lines
    }
    expect(back('power E 3 3 accent, A 2 power for 2, 5 octave')).toBe(
      'low E 3 power 3 power accent, A 2 power for 2, 5 octave',
    )
    expect(back('palm mute low E open open open, A 2')).toBe('palm medium low E open open open, A 2')
    expect(back('low E open palm firm open palm light')).toBe('low E open palm firm open palm light')
    expect(back('A 2 and D 4 palm firm')).toBe('A 2 and D 4 palm firm')
    expect(back('palm firm E 0 power 3 power, 3 power pick up ringing for 4')).toBe(
      'palm firm low E open power 3 power, 3 power pick up for 4',
    )
  })
  it('says it phrase by phrase, slur by slur', () => {
    const lines = speak(content('G 7 7, 7 hammer 9 hammer 11, B 8 8 rest for 3, A 5 and G 7 for 4'), {
      letters,
      strings: 'letters',
      meter: FOUR,
      subdivision: 'eighths',
      stepTicks: Q / 2,
    })
    expect(lines.map((line) => line.text)).toEqual([
      'G 7 7, 7 hammer 9 hammer 11, B 8 8, rest for 3',
      'A 5 and G 7 for 4',
    ])
  })
  it('counts dead strokes in words', () => {
    expect(
      speak(content('down palm firm, down palm firm, two dead, up'), {
        letters,
        strings: 'letters',
        meter: FOUR,
        subdivision: 'eighths',
        stepTicks: Q / 2,
      })[0]!.text,
    ).toBe('palm firm two down, two dead, up')
  })
})

describe('words and strings', () => {
  it('gives no short form two meanings', () => {
    const shorts = WORDS.flatMap((word) => (word.short ? [word.short] : []))
    expect(new Set(shorts).size).toBe(shorts.length)
    expect(shorts.every((short) => short.length <= 2)).toBe(true)
    for (const word of WORDS) expect(wordOf(word.short ?? word.word)).toBe(word.word)
  })
  it('reads numbers in words up to thirty', () =>
    expect([numberOf('eleven'), numberOf('Twenty-two'), numberOf('thirty'), numberOf('eleventy')]).toEqual([
      11,
      22,
      30,
      undefined,
    ]))
  it('tells strings of one letter apart', () => {
    const openD = ['D', 'A', 'F#', 'D', 'A', 'D']
    for (let string = 1; string <= 6; string++)
      expect(
        findString(
          openD,
          callString(openD, string, 'letters').split(' ').at(-1)!,
          callString(openD, string, 'letters').split(' ')[0] as 'low',
        ),
      ).toBe(string)
    expect(findString(letters, 'e')).toBe(1)
    expect(findString(letters, 'E')).toBe(6)
  })
})
