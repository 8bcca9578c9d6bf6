// The notes of a part as figures over a form: one for each section, or for sixteen bars of a longer one, cut
// where the meter changes, as a figure has one; stretches that play the same share it.
import { bisector } from 'd3-array'
import { contentProblem } from '../../document/invariants/content'
import { EMPTY_CONTENT } from '../../document/schema'
import type { Content, Feel, Figure, Note, Part, Placement } from '../../document/schema'
import type { Meter } from '../../time/meter'
import { stocked, type Stock } from './figure-stock'
import { strumsOf } from './strums'
import {
  dropped,
  noteOrder,
  type Dropped,
  type WrittenBar,
  type WrittenNote,
  type WrittenPart,
} from './written-score'

/** A figure holds at most so many bars here, whatever section it comes from. */
const MOST_BARS = 16
/** Notes of one figure that are kept: a real one has a hundredth of it. */
const MOST_FIGURE_NOTES = 5000

/** Bars of one section: from a mark to the next. */
export interface Span {
  name: string
  first: number
  bars: readonly WrittenBar[]
  startTicks: number
  lengthTicks: number
}

export interface Form {
  feel: Feel
  sections: readonly { id: string; name: string }[]
  spans: readonly Span[]
  /** Whether bars in which nothing is written are rests, not only uncharted. */
  rests: boolean
}

/** A stretch of a section that becomes one figure, at most sixteen bars of one meter, or a rest. */
interface Piece {
  sectionId: string
  name: string
  /** In its section. */
  offset: number
  from: number
  lengthTicks: number
  meter: Meter
  plays: boolean
}

/** Silence of so many bars parts two figures; less of it is in them. */
const PARTING_BARS = 2

const byStart = bisector(({ startTicks }: WrittenBar) => startTicks)
/** The first note of a list in order that begins at a tick or later. */
const noteFrom = bisector(({ startTicks }: WrittenNote) => startTicks).left

/** Whether something is struck or still sounds in each bar. */
function soundingBars(bars: readonly WrittenBar[], notes: readonly WrittenNote[]): boolean[] {
  const sounding = bars.map(() => false)
  for (const { startTicks, lengthTicks } of notes) {
    const first = Math.max(0, byStart.right(bars, startTicks) - 1)
    const end = byStart.left(bars, startTicks + lengthTicks)
    for (let bar = first; bar < end; bar++) sounding[bar] = true
  }
  return sounding
}

/** Runs of bars that are played and of bars that are not. */
function runsOf(sounding: readonly boolean[]): Run[] {
  const runs: Run[] = []
  for (const [bar, plays] of sounding.entries()) {
    const last = runs.at(-1)
    if (last?.plays === plays) last.to = bar + 1
    else runs.push({ from: bar, to: bar + 1, plays })
  }
  return runs.reduce<Run[]>((joined, run, index) => {
    const last = joined.at(-1)
    const within = index > 0 && index < runs.length - 1 && run.to - run.from < PARTING_BARS
    const plays = run.plays || within
    if (last?.plays && plays) last.to = run.to
    else joined.push({ ...run, plays })
    return joined
  }, [])
}

/** Bars of a section that are played, or that are not: from, and up to without. */
interface Run {
  from: number
  to: number
  plays: boolean
}

function piecesOf({ sections, spans }: Form, notes: readonly WrittenNote[]): Piece[] {
  return spans.flatMap((span, index) => {
    const section = sections[index]
    if (!section) return []
    const end = span.startTicks + span.lengthTicks
    const own = notes.slice(noteFrom(notes, span.startTicks), noteFrom(notes, end))
    const runs = runsOf(soundingBars(span.bars, own)).flatMap((run) =>
      run.plays ? byMeter(run, span.bars).flatMap(inFigures) : [run],
    )
    const pieces = runs.flatMap((run) => pieceOf(run, span, section.id) ?? [])
    // What only rings on from the figure before is that figure's.
    const struck = pieces.map((piece) => ({ ...piece, plays: piece.plays && isStruck(piece, own) }))
    const played = struck.filter(({ plays }) => plays).length
    return struck.map((piece, at) => {
      const more = played > 1 ? ` from bar ${(runs[at]?.from ?? 0) + 1}` : ''
      return { ...piece, name: `${section.name}${more}`.slice(0, 80) }
    })
  })
}

function isStruck({ from, lengthTicks }: Piece, notes: readonly WrittenNote[]): boolean {
  const first = notes[noteFrom(notes, from)]
  return first !== undefined && first.startTicks < from + lengthTicks
}

function pieceOf({ from, to, plays }: Run, span: Span, sectionId: string): Piece | undefined {
  const bars = span.bars.slice(from, to)
  const [first] = bars
  return (
    first && {
      sectionId,
      name: '',
      offset: first.startTicks - span.startTicks,
      from: first.startTicks,
      lengthTicks: bars.reduce((sum, bar) => sum + bar.lengthTicks, 0),
      meter: first.meter,
      plays,
    }
  )
}

