// A song unrolled into a written score: every pass of every placement, strokes as the notes they strike,
// muting spans as marks on the notes under them.
import { hasMark } from '../../marks/marks-of'
import { ticksToSeconds, type TimeMap } from '../../time/beat-grid'
import { TICKS_PER_QUARTER } from '../../time/meter'
import { figureContent } from '../../document/figure-content'
import { orderedParts, songTimeMap } from '../../document/form'
import { soundingMidi } from '../../document/part-pitch'
import type { Mark, Content, GripSpan, Note, Part, Placement, Song, Stroke } from '../../document/schema'
import { gripFacts } from '../../neck/grips/grip'
import { spanAt } from '../../score/mute-spans'
import { struckNotes } from '../../score/struck-notes'
import { heldStroke, unstruckGrips } from '../../score/unstruck-grips'
import { playsOfPart, timelineOf, type Play } from '../../timeline/timeline'
import { wordsOfPart, wordsOfSong } from './words-of'
import {
  noteOrder,
  type WrittenBar,
  type WrittenGrip,
  type WrittenHarmony,
  type WrittenNote,
  type WrittenPart,
  type WrittenScore,
  type WrittenTempo,
} from './written-score'

/** Which parts, and one section instead of the whole song. */
export interface Scope {
  partIds?: readonly string[]
  sectionId?: string
}

/** Where nothing is laid over a recording yet. */
const USUAL_TEMPO = 120
/** Tempos nearer than this to the one before are the same, quarters a minute. */
const SAME_TEMPO = 0.001

export function scoreFromSong(song: Song, scope: Scope = {}): WrittenScore {
  const timeline = timelineOf(song)
  const places = timeline.places.filter(({ section }) => !scope.sectionId || section.id === scope.sectionId)
  const from = places[0]?.startTicks ?? 0
  const last = places.at(-1)
  const to = last ? last.startTicks + last.lengthTicks : 0
  const inside = ({ startTicks }: { startTicks: number }): boolean => startTicks >= from && startTicks < to
  const moved = <T extends { startTicks: number }>(list: readonly T[]): T[] =>
    list.filter(inside).map((entry) => ({ ...entry, startTicks: entry.startTicks - from }))
  const parts = orderedParts(song).filter(({ id }) => scope.partIds?.includes(id) ?? true)
  return {
    title: song.title,
    artist: song.artist,
    key: song.key,
    feel: song.feel,
    bars: moved(barsOf(song)),
    harmony: moved(harmonyOf(song)),
    tempo: moved(tempoOf(song, from)),
    parts: parts.map((part) => {
      const whole = writtenPart(song, part)
      const words = moved(wordsOfPart(song, part))
      return { ...whole, notes: moved(whole.notes), grips: moved(whole.grips), words }
    }),
    words: moved(wordsOfSong(song)),
    endTicks: to - from,
  }
}

function barsOf(song: Song): WrittenBar[] {
  const sections = new Map(timelineOf(song).places.map(({ section }) => [section.id, section]))
  let key = song.key
  return timelineOf(song).bars.map(({ sectionId, barInSection, startTicks, lengthTicks }): WrittenBar => {
    const section = sections.get(sectionId)!
    const { meter, free } = section.bars[barInSection]!
    const next = section.key ?? song.key
    const changed = barInSection === 0 && (next.tonic !== key.tonic || next.mode !== key.mode)
    if (changed) key = next
    return {
      startTicks,
      lengthTicks,
      meter,
      free: free ?? false,
      ...(barInSection === 0 ? { section: section.name } : {}),
      ...(changed ? { key } : {}),
    }
  })
}

function harmonyOf(song: Song): WrittenHarmony[] {
  return timelineOf(song)
    .places.flatMap(({ section, startTicks }) =>
      section.harmony.map((change) => ({
        startTicks: Math.max(0, startTicks + change.startTicks),
        lengthTicks: change.lengthTicks,
        symbol: change.symbol,
      })),
    )
    .sort((a, b) => a.startTicks - b.startTicks)
}

/** The tempo of every counted beat of the main recording, said where it changes. */
function tempoOf(song: Song, from: number): WrittenTempo[] {
  const map = songTimeMap(song)
  if (!map) return [{ startTicks: from, quartersPerMinute: USUAL_TEMPO }]
  const found: WrittenTempo[] = []
  map.ticks.slice(0, -1).forEach((startTicks, index) => {
    const seconds = map.seconds[index + 1]! - map.seconds[index]!
    const quarters = (map.ticks[index + 1]! - startTicks) / TICKS_PER_QUARTER
    const quartersPerMinute = (60 * quarters) / seconds
    const before = found.at(-1)?.quartersPerMinute ?? 0
    if (Math.abs(before - quartersPerMinute) > SAME_TEMPO) found.push({ startTicks, quartersPerMinute })
  })
  return withTempoAt(found, from, map)
}

