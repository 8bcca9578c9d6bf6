// From a figure to what sounds: one played note per string and stroke, with its pitch curve, loudness and damping, still in ticks.
// A string sounds one note at a time: whatever is struck next on it ends what rang before.
import { beatTicks } from '../time/meter'
import type { Articulation, Content, Figure, GripSpan, MuteSpan, Note, Part, Pressure, Stroke } from '../song/schema'
import { soundingMidi } from './part-pitch'

export interface PlayedNote {
  string: number
  startTicks: number
  endTicks: number
  midi: number
  /** Semitones against `midi` over time from the start of the note; linear between points. */
  curve: { ticks: number; semitones: number }[]
  loudness: number
  attack: 'picked' | 'slurred'
  /** Delay of this string within a strum, as a share of the spread (0 first string hit, 1 last). */
  strumShare: number
  strumSeconds: number
  palmMute?: Pressure
  dead: boolean
  harmonic: boolean
  vibrato: 'none' | 'narrow' | 'wide'
}

const STRUM_SECONDS = { down: 0.022, up: 0.016, thumb: 0.034, fingers: 0.004 } as const
const LOUDNESS = { plain: 0.72, accent: 0.92, ghost: 0.38, slurred: 0.55, dead: 0.6 } as const

const has = (note: Note, kind: Articulation['kind']): boolean => note.articulations.some((articulation) => articulation.kind === kind)
const spanAt = (mutes: readonly MuteSpan[], kind: MuteSpan['kind'], tick: number): MuteSpan | undefined =>
  mutes.find((span) => span.kind === kind && span.startTicks <= tick && tick < span.startTicks + span.lengthTicks)

/** Everything a content sounds on a part, in time order. Positions are written ticks: swing is applied when they are laid on a grid. */
export function performContent(content: Content, figure: Pick<Figure, 'lengthTicks' | 'meter'>, part: Part, shiftFrets = 0): PlayedNote[] {
  const played = [
    ...content.strokes.flatMap((stroke) => performStroke(stroke, content, part, shiftFrets)),
    ...content.grips.filter((span) => !content.strokes.some((stroke) => overlaps(stroke, span))).flatMap((span) => performStroke(heldStroke(span), content, part, shiftFrets)),
    ...content.notes.map((note) => performNote(note, content, figure, part, shiftFrets)),
  ].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
  return ringing(slurred(played), content.mutes, figure.lengthTicks)
}

const overlaps = (stroke: Stroke, span: GripSpan): boolean => stroke.startTicks < span.startTicks + span.lengthTicks && stroke.startTicks + stroke.lengthTicks > span.startTicks
/** A grip without any hand pattern is struck once and held. */
const heldStroke = (span: GripSpan): Stroke => ({ id: span.id, startTicks: span.startTicks, lengthTicks: span.lengthTicks, direction: 'down', accent: false, dead: false, choke: false })

function performStroke(stroke: Stroke, content: Content, part: Part, shiftFrets: number): PlayedNote[] {
  const span = content.grips.findLast((grip) => grip.startTicks <= stroke.startTicks && stroke.startTicks < grip.startTicks + grip.lengthTicks)
  if (!span && !stroke.dead) return []
  const grip = span?.grip.strings ?? part.tuning.openMidi.map(() => ({ fret: null }))
  const wanted = stroke.strings ? new Set(stroke.strings) : undefined
  const mute = stroke.palmMute ?? spanAt(content.mutes, 'palm mute', stroke.startTicks)?.pressure
  const struck = grip.map((string, index) => ({ fret: string.fret, string: index + 1 })).filter(({ fret, string }) => (wanted ? wanted.has(string) : true) && (stroke.dead || fret !== null))
  const order = stroke.direction === 'up' ? struck : struck.toReversed()
  return order.map(({ fret, string }, index): PlayedNote => ({
    string, startTicks: stroke.startTicks, endTicks: stroke.startTicks + (stroke.choke ? Math.min(stroke.lengthTicks, 2520) : stroke.lengthTicks),
    midi: soundingMidi(part, string, fret === null ? 0 : fret === 0 ? Math.max(0, shiftFrets) : fret + shiftFrets), curve: [], attack: 'picked', vibrato: 'none', harmonic: false, dead: stroke.dead,
    loudness: (stroke.dead ? LOUDNESS.dead : stroke.accent ? LOUDNESS.accent : LOUDNESS.plain) * (stroke.direction === 'up' ? 0.9 : 1),
    strumShare: order.length > 1 ? index / (order.length - 1) : 0, strumSeconds: STRUM_SECONDS[stroke.direction], ...(mute ? { palmMute: mute } : {}),
  }))
}

