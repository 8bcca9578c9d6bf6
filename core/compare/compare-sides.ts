// Two stretches of the song one under the other, bar by bar: a section beside a section, a pass beside a
// pass, a part beside a part, the form's chords beside a written chart. What differs is named where it is.
import { sectionPlaces } from '../document/form'
import type { Part, Section, Song } from '../document/schema'
import { pretty, spellMidi, transposeKey, type Key } from '../music/pitch'
import { barTicks, countWords, type Meter } from '../time/meter'
import { notesOfPlay } from '../score/perform'
import { chordsAtPlaces, type PlacedChord } from '../timeline/placed-chord'
import { playsOfPart, type Play } from '../timeline/timeline'
import { namesAt } from '../check/names'
import { songChords } from '../score/song-chords'

/** What plays in a bar: a note in ticks of the bar. */
export interface BarNote {
  tick: number
  string: number
  fret: number
  dead: boolean
  /** With the palm. */
  muted: boolean
  midi: number
}
export interface BarChord {
  tick: number
  symbol: string
}
/** One bar of a side as it is drawn. Bars of a written chart have chords alone: no strings. */
export interface SideBar {
  notes: BarNote[]
  chords: BarChord[]
  strings: number
  meter: Meter
  /** "rests", "not charted", nothing where something plays. */
  idle: string
}
export interface Side {
  title: string
  bars: SideBar[]
  /** Notes are compared by string and fret within a part, by pitch with another part. */
  partId: string | undefined
}
export interface BarDifference {
  /** Ticks of the bar at which something differs. */
  ticks: number[]
  words: string[]
}
export interface BarPair {
  /** From 1. */
  number: number
  upper: SideBar | undefined
  lower: SideBar | undefined
  difference: BarDifference
}

/** A part through a section, with the chords of the form. */
export function sectionSide(song: Song, sectionId: string, partId: string): Side | undefined {
  const place = sectionPlaces(song).find(({ section }) => section.id === sectionId)
  const part = song.parts[partId]
  if (!place || !part) return undefined
  let start = place.startTicks
  const bars = place.section.bars.map(({ meter }) => {
    const bar = playedBar(song, part, { start, meter })
    start += barTicks(meter)
    return bar
  })
  return { title: `${place.section.name}, ${part.name}`, bars, partId }
}

/** One pass of what a part plays in a section; passes are counted over all that is placed there, from 1. */
export function passSide(song: Song, sectionId: string, partId: string, pass: number): Side | undefined {
  const part = song.parts[partId]
  const play = passesIn(song, sectionId, partId)[pass - 1]
  if (!part || !play?.figure) return undefined
  const { meter, lengthTicks, name } = play.figure
  const count = Math.ceil(lengthTicks / barTicks(meter))
  const bars = Array.from({ length: count }, (_, bar) =>
    playedBar(song, part, { start: play.startTicks + bar * barTicks(meter), meter }),
  )
  return { title: `Pass ${pass}: ${name}`, bars, partId }
}

/** The passes of figures that a part plays in a section, in their order. */
export function passesIn(song: Song, sectionId: string, partId: string): Play[] {
  return playsOfPart(song, partId).filter(
    ({ figure, placement }) => figure && placement.sectionId === sectionId,
  )
}

/** The chords of the form alone, bar by bar of a section. */
export function formSide(song: Song, sectionId: string): Side | undefined {
  const place = sectionPlaces(song).find(({ section }) => section.id === sectionId)
  if (!place) return undefined
  let start = place.startTicks
  const bars = place.section.bars.map(({ meter }): SideBar => {
    const chords = chordsWithin(song, start, start + barTicks(meter))
    start += barTicks(meter)
    return { notes: [], chords, strings: 0, meter, idle: '' }
  })
  return { title: `${place.section.name} as charted`, bars, partId: undefined }
}

/** Chords alone, a list for each bar of a section. */
export function chordSide(
  title: string,
  { bars }: Section,
  chords: readonly (readonly PlacedChord[])[],
): Side {
  return {
    title,
    partId: undefined,
    bars: chords.map((own, index) => {
      const { meter } = bars[Math.min(index, bars.length - 1)]!
      return {
        notes: [],
        chords: chordsAtPlaces(own, meter),
        strings: 0,
        meter,
        idle: '',
      }
    }),
  }
}

function playedBar(song: Song, part: Part, { start, meter }: { start: number; meter: Meter }): SideBar {
  const end = start + barTicks(meter)
  const plays = playsOfPart(song, part.id).filter(
    (play) => play.startTicks < end && play.startTicks + play.lengthTicks > start,
  )
  const notes = plays.flatMap((play) => notesOf(song, play))
  const within = notes.filter(({ tick }) => tick >= start && tick < end)
  const sounding = plays.some(({ figure }) => figure)
  const silent = plays.length ? 'rests' : 'not charted'
  return {
    notes: within.map((note) => ({ ...note, tick: note.tick - start })),
    chords: chordsWithin(song, start, end),
    strings: part.tuning.openMidi.length,
    meter,
    idle: sounding ? '' : silent,
  }
}

