// Two parts for one player: the first is kept, of the second whatever strings and hand are free for; every
// dropped note says why.
import { fingerPlaceMm } from '../../instrument/neck'
import { ok, refuse, type Result } from '../../result'
import type { Content, Grip, Note, Part } from '../../document/schema'
import { USUAL_HAND, type Hand } from '../hand'
import { soundingMidi } from '../../document/part-pitch'

export interface Dropped {
  startTicks: number
  string: number
  fret: number
  midi: number
  why: string
}
/**
 * `octaves`: by how many the second part was moved; `kept`: its notes that fit; `shared`: those the first
 * part plays itself.
 */
export interface Merged {
  content: Content
  octaves: number
  kept: number
  shared: number
  dropped: Dropped[]
}

interface Busy {
  string: number
  fret: number
  startTicks: number
  endTicks: number
  own: boolean
}

/** Strokes of a part as what they sound: one entry a string. */
function struck(content: Content): Busy[] {
  return content.strokes.flatMap((stroke) => {
    if (stroke.dead) return []
    const grip: Grip | undefined = content.grips.findLast(
      (span) =>
        span.startTicks <= stroke.startTicks && stroke.startTicks < span.startTicks + span.lengthTicks,
    )?.grip
    return (grip?.strings ?? []).flatMap((string, index): Busy[] =>
      string.fret === null || (stroke.strings && !stroke.strings.includes(index + 1))
        ? []
        : [
            {
              string: index + 1,
              fret: string.fret,
              startTicks: stroke.startTicks,
              endTicks: stroke.startTicks + stroke.lengthTicks,
              own: true,
            },
          ],
    )
  })
}
const busyNotes = (notes: readonly Note[]): Busy[] =>
  notes.map((note) => ({
    string: note.string,
    fret: note.fret,
    startTicks: note.startTicks,
    endTicks: note.startTicks + note.lengthTicks,
    own: true,
  }))

/**
 * Octaves the second part may be moved by, in the order they are preferred: a bass is read an octave up on
 * a guitar.
 */
const OCTAVES = [0, 1, -1, 2, -2] as const

interface Merging {
  first: Content
  second: Content
  parts: { first: Part; second: Part }
  hand: Hand
}

/**
 * Both contents (aligned at their starts) on the first part's instrument. `second` is moved to the strings
 * that are free, as a whole by the octave in which most of it fits; what the hand cannot reach beside what
 * it holds is dropped.
 */
export function mergeParts(
  first: Content,
  second: Content,
  parts: { first: Part; second: Part },
  hand: Hand = USUAL_HAND,
): Result<Merged> {
  const asked = [...busyNotes(second.notes), ...struck(second)].sort(
    (a, b) => a.startTicks - b.startTicks || b.string - a.string,
  )
  if (asked.length === 0) return refuse('nothing', 'The second part has nothing here to take over.')
  const merging = { first, second, parts, hand }
  const tried = OCTAVES.map((octaves) => mergeAt(merging, asked, octaves))
  // An octave further away has to be worth it: a bass two octaves up is no bass any more.
  const worth = ({ kept, shared, octaves }: Merged): number =>
    (kept + shared) / asked.length - 0.08 * Math.abs(octaves)
  return ok(tried.reduce((best, next) => (worth(next) > worth(best) ? next : best)))
}

