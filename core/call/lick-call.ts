// Licks said on the call line: "call bar 2 the usual line", "name bars 1 to 2 “the turn”", and, by the name
// alone, "the usual line" put in again.
import type { Figure, Lick, Song } from '../document/schema'
import { barTicks } from '../time/meter'
import { isExact } from './exact-words'
import { numberOf, ordinalOf } from './vocabulary'

export type LickCall =
  | { ok: true; does: 'name'; name: string; startTicks: number; lengthTicks: number }
  | { ok: true; does: 'put in'; figure: Figure; lick: Lick }
  | { ok: false; message: string }

const LONGEST_NAME = 80
const NAMING = /^\s*(?:call|name)\s+(?:(?:this|that|the)\s+)?(bars?\b|lick\b|it\b|phrase\b)?(.*)$/is

/** The number a word says: "2", "two", "second". */
const counted = (word: string | undefined): number | undefined =>
  word === undefined ? undefined : (numberOf(word) ?? ordinalOf(word))

/** "2 to 3 the turn", "two the turn": the bars, and what is left. */
function barsSaid(text: string): { first: number; last: number; rest: string } | undefined {
  const match = /^\s*(\w+)(?:\s*(?:to|and|-|–)\s*(\w+))?\s+(.*)$/s.exec(text)
  const first = counted(match?.[1])
  if (!match || first === undefined) return undefined
  const last = counted(match[2])
  if (match[2] !== undefined && last === undefined) return undefined
  return { first, last: last ?? first, rest: match[3] ?? '' }
}
const bareName = (text: string): string =>
  text
    .replace(/^[\s:,]+/, '')
    .replaceAll(/^["“”']|["“”']$/g, '')
    .trim()

function naming(call: string, figure: Figure, tick: number): LickCall | undefined {
  const match = NAMING.exec(call)
  if (!match?.[1]) return undefined
  const bar = barTicks(figure.meter)
  const barsIn = Math.ceil(figure.lengthTicks / bar)
  const wantsBars = /^bar/i.test(match[1])
  const said = wantsBars ? barsSaid(match[2] ?? '') : undefined
  if (wantsBars && !said)
    return { ok: false, message: 'Which bars, and what are they called? Call bar 2 the turn.' }
  const here = Math.floor(tick / bar) + 1
  const { first, last, rest } = said ?? { first: here, last: here, rest: match[2] ?? '' }
  const name = bareName(rest)
  if (!name) return { ok: false, message: 'What is it called? Call this lick the usual line.' }
  if (first < 1 || last < first || last > barsIn)
    return { ok: false, message: `“${figure.name}” has bars 1 to ${barsIn}.` }
  if (name.length > LONGEST_NAME)
    return { ok: false, message: `A name has at most ${LONGEST_NAME} characters.` }
  const startTicks = (first - 1) * bar
  const lengthTicks = Math.min(figure.lengthTicks, last * bar) - startTicks
  return { ok: true, does: 'name', name, startTicks, lengthTicks }
}

/** A call that is the name of a lick of the part, with or without "play" before it. */
function puttingIn(call: string, song: Song, figure: Figure): LickCall | undefined {
  // A lick may be called "7 9" or "down": what is written as notes is notes.
  if (isExact(call)) return undefined
  const said = bareName(call.replace(/^\s*(?:play|put in)\s+/i, '')).toLowerCase()
  const figures = [figure, ...Object.values(song.figures).filter(({ id }) => id !== figure.id)]
  for (const one of figures) {
    if (one.partId !== figure.partId) continue
    const lick = one.licks?.find(({ name }) => name.toLowerCase() === said)
    if (lick) return { ok: true, does: 'put in', figure: one, lick }
  }
  return undefined
}

/** What a call says of a lick, at a tick of a figure; undefined when it speaks of none. */
export const readLickCall = (call: string, song: Song, figure: Figure, tick: number): LickCall | undefined =>
  naming(call, figure, tick) ?? puttingIn(call, song, figure)
