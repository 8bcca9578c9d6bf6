// Lines against their rule, their key and each other: a linked line that does not follow, notes outside the
// key and the chord, two parts a half step apart.
import { bisector, group } from 'd3-array'
import { figureContent } from '../document/figure-content'
import { soundingMidi } from '../document/part-pitch'
import type { Content, Song } from '../document/schema'
import { derivedLine } from '../neck/lines/derive'
import { inTimeOrder } from '../neck/lines/line'
import { readChordSymbol } from '../music/chord-name'
import { pitchClass, type Key } from '../music/pitch'
import { TICKS_PER_QUARTER } from '../time/meter'
import { keyTones } from './chord-findings'
import type { Names } from './names'
import { figureWords, finding, sectionWords, type Finding } from './finding'
import { songChords, type SongChord } from '../score/song-chords'
import { songNotes, spanIn, type SongNote } from '../score/song-notes'

/** Shorter together, a half step is passing by. */
const CLASH_TICKS = TICKS_PER_QUARTER / 2
const MOST_NAMED = 6

export const lineFindings = (song: Song, names: Names): Finding[] => [
  ...linkedFindings(song),
  ...outsideFindings(song, names),
  ...clashFindings(song, names),
]

/** Notes of a line that follows another where it does not, and no exception says so. */
function linkedFindings(song: Song): Finding[] {
  return Object.values(song.figures).flatMap((figure): Finding[] => {
    const rule = figure.derivedFrom
    const base = rule && song.figures[rule.figureId]
    const part = song.parts[figure.partId]
    if (!rule || !base || !part) return []
    const line = derivedLine(song, figure, rule)
    const about = { partId: part.id, figureId: figure.id }
    if (!line.ok)
      return [
        finding(
          ['linked line', 'wrong'],
          `“${figure.name}” cannot follow “${base.name}”: ${line.refusal.message}`,
          about,
        ),
      ]
    const wanted = new Map(
      line.value.notes.map((note) => [note.startTicks, soundingMidi(part, note.string, note.fret)]),
    )
    const written = new Map(
      inTimeOrder(figure.content.notes).map((note) => [
        note.startTicks,
        soundingMidi(part, note.string, note.fret),
      ]),
    )
    const ticks = [...new Set([...wanted.keys(), ...written.keys()])].sort((a, b) => a - b)
    const wrong = ticks.filter((tick) => wanted.get(tick) !== written.get(tick))
    if (!wrong.length) return []
    return [
      finding(
        ['linked line', 'wrong'],
        `“${figure.name}” (${part.name}) does not follow “${base.name}” by its rule at ` +
          `${listed(wrong.map((tick) => figureWords(figure, tick)))}. Make it anew, or say why it leaves.`,
        { ...about, startTicks: wrong[0]! },
        { facts: wrong.map((tick) => `${tick}:${written.get(tick) ?? '-'}`) },
      ),
    ]
  })
}

function listed(words: readonly string[]): string {
  const more = words.length > MOST_NAMED ? [`${words.length - MOST_NAMED} more`] : []
  return [...words.slice(0, MOST_NAMED), ...more].join('; ')
}

/** Notes of lines that neither the key nor the chord has, a finding for each figure. */
function outsideFindings(song: Song, names: Names): Finding[] {
  const chords = songChords(song)
  // A line that follows another by a rule was looked at when it was made, and its exceptions have a reason.
  const outside = songNotes(song).filter((note) => !note.figure.derivedFrom && isOutside(song, chords, note))
  return [...group(outside, ({ figure }) => figure.id).values()].map((notes) => {
    const { figure, part, play } = notes[0]!
    const key = song.sections[play.placement.sectionId]?.key ?? song.key
    // In a section moved to another key the same notes are outside again: said once.
    const first = notes.filter((note) => note.play === play)
    const words = first.map(
      (note) => `${names.tone(pitchClass(note.midi), key)} (${figureWords(figure, note.figureTicks)})`,
    )
    return finding(
      ['outside note', 'look'],
      `“${figure.name}” (${part.name}) leaves the key and the chord with ` +
        `${listed(words)}. Meant, or misheard?`,
      { partId: part.id, figureId: figure.id, startTicks: first[0]!.figureTicks },
      { facts: first.map((note) => `${note.figureTicks}:${note.string}:${note.midi}`) },
    )
  })
}

const writtenPlaces = new WeakMap<Content, ReadonlySet<string>>()
/** Where notes are written in a content, by string and tick. */
function writtenIn(content: Content): ReadonlySet<string> {
  let places = writtenPlaces.get(content)
  if (!places) {
    places = new Set(content.notes.map(({ startTicks, string }) => `${string}@${startTicks}`))
    writtenPlaces.set(content, places)
  }
  return places
}

