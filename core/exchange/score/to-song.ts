// A written score as a song: parts, sections with their bars and chords, and for each part one figure a
// section; sections that a part plays alike share it. The tempo becomes the grid of a source of its own.
import { newSong } from '../../document/new-song'
import { contentProblem } from '../../document/invariants/content'
import { readSong } from '../../document/migrations'
import { EMPTY_CONTENT, SECTION_KINDS } from '../../document/schema'
import type {
  Content,
  Section,
  SectionKind,
  Song,
  Source,
  Feel,
  Figure,
  Note,
  Part,
  Placement,
} from '../../document/schema'
import { gridBeats } from '../../time/beat-grid'
import { barTicks, type Meter, TICKS_PER_QUARTER } from '../../time/meter'
import { refuse, ok, type Result } from '../../result'
import { strumsOf } from './strums'
import {
  dropped,
  type Dropped,
  type WrittenBar,
  type WrittenNote,
  type WrittenPart,
  type WrittenScore,
  type WrittenTempo,
} from './written-score'

export interface SongFacts {
  id: string
  /** Of the source that keeps the tempo: what was brought in. */
  sourceName: string
}

/** A figure holds at most so many bars here, whatever section it comes from. */
const MOST_BARS = 16
const SOURCE_ID = 'score'

export interface MadeSong {
  song: Song
  /** What the file says that no part can play. */
  dropped: Dropped[]
}

/** A whole song of a score. Refused when it would be none that can be opened again. */
export function songFromScore(score: WrittenScore, facts: SongFacts): Result<MadeSong> {
  const spans = spansOf(score.bars)
  const sections = spans.map((span, index) => sectionOf(score, span, index))
  const parts = withOwnNames(score.parts.map((part, index) => partOf(part, index)))
  const charted = parts.map((part, index) =>
    chartPart(part, score.parts[index]!, { sections, spans, feel: score.feel }),
  )
  const source = sourceOf(score, facts.sourceName)
  const song: Song = {
    ...newSong({ id: facts.id, title: score.title, artist: score.artist }),
    key: score.key,
    keyUnknown: false,
    meter: usualMeter(score.bars),
    feel: score.feel,
    sources: { [source.id]: source },
    sourceOrder: [source.id],
    sections: byId(sections),
    sectionOrder: sections.map(({ id }) => id),
    parts: byId(parts),
    partOrder: parts.map(({ id }) => id),
    figures: byId(charted.flatMap(({ figures }) => figures)),
    placements: byId(charted.flatMap(({ placements }) => placements)),
  }
  delete song.keyUnknown
  const read = readSong(song)
  if (!read.ok) return refuse('score', `This score makes no song: ${read.refusal.message}`)
  return ok({ song: read.value, dropped: charted.flatMap(({ dropped: lost }) => lost) })
}

const byId = <T extends { id: string }>(list: readonly T[]): Record<string, T> =>
  Object.fromEntries(list.map((entry) => [entry.id, entry]))

/** Bars of one section: from a mark to the next. */
export interface Span {
  name: string
  first: number
  bars: readonly WrittenBar[]
  startTicks: number
  lengthTicks: number
}

function spansOf(bars: readonly WrittenBar[]): Span[] {
  const starts = bars.flatMap((bar, index) => (index === 0 || bar.section !== undefined ? [index] : []))
  return starts.map((first, index): Span => {
    const own = bars.slice(first, starts[index + 1] ?? bars.length)
    const name = own[0]!.section ?? (starts.length > 1 ? 'Beginning' : 'Whole song')
    const lengthTicks = own.reduce((sum, bar) => sum + bar.lengthTicks, 0)
    return { name, first, bars: own, startTicks: own[0]!.startTicks, lengthTicks }
  })
}

