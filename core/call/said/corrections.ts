// Correcting oneself: "sorry", "I mean", "no, the B", "scratch that".
import type { Item, ItemOf } from './items'
import { is, kind, spanFrom, takeOne, text, type Scan } from './scan'

/** "sorry", "I mean", "scratch that"; "no" before a comma or a string said again. */
export function fix(s: Scan): boolean {
  const start = s.i
  if (takeOne(s, 'scratchthat')) {
    s.items.push({ k: 'fix', wipe: true, ...spanFrom(s, start) })
    return true
  }
  const no = is(s, 0, 'no', 'nope', 'not') && (text(s, 1) === ',' || kind(s, 1) === 'number')
  if (!no && !is(s, 0, 'sorry')) return false
  if (s.items.length === 0) return false
  s.i++
  while (takeOne(s, 'sorry', 'no')) continue
  s.items.push({ k: 'fix', wipe: false, ...spanFrom(s, start) })
  return true
}

const contentful = (item: Item): boolean => item.k !== 'stop' && item.k !== 'and'

/** Corrections done: what was taken back is gone, what came instead stands in its place. */
export function corrected(items: readonly Item[]): Item[] {
  const list = [...items]
  for (;;) {
    const at = list.findIndex((item) => item.k === 'fix')
    if (at === -1) return list
    const mark = list[at] as ItemOf<'fix'>
    if (mark.wipe) wipe(list, at)
    else instead(list, at)
  }
}

function wipe(list: Item[], at: number): void {
  let from = at
  while (from > 0 && !contentful(list[from - 1]!)) from--
  while (from > 0 && list[from - 1]?.k !== 'stop') from--
  list.splice(from, at - from + 1)
}

function instead(list: Item[], at: number): void {
  let next = at + 1
  while (next < list.length && !contentful(list[next]!)) next++
  const now = list[next]
  let before = at - 1
  while (before >= 0 && !contentful(list[before]!)) before--
  if (!now || before < 0) {
    list.splice(at, 1)
    return
  }
  if (now.k === 'strings') insteadOfStrings(list, at, next)
  else if (now.k === 'note') insteadOfNote(list, at, next)
  else {
    const old = list.slice(0, at).findLastIndex((item) => item.k === now.k)
    if (old === -1) list.splice(at, 1)
    else list.splice(old, next - old, now)
    if (old !== -1) list.splice(old + 1, 1)
  }
}

function insteadOfStrings(list: Item[], at: number, next: number): void {
  const now = list[next] as ItemOf<'strings'>
  const old = list
    .slice(0, at)
    .findLastIndex((item) => item.k === 'strings' || (item.k === 'note' && item.strings))
  const was = list[old]
  if (was?.k === 'note') {
    was.strings = now.specs
    list.splice(at, next - at + 1)
  } else if (was?.k === 'strings') {
    list[old] = { ...now, after: was.after }
    list.splice(at, next - at + 1)
  } else list.splice(at, 1)
}

/** "5 7 5, sorry, 5 7 8": the thought begun anew, from the first fret that is the same. */
function restartedFrom(list: readonly Item[], at: number, now: ItemOf<'note'>): number | undefined {
  let from = at
  while (from > 0 && !endsThought(list[from - 1])) from--
  const notes = list.flatMap((item, index) =>
    index >= from && index < at && item.k === 'note' ? [index] : [],
  )
  if (notes.length < 2 || !saysMore(list, list.indexOf(now))) return undefined
  return notes.find((index) => (list[index] as ItemOf<'note'>).fret === now.fret)
}
const endsThought = (item: Item | undefined): boolean => item?.k === 'stop' && item.text !== ','
/** Another fret comes right after the one that is said instead. */
const saysMore = (list: readonly Item[], index: number): boolean =>
  list.slice(index + 1, index + 3).some((item) => item.k === 'note')

function insteadOfNote(list: Item[], at: number, next: number): void {
  const now = list[next] as ItemOf<'note'>
  const restart = restartedFrom(list, at, now)
  if (restart !== undefined) {
    list.splice(restart, next - restart)
    return
  }
  const old = list.slice(0, at).findLastIndex((item) => item.k === 'note')
  if (old === -1) {
    list.splice(at, 1)
    return
  }
  const end = list.findIndex((item, index) => index > next && item.k === 'stop')
  const clause = list.slice(next + 1, end === -1 ? undefined : end)
  if (now.strings || clause.some((item) => item.k === 'strings')) {
    // Said anew with its string: the note before goes, its string with it.
    list.splice(old, next - old)
    return
  }
  list[old] = { ...(list[old] as ItemOf<'note'>), fret: now.fret, marks: now.marks }
  list.splice(at, next - at + 1)
}
