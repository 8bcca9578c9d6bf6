// Grips: by name, dictated string by string, and changed from the one that is held.
import type { Grip } from '../../document/schema'
import { fingerGrip } from '../../neck/grips/fingering'
import { readChordSymbol } from '../../music/chord-name'
import { pitchClassOf } from '../../music/pitch'
import { barTicks } from '../../time/meter'
import { addMoment, gripAt, type Build } from './build'
import { stringsNamed } from './hand'
import type { Change, Item, ItemOf, Span, StringSpec } from './items'
import { namedMidi } from './named-pitch'
import { resolve } from './perform-notes'
import { SaidProblem, SaidQuestion } from './problem'
import { usualGrip } from './usual-grips'

/** A chord that nothing sounded on is held as long as was said, else a bar; the next one begins after it. */
function settleRow(b: Build): void {
  const held = b.grips.at(-1)
  if (!held || b.moments.some((moment) => moment.startTicks >= held.startTicks)) return
  if (held.lengthTicks === undefined && !b.rowLengths) held.assumed = true
  held.lengthTicks ??= b.rowLengths?.ticks ?? barTicks(b.context.meter)
  b.at = Math.max(b.at, held.startTicks + held.lengthTicks)
}

export function hold(b: Build, span: Span, grip: Grip, symbol?: string): void {
  settleRow(b)
  b.grips.push({ startTicks: b.at, lengthTicks: undefined, grip, symbol, at: span.at, end: span.end })
}

/** At a fret that was said the one whose hand lies there; else the usual one, or one near the grip before. */
function gripAround(b: Build, symbol: string, position: number | undefined): Grip | undefined {
  const { gripFor, part } = b.context
  const hand = position === undefined ? undefined : part.tuning.openMidi.map(() => ({ fret: position }))
  const there = hand && gripFor?.(symbol, { strings: hand }, position)
  return there ?? usualGrip(symbol, b.context) ?? gripFor?.(symbol, b.grips.at(-1)?.grip)
}

/** The grip for a chord name: the usual one, else the nearest that can be held. */
export function gripNamed(b: Build, symbol: string, span: Span, position?: number): Grip {
  const grip = readChordSymbol(symbol) ? gripAround(b, symbol, position) : undefined
  if (!grip)
    throw new SaidProblem(span, `No grip for “${symbol}” here: say its strings, low to high.`, ['x02210'])
  return grip
}

export function performChord(b: Build, items: readonly Item[], index: number): void {
  const item = items[index] as ItemOf<'chord'>
  hold(b, item, gripNamed(b, item.symbol, item, item.position), item.symbol)
  const held = b.grips.at(-1)!
  // "down, down, up on a G": the strokes said before it are struck on it.
  const struck = b.grips.length === 1 && b.moments.length > 0 && b.moments.every((moment) => moment.stroke)
  if (struck && !b.context.content?.grips.length) held.startTicks = b.moments[0]!.startTicks
  if (item.length) held.lengthTicks = 'ticks' in item.length ? item.length.ticks : item.length.steps * b.step
  if (item.hit)
    addMoment(b, {
      notes: [],
      stroke: { direction: 'down', marks: [], at: item.at, end: item.end },
    })
}

export const performGrip = (b: Build, item: ItemOf<'grip'>): void => hold(b, item, item.grip, item.symbol)

/** Frets said from one string on towards the high ones. */
export function performDictated(b: Build, items: readonly Item[], index: number): void {
  const item = items[index] as ItemOf<'dictated'>
  const count = b.context.part.tuning.openMidi.length
  const from = stringsNamed(item.from, b.context.letters, b.shapes).at(-1) ?? count
  const strings = Array.from({ length: count }, () => ({ fret: null as number | null }))
  item.frets.slice(0, from).forEach((fret, order) => {
    strings[from - 1 - order] = { fret }
  })
  // A grip that was only named so far is the one that is spelled now.
  const named = items.slice(0, index).findLast((one) => one.k !== 'stop')
  if (named?.k === 'chord') b.grips.pop()
  hold(b, item, { strings }, named?.k === 'chord' ? named.symbol : undefined)
}

const numbersOf = (b: Build, specs: readonly StringSpec[], span: Span): number[] => {
  const first = specs.flatMap((spec) => stringsNamed(spec, b.context.letters, b.shapes).slice(0, 1))[0]
  const beside = first === undefined ? undefined : { string: first, fret: 0 }
  return specs.map((spec) =>
    resolve(b, spec, { fret: 0, next: undefined, beside: specs.length > 1 ? beside : undefined, item: span }),
  )
}

const withFret = (grip: Grip, string: number, fret: number | null): Grip => ({
  strings: grip.strings.map((one, index) => (index + 1 === string ? { fret } : one)),
})

/** The string a finger holds in a grip. */
function heldBy(b: Build, grip: Grip, finger: string): number | undefined {
  const said = grip.strings.findIndex((string) => string.finger === finger)
  if (said !== -1) return said + 1
  const fingering = fingerGrip(grip, b.context.part)
  const found = fingering?.fingers.findIndex((one) => one === finger) ?? -1
  if (found !== -1) return found + 1
  // One finger may lie over several strings: counted from the lowest, as people put them down.
  const pressed = grip.strings
    .flatMap((string, index) => (string.fret ? [{ string: index + 1, fret: string.fret }] : []))
    .sort((a, b) => a.fret - b.fret || b.string - a.string)
  return pressed[Number(finger) - 1]?.string
}