/** A score that begins in the middle of the song begins with the tempo that holds there. */
function withTempoAt(tempo: readonly WrittenTempo[], from: number, map: TimeMap): WrittenTempo[] {
  if (tempo.some(({ startTicks }) => startTicks === from)) return [...tempo]
  const quarter = ticksToSeconds(map, from + TICKS_PER_QUARTER) - ticksToSeconds(map, from)
  const holding = tempo.findLast(({ startTicks }) => startTicks < from)?.quartersPerMinute ?? 60 / quarter
  return [...tempo, { startTicks: from, quartersPerMinute: holding }].sort(
    (a, b) => a.startTicks - b.startTicks,
  )
}

function writtenPart(song: Song, part: Part): WrittenPart {
  const plays = playsOfPart(song, part.id)
  return {
    name: part.name,
    instrument: part.instrument,
    tuning: part.tuning,
    sound: part.sound,
    notes: plays.flatMap((play) => notesOfPlay(song, part, play)).sort(noteOrder),
    grips: plays.flatMap((play) => gripsOfPlay(song, part, play)),
  }
}

type FigurePlacement = Extract<Placement, { kind: 'figure' }>
function playedContent(song: Song, { figure, placement }: Play): Content | undefined {
  return figure && placement.kind === 'figure' ? figureContent(song, figure, placement.form) : undefined
}

function notesOfPlay(song: Song, part: Part, play: Play): WrittenNote[] {
  const content = playedContent(song, play)
  if (!content) return []
  const shift = (play.placement as FigurePlacement).shiftFrets
  const context = { part, content, shift }
  return [
    ...content.notes.map((note) => fromNote(note, context)),
    ...content.strokes.flatMap((stroke) => fromStroke(stroke, context)),
    ...unstruckGrips(content).flatMap((span) => fromStroke(heldStroke(span), context)),
  ].map((note) => ({ ...note, startTicks: note.startTicks + play.startTicks }))
}

interface PlayContext {
  part: Part
  content: Content
  shift: number
}

/** Marks that come from a span over the notes. */
function spanMarks(content: Content, tick: number, own: readonly Mark[]): Mark[] {
  return (['palm mute', 'let ring'] as const).flatMap((kind) => {
    const span = hasMark({ marks: own }, kind) ? undefined : spanAt(content.mutes, kind, tick)
    return span ? [span.mark] : []
  })
}

function fromNote(note: Note, { part, content, shift }: PlayContext): WrittenNote {
  const fret = Math.max(0, note.fret + shift)
  return {
    string: note.string,
    fret,
    midi: soundingMidi(part, note.string, fret),
    startTicks: note.startTicks,
    lengthTicks: note.lengthTicks,
    marks: [...note.marks, ...spanMarks(content, note.startTicks, note.marks)],
    ...(note.pick ? { pick: note.pick } : {}),
    ...(note.finger ? { finger: note.finger } : {}),
  }
}

/** The notes a stroke strikes, each on its string. */
function fromStroke(stroke: Stroke, { part, content, shift }: PlayContext): WrittenNote[] {
  const { direction, marks, startTicks, lengthTicks } = stroke
  return struckNotes(stroke, content, part.tuning.openMidi.length).map((struck): WrittenNote => {
    const { string, finger } = struck
    const fret = struck.fret === null ? 0 : Math.max(0, struck.fret + shift)
    return {
      string,
      fret,
      midi: soundingMidi(part, string, fret),
      startTicks,
      lengthTicks,
      marks: [...marks, ...spanMarks(content, startTicks, marks)],
      ...(direction === 'down' || direction === 'up' ? { pick: direction } : { pluck: direction }),
      ...(finger ? { finger } : {}),
    }
  })
}

function gripsOfPlay(song: Song, part: Part, play: Play): WrittenGrip[] {
  const content = playedContent(song, play)
  if (!content) return []
  const shift = (play.placement as FigurePlacement).shiftFrets
  return content.grips.map(({ startTicks, grip }) => {
    const strings = grip.strings.map(({ fret, finger }) => ({
      fret: fret === null ? null : Math.max(0, fret + shift),
      finger,
    }))
    const moved = { ...grip, strings }
    return {
      startTicks: startTicks + play.startTicks,
      symbol: gripFacts(song, part, moved as GripSpan['grip'], 'sounding').names[0]?.symbol ?? '',
      strings,
    }
  })
}
