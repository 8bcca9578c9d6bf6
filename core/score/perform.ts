// From a figure to what sounds: one played note per string and stroke, with its pitch curve, loudness and
// damping, still in ticks. A string sounds one note at a time: whatever is struck next on it ends what rang
// before.
import { beatTicks } from '../time/meter'
import { figureContent } from '../document/figure-content'
import type { Content, Figure, Note, Part, Pressure, Song, Stroke } from '../document/schema'
import type { Play } from '../timeline/timeline'
import { curveOf } from '../marks'
import { hasMark, isSlurred, markOf, type MarkOf } from '../marks/marks-of'
import { soundingMidi } from '../document/part-pitch'
import type { NoteOrigin } from './origin'
import { palmOf } from './mute-spans'
import { ringing } from './ringing'
import { struckNotes } from './struck-notes'
import { heldStroke, unstruckGrips } from './unstruck-grips'
import { joined, slurred } from './joined-notes'
import { pitchCurve, type CurvePoint } from './pitch-curve'

export interface PlayedNote {
  origin: NoteOrigin
  string: number
  startTicks: number
  endTicks: number
  midi: number
  /** Semitones against `midi` over time from the start of the note; linear between points. */
  curve: CurvePoint[]
  loudness: number
  attack: 'picked' | 'slurred'
  /** Delay of this string within a strum, as a share of the spread (0 first string hit, 1 last). */
  strumShare: number
  strumSeconds: number
  palmMute?: Pressure
  dead: boolean
  /** Noise of the hand on the strings; `curve` says how it climbs. */
  scraped?: true
  harmonic: boolean
  vibrato: 'none' | 'narrow' | 'wide'
  /** Rings until its string is struck again. */
  letRing: boolean
  /** Not struck at all: the note before goes on, by a slide, or by a bend let down. */
  joins?: 'slide' | 'release'
  /** Struck again, but reached by sliding from the note before. */
  slidTo?: boolean
}

const STRUM_SECONDS = { down: 0.022, up: 0.016, thumb: 0.034, fingers: 0.004 } as const
const LOUDNESS = { plain: 0.72, accent: 0.92, ghost: 0.38, slurred: 0.55, dead: 0.6 } as const

/** A content as it was performed once: by whom, in what. */
interface Performance {
  figure: Shape
  part: Part
  shiftFrets: number
  notes: readonly PlayedNote[]
}
type Shape = Pick<Figure, 'lengthTicks' | 'meter'>
const isLike = (a: Shape, b: Shape): boolean =>
  a === b || (a.lengthTicks === b.lengthTicks && beatTicks(a.meter) === beatTicks(b.meter))

/** A content is not played in more ways than these at a time. */
const MOST_KEPT = 8
const performances = new WeakMap<Content, Performance[]>()

/**
 * Everything a content sounds on a part, in time order. Positions are written ticks: swing is applied when
 * they are laid on a grid. Worked out once for each content, whoever asks.
 */
export function performContent(
  content: Content,
  figure: Shape,
  part: Part,
  shiftFrets = 0,
): readonly PlayedNote[] {
  const kept = performances.get(content) ?? []
  const known = kept.find(
    (one) => one.part === part && one.shiftFrets === shiftFrets && isLike(one.figure, figure),
  )
  if (known) return known.notes
  const notes = performed(content, figure, part, shiftFrets)
  performances.set(content, [...kept, { figure, part, shiftFrets, notes }].slice(-MOST_KEPT))
  return notes
}

/** What one pass of a placement plays, in ticks of its figure; nothing for a rest. */
export function notesOfPlay(song: Song, { figure, placement }: Play): readonly PlayedNote[] {
  const part = figure && song.parts[figure.partId]
  if (!figure || !part || placement.kind !== 'figure') return []
  return performContent(figureContent(song, figure, placement.form), figure, part, placement.shiftFrets)
}

