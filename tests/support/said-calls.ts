// Calls as people say them, with what they mean, and how a reading is held against it. The compact
// notation of tests/fixtures/calls/own-calls.ts: a moment is `string/fret`, notes that sound together
// joined by +, marks behind it: h p s hammered, pulled, slid; < slid into, > slid out; b2 b1 b.5 bent by
// so much, b* by any, b~ a little, r with its release, R a release alone; m palm muted, l ringing, v
// shaken, o harmonic, g grace, w bar, c staccato; `6/x` is dead. Beside notes: grip, grips, chords,
// strokes, at (eighths), pcs.
import { hasMark } from '../../core/marks/marks-of'
import { readFileSync } from 'node:fs'
import { OWN_CALLS } from '../fixtures/calls/own-calls'
import { LAST_CALLS } from '../fixtures/calls/own-calls-last'
import { LATER_CALLS } from '../fixtures/calls/own-calls-later'
import { readCall, type CallReading } from '../../core/call/read-call'
import { stringLetters } from '../../core/call/strings'
import { newPart } from '../../core/document/new-song'
import { EMPTY_CONTENT, type Mark, type Content, type Part } from '../../core/document/schema'
import { gripsFor } from '../../core/neck/grips/grip-search'
import { writeGrip } from '../../core/neck/grips/grip'
import { readTuning, tuningOf, usualInstrument } from '../../core/instrument/tuning-text'
import { pitchClassOf, type Key } from '../../core/music/pitch'
import { readChordSymbol } from '../../core/music/chord-name'

interface MeantMark {
  kind: string
  semitones?: number | 'any' | 'small'
  release?: boolean
  from?: string
}
interface MeantNote {
  string: number
  fret?: number
  dead?: boolean
  marks?: MeantMark[]
  pick?: string
}
interface Meant {
  notes?: MeantNote[][]
  grip?: string[]
  grips?: string[][]
  chords?: string[]
  strokes?: string
  eighths?: string
  pitchClasses?: string
}
export interface SaidCall {
  call: string
  step?: string
  tuning?: string
  key?: string
  setup?: string
  meant: Meant[]
}
export type Verdict = 'exact' | 'partial' | 'asked' | 'refused' | 'silent misreading'

const FIXTURES = new URL('../fixtures/calls/', import.meta.url)
const lines = (name: string): string[] =>
  readFileSync(new URL(name, FIXTURES), 'utf8')
    .split('\n')
    .filter((line) => line.trim() && !line.startsWith('#'))

export const shownCalls = (): SaidCall[] =>
  lines('calls-said.jsonl').map((line) => {
    const {
      expect,
      accept = [],
      ...rest
    } = JSON.parse(line) as SaidCall & { expect: Meant; accept?: Meant[] }
    return { ...rest, meant: [expect, ...accept] }
  })

