// "down glide", "down glide in from below 2": a stroke whose whole grip is slid.
import type { StrokeMark } from '../marks'
import { withMark } from '../marks/marks-of'
import { optionalFrets } from './note-words'
import { fail, failWords, peek, wordHere, type Reading } from './reading'
import type { Token } from './tokens'

type Slide = Extract<StrokeMark, { kind: 'slide' }>
const WAYS = ['glide', 'glide struck', 'glide in from below', 'glide out']

/** The way that is said after "glide". */
function takeWay(r: Reading, token: Token): Slide['how'] {
  const word = peek(r).toLowerCase()
  if (word === 'struck' || wordHere(r) === 'out') {
    r.i++
    return word === 'struck' ? 'shift' : 'out'
  }
  if (word !== 'in') return 'legato'
  const side = peek(r, 2).toLowerCase()
  if (peek(r, 1).toLowerCase() !== 'from' || (side !== 'below' && side !== 'above'))
    fail(r, token, 'Slid in from where?', ['glide in from below', 'glide in from above'])
  r.i += 3
  return side === 'below' ? 'in from below' : 'in from above'
}

/** Reads what follows "glide", and gives what puts it on the last stroke. */
export function glideMark(r: Reading, token: Token): (at: Token) => void {
  const how = takeWay(r, token)
  const slide: Slide = {
    kind: 'slide',
    how,
    ...(how === 'legato' || how === 'shift' ? {} : optionalFrets(r)),
  }
  return (at) => {
    const event = r.events.at(-1)
    if (event?.layer !== 'stroke' || r.last?.kind !== 'stroke')
      failWords(
        at,
        'This belongs to a stroke over a grip: say the stroke first.',
        WAYS.map((way) => `down ${way}`),
      )
    event.marks = withMark(event.marks, slide)
  }
}
