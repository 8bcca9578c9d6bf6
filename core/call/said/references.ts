// What was played before, played again: as it was, on other strings, higher or lower, with another ending.
import type { Content, Note } from '../../document/schema'
import { diatonic } from '../../neck/lines/harmony-rule'
import { barTicks } from '../../time/meter'
import { advance, type Build, type DraftNote, type Moment } from './build'
import { gripNamed, hold } from './grips-said'
import { stringsNamed } from './hand'
import type { ItemOf, ReferenceHow, Span, StringSpec } from './items'
import { resolve, struckAgain } from './perform-notes'
import { SaidProblem, SaidQuestion } from './problem'

const MOST_MOMENTS = 2000

interface Phrase {
  moments: Moment[]
  startTicks: number
  lengthTicks: number
}

/** Puts a phrase where the cursor is. */
function append(b: Build, phrase: Phrase): void {
  const shift = b.at - phrase.startTicks
  if (b.moments.length + phrase.moments.length > MOST_MOMENTS)
    throw new SaidProblem(
      { at: 0, end: 1 },
      'That makes more notes than one call may: enter it in pieces.',
      [],
    )
  for (const moment of phrase.moments)
    b.moments.push({
      ...moment,
      startTicks: moment.startTicks + shift,
      notes: moment.notes.map((note) => ({ ...note })),
    })
  advance(b, phrase.lengthTicks)
}

/** The moments from one on, played so many times in all. */
export function repeatMoments(b: Build, from: number, times: number): void {
  const moments = b.moments.slice(from)
  const [first] = moments
  if (!first || times > 64) return
  const phrase = {
    moments: moments.map(struckMoment),
    startTicks: first.startTicks,
    lengthTicks: b.at - first.startTicks,
  }
  const alone = moments.length === 1
  for (let time = 1; time < times; time++) append(b, alone ? phrase : { ...phrase, moments })
}
const struckMoment = (moment: Moment): Moment => ({ ...moment, notes: moment.notes.map(struckAgain) })

/** What stands before this call, as moments. */
function standing(b: Build, item: Span): Phrase {
  const content: Content | undefined = b.context.before ?? b.context.content
  const events = content ? [...content.notes, ...content.strokes] : []
  if (!content || events.length === 0)
    throw new SaidProblem(item, 'There is nothing before this to play again.', [])
  const starts = [...new Set(events.map((event) => event.startTicks))].sort((a, b) => a - b)
  const { at, end } = item
  const draft = ({ id: _id, startTicks: _start, lengthTicks: _length, ...note }: Note): DraftNote => ({
    ...note,
    at,
    end,
  })
  const moments = starts.map((startTicks): Moment => {
    const notes = content.notes.filter((note) => note.startTicks === startTicks)
    const stroke = content.strokes.find((one) => one.startTicks === startTicks)
    const lengthTicks = notes[0]?.lengthTicks ?? stroke!.lengthTicks
    if (!stroke) return { startTicks, lengthTicks, notes: notes.map(draft) }
    const { id: _id, startTicks: _start, lengthTicks: _length, ...rest } = stroke
    return { startTicks, lengthTicks, notes: notes.map(draft), stroke: { ...rest, at, end } }
  })
  const endTicks = Math.max(...moments.map((moment) => moment.startTicks + moment.lengthTicks))
  return { moments, startTicks: starts[0]!, lengthTicks: endTicks - starts[0]! }
}

/** What "again" means: the thought before in this call, all of it, or what stands before the call. */
function meant(b: Build, item: ItemOf<'again'>): Phrase {
  if (b.moments.length === 0) return standing(b, item)
  const stretch = b.stretchFrom < b.moments.length ? b.stretchFrom : b.stretchBefore
  const from = item.whole ? 0 : stretch
  const moments = b.moments.slice(from)
  const startTicks = moments[0]!.startTicks
  return { moments, startTicks, lengthTicks: b.at - startTicks }
}

const eachNote = (phrase: Phrase, map: (note: DraftNote) => DraftNote): Phrase => ({
  ...phrase,
  moments: phrase.moments.map((moment) => ({ ...moment, notes: moment.notes.map(map) })),
})

