// How something is played again: on other strings, higher or lower, backwards, in harmony.
import type { ReferenceHow, StringSpec } from './items'
import { takeFret } from './say-frets'
import { stringList } from './say-strings'
import { here, is, isArticle, kind, skipArticle, takeOne, text, type Scan } from './scan'

/** "two", "a couple of", "a": how many; the cursor stays on an article. */
function takeNumber(s: Scan): number | undefined {
  const start = s.i
  const article = isArticle(s)
  skipArticle(s)
  if (is(s, 0, 'couple') || kind(s) === 'number') {
    s.i++
    return is(s, -1, 'couple') ? 2 : here(s, -1).value
  }
  s.i = start
  return article ? 1 : undefined
}

const LOWER = /down|lower|below/
/** "a half step", "a whole step": in frets. */
function takeStep(s: Scan): number | undefined {
  const start = s.i
  skipArticle(s)
  const said = takeOne(s, 'halfstep', 'full')
  if (!said) s.i = start
  if (said === undefined) return undefined
  return said === 'full' ? 2 : 1
}

/** "two frets", "a fret": how many. */
function takeFrets(s: Scan): number | undefined {
  const number = takeNumber(s) ?? (is(s, 0, 'fret') ? 1 : undefined)
  skipArticle(s)
  return number !== undefined && takeOne(s, 'fret') ? number : undefined
}

/** "up two frets", "two frets lower", "down a fret", "up a half step". */
export function fretsMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down')
  const step = way === undefined ? undefined : takeStep(s)
  const frets = step ?? takeFrets(s)
  const said = step ? way : (takeOne(s, 'up', 'down', 'higher', 'lower', 'above', 'below') ?? way)
  if (frets !== undefined && said) return { how: 'frets', by: LOWER.test(said) ? -frets : frets }
  s.i = start
  return undefined
}

/** "one string over", "one set of strings higher", "up a string": how many strings, higher above 0. */
export function setMoved(s: Scan): ReferenceHow | undefined {
  const start = s.i
  const way = takeOne(s, 'up', 'down', 'over')
  const number = takeNumber(s) ?? 1
  skipArticle(s)
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
  if (takeOne(s, 'begin', 'from', 'at', 'to', ...(sure ? ['on'] : []))) {
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
