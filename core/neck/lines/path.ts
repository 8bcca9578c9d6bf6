// The same line elsewhere on the neck. Every note can be stopped in several places, each with several
// fingers; a path is chosen by dynamic programming over place and hand position (the fret under the index
// finger), after Sayegh, "Fingering for String Instruments with the Optimum Path Paradigm" (1989). Costs:
// moving the hand, stretching it, skipping strings, hopping with one finger, open strings; a slur has to
// stay on its string.
import { fingerPlaceMm } from '../../instrument/neck'
import { ok, refuse, type Result } from '../../result'
import { spellMidi, type Key } from '../../music/pitch'
import type { Part } from '../../document/schema'
import { USUAL_HAND, type Finger, type Hand } from '../hand'
import { soundingMidi } from '../../document/part-pitch'

export interface PathNote {
  midi: number
  startTicks: number
  lengthTicks: number
  /** Reached by hammer-on, pull-off or slide: stays on the string of the note before. */
  slurred: boolean
  slid: boolean
  /** Bent or shaken: cannot be an open string. */
  pressed: boolean
}
export interface Place {
  string: number
  fret: number
  finger: Finger | undefined
}
export interface LinePath {
  /** One a note, in the order given. */
  places: Place[]
  cost: number
  shifts: number
  skips: number
  open: number
  widestMm: number
  lowFret: number
  highFret: number
  /** Indices of notes whose slur could not stay on one string. */
  brokenSlurs: number[]
}
export interface PathWishes {
  hand?: Hand
  noOpen?: boolean
  frets?: { from: number; to: number }
  first?: { string: number; fret: number }
  /** Places the line has to take, for rating what is charted. */ fixed?: readonly {
    string: number
    fret: number
  }[]
  allowedStrings?: readonly number[]
  /** One note sent to a given place. */ elsewhere?: { index: number; string: number; fret: number }
}

interface State {
  places: { string: number; fret: number }[]
  position: number
  cost: number
  back: State | undefined
}
interface Group {
  notes: { note: PathNote; index: number }[]
  gapTicks: number
  slid: boolean
  slurred: boolean
}
const BROKEN_SLUR = 9
const BEHIND = 7

function groupsOf(notes: readonly PathNote[]): Group[] {
  const sorted = notes
    .map((note, index) => ({ note, index }))
    .sort((a, b) => a.note.startTicks - b.note.startTicks || a.note.midi - b.note.midi)
  const groups: Group[] = []
  for (const entry of sorted) {
    const last = groups.at(-1)
    if (last && last.notes[0]!.note.startTicks === entry.note.startTicks) last.notes.push(entry)
    else
      groups.push({
        notes: [entry],
        slid: false,
        slurred: false,
        gapTicks: last
          ? entry.note.startTicks -
            Math.max(...last.notes.map(({ note }) => note.startTicks + note.lengthTicks))
          : 0,
      })
  }
  return groups.map((group) => ({
    ...group,
    slid: group.notes.some(({ note }) => note.slid),
    slurred: group.notes.some(({ note }) => note.slurred),
  }))
}

/** Where a finger presses, in mm from the nut, by fret counted from the capo. */
const placeTable = (part: Part): number[] =>
  Array.from({ length: part.instrument.fretCount + 2 }, (_, fret) =>
    fingerPlaceMm(fret + part.instrument.capo, part.instrument.scaleLengthMm),
  )

/** Places of one pitch: lowest string number first. */
function placesOf(
  midi: number,
  part: Part,
  wishes: PathWishes,
  pressed: boolean,
): { string: number; fret: number }[] {
  const highest = Math.min(part.instrument.fretCount - part.instrument.capo, wishes.frets?.to ?? 99)
  return part.tuning.openMidi.flatMap((_, index) => {
    const fret = Math.round(midi - soundingMidi(part, index + 1, 0))
    if (
      fret < (pressed || wishes.noOpen ? 1 : 0) ||
      fret > highest ||
      (fret > 0 && fret < (wishes.frets?.from ?? 0))
    )
      return []
    if (wishes.allowedStrings && !wishes.allowedStrings.includes(index + 1)) return []
    return [{ string: index + 1, fret }]
  })
}