const MARK_SIGNS: Record<string, MeantMark> = {
  h: { kind: 'hammer-on' },
  p: { kind: 'pull-off' },
  s: { kind: 'slide' },
  '<': { kind: 'slide-in' },
  '>': { kind: 'slide-out' },
  R: { kind: 'release' },
  m: { kind: 'palm mute' },
  l: { kind: 'let ring' },
  v: { kind: 'vibrato' },
  o: { kind: 'harmonic' },
  g: { kind: 'grace' },
  w: { kind: 'bar' },
  c: { kind: 'staccato' },
  t: { kind: 'tap' },
}
const bentBy = (amount: string | undefined): MeantMark['semitones'] => {
  if (amount === '~') return 'small'
  return amount === '*' || amount === undefined ? 'any' : Number(amount)
}
function meantNote(text: string): MeantNote {
  const [, string, fret, signs = ''] = /^(\d+)\/(x|\d+)(.*)$/.exec(text)!
  const marks = [...signs.matchAll(/b(\*|~|\d*\.?\d+)?(r)?|./g)].map((match): MeantMark => {
    const [sign, amount, release] = match
    if (!sign.startsWith('b')) return MARK_SIGNS[sign]!
    const semitones = bentBy(amount)
    return { kind: 'bend', semitones, ...(release ? { release: true } : {}) }
  })
  return {
    string: Number(string),
    ...(fret === 'x' ? { dead: true } : { fret: Number(fret) }),
    ...(marks.length ? { marks } : {}),
  }
}
function meantOf(text: string): Meant {
  const meant: Meant = {}
  for (const part of text.split(';').map((one) => one.trim())) {
    const [word = '', ...rest] = part.split(' ')
    const value = rest.join(' ')
    if (word === 'grip') meant.grip = value.split('|').map((one) => one.replaceAll(/\((\d+)\)/g, '-$1-'))
    else if (word === 'grips') meant.grips = value.split(',').map((one) => [one.trim()])
    else if (word === 'chords') meant.chords = value.split(' ')
    else if (word === 'strokes') meant.strokes = value
    else if (word === 'at') meant.eighths = value
    else if (word === 'pcs') meant.pitchClasses = value
    else if (part) meant.notes = part.split(/\s+/).map((moment) => moment.split('+').map(meantNote))
  }
  return meant
}
export const ownCalls = (): SaidCall[] => callsIn([...OWN_CALLS, ...LATER_CALLS, ...LAST_CALLS])
export const callsIn = (list: readonly string[]): SaidCall[] =>
  list.map((line) => {
    const at = line.indexOf('=>')
    const [call = '', options = ''] = line.slice(0, at).split(';;')
    const given = Object.fromEntries(
      [...options.matchAll(/(\w+)=(.*?)(?=\s\w+=|\s*$)/g)].map((match) => [match[1]!, match[2]!.trim()]),
    )
    // "|| " parts what may be meant; a single bar parts grips.
    const meant = line
      .slice(at + 2)
      .split('||')
      .map((one) => meantOf(one.trim().replace(/^=>/, '')))
    return { call: call.trim(), ...given, meant }
  })

function partFor(said: SaidCall): Part {
  const tuning = readTuning(said.tuning ?? 'E2 A2 D3 G3 B3 E4')
  if (!tuning.ok) throw new Error(tuning.refusal.message)
  const kind = usualInstrument(tuning.value)
  return newPart({ id: 'g', name: 'Guitar', kind, tuning: tuningOf(tuning.value, kind) })
}
const keyOf = (text: string | undefined): Key | undefined => {
  if (!text) return undefined
  const [tonic = 'C', mode = 'major'] = text.split(' ')
  return { tonic, mode: mode as Key['mode'] }
}

/** A call read as it stands in a figure, after its setup where it has one. */
export function readSaidCall(said: SaidCall): {
  part: Part
  before: Content
  from: number
  reading: CallReading
} {
  const part = partFor(said)
  const key = keyOf(said.key)
  const context = {
    part,
    letters: stringLetters({ key: key ?? { tonic: 'C', mode: 'major' } }, part),
    meter: { beats: 4, unit: 4 } as const,
    subdivision: 'eighths' as const,
    stepTicks: 40_320 / Number((said.step ?? '1/8').split('/')[1]),
    key,
    gripFor: (symbol: string, after: Parameters<typeof writeGrip>[0] | undefined) => {
      const found = gripsFor(symbol, part, { count: 1, ...(after ? { after } : {}) })
      return found.ok ? found.value[0]?.grip : undefined
    },
  }
  if (!said.setup) return { part, before: EMPTY_CONTENT, from: 0, reading: readCall(said.call, context) }
  const setup = readCall(said.setup, context)
  if (!setup.ok) throw new Error(`${said.setup}: ${setup.error.message}`)
  const { content, endTicks } = setup.value
  const played = content.notes.length + content.strokes.length > 0
  const from = played ? endTicks : 0
  const reading = readCall(said.call, {
    ...context,
    startTicks: from,
    content,
    before: content,
  })
  return { part, before: content, from, reading }
}