/** A run of bars cut where their meter changes. */
function byMeter(run: Run, bars: readonly WrittenBar[]): Run[] {
  const cut: Run[] = []
  for (let bar = run.from; bar < run.to; bar++) {
    const last = cut.at(-1)
    if (last && sameMeter(bars[bar - 1], bars[bar])) last.to = bar + 1
    else cut.push({ from: bar, to: bar + 1, plays: run.plays })
  }
  return cut
}
const sameMeter = (a: WrittenBar | undefined, b: WrittenBar | undefined): boolean =>
  a?.meter.beats === b?.meter.beats && a?.meter.unit === b?.meter.unit

function inFigures({ from: first, to: end, plays }: Run): Run[] {
  const count = Math.ceil((end - first) / MOST_BARS)
  return Array.from({ length: count }, (_, index) => {
    const from = first + index * MOST_BARS
    return { from, to: Math.min(end, from + MOST_BARS), plays }
  })
}

/** The figures of a part and where they lie; stretches that play the same share one. */
export function chartPart(
  part: Part,
  written: Pick<WrittenPart, 'notes'>,
  form: Form,
): { figures: Figure[]; placements: Placement[]; dropped: Dropped[] } {
  const { notes: apart, twice } = onePerString(written.notes, part)
  const { notes: fitting, dropped: lost } = playable(apart, part)
  const notes = fitting.toSorted(noteOrder)
  const figures: Stock = []
  let tooMany = 0
  const placements: Placement[] = []
  const figureFor = (piece: Piece): Figure => {
    const end = piece.from + piece.lengthTicks
    const all = notes.slice(noteFrom(notes, piece.from), noteFrom(notes, end))
    const own = all.slice(0, MOST_FIGURE_NOTES)
    tooMany += all.length - own.length
    const content = contentOf(own, piece.from, part.tuning.openMidi.length)
    return stocked(figures, [piece.lengthTicks, piece.meter, content], (number) =>
      figureOf(part.id, { ...piece, feel: form.feel }, content, number),
    )
  }
  for (const piece of piecesOf(form, notes)) {
    const place = {
      id: `${part.id}-place-${placements.length + 1}`,
      partId: part.id,
      sectionId: piece.sectionId,
      startTicks: piece.offset,
    }
    if (piece.plays)
      placements.push({
        ...place,
        kind: 'figure',
        figureId: figureFor(piece).id,
        passes: 1,
        shiftFrets: 0,
        form: 'exact',
      })
    else if (form.rests) placements.push({ ...place, kind: 'rests', lengthTicks: piece.lengthTicks })
  }
  const more = {
    what: `notes of ${part.name}`,
    count: tooMany,
    why: `more than ${MOST_FIGURE_NOTES} in sixteen bars cannot be written`,
  }
  return {
    figures: figures.map(({ figure }) => figure),
    placements,
    dropped: dropped([...lost, twice, more]),
  }
}

/**
 * What a part can play: a note that it cannot play so is played plain, one it has no place for not at all.
 */
function playable(notes: readonly WrittenNote[], part: Part): { notes: WrittenNote[]; dropped: Dropped[] } {
  let [plain, gone] = [0, 0]
  const fits = (note: WrittenNote): boolean => {
    const alone = { ...figureNote(note, 0), startTicks: 0 }
    return contentProblem({ ...EMPTY_CONTENT, notes: [alone] }, part, 1) === undefined
  }
  const kept = notes.flatMap((note) => {
    if (fits(note)) return [note]
    const bare = { ...note, marks: [] }
    if (!fits(bare)) {
      gone += 1
      return []
    }
    plain += 1
    return [bare]
  })
  return {
    notes: kept,
    dropped: dropped([
      { what: `notes of ${part.name}`, count: gone, why: 'there is no such string or fret' },
      { what: `marks in ${part.name}`, count: plain, why: 'an open string cannot be bent' },
    ]),
  }
}

/** A string is struck once at a time: of two notes the first stands. */
function onePerString(
  notes: readonly WrittenNote[],
  { name }: Part,
): { notes: WrittenNote[]; twice: Dropped } {
  const taken = new Set<string>()
  const kept = notes.filter(({ string, startTicks }) => {
    const key = `${string}/${startTicks}`
    return taken.has(key) ? false : taken.add(key)
  })
  const twice = {
    what: `notes of ${name} on a string that is struck already`,
    count: notes.length - kept.length,
    why: 'a string is struck once at a time',
  }
  return { notes: kept, twice }
}

const figureOf = (
  partId: string,
  piece: Piece & { feel: Feel },
  content: Content,
  number: number,
): Figure => ({
  id: `${partId}-figure-${number}`,
  partId,
  name: piece.name,
  lengthTicks: piece.lengthTicks,
  meter: piece.meter,
  feel: { ...piece.feel, subdivision: 'sixteenths' },
  content,
})

/** What a stretch of the part plays, counted from the start of its figure. */
function contentOf(notes: readonly WrittenNote[], from: number, strings: number): Content {
  const moved = notes.map((note) => ({ ...note, startTicks: note.startTicks - from }))
  const { single, ...struck } = strumsOf(moved, strings)
  return { ...struck, notes: single.map(figureNote) }
}

function figureNote(note: WrittenNote, index: number): Note {
  const { string, fret, startTicks, lengthTicks, marks, pick, finger } = note
  return {
    id: `n${index + 1}`,
    string,
    fret,
    startTicks,
    lengthTicks,
    marks,
    ...(pick ? { pick } : {}),
    ...(finger ? { finger } : {}),
  }
}