const fretFor = (b: Build, string: number, pitchClass: number, near: number): number => {
  const open = namedMidi(b.context)[string - 1] ?? 0
  const low = (((pitchClass - open) % 12) + 12) % 12
  return Math.abs(low + 12 - near) < Math.abs(low - near) ? low + 12 : low
}

/** The lowest string below the grip where a bass note lies within the hand. */
function withBass(b: Build, grip: Grip, letter: string): Grip {
  const lowest = grip.strings.findLastIndex((string) => string.fret !== null) + 1
  const frets = grip.strings.flatMap((string) => (string.fret ? [string.fret] : []))
  const near = frets.length ? Math.min(...frets) : 0
  const count = grip.strings.length
  const below = Array.from({ length: count - lowest }, (_, index) => lowest + 1 + index)
  const options = [...below, lowest].map((string) => ({
    string,
    fret: fretFor(b, string, pitchClassOf(letter), near),
  }))
  const best = options.reduce((one, other) => (other.fret - near < one.fret - near - 0.5 ? other : one))
  return withFret(grip, best.string, best.fret)
}

function onlyOn(grip: Grip, strings: readonly number[]): Grip {
  return { strings: grip.strings.map((one, index) => (strings.includes(index + 1) ? one : { fret: null })) }
}

function changed(b: Build, grip: Grip, change: Exclude<Change, { what: 'slide' }>, span: Span): Grip {
  if (change.what === 'bass') return withBass(b, grip, change.letter)
  if (change.what === 'lift finger' || change.what === 'move finger')
    return fingerMoved(b, grip, change, span)
  const strings = numbersOf(b, change.strings ?? [], span)
  if (change.what === 'only') return onlyOn(grip, strings)
  return strings.reduce((now, string) => {
    if (change.what === 'fret') return withFret(now, string, change.fret)
    if (change.what === 'note')
      return withFret(now, string, fretFor(b, string, pitchClassOf(change.letter), 2))
    return withFret(now, string, change.what === 'mute' ? null : 0)
  }, grip)
}

function fingerMoved(
  b: Build,
  grip: Grip,
  change: Extract<Change, { what: 'lift finger' | 'move finger' }>,
  span: Span,
): Grip {
  const from = heldBy(b, grip, change.finger)
  if (from === undefined) throw new SaidProblem(span, 'That finger holds nothing in this grip.', [])
  const lifted = withFret(grip, from, 0)
  if (change.what === 'lift finger') return lifted
  const to = change.strings ? numbersOf(b, change.strings, span)[0]! : from
  return withFret(lifted, to, change.fret ?? grip.strings[from - 1]!.fret ?? 0)
}

/** A grip at other frets, what is open or muted as it was. Refused where it leaves the neck. */
function movedGrip(b: Build, grip: Grip, by: number, span: Span): Grip {
  const strings = grip.strings.map(({ fret, ...rest }) => ({ ...rest, fret: fret ? fret + by : fret }))
  const highest = b.context.part.instrument.fretCount - b.context.part.instrument.capo
  const leaves = strings.some(
    ({ fret }, index) => grip.strings[index]!.fret && (fret! < 1 || fret! > highest),
  )
  if (leaves) throw new SaidProblem(span, 'That slides the grip off the neck.', [])
  return { strings }
}

/** The whole grip slid along the neck: struck before, not struck again where it arrives. */
function slideGrip(b: Build, grip: Grip, change: Extract<Change, { what: 'slide' }>, span: Span): void {
  const pressed = grip.strings.flatMap(({ fret }) => (fret ? [fret] : []))
  if (pressed.length === 0) throw new SaidProblem(span, 'Only open strings are held: nothing can slide.', [])
  const by = 'by' in change ? change.by : change.to - Math.min(...pressed)
  if (by === 0) throw new SaidProblem(span, 'The grip stands there already.', [])
  const arrived = movedGrip(b, grip, by, span)
  const held = b.grips.at(-1)
  const stroke = { direction: 'down' as const, marks: [], ...whole(span) }
  const silent = held && !b.moments.some((moment) => moment.startTicks >= held.startTicks)
  if (silent) addMoment(b, { notes: [], stroke })
  b.grips.push({ startTicks: b.at, lengthTicks: undefined, grip: arrived, symbol: undefined, ...whole(span) })
  addMoment(b, { notes: [], stroke: { ...stroke, marks: [{ kind: 'slide', how: 'legato' }] } })
}
const whole = ({ at, end }: Span): Span => ({ at, end })

/** The grip that is held, changed: in place when it was only just said, from here on when it stood before. */
export function performChange(b: Build, item: ItemOf<'change'>): void {
  const last = b.grips.at(-1)
  const silent = last && !b.moments.some((moment) => moment.startTicks >= last.startTicks)
  const before = b.grips.at(-2)
  const grip = gripAt(b, b.at)
  if (!grip) throw new SaidQuestion(item, 'Which grip? Hold one first: x02210, or its name.', ['hold Am'])
  if (item.change.what === 'slide') {
    slideGrip(b, grip, item.change, item)
    return
  }
  if (last && silent && before && item.change.what === 'move finger') {
    // "from C to A minor, just move the ring finger …": the way from the one to the other.
    last.grip = changed(b, before.grip, item.change, item)
    return
  }
  const next = changed(b, grip, item.change, item)
  if (last && silent && b.stretchFrom === 0 && !b.newThought) last.grip = next
  else hold(b, item, next)
}