/** Ways to stop all notes of a group at once: different strings, within five frets. */
function combinations(group: Group, part: Part, wishes: PathWishes): { string: number; fret: number }[][] {
  let lists: { string: number; fret: number }[][] = [[]]
  for (const { note, index } of group.notes) {
    const fixed =
      wishes.fixed?.[index] ??
      (wishes.elsewhere?.index === index
        ? { string: wishes.elsewhere.string, fret: wishes.elsewhere.fret }
        : undefined)
    const places = fixed ? [fixed] : placesOf(note.midi, part, wishes, note.pressed)
    lists = lists
      .flatMap((chosen) =>
        places
          .filter((place) => !chosen.some((other) => other.string === place.string))
          .map((place) => [...chosen, place]),
      )
      .filter((chosen) => {
        const fretted = chosen.flatMap((place) => (place.fret ? [place.fret] : []))
        return fixed !== undefined || fretted.length === 0 || Math.max(...fretted) - Math.min(...fretted) <= 4
      })
      .slice(0, 60)
  }
  return lists
}

/** Where the index finger may stand for some places; undefined when all are open: where it stood before. */
function positionsFor(places: readonly { fret: number }[]): number[] | undefined {
  const fretted = places.flatMap((place) => (place.fret ? [place.fret] : []))
  if (fretted.length === 0) return undefined
  const low = Math.min(...fretted)
  const high = Math.max(...fretted)
  const from = Math.max(1, high - 3)
  return from > low ? [low] : Array.from({ length: low - from + 1 }, (_, offset) => from + offset)
}

const fingerAt = (fret: number, position: number): number => Math.max(1, Math.min(4, fret - position + 1))

/** Cost of holding a group at a position. */
function holdCost(
  group: Group,
  places: readonly { string: number; fret: number }[],
  position: number,
  placesMm: readonly number[],
  hand: Hand,
): number {
  let cost = 0
  places.forEach((place, index) => {
    if (place.fret === 0) {
      cost += 0.12
      return
    }
    const stretch = placesMm[place.fret]! - placesMm[position]!
    if (stretch > hand.cautionMm * 0.9) cost += 0.8 + (stretch - hand.cautionMm * 0.9) / 14
    // The third finger bends and shakes best; the little one is weak, the first has no help behind it.
    if (group.notes[index]!.note.pressed) cost += [0, 0.5, 0.1, 0, 0.6][fingerAt(place.fret, position)]!
    // Frets are narrow high up, but the body is in the way, the more so on the low strings.
    cost += 0.008 * place.fret + (place.fret > 12 ? (place.fret - 12) * (place.string > 3 ? 0.09 : 0.03) : 0)
  })
  return cost
}

/** Cost of getting from a state to places at a position. The hot loop: called some hundred times a note. */
function moveCost(
  from: State,
  group: Group,
  places: readonly { string: number; fret: number }[],
  position: number,
  placesMm: readonly number[],
): number {
  let cost = 0
  if (position !== from.position) {
    const unslid = group.gapTicks > 10080 / 2 || allOpen(from.places) ? 0.6 : 1
    cost +=
      (0.55 + Math.abs(placesMm[position]! - placesMm[from.position]!) / 55) * (group.slid ? 0.35 : unslid)
  }
  const last = from.places[from.places.length - 1]!
  const next = places[0]!
  const distance = Math.abs(last.string - next.string)
  cost += distance * 0.1 + (distance > 1 ? (distance - 1) * 0.35 : 0)
  if (
    last.fret > 0 &&
    next.fret > 0 &&
    !group.slid &&
    fingerAt(last.fret, from.position) === fingerAt(next.fret, position)
  ) {
    if (last.string !== next.string && last.fret === next.fret) cost += 0.45
    else if (last.fret !== next.fret && position === from.position) cost += 0.9
  }
  return group.slurred ? cost + brokenSlurs(from, group, places) * BROKEN_SLUR : cost
}
const isPlace = (
  a: { string: number; fret: number } | undefined,
  b: { string: number; fret: number },
): boolean => a?.string === b.string && a.fret === b.fret
const allOpen = (places: readonly { fret: number }[]): boolean => places.every((place) => place.fret === 0)
const brokenSlurs = (
  from: State,
  group: Group,
  places: readonly { string: number; fret: number }[],
): number =>
  group.notes.filter(
    ({ note }, index) =>
      note.slurred &&
      !from.places.some(
        (place) => place.string === places[index]!.string && place.fret !== places[index]!.fret,
      ),
  ).length

/** For each position of the hand over some places the cheapest way to it. */
function cheapestMoves(
  states: readonly State[],
  group: Group,
  to: { places: State['places']; positions: number[] | undefined; placesMm: readonly number[] },
): Map<number, { cost: number; back: State }> {
  const best = new Map<number, { cost: number; back: State }>()
  for (const from of states)
    for (const position of to.positions ?? [from.position]) {
      const cost = from.cost + moveCost(from, group, to.places, position, to.placesMm)
      const other = best.get(position)
      if (!other || cost < other.cost) best.set(position, { cost, back: from })
    }
  return best
}

