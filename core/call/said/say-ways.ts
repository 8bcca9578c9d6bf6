// How something is played again: on other strings, higher or lower, backwards, in harmony.
import type { ReferenceHow, StringSpec } from './items'
import { takeFret } from './say-frets'
import { stringList } from './say-strings'
import { here, is, isArticle, kind, skipArticle, takeOne, text, type Scan } from './scan'

const NUMBERED = (s: Scan): number | undefined => {
  const start = s.i
  skipArticle(s)
  const one = is(s, 0, 'couple') ? 2 : kind(s) === 'number' ? here(s).value : undefined
  if (one === undefined) {
    s.i = start
    return isArticle({ ...s, i: start }) ? 1 : undefined
  }
  s.i++
  return one
}

/** "up two frets", "two frets lower", "down a fret", "up a half step". */
export function fretsMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down')
  const half = way && isArticle(s) && is(s, 1, 'halfstep', 'full') ? 1 : 0
  s.i += half
  if (way && takeOne(s, 'halfstep')) return { how: 'frets', by: way === 'down' ? -1 : 1 }
  if (way && takeOne(s, 'full')) return { how: 'frets', by: way === 'down' ? -2 : 2 }
  const number = NUMBERED(s) ?? (is(s, 0, 'fret') ? 1 : undefined)
  if (isArticle(s) && is(s, 1, 'fret')) s.i++
  if (number !== undefined && takeOne(s, 'fret')) {
    const late = takeOne(s, 'up', 'down', 'higher', 'lower', 'above', 'below')
    const said = way ?? late
    if (said) return { how: 'frets', by: /down|lower|below/.test(said) ? -number : number }
  }
  s.i = start
  return undefined
}

/** "one string over", "one set of strings higher", "up a string": how many strings, higher above 0. */
export function setMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down', 'over')
  const number = NUMBERED(s) ?? 1
  if (isArticle(s)) s.i++
  if (takeOne(s, 'stringset', 'string', 'set')) {
    while (takeOne(s, 'of', 'string')) continue
    const said = takeOne(s, 'up', 'down', 'higher', 'lower', 'over', 'across') ?? way
    if (said) {
      const to = thereAfter(s)
      if (to) return { how: 'strings', specs: to }
      return { how: 'set', by: /down|lower/.test(said) ? -number : number }
    }
  }
  s.i = start
  return undefined
}

/** "one string over, on the A": the string it goes to, said after. */
function thereAfter(s: Scan): StringSpec[] | undefined {
  const start = s.i
  if (text(s) === ',') s.i++
  const specs = takeOne(s, 'on', 'to') ? stringList(s, true) : undefined
  if (!specs) s.i = start
  return specs
}

function ontoStrings(s: Scan): ReferenceHow | undefined {
  const start = s.i
  if (takeOne(s, 'on', 'over', 'to', 'with', 'for')) {
    takeOne(s, 'on', 'to')
    const specs = stringList(s, true)
    if (specs) return { how: 'strings', specs }
  }
  s.i = start
  return undefined
}

function beginOn(s: Scan, sure: boolean): ReferenceHow | undefined {
  const start = s.i
  if (takeOne(s, 'begin', 'from', 'at', ...(sure ? ['on'] : []))) {
    skipArticle(s)
    const specs = stringList(s)
    if (specs) return { how: 'strings', specs }
    const fret = takeFret(s, true)
    if (fret !== undefined && !is(s, 0, 'string')) return { how: 'start', fret }
  }
  s.i = start
  return undefined
}

const WAYS: Readonly<Record<string, ReferenceHow>> = {
  octavehigher: { how: 'octave', by: 1 },
  octavelower: { how: 'octave', by: -1 },
  backwards: { how: 'backwards' },
  thirdabove: { how: 'harmony', interval: 3, inKey: true },
  thirdbelow: { how: 'harmony', interval: -3, inKey: true },
  sixthabove: { how: 'harmony', interval: 6, inKey: true },
  fifthabove: { how: 'harmony', interval: 5, inKey: true },
}

export function wordWay(s: Scan): ReferenceHow | undefined {
  const article = isArticle(s) ? 1 : 0
  const word = text(s, article)
  if (kind(s, article) !== 'word' || !Object.hasOwn(WAYS, word)) return undefined
  s.i += article + 1
  while (takeOne(s, 'inkey') || (text(s) === ',' && is(s, 1, 'inkey'))) if (text(s) === ',') s.i++
  return WAYS[word]
}

export const takeWayBack = (s: Scan, sure: boolean): ReferenceHow | undefined =>
  wordWay(s) ?? fretsMoved(s) ?? setMoved(s) ?? ontoStrings(s) ?? beginOn(s, sure)