/** "Verse 2" is a verse. */
function kindOf(name: string): SectionKind {
  const words = name.toLowerCase().replaceAll(/[\s_]+/g, '-')
  const longestFirst = SECTION_KINDS.toSorted((a, b) => b.length - a.length)
  return longestFirst.find((kind) => words.startsWith(kind.replaceAll(' ', '-'))) ?? 'other'
}

function sectionOf({ harmony, key }: WrittenScore, span: Span, index: number): Section {
  const end = span.startTicks + span.lengthTicks
  const own = span.bars[0]!.key
  const other = own && (own.tonic !== key.tonic || own.mode !== key.mode)
  return {
    id: `section-${index + 1}`,
    kind: kindOf(span.name),
    name: span.name,
    bars: span.bars.map(({ meter, free }) => ({ meter, ...(free ? { free } : {}) })),
    passes: 1,
    pickupTicks: 0,
    ...(other ? { key: own } : {}),
    harmony: harmony
      .filter(({ startTicks }) => startTicks >= span.startTicks && startTicks < end)
      .map(({ startTicks, lengthTicks, symbol }) => ({
        startTicks: startTicks - span.startTicks,
        lengthTicks: Math.max(1, Math.min(lengthTicks, end - startTicks)),
        symbol,
      })),
  }
}

function usualMeter(bars: readonly WrittenBar[]): Meter {
  const counts = new Map<string, { meter: Meter; count: number }>()
  for (const { meter } of bars) {
    const name = `${meter.beats}/${meter.unit}`
    counts.set(name, { meter, count: (counts.get(name)?.count ?? 0) + 1 })
  }
  const most = [...counts.values()].sort((a, b) => b.count - a.count)[0]
  return most?.meter ?? { beats: 4, unit: 4 }
}

const partOf = ({ name, instrument, tuning, sound }: WrittenPart, index: number): Part => ({
  id: `part-${index + 1}`,
  name,
  role: instrument.kind.startsWith('bass') ? 'bass' : 'rhythm',
  instrument,
  tuning,
  pan: 0,
  sound,
})

/** Two parts of one name could not be told apart: the second is "Guitar 2". */
function withOwnNames(parts: readonly Part[]): Part[] {
  const taken = new Set<string>()
  return parts.map((part) => {
    let [name, number] = [part.name, 2]
    while (taken.has(name)) name = `${part.name.slice(0, 56)} ${number++}`
    taken.add(name)
    return { ...part, name }
  })
}

/** The seconds of every counted beat by the tempo of the score. */
function sourceOf({ bars, tempo, endTicks, firstSeconds = 0 }: WrittenScore, name: string): Source {
  const fromStart = secondsOf(tempo)
  const seconds = (ticks: number): number => firstSeconds + fromStart(ticks)
  return {
    id: SOURCE_ID,
    kind: 'written chart',
    name: name.slice(0, 200),
    rank: 1,
    offsetSemitones: 0,
    offsetCents: 0,
    offsetSeconds: 0,
    durationSeconds: seconds(endTicks),
    grid: {
      bars: bars.map((bar) => {
        const beats = gridBeats(bar)
        const step = barTicks(bar.meter) / beats
        return {
          beatSeconds: Array.from({ length: beats }, (_, beat) => seconds(bar.startTicks + beat * step)),
        }
      }),
      endSeconds: seconds(endTicks),
    },
  }
}

const USUAL_TEMPO = 120
function secondsOf(tempo: readonly WrittenTempo[]): (ticks: number) => number {
  const changes = tempo.length ? tempo : [{ startTicks: 0, quartersPerMinute: USUAL_TEMPO }]
  const perTick = (index: number): number => 60 / (changes[index]!.quartersPerMinute * TICKS_PER_QUARTER)
  let at = changes[0]!.startTicks * perTick(0)
  const begun = changes.map(({ startTicks }, index) => {
    const before = changes[index - 1]
    if (before) at += (startTicks - before.startTicks) * perTick(index - 1)
    return at
  })
  let index = 0
  return (ticks) => {
    if (ticks < changes[index]!.startTicks) index = 0
    while (changes[index + 1] && changes[index + 1]!.startTicks <= ticks) index += 1
    return Math.max(0, begun[index]! + (ticks - changes[index]!.startTicks) * perTick(index))
  }
}

