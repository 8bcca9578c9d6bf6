// The voices of a bar as notes and rests, one voice after another.
import { spellMidi, type Key } from '../../music/pitch'
import type { WrittenBar, WrittenNote } from '../score/written-score'
import { writtenValues, type NoteValue } from '../../time/note-values'
import type { VoicedChord } from './voices'
import { markNodes, placeOnly, type Joins } from './write-marks'
import { element, type XmlNode } from './xml'

const ALTER: Record<string, number> = { bb: -2, b: -1, '': 0, '#': 1, '##': 2 }
/** A sounding pitch spelled in a key. */
export function pitchNodes(midi: number, key: Key, prefix = ''): XmlNode[] {
  const match = /^([A-G])(#*|b*)(-?\d+)$/.exec(spellMidi(midi, key))!
  const alter = ALTER[match[2]!] ?? 0
  return [
    element(`${prefix}step`, match[1]!),
    ...(alter ? [element(`${prefix}alter`, alter)] : []),
    element(`${prefix}octave`, match[3]!),
  ]
}

export interface Sounding {
  key: Key
  joins: Map<WrittenNote, Joins>
}

/** The voices of a bar one after another, each from its start. */
export function sounding(chords: readonly VoicedChord[], bar: WrittenBar, context: Sounding): XmlNode[] {
  const voices = [...new Set([1, ...chords.map(({ voice }) => voice)])].sort((a, b) => a - b)
  return voices.flatMap((voice, rank) => {
    const own = chords.filter((chord) => chord.voice === voice)
    return [
      ...(rank ? [element('backup', [element('duration', bar.lengthTicks)])] : []),
      ...voiceNodes(own, bar, voice, context),
    ]
  })
}

function voiceNodes(
  chords: readonly VoicedChord[],
  bar: WrittenBar,
  voice: number,
  context: Sounding,
): XmlNode[] {
  const gap = (lengthTicks: number): XmlNode[] => (lengthTicks > 0 ? restNodes(lengthTicks, bar, voice) : [])
  const nodes: XmlNode[] = []
  let at = bar.startTicks
  for (const chord of chords) {
    nodes.push(...gap(chord.startTicks - at), ...chordNodes(chord, context))
    at = chord.startTicks + chord.lengthTicks
  }
  return [...nodes, ...gap(bar.startTicks + bar.lengthTicks - at)]
}

/** Rests are drawn in the first voice; in the others time only passes. */
function restNodes(lengthTicks: number, bar: WrittenBar, voice: number): XmlNode[] {
  if (voice > 1) return [element('forward', [element('duration', lengthTicks), element('voice', voice)])]
  if (lengthTicks === bar.lengthTicks)
    return [
      element('note', [
        element('rest', [], { measure: 'yes' }),
        element('duration', lengthTicks),
        element('voice', voice),
      ]),
    ]
  return writtenValues(lengthTicks).map((piece) =>
    element('note', [
      element('rest'),
      element('duration', piece.lengthTicks),
      element('voice', voice),
      ...valueNodes(piece.value),
    ]),
  )
}

const valueNodes = ({ type, dots, tuplet }: NoteValue): XmlNode[] => [
  element('type', type),
  ...Array.from({ length: dots }, () => element('dot')),
  ...(tuplet
    ? [
        element('time-modification', [
          element('actual-notes', tuplet.actual),
          element('normal-notes', tuplet.normal),
        ]),
      ]
    : []),
]

function chordNodes(chord: VoicedChord, context: Sounding): XmlNode[] {
  const pieces = writtenValues(chord.lengthTicks)
  return pieces.flatMap((piece, index) => {
    const goesOn = chord.goesOn || index > 0
    const willGoOn = chord.willGoOn || index < pieces.length - 1
    return [
      ...(goesOn ? [] : chord.notes.flatMap((note) => graceNodes(note, chord.voice, context.key))),
      ...chord.notes.map((note, rank) =>
        noteNode(note, { ...piece, voice: chord.voice, goesOn, willGoOn, inChord: rank > 0 }, context),
      ),
    ]
  })
}

function graceNodes(note: WrittenNote, voice: number, key: Key): XmlNode[] {
  const mark = note.marks.find(({ kind }) => kind === 'grace')
  if (mark?.kind !== 'grace' || note.fret + mark.frets < 0) return []
  const from = { ...note, fret: note.fret + mark.frets }
  return [
    element('note', [
      element('grace', [], { slash: 'yes' }),
      element('pitch', pitchNodes(note.midi + mark.frets, key)),
      element('voice', voice),
      element('type', '16th'),
      placeOnly(from, []),
    ]),
  ]
}

interface Piece {
  lengthTicks: number
  value: NoteValue
  voice: number
  goesOn: boolean
  willGoOn: boolean
  inChord: boolean
}

function noteNode(note: WrittenNote, piece: Piece, { key, joins }: Sounding): XmlNode {
  const ties = [...(piece.goesOn ? ['stop'] : []), ...(piece.willGoOn ? ['start'] : [])]
  const tied = ties.map((type) => element('tied', [], { type }))
  const marks = piece.goesOn ? undefined : markNodes(note, joins.get(note)!)
  const [first, ...rest] = marks?.after ?? [placeOnly(note, tied)]
  const notations = marks ? { ...first!, children: [...tied, ...first!.children] } : first!
  return element('note', [
    ...(piece.inChord ? [element('chord')] : []),
    element('pitch', pitchNodes(note.midi, key)),
    element('duration', piece.lengthTicks),
    ...ties.map((type) => element('tie', [], { type })),
    element('voice', piece.voice),
    ...valueNodes(piece.value),
    ...(marks?.head ?? []),
    notations,
    ...rest,
  ])
}