const markOf = (mark: Mark): MeantMark[] => {
  switch (mark.kind) {
    case 'slide':
      if (mark.how === 'legato' || mark.how === 'shift') return [{ kind: 'slide' }]
      if (mark.how === 'out') return [{ kind: 'slide-out' }]
      return [{ kind: 'slide-in', from: mark.how === 'in from above' ? 'above' : 'below' }]
    case 'bend':
      if (mark.shape === 'release') return [{ kind: 'bend', semitones: mark.semitones, release: true }]
      return [
        {
          kind: 'bend',
          semitones: mark.semitones,
          ...(mark.shape === 'bend and release' ? { release: true } : {}),
        },
      ]
    case 'natural harmonic':
    case 'pinched harmonic':
      return [{ kind: 'harmonic' }]
    case 'dead':
    case 'trill':
    case 'accent':
      return []
    case 'arm':
      return [{ kind: 'bar' }]
    default:
      return [{ kind: mark.kind }]
  }
}

/** What sounds, moment by moment: notes, and strokes over the grips held. */
function momentsOf(content: Content): MeantNote[][] {
  const starts = [...new Set([...content.notes, ...content.strokes].map((one) => one.startTicks))].sort(
    (a, b) => a - b,
  )
  return starts.map((tick) => {
    const notes = content.notes
      .filter((note) => note.startTicks === tick)
      .map((note): MeantNote => ({
        string: note.string,
        fret: note.fret,
        dead: hasMark(note, 'dead'),
        marks: note.marks.flatMap(markOf),
        ...(note.pick ? { pick: note.pick } : {}),
      }))
    const stroke = content.strokes.find((one) => one.startTicks === tick)
    const grip = content.grips.findLast((span) => span.startTicks <= tick)?.grip
    if (!stroke || !grip) return notes
    const struck = grip.strings.flatMap((one, index): MeantNote[] =>
      one.fret === null || (stroke.strings && !stroke.strings.includes(index + 1))
        ? []
        : [
            {
              string: index + 1,
              fret: one.fret,
              dead: hasMark(stroke, 'dead'),
              marks: [],
              pick: stroke.direction,
            },
          ],
    )
    return [...notes, ...struck]
  })
}

function markFits(meant: MeantMark, mark: MeantMark): boolean {
  if (meant.kind !== mark.kind) return false
  if (meant.from && meant.from !== mark.from) return false
  if (meant.kind !== 'bend') return true
  if (Boolean(meant.release) !== Boolean(mark.release)) return false
  if (meant.semitones === 'small') return Number(mark.semitones) <= 0.5
  return meant.semitones === 'any' || meant.semitones === undefined || meant.semitones === mark.semitones
}
function noteFits(meant: MeantNote, note: MeantNote): boolean {
  if (meant.string !== note.string || Boolean(meant.dead) !== Boolean(note.dead)) return false
  if (!meant.dead && meant.fret !== note.fret) return false
  if (meant.pick && meant.pick !== note.pick) return false
  if (meant.dead) return true
  const wanted = meant.marks ?? []
  const found = note.marks ?? []
  return wanted.length === found.length && wanted.every((one) => found.some((other) => markFits(one, other)))
}
const momentFits = (meant: readonly MeantNote[], moment: readonly MeantNote[]): boolean =>
  meant.length === moment.length && meant.every((one) => moment.some((other) => noteFits(one, other)))

/** Where things start, in eighths from where the call begins. */
const eighthsOf = (content: Content, from: number): string => {
  const sounds = [...content.notes, ...content.strokes]
  const starts = [...new Set((sounds.length ? sounds : content.grips).map((one) => one.startTicks))].sort(
    (a, b) => a - b,
  )
  return starts.map((tick) => (tick - from) / 5040).join(' ')
}
const STROKE_SIGNS: Record<string, string> = { down: 'D', up: 'U', thumb: 'D', fingers: 'U' }
const tones = (symbol: string): string | undefined => {
  const read = readChordSymbol(symbol)
  return read && `${read.root}/${read.bass}:${[...read.semitones].sort((a, b) => a - b).join()}`
}
const gripText = (text: string): string => text.replaceAll(/^-|-$/g, '').replaceAll('--', '-')