/** The cheapest path under some wishes; undefined when a note has no place. */
function search(groups: readonly Group[], part: Part, wishes: PathWishes): State | undefined {
  const hand = wishes.hand ?? USUAL_HAND
  const placesMm = placeTable(part)
  let states: State[] = []
  for (const [at, group] of groups.entries()) {
    const next = new Map<number, State>()
    const offer = (state: State): void => {
      const key = state.places.reduce((sum, place) => sum * 13 + place.string, 0) * 64 + state.position
      const other = next.get(key)
      if (!other || state.cost < other.cost) next.set(key, state)
    }
    for (const places of combinations(group, part, wishes)) {
      const positions = positionsFor(places)
      if (at === 0) {
        if (wishes.first && !isPlace(places[0], wishes.first)) continue
        for (const position of positions ?? [1])
          offer({
            places,
            position,
            cost: holdCost(group, places, position, placesMm, hand),
            back: undefined,
          })
        continue
      }
      const best = cheapestMoves(states, group, { places, positions, placesMm })
      for (const [position, { cost, back }] of best) {
        offer({ places, position, cost: cost + holdCost(group, places, position, placesMm, hand), back })
      }
    }
    states = [...next.values()]
    // What is far behind can no longer win: a shift over the whole neck costs less.
    const least = states.reduce((best, state) => Math.min(best, state.cost), Number.POSITIVE_INFINITY)
    states = states.filter((state) => state.cost < least + BEHIND)
    if (states.length === 0) return undefined
  }
  return states.reduce<State | undefined>(
    (best, state) => (!best || state.cost < best.cost ? state : best),
    undefined,
  )
}

function readPath(groups: readonly Group[], end: State, part: Part, count: number): LinePath {
  const chain: State[] = []
  for (let state: State | undefined = end; state; state = state.back) chain.push(state)
  chain.reverse()
  const places: Place[] = Array.from({ length: count }, () => ({ string: 1, fret: 0, finger: undefined }))
  const path: LinePath = {
    places,
    cost: Math.round(end.cost * 100) / 100,
    shifts: 0,
    skips: 0,
    open: 0,
    widestMm: 0,
    lowFret: 99,
    highFret: 0,
    brokenSlurs: [],
  }
  chain.forEach((state, at) => {
    const before = chain[at - 1]
    if (before && before.position !== state.position) path.shifts++
    if (before && Math.abs(before.places.at(-1)!.string - state.places[0]!.string) > 1) path.skips++
    const fretted = state.places.flatMap((place) => (place.fret ? [place.fret] : []))
    for (const fret of fretted)
      path.widestMm = Math.max(
        path.widestMm,
        fingerPlaceMm(fret + part.instrument.capo, part.instrument.scaleLengthMm) -
          fingerPlaceMm(state.position + part.instrument.capo, part.instrument.scaleLengthMm),
      )
    state.places.forEach((place, index) => {
      const { index: noteIndex, note } = groups[at]!.notes[index]!
      places[noteIndex] = {
        ...place,
        finger: place.fret ? (String(fingerAt(place.fret, state.position)) as Finger) : undefined,
      }
      if (place.fret === 0) path.open++
      else {
        path.lowFret = Math.min(path.lowFret, place.fret)
        path.highFret = Math.max(path.highFret, place.fret)
      }
      if (note.slurred && before && !before.places.some((other) => other.string === place.string))
        path.brokenSlurs.push(noteIndex)
    })
  })
  if (path.lowFret === 99) path.lowFret = 0
  path.widestMm = Math.round(path.widestMm)
  return path
}

/** Notes of a line no string of the part can sound, in a sentence; undefined when all can. */
function unreachable(notes: readonly PathNote[], part: Part, key: Key): string | undefined {
  const lowest = Math.min(...part.tuning.openMidi) + part.instrument.capo
  const highest = Math.max(...part.tuning.openMidi) + part.instrument.fretCount
  const out = [...new Set(notes.map((note) => Math.round(note.midi)))].filter(
    (midi) => midi < lowest || midi > highest,
  )
  return out.length
    ? `${part.name} cannot sound ${out.map((midi) => spellMidi(midi, key)).join(', ')}: ` +
        `its range is ${spellMidi(lowest, key)} to ${spellMidi(highest, key)}. ` +
        'Move the line by an octave first.'
    : undefined
}

/**
 * At least three ways to play a line where the neck allows them, best first; the best alone when `count` is
 * 1.
 */
