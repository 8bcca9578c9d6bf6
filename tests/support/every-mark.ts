// A song of one guitar on which every mark there is stands on a note, with strums, mutes, rings and a capo.
import type { StrokeMark } from '../../core/marks'
import { OFFERED_MARKS } from '../../core/marks'
import { EMPTY_CONTENT, type Mark, type Content, type Note, type Song } from '../../core/document/schema'
import { TICKS_PER_QUARTER as Q } from '../../core/time/meter'
import { BAR, figureOf, placeOf, run, smallSong } from './small-song'

/** Marks that are said otherwise than by the list the bench offers. */
const OTHERS: Mark[] = [
  { kind: 'hammer-on' },
  { kind: 'pull-off' },
  { kind: 'slide', how: 'legato' },
  { kind: 'bend', semitones: 1, shape: 'plain' },
  { kind: 'bend', semitones: 1.5, shape: 'release' },
  { kind: 'vibrato', width: 'narrow' },
  { kind: 'palm mute', pressure: 'light' },
  { kind: 'palm mute', pressure: 'firm' },
  { kind: 'let ring' },
  { kind: 'dead' },
]
export const EVERY_MARK: readonly Mark[] = [...OFFERED_MARKS.map(({ mark }) => mark), ...OTHERS]

const marked = (mark: Mark, index: number): Note => ({
  id: `m${index}`,
  string: 1 + (index % 3),
  fret: 7,
  startTicks: index * (Q / 2),
  lengthTicks: Q / 2,
  marks: index % 4 === 0 ? [mark, { kind: 'accent' }] : [mark],
  ...(index % 5 === 0 ? { pick: 'up' as const } : {}),
  ...(index % 6 === 0 ? { finger: '3' as const } : {}),
})
/** What the marked notes are slurred and slid from. */
const BEFORE: Note[] = [1, 2, 3].map((string) => ({
  id: `b${string}`,
  string,
  fret: 5,
  startTicks: 0,
  lengthTicks: Q / 4,
  marks: [],
}))

const STROKE_MARKS: StrokeMark[][] = [
  [{ kind: 'accent' }],
  [{ kind: 'dead' }],
  [],
  [{ kind: 'choke' }, { kind: 'slide', how: 'in from below', frets: 2 }],
]
const STRUMMED: Content = {
  ...EMPTY_CONTENT,
  grips: [
    {
      id: 'g',
      startTicks: 0,
      lengthTicks: BAR,
      grip: { strings: [0, 1, 0, 2, 3, null].map((fret) => ({ fret })) },
    },
  ],
  strokes: (['down', 'up', 'thumb', 'fingers'] as const).map((direction, index) => ({
    id: `s${index}`,
    startTicks: index * Q,
    lengthTicks: Q,
    direction,
    marks: STROKE_MARKS[index]!,
  })),
  mutes: [
    { id: 'p', startTicks: 0, lengthTicks: Q, mark: { kind: 'palm mute', pressure: 'medium' } },
    { id: 'r', startTicks: 2 * Q, lengthTicks: Q, mark: { kind: 'let ring' } },
  ],
}

export function everyMarkSong(): Song {
  const notes = [
    ...BEFORE,
    ...EVERY_MARK.map((mark, index) => {
      const note = marked(mark, index)
      return { ...note, startTicks: note.startTicks + Q / 2 }
    }),
  ]
  const marks = figureOf('marks', {
    lengthTicks: 8 * BAR,
    content: { ...EMPTY_CONTENT, notes },
  })
  const strums = figureOf('strums', { lengthTicks: BAR, content: STRUMMED })
  let song = run(smallSong(), 'changePart', {
    partId: 'one',
    set: { instrument: { ...smallSong().parts.one!.instrument, capo: 2 } },
  })
  song = run(song, 'addFigure', { figure: marks })
  song = run(song, 'addFigure', { figure: strums })
  song = run(song, 'setPlacement', { placement: placeOf('a', { figureId: 'marks' }) })
  song = run(song, 'setPlacement', {
    placement: placeOf('b', { figureId: 'strums', sectionId: 'chorus', passes: 4 }),
  })
  return run(song, 'changeSection', {
    sectionId: 'verse',
    set: {
      harmony: ['Em7', 'C#m7b5', 'F#7#9', 'A/C#', 'Dadd9', 'Bb6/9', 'Gm(maj7)', 'E7sus4'].map(
        (symbol, bar) => ({
          startTicks: bar * BAR,
          lengthTicks: BAR,
          symbol,
        }),
      ),
    },
  })
}