interface Read {
  content: Content
  chords: readonly string[]
  part: Part
  from: number
}
function fits(meant: Meant, { content, chords, part, from }: Read): boolean {
  if (meant.notes) {
    const moments = momentsOf(content)
    if (moments.length !== meant.notes.length) return false
    if (!meant.notes.every((moment, index) => momentFits(moment, moments[index]!))) return false
  }
  const grips = content.grips.map((span) => writeGrip(span.grip))
  if (meant.grip && !meant.grip.map(gripText).some((grip) => sameGrip(grip, grips))) return false
  if (meant.grips && !meant.grips.every((allowed, index) => allowed.includes(grips[index] ?? '')))
    return false
  if (meant.chords && meant.chords.map(tones).join() !== chords.map(tones).join()) return false
  const strokes = content.strokes.map((stroke) =>
    hasMark(stroke, 'dead') ? 'x' : STROKE_SIGNS[stroke.direction],
  )
  if (meant.strokes && meant.strokes !== strokes.join(' ')) return false
  if (meant.eighths && meant.eighths !== eighthsOf(content, from)) return false
  if (!meant.pitchClasses) return true
  const classes = content.notes.map((note) => (part.tuning.openMidi[note.string - 1]! + note.fret) % 12)
  return meant.pitchClasses.split(' ').map(pitchClassOf).join() === classes.join()
}
/** A grip that is meant, by its strings or as a list of frets with dashes. */
const sameGrip = (meant: string, grips: readonly string[]): boolean =>
  grips.includes(meant) || grips.map((grip) => grip.replaceAll('-', '')).includes(meant.replaceAll('-', ''))

const together = (before: Content, added: Content): Content => ({
  grips: [...before.grips, ...added.grips],
  strokes: [...before.strokes, ...added.strokes],
  notes: [...before.notes, ...added.notes],
  mutes: [...before.mutes, ...added.mutes],
})

const strokeWords = (content: Content): string =>
  content.strokes.map((stroke) => (hasMark(stroke, 'dead') ? 'x' : STROKE_SIGNS[stroke.direction])).join(' ')
const noteText = (note: MeantNote): string => {
  const marks = (note.marks ?? []).map(
    (mark) => `{${mark.kind}${mark.semitones ?? ''}${mark.release ? 'r' : ''}}`,
  )
  return `${note.string}/${note.dead ? 'x' : note.fret}${marks.join('')}`
}
/** What was read, in a line. */
const readWords = (content: Content, chords: readonly string[], from: number): string =>
  [
    momentsOf(content)
      .map((moment) => moment.map(noteText).join('+'))
      .join(' '),
    `grips ${content.grips.map((span) => writeGrip(span.grip)).join(' ')}`,
    `chords ${chords.join(' ')}`,
    `strokes ${strokeWords(content)}`,
    `at ${eighthsOf(content, from)}`,
  ].join(' · ')

/** How a call was read, held against what it means. */
export function judge(said: SaidCall): { verdict: Verdict; words: string } {
  const { part, before, from, reading } = readSaidCall(said)
  if (!reading.ok) return { verdict: reading.asks ? 'asked' : 'refused', words: `${reading.error.message}` }
  const { content } = reading.value
  const chords = reading.chords.map((chord) => chord.symbol)
  const all = together(before, content)
  const read: Read = { content, chords, part, from }
  const standing = said.setup === undefined ? read : { ...read, content: all }
  const exact = said.meant.some((meant) => fits(meant, read) || fits(meant, standing))
  const words = readWords(content, chords, from)
  if (exact) return { verdict: 'exact', words }
  const flagged = reading.choices.length + reading.slips.length + reading.unknown.length > 0
  return { verdict: flagged ? 'partial' : 'silent misreading', words }
}
