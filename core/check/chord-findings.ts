// Chord names against what is charted under them: grips that hold a note the chord has not, lines and bass
// that say another chord.
import { greatest, group, sum } from 'd3-array'
import { figureContent } from '../document/figure-content'
import { soundingMidi } from '../document/part-pitch'
import { orderedSections } from '../document/form'
import { renamedChord } from '../document/harmony'
import type { Figure, GripSpan, Part, Song } from '../document/schema'
import { writeGrip } from '../neck/grips/grip'
import { readChordSymbol } from '../music/chord-name'
import { pitchClass, pitchClassOf, spellPitchClass, type Key } from '../music/pitch'
import { scaleKind } from '../music/scale'
import { timelineOf } from '../timeline/timeline'
import type { Names } from './names'
import { figureWords, finding, fix, sectionWords, type Finding } from './finding'
import { songChords, type SongChord } from '../score/song-chords'
import { notesWithin, songNotes, type SongNote } from '../score/song-notes'

/** Another chord must fit what is charted by so much better before a name is doubted. */
const CLEARLY_BETTER = 0.35
/** How much the lowest note at the beginning of a chord speaks for its bass. */
const BASS_WEIGHT = 0.5

export const chordFindings = (song: Song, names: Names): Finding[] => [
  ...notUnderstood(song),
  ...outsideTheKey(song, names),
  ...gripFindings(song, names),
  ...lineFindings(song, names),
]

function notUnderstood(song: Song): Finding[] {
  return orderedSections(song).flatMap((section) =>
    section.harmony
      .filter(({ symbol }) => !readChordSymbol(symbol))
      .map(({ symbol, startTicks }) =>
        finding(
          ['chord not understood', 'wrong'],
          `${section.name}, ${sectionWords(section, startTicks)}: “${symbol}” is no known chord name.`,
          { sectionId: section.id, startTicks },
          { facts: [symbol] },
        ),
      ),
  )
}

const tonesOfKey = new WeakMap<Key, ReadonlySet<number>>()

/** Tones of a key, the raised seventh of minor among them. */
export function keyTones(key: Key): ReadonlySet<number> {
  const known = tonesOfKey.get(key)
  if (known) return known
  const tonic = pitchClassOf(key.tonic)
  const tones = new Set(scaleKind(key.mode).semitones.map((step) => (tonic + step) % 12))
  if (key.mode === 'minor') tones.add((tonic + 11) % 12)
  tonesOfKey.set(key, tones)
  return tones
}

/** Roots that no chord of the key has, once for each name and key. */
function outsideTheKey(song: Song, names: Names): Finding[] {
  const outside = orderedSections(song).flatMap((section) => {
    const key = section.key ?? song.key
    const tones = keyTones(key)
    return section.harmony.flatMap(({ symbol, startTicks }) => {
      const chord = readChordSymbol(symbol)
      return chord && !tones.has(chord.root) ? [{ section, key, symbol, startTicks }] : []
    })
  })
  return [...group(outside, ({ symbol, key }) => `${symbol}/${key.tonic}/${key.mode}`).values()].map(
    (same) => {
      const { section, key, symbol, startTicks } = same[0]!
      const where = `${section.name}, ${sectionWords(section, startTicks)}`
      const more = same.length > 1 ? ` and in ${same.length - 1} more places` : ''
      return finding(
        ['chord outside the key', 'look'],
        `${where}${more}: ${names.symbol(symbol, key)} stands on a note ` +
          `that ${names.key(key)} does not have. Borrowed, or misheard?`,
        { sectionId: section.id, startTicks },
        {
          facts: [symbol, key.tonic, key.mode, ...same.map((one) => `${one.section.id}:${one.startTicks}`)],
        },
      )
    },
  )
}

interface Disagreement {
  chord: SongChord
  figure: Figure
  part: Part
  span: GripSpan
  /** Tones of the grip that the chord has not. */
  outside: number[]
}

