// Notes put on strings and in time.
import type { Mark } from '../../document/schema'
import { callString } from '../strings'
import { bendAmounts, bendWords } from './bend-amount'
import { addMoment, choose, gripAt, type Build, type DraftNote, type Moment } from './build'
import { nearest, stringsNamed, way, type Place } from './hand'
import { UNSAID, type Item, type ItemOf, type NoteItem, type Span, type StringSpec } from './items'
import { SaidProblem, SaidQuestion } from './problem'

const highest = (b: Build): number => b.context.part.instrument.fretCount - b.context.part.instrument.capo

/** The next place that is certain, so that the hand knows where it goes. */
function nextPlace(b: Build, items: readonly Item[], from: number): Place | undefined {
  for (const item of items.slice(from + 1, from + 6)) {
    if (item.k !== 'note' || !item.strings || typeof item.fret !== 'number') continue
    const strings = stringsNamed(item.strings[0]!, b.context.letters, b.shapes)
    if (strings.length === 1) return { string: strings[0]!, fret: item.fret }
  }
  return undefined
}

/** The lowest string that sounds of the grip that is held. */
function bassString(b: Build, span: Span): number {
  const lowest = gripAt(b, b.at)?.strings.findLastIndex((string) => string.fret !== null) ?? -1
  if (lowest === -1) throw new SaidQuestion(span, 'The bass of which grip? Hold one first.', ['hold Am'])
  return lowest + 1
}

/** The string a name means here; of two of one name the one nearest to the hand, which is assumed. */
export function resolve(
  b: Build,
  spec: StringSpec,
  at: {
    fret: number
    next: Place | undefined
    beside?: Place | undefined
    item: { at: number; end: number }
  },
): number {
  if (spec.bass) return bassString(b, at.item)
  const strings = stringsNamed(spec, b.context.letters, b.shapes)
  if (strings.length === 0)
    throw new SaidProblem(
      at.item,
      `There is no string “${spec.letter ?? spec.number}” on ${b.context.part.name}: ` +
        `its strings are ${[...b.context.letters].reverse().join(' ')}.`,
      [...new Set(b.context.letters)].map((letter) => `on the ${letter}`),
    )
  if (strings.length === 1) return strings[0]!
  const from = at.beside ?? b.hand
  const best = nearest(strings, at.fret, { from, next: at.next, low: true })
  const price = (string: number): number =>
    (string === best ? 0 : 0.1) + way(from, { string, fret: at.fret }) * 0.2
  const options = strings.map((string) => ({
    words: `on the ${callString(b.context.letters, string, 'letters')}`,
    price: price(string),
  }))
  return strings[choose(b, 'string', at.item, options)]!
}

/** What the note's name of strings, or what the hand is on, gives. */
function specsOf(b: Build, note: NoteItem): StringSpec[] {
  if (note.both && b.pair) return b.pair
  return note.strings ?? b.current ?? [{ number: assumedString(b, note) }]
}

/** No string was said: the cursor's, or the one that was played last; asked for where there is none. */
function assumedString(b: Build, note: NoteItem): number {
  const standing = (b.context.before ?? b.context.content)?.notes.at(-1)?.string
  const count = b.context.part.tuning.openMidi.length
  const string = b.context.string ?? standing ?? (note.double || note.barre ? count : undefined)
  if (string === undefined)
    throw new SaidQuestion(note, 'On which string? Say it before or after the fret: 7 on the G, or G 7.', [
      'on the G',
      'on the low E',
    ])
  const near = [string, string - 1, string + 1].filter((one) => one >= 1 && one <= count)
  const options = near.map((one, index) => ({
    words: `on the ${callString(b.context.letters, one, 'letters')}`,
    price: 0.5 + index,
  }))
  return near[choose(b, 'string', note, options)]!
}

function fretOf(b: Build, note: NoteItem, string: number): number {
  if (typeof note.fret === 'number') return note.fret
  if (note.fret === 'finger') return b.fingers[note.finger!]?.fret ?? 0
  if (note.fret === 'last')
    return (
      b.moments
        .findLast((moment) => moment.notes.some((one) => one.string === string))
        ?.notes.find((one) => one.string === string)?.fret ?? 0
    )
  const fret = gripAt(b, b.at)?.strings[string - 1]?.fret
  if (fret === undefined || fret === null)
    throw new SaidProblem(
      note,
      `${callString(b.context.letters, string, 'letters')} is not played in the grip that is held there.`,
      [],
    )
  return fret
}

function marksOf(b: Build, note: NoteItem, fret: number, string: number): Mark[] {
  const marks: Mark[] = note.marks.map((mark) =>
    mark.kind === 'bend' && mark.semitones === UNSAID
      ? { ...mark, semitones: assumedBend(b, note, { fret, string }) }
      : mark,
  )
  const more = [...b.clauseMarks, ...b.following].filter(
    (mark) => !marks.some((other) => other.kind === mark.kind),
  )
  const all = [...marks, ...more].filter(
    (mark) => fret > 0 || (mark.kind !== 'bend' && mark.kind !== 'vibrato'),
  )
  return note.dead ? [{ kind: 'dead' }, ...all.filter((mark) => mark.kind === 'palm mute')] : all
}

