// The strumming hand said: strokes in runs, plucked strings, what is muted alike said once.
import { wordsOf } from '../marks'
import { hasMark, markOf, withoutMark, type Marked, type MarkOf } from '../marks/marks-of'
import type { Pressure, Stroke } from '../document/schema'
import { usualDirection } from '../neck/strokes'
import { barTicks } from '../time/meter'
import { type Speech, addLine, wayTo, forLength, ringingFor, advanceTo } from './speech'
import { numberWord } from './vocabulary'

const COUNTABLE = new Set(['dead', 'down', 'up'])

const counted = ({ bare, count }: { bare: string; count: number }): string =>
  count > 1 ? `${numberWord(count)} ${bare}` : bare

/** A stroke as a run of one, and whether it is a plain pluck. */
function strokeRun(
  speech: Speech,
  stroke: Stroke,
  advance: number,
): StrokeRun & { plucks: string | undefined; rings: boolean } {
  const marks = strokeMarks(stroke)
  const bareMarks = strokeMarks({ marks: withoutMark(stroke.marks, 'palm mute') })
  const ringing = ringingFor(speech, stroke.lengthTicks, advance)
  const after = `${forLength(speech, advance)}${ringing && ` ${ringing}`}`
  const on = stroke.strings?.length ? ` on ${stroke.strings.join('-')}` : ''
  const usual = usualDirection(stroke.startTicks, speech.options)
  const dead = stroke.direction === usual ? 'dead' : `dead ${stroke.direction}`
  const way = hasMark(stroke, 'dead') ? dead : stroke.direction
  return {
    text: `${way}${on}${marks}${after}`,
    bare: `${way}${on}${bareMarks}${after}`,
    palm: ringing ? undefined : markOf(stroke, 'palm mute')?.pressure,
    count: 1,
    rings: Boolean(ringing),
    plucks: !marks && !after && isPluck(stroke) ? stroke.strings!.join('-') : undefined,
  }
}

/** Strings named from the highest number up, taken with thumb or fingers as they lie. */
function isPluck(stroke: Stroke): boolean {
  const { strings, direction } = stroke
  if (!strings?.length || hasMark(stroke, 'dead')) return false
  const usual = Math.min(...strings) >= 4 ? 'thumb' : 'fingers'
  return direction === usual && strings.join() === strings.toSorted((a, b) => a - b).join()
}

/** Adds a stroke to what was said in its bar: to the run or the plucking before it, when it goes on. */
function addStroke(clauses: (string | StrokeRun)[], run: ReturnType<typeof strokeRun>): void {
  const last = clauses.at(-1)
  if (run.plucks !== undefined) {
    if (typeof last === 'string' && last.startsWith('pluck '))
      clauses[clauses.length - 1] = `${last} ${run.plucks}`
    else clauses.push(`pluck ${run.plucks}`)
  } else if (typeof last === 'object' && last.text === run.text && last.count < 16 && !run.rings) last.count++
  else clauses.push(run)
}

export function speakHand(speech: Speech, strokes: readonly Stroke[]): void {
  const bar = barTicks(speech.options.meter)
  let clauses: (string | StrokeRun)[] = []
  let lineStart = 0
  strokes.forEach((stroke, index) => {
    const before = strokes[index - 1]
    const { startTicks, lengthTicks } = stroke
    if (!before || Math.floor(startTicks / bar) !== Math.floor(before.startTicks / bar)) {
      addLine(speech, 'hand', lineStart, runWords(clauses))
      clauses = []
      lineStart = startTicks
    }
    if (startTicks !== speech.cursor) clauses.push(wayTo(speech, startTicks, index === 0))
    const advance = advanceTo(strokes[index + 1]?.startTicks, startTicks, lengthTicks)
    addStroke(clauses, strokeRun(speech, stroke, advance))
    speech.cursor = startTicks + advance
  })
  addLine(speech, 'hand', lineStart, runWords(clauses))
}

/** Strokes alike, one after the other; `bare`: without their palm mute. */
interface StrokeRun {
  text: string
  bare: string
  palm: Pressure | undefined
  count: number
}

/**
 * Bare strokes are counted, dressed ones repeated; what is palm muted alike says so once: "palm firm down
 * accent three down".
 */
function runWords(list: readonly (string | StrokeRun)[]): string[] {
  const clauses: string[] = []
  for (let at = 0; at < list.length; at++) {
    const one = list[at]!
    if (typeof one === 'string') {
      clauses.push(one)
      continue
    }
    const together: StrokeRun[] = []
    for (
      let next: string | StrokeRun | undefined = one;
      next !== undefined &&
      typeof next !== 'string' &&
      next.palm &&
      next.palm === one.palm &&
      !isTakenFor(together.at(-1), next) &&
      (next.count === 1 || COUNTABLE.has(next.bare));
      next = list[at + together.length]
    )
      together.push(next)
    if (together.length > 1 || (together[0]?.count ?? 1) > 1) {
      clauses.push(`palm ${one.palm} ${together.map(counted).join(' ')}`)
      at += together.length - 1
    } else if (one.count === 1) clauses.push(one.text)
    else if (COUNTABLE.has(one.text)) clauses.push(`${numberWord(one.count)} ${one.text}`)
    else clauses.push(one.text, one.count === 2 ? 'twice' : `${numberWord(one.count)} times`)
  }
  return clauses
}

/** "Dead" before "down" is one dead stroke down: such two are not said in one breath. */
const isTakenFor = (before: StrokeRun | undefined, next: StrokeRun): boolean =>
  before?.bare === 'dead' && /^(down|up)\b/.test(next.bare)

const GLIDES = { legato: 'glide', shift: 'glide struck', out: 'glide out' } as const
function glideWords({ how, frets }: MarkOf<'slide'>): string {
  const said = how === 'in from below' || how === 'in from above' ? `glide ${how}` : GLIDES[how]
  return frets === undefined ? said : `${said} ${frets}`
}

const SAID_IN_ORDER = ['accent', 'staccato', 'choke', 'slide', 'palm mute'] as const

/** What is said after a stroke, each word with its space. */
function strokeMarks(stroke: Marked): string {
  return SAID_IN_ORDER.flatMap((kind) => {
    const mark = markOf(stroke, kind)
    if (!mark) return []
    return mark.kind === 'slide' ? glideWords(mark) : (wordsOf(mark, 0) ?? [])
  })
    .map((word) => ` ${word}`)
    .join('')
}