function gripFindings(song: Song, names: Names): Finding[] {
  const disagreements = disagreementsOf(song)
  const byGrip = group(disagreements, ({ figure, span }) => `${figure.id}/${span.startTicks}`)
  const found: Finding[] = []
  const inChords: Disagreement[] = []
  for (const same of byGrip.values()) {
    const [first] = same
    const places = new Set(same.map(({ chord }) => `${chord.sectionId}/${chord.inSection}`)).size
    // The same grip disagrees wherever it is played: then it is the grip. Else it is the chord.
    if (places > 1 && same.length * 2 > timesPlayed(song, first!.figure))
      found.push(gripFinding(song, { ...first!, places }, names))
    else inChords.push(...same)
  }
  for (const same of group(inChords, ({ chord }) => `${chord.sectionId}/${chord.inSection}`).values())
    found.push(chordFinding(song, same, names))
  return found
}

const timesPlayed = (song: Song, figure: Figure): number =>
  (timelineOf(song).playsByPart.get(figure.partId) ?? []).filter((play) => play.figure?.id === figure.id)
    .length

function disagreementsOf(song: Song): Disagreement[] {
  const chords = songChords(song)
  return song.partOrder.flatMap((partId) => {
    const part = song.parts[partId]!
    return (timelineOf(song).playsByPart.get(partId) ?? []).flatMap((play) => {
      const { figure, placement } = play
      if (!figure || placement.kind !== 'figure') return []
      return figureContent(song, figure, placement.form).grips.flatMap((span): Disagreement[] => {
        const start = play.startTicks + span.startTicks
        const end = start + span.lengthTicks
        const held = gripTones(part, span, placement.shiftFrets)
        return chordsHeld(chords, start, end).flatMap((chord): Disagreement[] => {
          const tones = tonesOf(chord.symbol)
          const outside = tones ? held.filter((tone) => !tones.has(tone)) : []
          return outside.length ? [{ chord, figure, part, span, outside: [...new Set(outside)] }] : []
        })
      })
    })
  })
}

/** Chords that a grip is held over: not what it only leads into, nor what it still rings into. */
const chordsHeld = (chords: readonly SongChord[], from: number, to: number): SongChord[] =>
  chords.filter((chord) => {
    const shorter = Math.min(to - from, chord.endTicks - chord.startTicks)
    return overlap(chord, from, to) * 2 > shorter
  })

const overlap = (chord: SongChord, from: number, to: number): number =>
  Math.max(0, Math.min(chord.endTicks, to) - Math.max(chord.startTicks, from))

function tonesOf(symbol: string): Set<number> | undefined {
  const chord = readChordSymbol(symbol)
  if (!chord) return undefined
  return new Set([chord.bass, ...chord.semitones.map((step) => (chord.root + step) % 12)])
}

const gripTones = (part: Part, { grip }: GripSpan, shift: number): number[] =>
  grip.strings.flatMap(({ fret }, index) =>
    fret === null
      ? []
      : [pitchClass(soundingMidi(part, index + 1, fret === 0 && shift === 0 ? 0 : fret + shift))],
  )

const toneNames = (song: Song, tones: readonly number[], names: Names): string =>
  tones.map((tone) => names.tone(tone, song.key)).join(', ')

function gripFinding(
  song: Song,
  { chord, figure, part, span, outside, places }: Disagreement & { places: number },
  names: Names,
): Finding {
  return finding(
    ['grip against chord', 'wrong'],
    `“${figure.name}” (${part.name}), ${figureWords(figure, span.startTicks)}: the grip ` +
      `${writeGrip(span.grip)} sounds ${toneNames(song, outside, names)}, which ` +
      `${names.symbol(chord.symbol, song.key)} has not, ` +
      `in ${places} places.`,
    { partId: part.id, figureId: figure.id, startTicks: span.startTicks },
    { facts: [writeGrip(span.grip), chord.symbol] },
  )
}

/** "Verse 1, bar 3: the chord is Am". */
function chordIs(song: Song, { sectionId, inSection, symbol }: SongChord, names: Names): string {
  const section = song.sections[sectionId]!
  const name = names.symbol(symbol, song.key)
  return `${section.name}, ${sectionWords(section, inSection)}: the chord is ${name}`
}