function performed(content: Content, figure: Shape, part: Part, shiftFrets: number): PlayedNote[] {
  const hand = { part, shiftFrets, beat: beatTicks(figure.meter) }
  const played = [
    ...content.strokes.flatMap((stroke) => performStroke(stroke, 'strokes', content, hand)),
    ...unstruckGrips(content).flatMap((span) => performStroke(heldStroke(span), 'grips', content, hand)),
    ...content.notes.flatMap((note) => performNote(note, content, hand)),
  ].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
  return ringing(joined(slurred(played), hand.beat), content.mutes, figure.lengthTicks)
}

/** A choke lets a stroke sound no longer than this, ticks. */
const CHOKED_TICKS = 2520
function soundingTicks(stroke: Stroke): number {
  const { lengthTicks } = stroke
  if (hasMark(stroke, 'choke')) return Math.min(lengthTicks, CHOKED_TICKS)
  return hasMark(stroke, 'staccato') ? lengthTicks / 2 : lengthTicks
}
function strokeLoudness(stroke: Stroke): number {
  const struck = hasMark(stroke, 'accent') ? LOUDNESS.accent : LOUDNESS.plain
  return (hasMark(stroke, 'dead') ? LOUDNESS.dead : struck) * (stroke.direction === 'up' ? 0.9 : 1)
}
function noteLoudness(note: Note, slurred: boolean): number {
  if (hasMark(note, 'accent')) return LOUDNESS.accent
  if (hasMark(note, 'ghost')) return LOUDNESS.ghost
  return slurred ? LOUDNESS.slurred : LOUDNESS.plain
}

/** Whose hand plays, how many frets higher than written, to a beat of so many ticks. */
interface PlayingHand {
  part: Part
  shiftFrets: number
  beat: number
}

function performStroke(
  stroke: Stroke,
  layer: 'strokes' | 'grips',
  content: Content,
  { part, shiftFrets, beat }: PlayingHand,
): PlayedNote[] {
  const dead = hasMark(stroke, 'dead')
  const slide = markOf(stroke, 'slide')
  const mute = palmOf(stroke, content)
  const struck = struckNotes(stroke, content, part.tuning.openMidi.length)
  const order = stroke.direction === 'up' ? struck : struck.toReversed()
  return order.map(({ fret, string }, index): PlayedNote => ({
    origin: {
      layer,
      id: stroke.id,
      string,
      fret: fret === null ? undefined : Math.max(0, fret + shiftFrets),
    },
    string,
    startTicks: stroke.startTicks,
    endTicks: stroke.startTicks + soundingTicks(stroke),
    midi: soundingMidi(part, string, Math.max(0, (fret ?? 0) + (fret === null ? 0 : shiftFrets))),
    curve: slide ? curveOf(slide, stroke.lengthTicks, beat) : [],
    attack: slide?.how === 'legato' ? 'slurred' : 'picked',
    vibrato: 'none',
    harmonic: false,
    dead,
    letRing: false,
    loudness: strokeLoudness(stroke),
    ...slideJoin(slide),
    strumShare: order.length > 1 ? index / (order.length - 1) : 0,
    strumSeconds: STRUM_SECONDS[stroke.direction],
    ...(mute ? { palmMute: mute } : {}),
  }))
}

/** Whether a note is reached without a stroke of its own. */
const isReached = (note: Note): boolean => isSlurred(note) || hasMark(note, 'tap', 'grace')

/** What of a note is noise instead of a pitch. */
function noiseOf(note: Note): Pick<PlayedNote, 'dead' | 'scraped'> {
  return hasMark(note, 'scrape') ? { dead: true, scraped: true } : { dead: hasMark(note, 'dead') }
}

/** How a slide goes over from what sounded before on the string. */
function slideJoin(slide: MarkOf<'slide'> | undefined): Pick<PlayedNote, 'joins' | 'slidTo'> {
  if (slide?.how === 'legato') return { joins: 'slide' }
  return slide?.how === 'shift' ? { slidTo: true } : {}
}
/** How a note goes over from the one before: slid to, or released from a bend. */
function joinOf(note: Note): Pick<PlayedNote, 'joins' | 'slidTo'> {
  const released = markOf(note, 'bend')?.shape === 'release'
  return { ...(released ? { joins: 'release' } : {}), ...slideJoin(markOf(note, 'slide')) }
}

