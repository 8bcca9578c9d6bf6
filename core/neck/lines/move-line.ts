// A line moved: by frets on its strings, by semitones or to another degree on the best path; or carried
// over to another tuning, keeping the sound or the shape.
import { degreeAbove } from '../../music/scale'
import { pitchClassOf, spellMidi, type Key } from '../../music/pitch'
import { ok, refuse, type Result } from '../../result'
import { storeContent } from '../../document/figure-layers'
import { figureContent } from '../../document/figure-content'
import type { Content, Figure, Grip, NeckWish, Note, Part, Song } from '../../document/schema'
import { diatonic } from './harmony-rule'
import { gripsFor, symbolOf } from '../grips/grip-search'
import { onPath, pathNotes } from './line'
import { soundingMidi } from '../../document/part-pitch'
import { pathWhere } from './neck-wish'
import { findPaths } from './path'

/** What to set on one figure. */
export interface FigureChange {
  figureId: string
  set: Partial<Omit<Figure, 'id' | 'partId'>>
}

const highestFret = (part: Part): number => part.instrument.fretCount - part.instrument.capo

/** Every fret moved along its string. Open strings move too: an open string up by two is fret 2. */
export function shiftFrets(content: Content, part: Part, by: number): Result<Content> {
  const frets = [
    ...content.notes.map((note) => note.fret),
    ...content.grips.flatMap(({ grip }) =>
      grip.strings.flatMap((string) => (string.fret === null ? [] : [string.fret])),
    ),
  ]
  const bad = frets.find((fret) => fret + by < 0 || fret + by > highestFret(part))
  if (bad !== undefined) {
    const room = { down: Math.min(...frets), up: highestFret(part) - Math.max(...frets) }
    return refuse(
      'shift',
      `Fret ${bad} would become ${bad + by}. There is room for ${room.down} down and ${room.up} up.`,
    )
  }
  const moved = (grip: Grip): Grip => ({
    ...grip,
    strings: grip.strings.map((string) =>
      string.fret === null ? string : { ...string, fret: string.fret + by },
    ),
    ...(grip.barre ? { barre: { ...grip.barre, fret: Math.max(0, grip.barre.fret + by) } } : {}),
  })
  return ok({
    ...content,
    notes: content.notes.map((note) => ({ ...note, fret: note.fret + by })),
    grips: content.grips.map((span) => ({ ...span, grip: moved(span.grip) })),
  })
}

/** Notes at other pitches, on the best path for them. `pitchOf` maps each sounding pitch. */
function repitched(notes: readonly Note[], on: LinePlace, pitchOf: (midi: number) => number): Result<Note[]> {
  if (notes.length === 0) return ok([])
  const moved = pathNotes(notes, on.part).map((note) => ({ ...note, midi: pitchOf(note.midi) }))
  const path = pathWhere(moved, on.part, on.key, on.where ?? {})
  return path.ok ? ok(onPath(notes, path.value, false)) : path
}
/** What a line is moved on: the neck, the key its notes are spelled in, where on the neck it is wanted. */
export interface LinePlace {
  part: Part
  key: Key
  where?: NeckWish
}
export const shiftSemitones = (notes: readonly Note[], on: LinePlace, by: number): Result<Note[]> =>
  repitched(notes, on, (midi) => midi + by)

/**
 * Moves a line within the key so that its first note becomes another degree: 3 starts it on the third. Up
 * or down, whichever is nearer.
 */
export function toDegree(notes: readonly Note[], on: LinePlace, degree: number): Result<Note[]> {
  const { part, key } = on
  const first = notes.toSorted((a, b) => a.startTicks - b.startTicks)[0]
  if (!first) return ok([])
  if (degree < 1 || degree > 7) return refuse('degree', 'A degree is 1 to 7.')
  const midi = soundingMidi(part, first.string, first.fret)
  const now = Number(degreeAbove(midi, pitchClassOf(key.tonic)).replace(/\D/g, ''))
  const up = (degree - now + 7) % 7
  const steps = up > 3 ? up - 7 : up
  return repitched(notes, on, (pitch) => diatonic(pitch, steps >= 0 ? steps + 1 : steps - 1, key))
}

