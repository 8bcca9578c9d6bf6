// How something that is played again ends: "but finish on 7 of the D", "with the last note left out".
import type { ItemOf } from './items'
import { takeFret } from './say-frets'
import { oneString } from './say-strings'
import { here, is, isStop, kind, skipArticle, spanFrom, takeOne, text, type Scan } from './scan'

/** "but finish on 7 of the D", "but last two notes 9 7", "with the last note left out". */
export function takeEnding(s: Scan, item: ItemOf<'again'>): boolean {
  const start = s.i
  while (
    takeOne(s, 'but', 'and', 'with', 'only', 'just', 'except', 'this', 'time') ||
    (text(s) === ',' && !isStop(s, 1))
  ) {
    if (text(s) === ',') s.i++
  }
  if (takeOne(s, 'without')) {
    skipArticle(s)
    const count = takeLast(s)
    if (count) {
      item.drop = count
      return true
    }
  }
  const finish = takeOne(s, 'finish')
  const count = takeLast(s)
  if (count && takeOne(s, 'leftout', 'without')) {
    item.drop = count
    return true
  }
  if (finish || count) {
    const ending = endingNotes(s, Math.max(1, count ?? 1))
    if (ending.length) {
      item.ending = ending
      return true
    }
  }
  s.i = start
  return false
}

function takeLast(s: Scan): number | undefined {
  if (!takeOne(s, 'last')) return undefined
  const count = kind(s) === 'number' && is(s, 1, 'notes', 'note') ? here(s).value : 1
  if (kind(s) === 'number' && is(s, 1, 'notes', 'note')) s.i++
  while (takeOne(s, 'notes', 'note', 'is', 'being', 'on', 'to', 'goes', 'becomes')) continue
  return count
}

function endingNotes(s: Scan, most: number): NonNullable<ItemOf<'again'>['ending']> {
  const notes: NonNullable<ItemOf<'again'>['ending']> = []
  while (notes.length < most) {
    const start = s.i
    while (takeOne(s, 'on', 'with', 'at', 'and')) continue
    skipArticle(s)
    const ahead = oneString(s)
    const fret = takeFret(s, true)
    if (fret === undefined) {
      s.i = start
      break
    }
    const before = s.i
    const late = ahead ?? (takeOne(s, 'of', 'on') || fret === 0 ? oneString(s, true) : undefined)
    if (!late) s.i = before
    notes.push({
      k: 'note',
      fret,
      dead: false,
      count: 1,
      marks: [],
      ...(late ? { strings: late } : {}),
      ...spanFrom(s, start),
    })
  }
  return notes
}