function chordFinding(song: Song, same: readonly Disagreement[], names: Names): Finding {
  const { chord, figure, part, span, outside } = same[0]!
  const section = song.sections[chord.sectionId]!
  const better = betterChord(song, chord)
  return finding(
    ['grip against chord', 'wrong'],
    `${chordIs(song, chord, names)}, but ` +
      `${part.name} (“${figure.name}”) holds ${writeGrip(span.grip)}, which sounds ` +
      `${toneNames(song, outside, names)}.` +
      (better === undefined ? '' : ` What is charted says ${names.symbol(better, song.key)}.`),
    { sectionId: section.id, startTicks: chord.inSection },
    {
      facts: [chord.symbol, ...same.map((one) => `${one.figure.id}:${writeGrip(one.span.grip)}`)],
      fix: better === undefined ? undefined : rename(song, chord, better, names),
    },
  )
}

const rename = (song: Song, chord: SongChord, symbol: string, names: Names) =>
  fix(`Call it ${names.symbol(symbol, song.key)}`, 'changeSection', {
    sectionId: chord.sectionId,
    set: { harmony: renamedChord(song.sections[chord.sectionId]!.harmony, chord.inSection, symbol) },
  })

/** Chords whose lines and bass say another one, where no grip has said so. */
function lineFindings(song: Song, names: Names): Finding[] {
  const gripped = new Set(disagreementsOf(song).map(({ chord }) => `${chord.sectionId}/${chord.inSection}`))
  return songChords(song).flatMap((chord) => {
    if (gripped.has(`${chord.sectionId}/${chord.inSection}`)) return []
    const better = betterChord(song, chord)
    if (better === undefined) return []
    const section = song.sections[chord.sectionId]!
    return [
      finding(
        ['line against chord', 'wrong'],
        `${chordIs(song, chord, names)}, ` + `what is charted there says ${names.symbol(better, song.key)}.`,
        { sectionId: section.id, startTicks: chord.inSection },
        { facts: [chord.symbol, better], fix: rename(song, chord, better, names) },
      ),
    ]
  })
}

/** A chord of the same or a simple kind that what is charted fits clearly better. */
function betterChord(song: Song, chord: SongChord): string | undefined {
  const notes = notesWithin(songNotes(song), chord.startTicks, chord.endTicks)
  // A few notes of a lead say little, unless none of them belongs to the chord.
  const told =
    notes.some(({ part }) => part.role === 'bass') || new Set(notes.map(({ midi }) => midi)).size > 2
  const tones = tonesOf(chord.symbol)
  if (!told && notes.some(({ midi }) => tones?.has(pitchClass(midi)))) return undefined
  const own = readChordSymbol(chord.symbol)
  if (!own) return undefined
  const key = song.sections[chord.sectionId]?.key ?? song.key
  const suffix = chord.symbol.replace(/^[A-G][#b♯♭]?/, '').replace(/\/.*$/, '')
  const candidates = Array.from({ length: 12 }, (_, root) => root).flatMap((root) =>
    [...new Set([suffix, '', 'm', '5'])].map((kind) => spellPitchClass(root, key) + kind),
  )
  const fitOf = (symbol: string): number => fitTo(notes, chord, symbol)
  const best = greatest(candidates, fitOf)!
  return fitOf(best) > fitOf(chord.symbol) + CLEARLY_BETTER ? best : undefined
}

/** How much of what sounds belongs to a chord, and whether its bass is the lowest note at the beginning. */
function fitTo(notes: readonly SongNote[], span: SongChord, symbol: string): number {
  const chord = readChordSymbol(symbol)
  const tones = tonesOf(symbol)
  if (!chord || !tones || notes.length === 0) return 0
  const lengthOf = (note: SongNote): number => Math.min(note.endTicks, span.endTicks) - note.startTicks
  const all = sum(notes, lengthOf)
  const inside = sum(notes, (note) => (tones.has(pitchClass(note.midi)) ? lengthOf(note) : 0))
  const begin = notes.filter(({ startTicks }) => startTicks === notes[0]!.startTicks)
  const lowest = Math.min(...begin.map(({ midi }) => midi))
  // A name with more tones fits more by chance.
  return inside / Math.max(1, all) + (pitchClass(lowest) === chord.bass ? BASS_WEIGHT : 0) - 0.04 * tones.size
}
