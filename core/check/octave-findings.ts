// A line played in octaves that leaves them for a note or two: one of its two strings has slipped.
import { group } from 'd3-array'
import type { Song } from '../document/schema'
import { pitchClass } from '../music/pitch'
import { figureWords, finding, type Finding } from './finding'
import type { Names } from './names'
import { songNotes, type SongNote } from '../score/song-notes'

/** A line goes in octaves when so many pairs are struck together … */
const LEAST_PAIRS = 6
/** … and at most this share of them is no octave. */
const MOST_APART = 0.2

interface Pair {
  low: SongNote
  high: SongNote
}

export function octaveFindings(song: Song, names: Names): Finding[] {
  const byFigure = group(songNotes(song), ({ figure }) => figure.id)
  return [...byFigure.values()].flatMap((notes) => {
    const firstPass = notes.filter(({ play }) => play === notes[0]?.play)
    return ofFigure(song, pairsIn(firstPass), names)
  })
}

/** Two notes struck together, and no third. */
function pairsIn(notes: readonly SongNote[]): Pair[] {
  return [...group(notes, ({ startTicks }) => startTicks).values()].flatMap((together) => {
    const [low, high, third] = [...together].sort((a, b) => a.midi - b.midi)
    return low && high && !third ? [{ low, high }] : []
  })
}

function ofFigure(song: Song, pairs: readonly Pair[], names: Names): Finding[] {
  const apart = pairs.filter(({ low, high }) => pitchClass(high.midi - low.midi) !== 0)
  const [first] = apart
  if (!first || pairs.length < LEAST_PAIRS || apart.length > MOST_APART * pairs.length) return []
  const { figure, part, play } = first.low
  const key = song.sections[play.placement.sectionId]?.key ?? song.key
  const name = ({ midi }: SongNote): string => names.tone(pitchClass(midi), key)
  const places = apart.map(
    ({ low, high }) => `${figureWords(figure, low.figureTicks)} (${name(low)} with ${name(high)})`,
  )
  return [
    finding(
      ['doubled line', 'look'],
      `“${figure.name}” (${part.name}) goes in octaves but for ${places.join('; ')}. Meant, or a slip?`,
      { partId: part.id, figureId: figure.id, startTicks: first.low.figureTicks },
      { facts: apart.map(({ low, high }) => `octave ${low.figureTicks}:${low.midi}:${high.midi}`) },
    ),
  ]
}