const notesOfPlays = new WeakMap<Play, BarNote[]>()

/** Notes of a pass in ticks of the song; worked out once for each document, whose plays these are. */
function notesOf(song: Song, play: Play): BarNote[] {
  const known = notesOfPlays.get(play)
  if (known) return known
  const made = barNotes(song, play)
  notesOfPlays.set(play, made)
  return made
}

function barNotes(song: Song, play: Play): BarNote[] {
  return notesOfPlay(song, play).map((note) => ({
    tick: play.startTicks + note.startTicks,
    string: note.string,
    fret: note.origin.fret ?? 0,
    dead: note.dead,
    muted: note.palmMute !== undefined,
    midi: note.midi,
  }))
}

/** Chords that begin in a bar; one that goes on from before stands at its beginning. */
function chordsWithin(song: Song, start: number, end: number): BarChord[] {
  return songChords(song)
    .filter(({ startTicks, endTicks }) => startTicks < end && endTicks > start)
    .map(({ startTicks, symbol }) => ({ tick: Math.max(0, startTicks - start), symbol }))
}

/** Bar beside bar, to the end of the longer side. Names are `nameShift` semitones from what sounds. */
export function compareSides(
  upper: Side,
  lower: Side,
  { key, nameShift = 0 }: { key: Key; nameShift?: number },
): BarPair[] {
  const count = Math.max(upper.bars.length, lower.bars.length)
  const samePart = upper.partId !== undefined && upper.partId === lower.partId
  const spelled = transposeKey(key, nameShift)
  const pitch = ({ midi }: BarNote): string => pretty(spellMidi(Math.round(midi) + nameShift, spelled))
  const place = ({ string, fret }: BarNote): string => `string ${string} fret ${fret}`
  const names: BarNames = {
    note: samePart ? place : pitch,
    symbol: (symbol) => namesAt(nameShift).symbol(symbol, key),
  }
  return Array.from({ length: count }, (_, index): BarPair => {
    const [first, second] = [upper.bars[index], lower.bars[index]]
    return {
      number: index + 1,
      upper: first,
      lower: second,
      difference: differenceOf(first, second, names),
    }
  })
}

interface BarNames {
  note: (note: BarNote) => string
  symbol: (symbol: string) => string
}

function differenceOf(
  upper: SideBar | undefined,
  lower: SideBar | undefined,
  { note, symbol }: BarNames,
): BarDifference {
  if (!upper || !lower)
    return { ticks: [], words: [upper ? 'only in the upper one' : 'only in the lower one'] }
  const changes = [
    ...idleChanges(upper, lower),
    ...chordChanges(upper, lower, symbol),
    ...noteChanges(upper, lower, note),
  ]
  return {
    ticks: [...new Set(changes.map(({ tick }) => tick))].sort((a, b) => a - b),
    words: changes.map(({ words }) => words),
  }
}

interface Change {
  tick: number
  words: string
}

function idleChanges(upper: SideBar, lower: SideBar): Change[] {
  if (!upper.strings || !lower.strings || upper.idle === lower.idle) return []
  return [{ tick: 0, words: `${lower.idle || 'plays'} instead of ${upper.idle || 'plays'}` }]
}

function chordChanges(upper: SideBar, lower: SideBar, name: BarNames['symbol']): Change[] {
  // A part beside a part stands over the same chords; a pass over whatever its section has.
  const ticks = new Set([...upper.chords, ...lower.chords].map(({ tick }) => tick))
  const at = ({ chords }: SideBar, tick: number): string | undefined =>
    chords.findLast((chord) => chord.tick <= tick)?.symbol
  return [...ticks]
    .sort((a, b) => a - b)
    .flatMap((tick): Change[] => {
      const [first, second] = [at(upper, tick), at(lower, tick)]
      if (first === second || first === undefined || second === undefined) return []
      return [{ tick, words: `${countWords(upper.meter, tick)}: ${name(second)} instead of ${name(first)}` }]
    })
}

function noteChanges(upper: SideBar, lower: SideBar, name: BarNames['note']): Change[] {
  if (!upper.strings || !lower.strings || upper.idle || lower.idle) return []
  const ticks = [...new Set([...upper.notes, ...lower.notes].map(({ tick }) => tick))].sort((a, b) => a - b)
  const toldAt = ({ notes }: SideBar, tick: number): string =>
    notes
      .filter((note) => note.tick === tick)
      .sort((a, b) => a.midi - b.midi)
      .map((note) => (note.dead ? 'dead' : name(note)))
      .join(' + ')
  return ticks.flatMap((tick): Change[] => {
    const [first, second] = [toldAt(upper, tick), toldAt(lower, tick)]
    if (first === second) return []
    const count = countWords(upper.meter, tick)
    if (!first) return [{ tick, words: `${count}: ${second} added` }]
    if (!second) return [{ tick, words: `${count}: ${first} left out` }]
    return [{ tick, words: `${count}: ${second} instead of ${first}` }]
  })
}
