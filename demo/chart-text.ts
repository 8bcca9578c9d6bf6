// A compact way to write the demo scores down. Hand patterns: one character a step. Lines: "string/fret"
// tokens with marks and a length in steps.
import type { StrokeMark } from '../core/marks'
import { readGrip } from '../core/neck/grips/grip'
import { parseCall } from '../core/call/parse'
import { stringLetters } from '../core/call/strings'
import type { InstrumentKind } from '../core/instrument/instruments'
import { newPart } from '../core/document/new-song'
import { TICKS_PER_QUARTER, type Meter } from '../core/time/meter'
import type { Mark, Content, GripSpan, Note, PickSchool, Stroke } from '../core/document/schema'

export const EIGHTH = TICKS_PER_QUARTER / 2
let serial = 0
const id = (): string => `e${(serial++).toString(36)}`
/** Ids start again for each song, so that a rebuilt song file differs only where the music does. */
export const restartIds = (): void => {
  serial = 0
}

/** "022xxx:8 x32010:8": grips low to high, each held for so many eighths. */
export function grips(text: string, strings = 6): GripSpan[] {
  let at = 0
  return text
    .trim()
    .split(/\s+/)
    .flatMap((token): GripSpan[] => {
      const [shape, length] = token.split(':')
      const lengthTicks = Number(length) * EIGHTH
      const startTicks = at
      at += lengthTicks
      const grip = shape === 'r' ? undefined : readGrip(shape!, strings)
      if (!grip && shape !== 'r') throw new Error(`no grip: ${shape}`)
      return grip ? [{ id: id(), startTicks, lengthTicks, grip }] : []
    })
}

/**
 * d u down, up · D U accented · x y dead down, up · m M palm-muted firm, accented · n medium · . holds on ·
 * - silence · 1–6 that string plucked · b thumb on the lowest string held.
 */
export function hand(text: string, step = EIGHTH): Stroke[] {
  const strokes: Stroke[] = []
  ;[...text.replace(/[\s|]/g, '')].forEach((mark, index) => {
    if (mark === '.') {
      const last = strokes.at(-1)
      if (last) last.lengthTicks += step
      return
    }
    if (mark === '-') return
    const string = /[1-6]/.test(mark) ? Number(mark) : undefined
    const direction = string ? (string >= 4 ? 'thumb' : 'fingers') : 'uUy'.includes(mark) ? 'up' : 'down'
    strokes.push({
      id: id(),
      startTicks: index * step,
      lengthTicks: step,
      direction,
      marks: strokeMarks(mark),
      ...(string ? { strings: [string] } : {}),
    })
  })
  return strokes
}

function strokeMarks(letter: string): StrokeMark[] {
  const pressure = 'mM'.includes(letter) ? 'firm' : 'medium'
  return [
    ...('DUM'.includes(letter) ? [{ kind: 'accent' as const }] : []),
    ...('xy'.includes(letter) ? [{ kind: 'dead' as const }] : []),
    ...('mMn'.includes(letter) ? [{ kind: 'palm mute' as const, pressure } as const] : []),
  ]
}

const MARKS: Record<string, Mark> = {
  '^': { kind: 'accent' },
  h: { kind: 'hammer-on' },
  p: { kind: 'pull-off' },
  s: { kind: 'slide', how: 'legato' },
  v: { kind: 'vibrato', width: 'narrow' },
  w: { kind: 'vibrato', width: 'wide' },
  m: { kind: 'palm mute', pressure: 'firm' },
  x: { kind: 'dead' },
  t: { kind: 'staccato' },
  o: { kind: 'natural harmonic' },
  i: { kind: 'slide', how: 'in from below', frets: 2 },
}

/**
 * "6/0:2 5/2 5/4h r:2 5/2+4/2 3/9b2": string/fret, marks, ^ accent, bN bend by N semitones, :length in
 * steps (1 when left out).
 */
export function line(text: string, step = EIGHTH): Note[] {
  let at = 0
  return text
    .replace(/\|/g, ' ')
    .trim()
    .split(/\s+/)
    .flatMap((token) => {
      const [what, length] = token.split(':')
      const lengthTicks = Number(length ?? 1) * step
      const startTicks = at
      at += lengthTicks
      if (what === 'r') return []
      return what!.split('+').map((one): Note => {
        const match = /^(\d+)\/(\d+)([a-z^]*?)(?:b(\d(?:\.\d)?))?([a-z^]*)$/.exec(one)
        if (!match) throw new Error(`no note: ${one}`)
        const marks = [...(match[3]! + match[5]!)].flatMap((mark) => MARKS[mark] ?? [])
        if (match[4]) marks.push({ kind: 'bend', semitones: Number(match[4]), shape: 'plain' })
        return {
          id: id(),
          string: Number(match[1]),
          fret: Number(match[2]),
          startTicks,
          lengthTicks: Math.round(lengthTicks),
          marks,
        }
      })
    })
}

/**
 * A content typed in the call line, as a user would enter it. Throws with the place of what is not
 * understood.
 */
export function called(
  text: string,
  options: {
    kind?: InstrumentKind
    stepTicks?: number
    meter?: Meter
    school?: PickSchool
    content?: Content
  } = {},
): Content {
  const part = newPart({ id: 'part', name: 'Part', kind: options.kind ?? 'guitar-6' })
  const letters = stringLetters({ key: { tonic: 'E', mode: 'minor' } }, part)
  const result = parseCall(text, {
    part,
    letters,
    meter: options.meter ?? { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: options.stepTicks ?? EIGHTH,
    school: options.school,
    ...(options.content ? { content: options.content } : {}),
  })
  if (!result.ok)
    throw new Error(`${result.error.message} in "${text.slice(result.error.at, result.error.end + 12)}"`)
  const named = <T extends { id: string }>(list: readonly T[]): T[] =>
    list.map((event) => ({ ...event, id: id() }))
  const { grips: held, strokes, notes, mutes } = result.value.content
  return { grips: named(held), strokes: named(strokes), notes: named(notes), mutes: named(mutes) }
}

export const content = (parts: Partial<Content>): Content => ({
  grips: [],
  strokes: [],
  notes: [],
  mutes: [],
  ...parts,
})
export const letRing = (lengthTicks: number): Content['mutes'] => [
  { id: id(), startTicks: 0, lengthTicks, mark: { kind: 'let ring' } },
]
export const repeat = (text: string, times: number): string =>
  Array.from({ length: times }, () => text).join(' ')