/** A bend goes to the next note of the key that lies a half or a whole step above. */
function assumedBend(b: Build, note: NoteItem, place: Place): number {
  const amounts = bendAmounts(b.context, place)
  const taken = choose(
    b,
    'amount',
    note,
    amounts.map((semitones, index) => ({ words: bendWords(semitones), price: index * 0.3 })),
  )
  return amounts[taken]!
}

/** The mark of a note that is reached by a movement from the note before on its string. */
function moveMark(b: Build, note: NoteItem, fret: number, string: number): Mark | undefined {
  if (!note.move) return undefined
  const from = b.moments
    .findLast((moment) => moment.notes.some((one) => one.string === string))
    ?.notes.find((one) => one.string === string)
  if (note.move === 'tap') return { kind: 'tap' }
  if (note.move === 'slide' || note.move === 'shift') {
    if (!from || from.fret === fret) return { kind: 'slide', how: 'in from below' }
    return { kind: 'slide', how: note.move === 'shift' ? 'shift' : 'legato' }
  }
  const before = b.moments.at(-1)?.notes.some((one) => one.string === string)
  if (!from || !before) {
    const name = note.move === 'hammer' ? 'hammer-on' : 'pull-off'
    const message = `A ${name} needs a note before it on its string: it is picked here.`
    b.slips.push({ at: note.at, end: note.end, message })
    return undefined
  }
  if (from.fret === fret) return undefined
  // Who says "hammer" for the way down means the pull-off, and the other way round.
  return { kind: fret > from.fret ? 'hammer-on' : 'pull-off' }
}

/** The fifth or the octave of a note, on the strings above it as they are tuned. */
function doubled(b: Build, note: NoteItem, root: DraftNote): DraftNote[] {
  if (!note.double) return []
  const { openMidi } = b.context.part.tuning
  const [strings, semitones] = note.double === 'power' ? [1, 7] : [2, 12]
  const string = root.string - strings
  if (string < 1) throw new SaidProblem(note, 'There is no string above for the other note.', [])
  const fret = root.fret + semitones - (openMidi[string - 1]! - openMidi[root.string - 1]!)
  return fret < 0 || fret > highest(b) ? [] : [{ ...root, string, fret }]
}

function draft(b: Build, note: NoteItem, string: number): DraftNote {
  const fret = fretOf(b, note, string)
  if (fret > highest(b))
    throw new SaidProblem(note, `Fret ${fret} is beyond the neck: the highest is ${highest(b)}.`, [])
  const move = moveMark(b, note, fret, string)
  return {
    string,
    fret,
    marks: [
      ...(move ? [move] : []),
      ...marksOf(b, note, fret, string),
      ...(note.accent ? [{ kind: 'accent' as const }] : []),
    ].slice(0, 8),
    ...(note.pick ? { pick: note.pick } : {}),
    ...(note.finger ? { finger: note.finger } : {}),
    at: note.at,
    end: note.end,
  }
}

/** All that one note item sounds: one note, the same fret on several strings, or a root with its fifth. */
function soundingOf(b: Build, items: readonly Item[], index: number): DraftNote[] {
  const note = items[index] as ItemOf<'note'>
  if (note.fret === 'finger' && b.fingers[note.finger!])
    return [draft(b, note, b.fingers[note.finger!]!.string)]
  const fret = typeof note.fret === 'number' ? note.fret : 0
  const next = nextPlace(b, items, index)
  const specs = specsOf(b, note)
  let beside: Place | undefined
  const sure = specs.flatMap((spec) => {
    const strings = stringsNamed(spec, b.context.letters, b.shapes)
    return strings.length === 1 ? strings : []
  })
  if (sure.length) beside = { string: sure[0]!, fret }
  const strings = [
    ...new Set(
      specs.map((spec) =>
        resolve(b, spec, { fret, next, beside: specs.length > 1 ? beside : undefined, item: note }),
      ),
    ),
  ]
  const drafts = strings.map((string) => draft(b, note, string))
  return drafts.flatMap((one) => [one, ...doubled(b, note, one)])
}

function joins(b: Build, note: NoteItem, drafts: readonly DraftNote[]): Moment | undefined {
  const last = b.moments.at(-1)
  if (!last || last.stroke || !note.join) return undefined
  return drafts.some((one) => last.notes.some((other) => other.string === one.string)) ? undefined : last
}

/** Puts a note where the cursor is, or with the note before. */
export function performNote(b: Build, items: readonly Item[], index: number): void {
  const note = items[index] as ItemOf<'note'>
  const drafts = soundingOf(b, items, index)
  const specs = specsOf(b, note)
  const joined = joins(b, note, drafts)
  if (joined) joined.notes.push(...drafts)
  else
    for (let time = 0; time < note.count; time++)
      addMoment(b, { notes: drafts.map((one) => (time === 0 ? one : struckAgain(one))) })
  const moment = joined ?? b.moments.at(-1)!
  const first = drafts[0]!
  b.hand = { string: first.string, fret: first.fret }
  if (note.finger) b.fingers[note.finger] = b.hand
  const sounding = moment.notes.map((one) => ({ number: one.string }))
  if (joined) b.current = sounding
  else if (!note.both) b.current = specs
  if (sounding.length > 1) b.pair = sounding
}
/** The same note picked once more comes from nowhere. */
export const struckAgain = (note: DraftNote): DraftNote => ({
  ...note,
  marks: note.marks.filter(
    (mark) =>
      mark.kind !== 'hammer-on' &&
      mark.kind !== 'pull-off' &&
      !(mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')),
  ),
})
