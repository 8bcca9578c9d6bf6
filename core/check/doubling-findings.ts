// Two parts that play the same line, in unison or octaves, all but a note or two: a slip in one of them, or
// where one leaves the other.
import { group, rollup } from 'd3-array'
import type { Song } from '../document/schema'
import { pitchClass } from '../music/pitch'
import type { Names } from './names'
import { figureWords, finding, type Finding } from './finding'
import { songNotes, type SongNote } from '../score/song-notes'

/** A line is doubled when so many notes begin together … */
const LEAST_NOTES = 8
/** … and at most this share of them is another note. */
const MOST_APART = 0.15

interface Pair {
  note: SongNote
  second: SongNote
}

/** Notes that begin alone in their part: of a line, not of a chord. */
function lineOf(notes: readonly SongNote[]): Map<number, SongNote> {
  const line = new Map<number, SongNote>()
  for (const [tick, together] of group(notes, ({ startTicks }) => startTicks))
    if (together.length === 1) line.set(tick, together[0]!)
  return line
}

/** Of each two figures that sound together, once, where they are almost the same line. */
export function doublingFindings(song: Song, names: Names): Finding[] {
  const lines = [...group(songNotes(song), ({ part }) => part.id).values()].map(lineOf)
  return lines.flatMap((line, index) =>
    lines.slice(index + 1).flatMap((other) => betweenParts(song, { line, other }, names)),
  )
}

function betweenParts(
  song: Song,
  { line, other }: { line: Map<number, SongNote>; other: Map<number, SongNote> },
  names: Names,
): Finding[] {
  const both = [...line].flatMap(([tick, note]) => {
    const second = other.get(tick)
    return second ? [{ note, second }] : []
  })
  const byPass = group(
    both,
    ({ note, second }) =>
      `${note.play.startTicks}/${note.figure.id}/${second.play.startTicks}/${second.figure.id}`,
  )
  const found = [...byPass.values()].flatMap((pairs) => apart(song, pairs, names))
  return [...new Map(found.map((one) => [one.id, one])).values()]
}

function apart(song: Song, pairs: readonly Pair[], names: Names): Finding[] {
  if (pairs.length < LEAST_NOTES) return []
  const distance = ({ note, second }: Pair): number => pitchClass(second.midi - note.midi)
  const counts = rollup(pairs, (list) => list.length, distance)
  const differing = pairs.filter((pair) => distance(pair) !== 0)
  const same = counts.get(0) ?? 0
  if (differing.length === 0 || same < pairs.length * (1 - MOST_APART)) return []
  const { note, second } = differing[0]!
  const key = song.sections[note.play.placement.sectionId]?.key ?? song.key
  const name = ({ midi }: SongNote): string => names.tone(pitchClass(midi), key)
  const places = differing.map(
    (pair) =>
      `${figureWords(pair.note.figure, pair.note.figureTicks)} ` +
      `(${name(pair.note)} against ${name(pair.second)})`,
  )
  return [
    finding(
      ['doubled line', 'look'],
      `“${note.figure.name}” (${note.part.name}) and “${second.figure.name}” (${second.part.name}) are ` +
        `one line but for ${places.join('; ')}.`,
      { partId: note.part.id, figureId: note.figure.id, startTicks: note.figureTicks },
      { facts: differing.map((pair) => `${pair.note.figureTicks}:${pair.note.midi}:${pair.second.midi}`) },
    ),
  ]
}