/**
 * What becomes of notes the new tuning cannot sound: left out, or played an octave nearer where that is
 * possible.
 */
export type Beyond = 'leave out' | 'octave'
export interface Retuned {
  content: Content
  /** What could not be kept, in words. */ lost: string[]
}

/**
 * A content taken to another tuning. Keeping the shape changes nothing on the neck. Keeping the sound finds
 * each note a new place, and each grip the nearest one of the same chord; what the new tuning cannot sound
 * is listed, with the place in an octave where it could be played.
 */
export function toTuning(
  content: Content,
  from: Part,
  to: Part,
  key: Key,
  beyond: Beyond = 'leave out',
): Retuned {
  const lost: string[] = []
  const lowest = Math.min(...to.tuning.openMidi) + to.instrument.capo
  const sounds = (midi: number): boolean =>
    to.tuning.openMidi.some((_, index) => {
      const fret = midi - soundingMidi(to, index + 1, 0)
      return fret >= 0 && fret <= highestFret(to)
    })
  const placed = content.notes.flatMap((note) => {
    const midi = soundingMidi(from, note.string, note.fret)
    if (sounds(midi)) return [{ note, midi }]
    const step = midi < lowest ? 12 : -12
    const nearest = [1, 2, 3].map((octaves) => midi + octaves * step).find(sounds) ?? midi + step
    lost.push(
      `${spellMidi(midi, key)} (string ${note.string}, fret ${note.fret}) ` +
        `lies ${midi < lowest ? 'below' : 'above'} the new tuning: ${spellMidi(nearest, key)} is the nearest`,
    )
    return beyond === 'octave' && sounds(nearest) ? [{ note, midi: nearest }] : []
  })
  const reachable = placed.map(({ note }) => note)
  const paths = reachable.length
    ? findPaths(
        pathNotes(reachable, from).map((note, index) => ({ ...note, midi: placed[index]!.midi })),
        to,
        key,
        {},
        1,
      )
    : undefined
  if (paths && !paths.ok) lost.push(paths.refusal.message)
  const notes = paths?.ok ? onPath(reachable, paths.value[0]!, false) : []
  const grips = content.grips.flatMap((span) => {
    const symbol = symbolOf(span.grip, from, key)
    const found = symbol ? gripsFor(symbol, to, { after: span.grip, count: 1 }) : undefined
    if (found?.ok) return [{ ...span, grip: found.value[0]!.grip }]
    lost.push(`a grip${symbol ? ` for ${symbol}` : ''} has no place in the new tuning`)
    return []
  })
  return { content: { ...content, notes, grips }, lost }
}

export interface Lost {
  figureName: string
  text: string
  /** How often it stands in the figure. */ times: number
}

/**
 * All figures of a part taken to another tuning with their sound: what to change, and what the tuning
 * cannot sound, figure by figure.
 */
export function retunedFigures(
  song: Song,
  partId: string,
  tuning: Part['tuning'],
  beyond: Beyond = 'leave out',
): { changes: FigureChange[]; lost: Lost[] } {
  const from = song.parts[partId]!
  const to: Part = { ...from, tuning }
  let next: Song = { ...song, parts: { ...song.parts, [partId]: to } }
  const lost: Lost[] = []
  // Bases before what varies them, so that a variation keeps only what differs.
  const figures = Object.values(song.figures)
    .filter((figure) => figure.partId === partId)
    .sort((a, b) => Number(Boolean(a.variationOf)) - Number(Boolean(b.variationOf)))
  const changes = figures.map((figure): FigureChange => {
    const exact = toTuning(figureContent(song, figure), from, to, song.key, beyond)
    const eased = figure.eased && toTuning(figure.eased, from, to, song.key, beyond)
    for (const text of [...exact.lost, ...(eased?.lost ?? [])]) {
      const same = lost.find((one) => one.figureName === figure.name && one.text === text)
      if (same) same.times++
      else lost.push({ figureName: figure.name, text, times: 1 })
    }
    const set = { ...storeContent(next, figure, exact.content), ...(eased ? { eased: eased.content } : {}) }
    next = { ...next, figures: { ...next.figures, [figure.id]: { ...figure, ...set } } }
    return { figureId: figure.id, set }
  })
  return { changes, lost }
}