export interface Form {
  feel: Feel
  sections: readonly { id: string; name: string }[]
  spans: readonly Span[]
}

/** A stretch of a section that becomes one figure: at most sixteen bars of it. */
interface Piece {
  sectionId: string
  name: string
  /** In its section. */
  offset: number
  from: number
  lengthTicks: number
  meter: Meter
}

function piecesOf({ sections, spans }: Form): Piece[] {
  return spans.flatMap((span, index) => {
    const { id, name } = sections[index]!
    const pieces: Piece[] = []
    for (let first = 0; first < span.bars.length; first += MOST_BARS) {
      const bars = span.bars.slice(first, first + MOST_BARS)
      const from = bars[0]!.startTicks
      const lengthTicks = bars.reduce((sum, bar) => sum + bar.lengthTicks, 0)
      const more = span.bars.length > MOST_BARS ? ` from bar ${first + 1}` : ''
      pieces.push({
        sectionId: id,
        name: `${name}${more}`.slice(0, 80),
        offset: from - span.startTicks,
        from,
        lengthTicks,
        meter: bars[0]!.meter,
      })
    }
    return pieces
  })
}

/** The figures of a part and where they lie; stretches that play the same share one. */
export function chartPart(
  part: Part,
  written: Pick<WrittenPart, 'notes'>,
  form: Form,
): { figures: Figure[]; placements: Placement[]; dropped: Dropped[] } {
  const { notes, dropped: lost } = playable(onePerString(written.notes), part)
  const figures = new Map<string, Figure>()
  const placements: Placement[] = []
  for (const piece of piecesOf(form)) {
    const own = notes.filter(
      ({ startTicks }) => startTicks >= piece.from && startTicks < piece.from + piece.lengthTicks,
    )
    if (!own.length) continue
    const content = contentOf(own, piece.from, part.tuning.openMidi.length)
    const same = JSON.stringify([piece.lengthTicks, piece.meter, content])
    const figure =
      figures.get(same) ?? figureOf(part.id, { ...piece, feel: form.feel }, content, figures.size + 1)
    figures.set(same, figure)
    placements.push({
      kind: 'figure',
      id: `${part.id}-place-${placements.length + 1}`,
      partId: part.id,
      sectionId: piece.sectionId,
      startTicks: piece.offset,
      figureId: figure.id,
      passes: 1,
      shiftFrets: 0,
      form: 'exact',
    })
  }
  return { figures: [...figures.values()], placements, dropped: lost }
}

/** What a part can play: a note that it cannot play so is played plain, one it has no place for not at all. */
function playable(notes: readonly WrittenNote[], part: Part): { notes: WrittenNote[]; dropped: Dropped[] } {
  let [plain, gone] = [0, 0]
  const fits = (note: WrittenNote): boolean => {
    const alone = { ...figureNote(note, 0), startTicks: 0 }
    return contentProblem({ ...EMPTY_CONTENT, notes: [alone] }, part, 1) === undefined
  }
  const kept = notes.flatMap((note) => {
    if (fits(note)) return [note]
    const bare = { ...note, articulations: [] }
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
function onePerString(notes: readonly WrittenNote[]): WrittenNote[] {
  const taken = new Set<string>()
  return notes.filter(({ string, startTicks }) => {
    const key = `${string}/${startTicks}`
    return taken.has(key) ? false : taken.add(key)
  })
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
  const { string, fret, startTicks, lengthTicks, articulations, accent, pick, finger } = note
  return {
    id: `n${index + 1}`,
    string,
    fret,
    startTicks,
    lengthTicks,
    articulations,
    ...(accent ? { accent } : {}),
    ...(pick ? { pick } : {}),
    ...(finger ? { finger } : {}),
  }
}