const chordBefore = bisector<SongChord, number>(({ startTicks }) => startTicks).right

/** Only what is written as notes: grips are held against their chord. */
function isOutside(song: Song, chords: readonly SongChord[], note: SongNote): boolean {
  const { figure, play } = note
  if (!writtenIn(figureContent(song, figure)).has(`${note.string}@${note.figureTicks}`)) return false
  const key: Key = song.sections[play.placement.sectionId]?.key ?? song.key
  const tone = pitchClass(note.midi)
  if (keyTones(key).has(tone)) return false
  const before = chords[chordBefore(chords, note.startTicks) - 1]
  const chord = before && before.endTicks > note.startTicks ? before : undefined
  const read = chord && readChordSymbol(chord.symbol)
  return !read || !read.semitones.some((step) => (read.root + step) % 12 === tone)
}

/** Two parts that sound a half step apart for longer than passing by, one of them outside the key. */
function clashFindings(song: Song, names: Names): Finding[] {
  const notes = songNotes(song)
  const clashes: { note: SongNote; other: SongNote }[] = []
  let compared = 0
  let skippedFrom: SongNote | undefined
  for (const note of notes) {
    // Each pair once, from the later note, with what still sounds then.
    const [from, to] = spanIn(notes, note.startTicks - 8 * TICKS_PER_QUARTER, note.startTicks + 1)
    compared += to - from
    if (compared > MOST_COMPARED) {
      skippedFrom = note
      break
    }
    for (const other of notes.slice(from, to))
      if (isClash(other, note) && !isLinked(other, note) && (isForeign(song, note) || isForeign(song, other)))
        clashes.push({ note, other })
  }
  const pairs = group(
    clashes,
    ({ note, other }) => `${other.figure.id}/${other.figureTicks}/${note.figure.id}/${note.figureTicks}`,
  )
  const found = [...pairs.values()].map((same) => {
    const { note, other } = same[0]!
    const { sectionId } = note.play.placement
    const section = song.sections[sectionId]!
    const inSection = note.startTicks - (note.play.startTicks - note.play.placement.startTicks)
    const key = section.key ?? song.key
    const name = ({ midi }: SongNote): string => names.tone(pitchClass(midi), key)
    return finding(
      ['clash', 'look'],
      `${section.name}, ${sectionWords(section, Math.max(0, inSection))}: ${name(note)} in ` +
        `“${note.figure.name}” ` +
        `(${note.part.name}) against ${name(other)} in “${other.figure.name}” (${other.part.name}), a half ` +
        `step apart${same.length > 1 ? `, ${same.length} times` : ''}.`,
      { partId: note.part.id, figureId: note.figure.id, startTicks: note.figureTicks },
      { facts: [other.figure.id, other.figureTicks, note.midi, other.midi] },
    )
  })
  return skippedFrom ? [...found, notCompared(song, skippedFrom)] : found
}

/** So many pairs of notes are compared; a real song has a tenth of it. */
const MOST_COMPARED = 20_000_000

/** What the check left out, and where. */
function notCompared(song: Song, { play, startTicks }: SongNote): Finding {
  const { sectionId, startTicks: inSection } = play.placement
  const section = song.sections[sectionId]
  const tick = Math.max(0, startTicks - play.startTicks + inSection)
  const where = section ? `${section.name}, ${sectionWords(section, tick)},` : 'there'
  return finding(
    ['not checked', 'missing'],
    `From ${where} on too many notes sound at once to compare ` +
      'every pair: whether parts clash there is not checked.',
    { sectionId, startTicks: tick },
  )
}

/** Whether the key has no such note: a half step between two of its own notes is colour. */
const isForeign = (song: Song, { play, midi }: SongNote): boolean =>
  !keyTones(song.sections[play.placement.sectionId]?.key ?? song.key).has(pitchClass(midi))

/** Two lines of which one follows the other: their distance is the rule's. */
const isLinked = (a: SongNote, b: SongNote): boolean =>
  a.figure.derivedFrom?.figureId === b.figure.id || b.figure.derivedFrom?.figureId === a.figure.id

function isClash(earlier: SongNote, later: SongNote): boolean {
  if (earlier.part.id === later.part.id || earlier.played.letRing) return false
  if (earlier.startTicks === later.startTicks && earlier.part.id > later.part.id) return false
  const together = Math.min(earlier.endTicks, later.endTicks) - later.startTicks
  return together >= CLASH_TICKS && Math.abs(earlier.midi - later.midi) === 1
}