function checked(b: Build, phrase: Phrase, span: Span): Phrase {
  const { part } = b.context
  const highest = part.instrument.fretCount - part.instrument.capo
  for (const note of phrase.moments.flatMap((moment) => moment.notes)) {
    if (note.fret < 0 || note.fret > highest)
      throw new SaidProblem(span, `That would need fret ${note.fret}: the neck has 0 to ${highest}.`, [])
    if (note.string < 1 || note.string > part.tuning.openMidi.length)
      throw new SaidProblem(
        span,
        `That would need a string ${note.string}, which ${part.name} does not have.`,
        [],
      )
  }
  return phrase
}

function ontoString(b: Build, phrase: Phrase, spec: StringSpec, span: Span): Phrase {
  const notes = phrase.moments.flatMap((moment) => moment.notes)
  const [first] = notes
  if (!first) return phrase
  const named = stringsNamed(spec, b.context.letters, b.shapes)
  const to =
    named.length === 1
      ? named[0]!
      : resolve(b, spec, { fret: first.fret, next: undefined, beside: first, item: span })
  return eachNote(phrase, (note) => ({ ...note, string: note.string + to - first.string }))
}

/** A line an interval above in the key, on the next string where it lies under the hand. */
function harmonized(b: Build, phrase: Phrase, interval: number, span: Span): Phrase {
  const { key, part } = b.context
  if (!key) throw new SaidQuestion(span, 'In which key? Set the key of the song first.', [])
  const { openMidi } = part.tuning
  const other = (note: DraftNote, strings: number): DraftNote => {
    const midi = diatonic(openMidi[note.string - 1]! + note.fret, interval, key)
    const string = note.string + strings
    return {
      ...note,
      string,
      fret: midi - (openMidi[string - 1] ?? Number.NaN),
      marks: note.marks,
    }
  }
  const next = eachNote(phrase, (note) => other(note, interval > 0 ? -1 : 1))
  const frets = next.moments.flatMap((moment) => moment.notes.map((note) => note.fret))
  return frets.every((fret) => fret >= 0) ? next : eachNote(phrase, (note) => other(note, 0))
}

function octave(phrase: Phrase, by: 1 | -1, highest: number): Phrase {
  const moved = eachNote(phrase, (note) => ({ ...note, fret: note.fret + 12 * by }))
  const frets = moved.moments.flatMap((moment) => moment.notes.map((note) => note.fret))
  if (frets.every((fret) => fret >= 0 && fret <= highest)) return moved
  // Two strings on and two frets up, three across the second string.
  return eachNote(phrase, (note) => {
    const string = note.string - 2 * by
    return { ...note, string, fret: note.fret + (string < 3 !== note.string < 3 ? 3 : 2) * by }
  })
}

function backwards(phrase: Phrase): Phrase {
  const sounds = phrase.moments.map((moment) => moment.notes.map(struckAgain)).reverse()
  return { ...phrase, moments: phrase.moments.map((moment, index) => ({ ...moment, notes: sounds[index]! })) }
}

function inRhythm(
  b: Build,
  phrase: Phrase,
  how: Extract<ReferenceHow, { how: 'rhythm' }>,
  span: Span,
): Phrase {
  if (how.symbol !== undefined) {
    const grip = gripNamed(b, how.symbol, span)
    hold(b, span, grip, how.symbol)
    const lowest = grip.strings.findLastIndex((string) => string.fret !== null)
    return eachNote(phrase, (note) => ({
      ...struckAgain(note),
      string: lowest + 1,
      fret: grip.strings[lowest]!.fret!,
    }))
  }
  return how.fret === undefined
    ? phrase
    : eachNote(phrase, (note) => ({ ...struckAgain(note), fret: how.fret! }))
}

function inWay(b: Build, phrase: Phrase, way: ReferenceHow, span: Span): Phrase {
  const { part } = b.context
  switch (way.how) {
    case 'again':
      return phrase
    case 'strings':
      return ontoString(b, phrase, way.specs[0]!, span)
    case 'set':
      return eachNote(phrase, (note) => ({ ...note, string: note.string - way.by }))
    case 'frets':
      return eachNote(phrase, (note) => ({ ...note, fret: note.fret + way.by }))
    case 'start': {
      const first = phrase.moments[0]?.notes[0]
      return first
        ? eachNote(phrase, (note) => ({ ...note, fret: note.fret + way.fret - first.fret }))
        : phrase
    }
    case 'rhythm':
      return inRhythm(b, phrase, way, span)
    case 'octave':
      return octave(phrase, way.by, part.instrument.fretCount - part.instrument.capo)
    case 'backwards':
      return backwards(phrase)
    case 'harmony':
      return harmonized(b, phrase, way.interval, span)
  }
}