function performNote(note: Note, content: Content, { part, shiftFrets, beat }: PlayingHand): PlayedNote[] {
  const mute = palmOf(note, content)
  const vibrato = markOf(note, 'vibrato')
  const grace = markOf(note, 'grace')
  const reached = isReached(note)
  const short = hasMark(note, 'staccato') || hasMark(note, 'choke')
  const length = short ? Math.min(note.lengthTicks / 2, beat / 4) : note.lengthTicks
  const main: PlayedNote = {
    origin: { layer: 'notes', id: note.id, string: note.string, fret: Math.max(0, note.fret + shiftFrets) },
    string: note.string,
    startTicks: note.startTicks,
    endTicks: note.startTicks + length,
    midi: soundingMidi(part, note.string, note.fret + shiftFrets) + harmonicInterval(note),
    curve: pitchCurve(note, beat),
    loudness: noteLoudness(note, reached),
    attack: reached ? 'slurred' : 'picked',
    strumShare: 0,
    strumSeconds: 0,
    ...(mute ? { palmMute: mute } : {}),
    ...noiseOf(note),
    letRing: hasMark(note, 'let ring'),
    harmonic: hasMark(note, 'natural harmonic') || hasMark(note, 'pinched harmonic'),
    vibrato: vibrato?.width ?? 'none',
    ...joinOf(note),
  }
  if (hasMark(note, 'tremolo picking')) return tremolo(main, beat)
  return [
    ...(grace ? [graceNote(main, grace.frets, beat)] : []),
    ...(hasMark(note, 'rake') ? rake(main, part, beat) : []),
    main,
  ]
}

/** Picked again every eighth of a beat, down strokes a little louder. */
function tremolo(main: PlayedNote, beat: number): PlayedNote[] {
  const count = Math.max(1, Math.round((main.endTicks - main.startTicks) / (beat / 8)))
  const step = (main.endTicks - main.startTicks) / count
  return Array.from({ length: count }, (_, index) => ({
    ...main,
    startTicks: main.startTicks + index * step,
    endTicks: main.startTicks + (index + 1) * step,
    loudness: main.loudness * (index % 2 ? 0.82 : 1),
  }))
}
/** Before the beat, so that the note itself arrives where it is written. */
const graceNote = (main: PlayedNote, frets: number, beat: number): PlayedNote => ({
  ...main,
  startTicks: main.startTicks - beat / 9,
  endTicks: main.startTicks,
  midi: main.midi + frets,
  curve: [],
  attack: 'picked',
  vibrato: 'none',
  loudness: LOUDNESS.plain * 0.85,
})
/** The pick drags over the damped strings below before it reaches the note. */
function rake(main: PlayedNote, part: Part, beat: number): PlayedNote[] {
  const strings = Array.from({ length: 3 }, (_, index) => main.string + 3 - index).filter(
    (string) => string <= part.tuning.openMidi.length,
  )
  return strings.map((string, index) => ({
    ...main,
    string,
    startTicks: main.startTicks - ((strings.length - index) * beat) / 22,
    endTicks: main.startTicks,
    midi: soundingMidi(part, string, 0),
    curve: [],
    attack: 'picked',
    dead: true,
    harmonic: false,
    vibrato: 'none',
    letRing: false,
    loudness: LOUDNESS.dead * 0.7,
  }))
}

/**
 * Semitones from the stopped pitch up to the harmonic: over fret 12 the octave is already there, 7 gives a
 * twelfth over the open string, 5 two octaves.
 */
function harmonicInterval(note: Note): number {
  const pinched = markOf(note, 'pinched harmonic')
  if (pinched) return pinched.semitones
  if (!hasMark(note, 'natural harmonic')) return 0
  return { 12: 0, 7: 12, 19: 0, 5: 19, 24: 0, 4: 24, 9: 19 }[note.fret] ?? 12
}