function performNote(note: Note, content: Content, figure: Pick<Figure, 'meter'>, part: Part, shiftFrets: number): PlayedNote {
  const ownMute = note.articulations.find((articulation) => articulation.kind === 'palm mute')
  const mute = ownMute?.pressure ?? spanAt(content.mutes, 'palm mute', note.startTicks)?.pressure
  const vibrato = note.articulations.find((articulation) => articulation.kind === 'vibrato')
  const isSlurred = has(note, 'hammer-on') || has(note, 'pull-off') || note.articulations.some((articulation) => articulation.kind === 'slide' && articulation.how === 'legato')
  const length = has(note, 'staccato') || has(note, 'choke') ? Math.min(note.lengthTicks / 2, beatTicks(figure.meter) / 4) : note.lengthTicks
  return {
    string: note.string, startTicks: note.startTicks, endTicks: note.startTicks + length, midi: soundingMidi(part, note.string, note.fret + shiftFrets) + harmonicInterval(note),
    curve: pitchCurve(note, beatTicks(figure.meter)), loudness: note.accent ? LOUDNESS.accent : has(note, 'ghost') ? LOUDNESS.ghost : isSlurred ? LOUDNESS.slurred : LOUDNESS.plain,
    attack: isSlurred ? 'slurred' : 'picked', strumShare: 0, strumSeconds: 0, ...(mute ? { palmMute: mute } : {}), dead: has(note, 'dead'),
    harmonic: has(note, 'natural harmonic') || has(note, 'pinched harmonic'), vibrato: vibrato?.width ?? 'none',
  }
}

/** Semitones from the stopped pitch up to the harmonic: over fret 12 the octave is already there, 7 gives a twelfth over the open string, 5 two octaves. */
function harmonicInterval(note: Note): number {
  if (has(note, 'pinched harmonic')) return 12
  if (!has(note, 'natural harmonic')) return 0
  return { 12: 0, 7: 12, 19: 0, 5: 19, 24: 0, 4: 24, 9: 19 }[note.fret] ?? 12
}

/** Bend and slide shapes as points over the note. A plain bend takes at most half a beat to arrive. */
function pitchCurve(note: Note, beat: number): PlayedNote['curve'] {
  const rise = Math.min(note.lengthTicks * 0.5, beat / 2)
  const points: PlayedNote['curve'] = []
  for (const articulation of note.articulations) {
    if (articulation.kind === 'bend') {
      const top = articulation.semitones
      const shapes: Record<typeof articulation.shape, [number, number][]> = {
        plain: [[0, 0], [rise, top]], 'bend and hold': [[0, 0], [rise, top]], 'pre-bend': [[0, top]], release: [[0, top], [rise * 0.4, top], [rise * 1.4, 0]],
        'bend and release': [[0, 0], [note.lengthTicks * 0.3, top], [note.lengthTicks * 0.6, top], [note.lengthTicks * 0.85, 0]],
        're-bend': [[0, 0], [note.lengthTicks * 0.25, top], [note.lengthTicks * 0.5, 0], [note.lengthTicks * 0.75, top]],
      }
      points.push(...shapes[articulation.shape].map(([ticks, semitones]) => ({ ticks, semitones })))
    } else if (articulation.kind === 'slide') {
      const frets = articulation.frets ?? 3
      if (articulation.how === 'in from below') points.push({ ticks: 0, semitones: -frets }, { ticks: beat / 6, semitones: 0 })
      else if (articulation.how === 'in from above') points.push({ ticks: 0, semitones: frets }, { ticks: beat / 6, semitones: 0 })
      else if (articulation.how === 'out') points.push({ ticks: note.lengthTicks * 0.6, semitones: 0 }, { ticks: note.lengthTicks, semitones: -frets })
    } else if (articulation.kind === 'bar') points.push({ ticks: 0, semitones: 0 }, { ticks: note.lengthTicks / 2, semitones: articulation.semitones }, { ticks: note.lengthTicks, semitones: articulation.how === 'dive' ? articulation.semitones : 0 })
  }
  return points
}

/** A slurred note follows without a gap: the note before lasts until it. */
function slurred(played: PlayedNote[]): PlayedNote[] {
  const last = new Map<number, PlayedNote>()
  for (const note of played) {
    const before = last.get(note.string)
    if (before && note.attack === 'slurred' && before.endTicks < note.startTicks) before.endTicks = note.startTicks
    last.set(note.string, note)
  }
  return played
}

/** Cuts each note where its string is struck again; lets it ring on inside let-ring spans. */
function ringing(played: PlayedNote[], mutes: readonly MuteSpan[], lengthTicks: number): PlayedNote[] {
  return played.map((note, index) => {
    const next = played.slice(index + 1).find((later) => later.string === note.string && later.startTicks > note.startTicks)
    const ring = spanAt(mutes, 'let ring', note.startTicks)
    const wanted = ring ? Math.max(note.endTicks, Math.min(ring.startTicks + ring.lengthTicks, lengthTicks)) : note.endTicks
    return { ...note, endTicks: Math.min(wanted, next?.startTicks ?? Number.POSITIVE_INFINITY) }
  })
}