export function findPaths(
  notes: readonly PathNote[],
  part: Part,
  key: Key,
  wishes: PathWishes = {},
  count = 5,
): Result<LinePath[]> {
  if (notes.length === 0) return refuse('no-notes', 'There are no notes here to move.')
  const out = unreachable(notes, part, key)
  if (out) return refuse('range', out)
  const groups = groupsOf(notes)
  const first = groups[0]!.notes[0]!
  const attempt = (tries: readonly PathWishes[]): LinePath[] =>
    tries.flatMap((one) => {
      const end = search(groups, part, one)
      return end ? [readPath(groups, end, part, notes.length)] : []
    })
  /** Where there are too few: without one string after the other, and any that differ at all. */
  const moreWays = (distinct: readonly LinePath[], known: readonly LinePath[]): LinePath[] => {
    const strings = part.tuning.openMidi.map((_, index) => index + 1)
    const tries = [
      ...strings.map((left) => ({ ...wishes, allowedStrings: strings.filter((string) => string !== left) })),
      ...[3, 5, 2, 8].map((from) => ({ ...wishes, frets: { from, to: from + 5 } })),
      ...oneElsewhere(groups, part, wishes, known[0]!),
    ]
    const all = [...known, ...attempt(tries)].sort((a, b) => a.cost - b.cost)
    return differing([...distinct, ...all], 1)
  }
  // Only the best is wanted: nothing to compare it with.
  if (count === 1) {
    const [best] = attempt([wishes])
    if (best) return ok([best])
  }
  const found = attempt([
    wishes,
    { ...wishes, noOpen: true },
    ...placesOf(first.note.midi, part, wishes, first.note.pressed)
      .slice(0, 4)
      .map((place) => ({ ...wishes, first: place })),
    ...[1, 4, 7, 10].map((from) => ({ ...wishes, frets: { from, to: from + 6 } })),
  ])
  if (found.length === 0)
    return refuse(
      'no-path',
      'No hand can play these notes at once on this part: thin out what sounds together.',
    )
  const distinct = [8, 20, notes.length]
    .map((share) => differing(found, Math.max(1, Math.round(notes.length / share))))
    .reduce((kept, next) => (kept.length >= 3 ? kept : next))
  const enough = distinct.length < 3 ? moreWays(distinct, found) : distinct
  return ok(enough.slice(0, count).sort((a, b) => a.cost - b.cost))
}

/** The cheapest first, each at least so many notes away from those before it. */
function differing(paths: readonly LinePath[], least: number): LinePath[] {
  const distinct: LinePath[] = []
  for (const path of paths.toSorted((a, b) => a.cost - b.cost))
    if (distinct.every((other) => elsewhere(path, other) >= least)) distinct.push(path)
  return distinct
}

/** The best path with one of its notes sent to another string. */
function oneElsewhere(
  groups: readonly Group[],
  part: Part,
  wishes: PathWishes,
  best: LinePath,
): PathWishes[] {
  return groups
    .flatMap(({ notes: [entry] }) =>
      placesOf(entry!.note.midi, part, wishes, entry!.note.pressed)
        .filter((place) => place.string !== best.places[entry!.index]!.string)
        .slice(0, 1)
        .map((place): PathWishes => ({ ...wishes, elsewhere: { index: entry!.index, ...place } })),
    )
    .slice(0, 8)
}

/** How many notes lie elsewhere. */
const elsewhere = (a: LinePath, b: LinePath): number =>
  a.places.filter((place, index) => place.string !== b.places[index]!.string).length

/** The same measures for places that are already charted, with the best fingers for them. */
export function ratePath(
  notes: readonly PathNote[],
  places: readonly { string: number; fret: number }[],
  part: Part,
  hand: Hand = USUAL_HAND,
): LinePath | undefined {
  const groups = groupsOf(notes)
  const end = groups.length ? search(groups, part, { hand, fixed: places }) : undefined
  return end && readPath(groups, end, part, notes.length)
}

function fretWords({ lowFret, highFret }: LinePath): string {
  if (highFret === 0) return 'open strings only'
  return lowFret === highFret ? `fret ${lowFret}` : `frets ${lowFret} to ${highFret}`
}
/** "frets 5 to 8, 2 shifts, no open strings" */
export function pathWords(path: LinePath): string {
  const counted = (count: number, one: string): string => (count === 1 ? `one ${one}` : `${count} ${one}s`)
  const words = [fretWords(path), path.shifts ? counted(path.shifts, 'shift') : 'one position']
  if (path.open) words.push(counted(path.open, 'open string'))
  if (path.skips) words.push(counted(path.skips, 'string skip'))
  if (path.brokenSlurs.length)
    words.push(
      `${path.brokenSlurs.length === 1 ? 'one slur' : `${path.brokenSlurs.length} slurs`} to be picked`,
    )
  return words.join(', ')
}