/** The phrase with other notes at its end, or without its last ones. */
function ended(b: Build, phrase: Phrase, item: ItemOf<'again'>): Phrase {
  if (item.drop) {
    const moments = phrase.moments.slice(0, -item.drop)
    const gone = phrase.moments.slice(-item.drop).reduce((sum, moment) => sum + moment.lengthTicks, 0)
    return { ...phrase, moments, lengthTicks: phrase.lengthTicks - gone }
  }
  const ending = item.ending ?? []
  const from = phrase.moments.length - ending.length
  if (ending.length === 0 || from < 0) return phrase
  const moments = phrase.moments.map((moment, index) => {
    const other = ending[index - from]
    const was = moment.notes[0]
    if (!other || !was) return moment
    const string = other.strings
      ? resolve(b, other.strings[0]!, { fret: other.fret as number, next: undefined, beside: was, item })
      : was.string
    return { ...moment, notes: [{ ...struckAgain(was), string, fret: other.fret as number }] }
  })
  return { ...phrase, moments }
}

/** Only the moments of one bar of what stands before. */
function barOf(b: Build, phrase: Phrase, bar: number): Phrase {
  const ticks = barTicks(b.context.meter)
  const from = phrase.startTicks + bar * ticks
  const moments = phrase.moments.filter(
    (moment) => moment.startTicks >= from && moment.startTicks < from + ticks,
  )
  return moments.length ? { moments, startTicks: from, lengthTicks: ticks } : phrase
}

/** Only the first or the last few of it. */
function partOf(phrase: Phrase, part: ItemOf<'again'>['part']): Phrase {
  if (!part) return phrase
  const moments = part.first ? phrase.moments.slice(0, part.count) : phrase.moments.slice(-part.count)
  const startTicks = moments[0]?.startTicks ?? phrase.startTicks
  const last = moments.at(-1)
  const end = last ? last.startTicks + last.lengthTicks : startTicks
  return { moments, startTicks, lengthTicks: end - startTicks }
}

/** A grip that stands before, moved along the neck. */
function gripMoved(b: Build, item: ItemOf<'again'>): boolean {
  const content = b.context.before ?? b.context.content
  const held = b.grips.at(-1)?.grip ?? content?.grips.at(-1)?.grip
  const sounds = b.moments.length > 0 || (content ? content.notes.length + content.strokes.length > 0 : false)
  if (!held || sounds) return false
  const lowest = Math.min(...held.strings.flatMap((one) => (one.fret ? [one.fret] : [])), 99)
  const by = item.ways.reduce((sum, way) => {
    if (way.how === 'frets') return sum + way.by
    return way.how === 'start' ? sum + way.fret - lowest : sum
  }, 0)
  hold(b, item, {
    strings: held.strings.map((one) => (one.fret === null ? one : { ...one, fret: one.fret + by })),
  })
  return true
}

/** "again", "same thing on the B", "that whole thing up two frets, but finish on 7". */
export function performAgain(b: Build, item: ItemOf<'again'>): void {
  if (gripMoved(b, item)) return
  const found = meant(b, item)
  const bar = partOf(item.bar === undefined ? found : barOf(b, found, item.bar), item.part)
  const strings = item.ways.find((way) => way.how === 'strings')
  const variants = strings?.how === 'strings' ? strings.specs : [undefined]
  const plain = item.ways.length === 0 && !item.ending && !item.drop
  const times = plain && item.times > 1 ? item.times - 1 : item.times
  for (const spec of variants) {
    const moved = item.ways.reduce(
      (phrase, way) =>
        inWay(b, phrase, way.how === 'strings' && spec ? { how: 'strings', specs: [spec] } : way, item),
      bar,
    )
    const phrase = checked(b, ended(b, moved, item), item)
    for (let time = 0; time < times; time++) append(b, phrase)
  }
  const last = b.moments.at(-1)?.notes[0]
  if (last) b.current = [{ number: last.string }]
}