function mergeAt({ first, second, parts, hand }: Merging, asked: readonly Busy[], octaves: number): Merged {
  const busy = [...busyNotes(first.notes), ...struck(first)]
  const { first: part } = parts
  const highest = part.instrument.fretCount - part.instrument.capo
  const placeMm = (fret: number): number =>
    fingerPlaceMm(fret + part.instrument.capo, part.instrument.scaleLengthMm)
  const notes: Note[] = []
  const dropped: Dropped[] = []
  let shared = 0
  const byPlace = new Map(second.notes.map((note) => [`${note.startTicks}/${note.string}`, note]))
  /** Where the note before on each string of the second part has gone: a slur can only follow it there. */
  const went = new Map<number, number | undefined>()
  for (const want of asked) {
    const midi = soundingMidi(parts.second, want.string, want.fret) + 12 * octaves
    const held = busy.filter((other) => other.startTicks < want.endTicks && want.startTicks < other.endTicks)
    const sounding = held.some(
      (other) =>
        soundingMidi(part, other.string, other.fret) === midi && other.startTicks === want.startTicks,
    )
    const before = went.get(want.string)
    went.set(want.string, undefined)
    const drop = (why: string): void => {
      dropped.push({ startTicks: want.startTicks, string: want.string, fret: want.fret, midi, why })
    }
    if (sounding) {
      shared++
      continue
    }
    const fretted = held.flatMap((other) => (other.fret ? [other.fret] : []))
    const places = part.tuning.openMidi.flatMap((_, index) => {
      const fret = midi - soundingMidi(part, index + 1, 0)
      return fret >= 0 && fret <= highest && Number.isInteger(fret) ? [{ string: index + 1, fret }] : []
    })
    if (places.length === 0) {
      drop(
        `too ${midi < soundingMidi(part, part.tuning.openMidi.length, 0) ? 'low' : 'high'} for ${part.name}`,
      )
      continue
    }
    const free = places.filter((place) => !held.some((other) => other.string === place.string))
    if (free.length === 0) {
      drop('its strings are taken by the first part')
      continue
    }
    const source = byPlace.get(`${want.startTicks}/${want.string}`)
    const slurred = source?.articulations.some((mark) => SLURS.has(mark.kind)) ?? false
    const spread = (fret: number): number =>
      fret === 0 || fretted.length === 0
        ? 0
        : Math.max(...[...fretted, fret].map(placeMm)) - Math.min(...[...fretted, fret].map(placeMm))
    const strays = (string: number): number => (slurred && string !== before ? 1 : 0)
    const best = free.toSorted(
      (a, b) =>
        spread(a.fret) - spread(b.fret) ||
        strays(a.string) - strays(b.string) ||
        Math.abs(a.string - want.string) - Math.abs(b.string - want.string),
    )[0]!
    if (spread(best.fret) > hand.cautionMm) {
      drop('the hand cannot be in two places')
      continue
    }
    const fingers = new Set([...fretted, ...(best.fret ? [best.fret] : [])]).size
    if (fingers > 4) {
      drop('it would need a fifth finger')
      continue
    }
    busy.push({ ...want, ...best })
    went.set(want.string, best.string)
    // A slur belongs to its string: without the note before it, the note is picked.
    const articulations = (source?.articulations ?? []).filter(
      (mark) =>
        (best.string === before || !SLURS.has(mark.kind)) &&
        (best.fret > 0 || (mark.kind !== 'bend' && mark.kind !== 'vibrato')),
    )
    notes.push({
      id: source?.id ?? `merged${want.startTicks}-${want.string}`,
      string: best.string,
      fret: best.fret,
      startTicks: want.startTicks,
      lengthTicks: want.endTicks - want.startTicks,
      articulations,
    })
  }
  const ids = new Set(first.notes.map((note) => note.id))
  const added = notes.map((note) => (ids.has(note.id) ? { ...note, id: `${note.id}-2` } : note))
  return {
    content: {
      ...first,
      notes: [...first.notes, ...added].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string),
    },
    octaves,
    kept: notes.length,
    shared,
    dropped,
  }
}
const SLURS: ReadonlySet<string> = new Set(['hammer-on', 'pull-off', 'slide'])

/** What was dropped, reason by reason, the commonest first. */
export function droppedByReason(dropped: readonly Dropped[]): { why: string; notes: Dropped[] }[] {
  const groups = new Map<string, Dropped[]>()
  for (const one of dropped) groups.set(one.why, [...(groups.get(one.why) ?? []), one])
  return [...groups].map(([why, notes]) => ({ why, notes })).sort((a, b) => b.notes.length - a.notes.length)
}

/** An octave shift in words: "an octave up", "as written". */
export const octaveWords = (octaves: number): string =>
  octaves === 0
    ? 'as written'
    : [
        Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`,
        octaves > 0 ? 'up' : 'down',
      ].join(' ')
