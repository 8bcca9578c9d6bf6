// Which string each fret goes with: the one said with it, the one said after it ("3, 2, 0 on the D"), or the
// one the hand is on. Who says "on the D" means the frets just before it, back to "then" or to a fret that
// has its string.
import type { Item, ItemOf, NoteItem, StringSpec } from './items'

/** A fret whose string was decided by how far "on the D" reaches back, with the string it would have else. */
export interface Reached {
  note: NoteItem
  index: number
}
export interface Bound {
  items: Item[]
  /** Frets in thoughts before the one that names the string, and with it: "5, 7 on the D". */
  reached: Reached[]
}

/** How far back a string that is named after its frets reaches, where an earlier one is still on. */
export type ReachBack = 'thought' | 'frets'

const clauseFrom = (items: readonly Item[], index: number): number => {
  let from = index
  while (from > 0 && items[from - 1]?.k !== 'stop') from--
  return from
}
const clauseTo = (items: readonly Item[], index: number): number => {
  let to = index
  while (to < items.length && items[to]?.k !== 'stop') to++
  return to
}

/** A note with `{…}` frets that wait for a string. */
const waits = (item: Item | undefined): item is ItemOf<'note'> =>
  item?.k === 'note' && !item.strings && !(item.both && item.paired)

function unboundBefore(items: readonly Item[], index: number, from: number): number[] {
  const found: number[] = []
  for (let i = index - 1; i >= from; i--) {
    const item = items[i]!
    if (item.k === 'strings' || (item.k === 'note' && !waits(item))) break
    if (waits(item)) found.unshift(i)
  }
  return found
}

/** Whether a thought is over before this stop: "then", a new line, ", and" with a new fret. */
const endsStretch = (items: readonly Item[], stop: number): boolean => {
  const item = items[stop]
  if (item?.k !== 'stop') return false
  return item.text !== ',' || items[stop + 1]?.k === 'and'
}

/** Goes on back over commas to frets that have no string. */
function reachBack(items: readonly Item[], from: number, onString: boolean): number[] {
  const found: number[] = []
  for (let i = from - 1; i >= 0; i--) {
    const item = items[i]!
    if (item.k === 'strings' || item.k === 'chord' || item.k === 'again' || item.k === 'grip') break
    if (item.k === 'note' && !waits(item)) break
    if (item.k === 'stop' && onString && endsStretch(items, i)) break
    if (waits(item)) found.unshift(i)
  }
  return withTheirSource(items, found)
}
/** A note that is slid or hammered to stays on the string it comes from. */
function withTheirSource(items: readonly Item[], found: readonly number[]): number[] {
  let first = 0
  while (first < found.length) {
    const note = items[found[first]!] as ItemOf<'note'>
    const source = items.slice(0, found[first]).findLastIndex((item) => item.k === 'note')
    if (!note.move || source === -1 || found.includes(source)) break
    first++
  }
  return found.slice(first)
}

function bindTo(items: Item[], indices: readonly number[], specs: readonly StringSpec[]): void {
  const moved = indices.some((at) => (items[at] as ItemOf<'note'>).move)
  const pairs = specs.length > 1 && indices.length === specs.length && !moved
  indices.forEach((at, order) => {
    const note = items[at] as ItemOf<'note'>
    items[at] = {
      ...note,
      strings: pairs ? [specs[order]!] : [...specs],
      ...(pairs && order > 0 ? { join: true } : {}),
    }
  })
}

function bindsBack(
  items: readonly Item[],
  index: number,
  strings: ItemOf<'strings'>,
  unbound: readonly number[],
): boolean {
  if (unbound.length === 0) return false
  if (strings.after) return true
  const from = clauseFrom(items, index)
  const first = items.slice(from, index).find((item) => item.k === 'note' || item.k === 'strings')
  const after = items.slice(index + 1, clauseTo(items, index)).some(waits)
  return !after || first?.k === 'note'
}

/** "both" waits for its strings until a pair was said. */
function withPairs(said: readonly Item[]): Item[] {
  let paired = false
  return said.map((item, index) => {
    const several =
      (item.k === 'strings' && item.specs.length > 1) ||
      (item.k === 'note' && (item.strings?.length ?? 0) > 1)
    const joined = item.k === 'together' || (item.k === 'note' && Boolean(item.join))
    const after =
      item.k === 'strings' &&
      item.after &&
      said.slice(0, index).some((one) => one.k === 'note' && one.both && !one.strings)
    if ((several && !after) || joined) paired = true
    return item.k === 'note' ? { ...item, paired } : { ...item }
  })
}

/** What binding knows on its way through the call. */
interface Binding {
  items: Item[]
  reached: Reached[]
  reach: ReachBack
  /** Some string has been named. */
  onString: boolean
  /** A string that is named first keeps its frets: one named after them reaches over its own thought only. */
  ahead: boolean
}

/** Binds the frets before a string that is named after them. */
function bindBack(
  binding: Binding,
  index: number,
  item: ItemOf<'strings'>,
  unbound: readonly number[],
): void {
  const { items, onString } = binding
  const from = clauseFrom(items, index)
  const started = items.slice(from, unbound[0]).some((one) => one.k === 'strings' || one.k === 'note')
  const far = started || binding.ahead ? [] : reachBack(items, from, onString)
  if (onString) binding.reached.push(...far.map((at) => ({ note: items[at] as ItemOf<'note'>, index: at })))
  const back = onString && binding.reach === 'thought' ? [] : far
  const moved = unbound.some((at) => (items[at] as ItemOf<'note'>).move)
  if (item.specs.length > 1 && unbound.length === item.specs.length && !moved) {
    bindTo(items, back, item.specs)
    bindTo(items, unbound, item.specs)
  } else bindTo(items, [...back, ...unbound], item.specs)
}

/** Binds what a string belongs to; says whether it is done with, or goes on for the frets after it. */
function bindOne(binding: Binding, index: number, item: ItemOf<'strings'>): boolean {
  const { items } = binding
  const unbound = unboundBefore(items, index, clauseFrom(items, index))
  if (item.alone && unbound.length === 0)
    bindTo(items, reachBack(items, clauseFrom(items, index), false), item.specs)
  else if (bindsBack(items, index, item, unbound)) bindBack(binding, index, item, unbound)
  else return false
  return true
}

/** The items with every fret that a string was named for after it bound to that string. */
export function bindStrings(said: readonly Item[], reach: ReachBack): Bound {
  const items = withPairs(said)
  const binding: Binding = { items, reached: [], reach, onString: false, ahead: false }
  for (let index = 0; index < items.length; index++) {
    const item = items[index]
    if (item?.k === 'note' && item.strings) binding.onString = true
    if (endsStretch(items, index)) binding.ahead = false
    if (item?.k !== 'strings') continue
    const done = bindOne(binding, index, item)
    binding.onString = true
    binding.ahead = !done
    if (!done) continue
    items.splice(index, 1)
    index--
  }
  return { items, reached: binding.reached }
}
