// Notes said: in clauses of one thought, strings named where they change.
import { same } from '../same'
import { wordsOf } from '../marks'
import type { Mark, Note, Pressure } from '../document/schema'
import { barTicks, beatTicks } from '../time/meter'
import { type Speech, addLine, wayTo, forLength, ringingFor, advanceTo } from './speech'
import { callString } from './strings'
import { noteValueName } from './vocabulary'

/** Notes in time order, as they are being said. */
interface NoteSpeech {
  speech: Speech
  groups: readonly Note[][]
  clauses: string[]
  clause: Said[]
  lineStart: number
  /** The string said last. */
  string: number | undefined
}

const endClause = (line: NoteSpeech): void => {
  if (line.clause.length) line.clauses.push(clauseWords(line.clause))
  line.clause = []
}

function endLine(line: NoteSpeech, next: number): void {
  endClause(line)
  addLine(line.speech, 'notes', line.lineStart, line.clauses)
  line.clauses = []
  line.lineStart = next
}

const isSlurredGroup = (group: readonly Note[] | undefined): boolean =>
  group?.some((note) => moveOf(note)) ?? false

const advanceOf = (groups: readonly Note[][], index: number): number =>
  advanceTo(
    groups[index + 1]?.[0]!.startTicks,
    groups[index]![0]!.startTicks,
    Math.max(...groups[index]!.map((note) => note.lengthTicks)),
  )

/** Three notes or more in a row of one named value are said in it. */
function betterStep({ step }: Speech, groups: readonly Note[][], index: number): number | undefined {
  const lengths = groups.slice(index, index + 3).map((_, offset) => advanceOf(groups, index + offset))
  const [first] = lengths
  if (first === undefined || first === step || lengths.length < 3) return undefined
  return lengths.every((length) => length === first) && noteValueName(first) ? first : undefined
}

/** Whether a breath is taken before notes: after a pause, or at a bar line in a long line. */
function breathes({ speech, groups, lineStart }: NoteSpeech, index: number, gap: number): boolean {
  const before = groups[index - 1]
  if (!before || isSlurredGroup(groups[index])) return false
  const { meter } = speech.options
  const [beat, bar] = [beatTicks(meter), barTicks(meter)]
  const start = groups[index]![0]!.startTicks
  const atBar = start % bar === 0 && start - lineStart >= 2 * bar
  return gap >= beat || start - before[0]!.startTicks >= 2 * beat || atBar
}

/** A root with its fifth on the next string, or its octave two strings on, marked alike: said as one. */
function doubled({ options: { openMidi } }: Speech, group: readonly Note[]): 'power' | 'octave' | undefined {
  const [root, upper] = group
  if (!openMidi || group.length !== 2 || !root || !upper) return undefined
  if (root.finger || upper.finger || moveOf(root) || moveOf(upper)) return undefined
  const dress = ({ marks, pick, lengthTicks }: Note): unknown => [marks, pick, lengthTicks]
  if (!same(dress(root), dress(upper))) return undefined
  const semitones = openMidi[upper.string - 1]! + upper.fret - openMidi[root.string - 1]! - root.fret
  if (root.string - upper.string === 1 && semitones === 7) return 'power'
  return root.string - upper.string === 2 && semitones === 12 ? 'octave' : undefined
}

/** What is said after a note's fret, besides its own marks. */
const dressWords = (speech: Speech, note: Note, advance: number): string[] => [
  note.pick ? `pick ${note.pick}` : '',
  note.finger ? `finger ${note.finger}` : '',
  ringingFor(speech, note.lengthTicks, advance),
]

interface NoteWords {
  named: string
  advance: number
  palmed: boolean
  double: string | undefined
}

function noteText(speech: Speech, note: Note, { named, advance, palmed, double }: NoteWords): string {
  const has = (kind: Mark['kind']): boolean => note.marks.some((mark) => mark.kind === kind)
  const grace = note.marks.find((mark) => mark.kind === 'grace')
  const move = moveOf(note)
  const number = speech.options.strings === 'numbers' && named ? `fret ${note.fret}` : String(note.fret)
  const marks = note.marks.flatMap((mark) =>
    palmed || mark.kind !== 'palm mute' ? (wordsOf(mark, note.fret) ?? []) : [],
  )
  const words = [
    named,
    move ? MOVE_WORD[move] : '',
    grace?.kind === 'grace' ? `grace ${note.fret + grace.frets} to` : '',
    has('tap') ? 'tap' : '',
    has('dead') ? 'muted' : '',
    note.fret === 0 ? 'open' : number,
    double ?? '',
    ...marks,
    ...dressWords(speech, note, advance),
  ]
  return words.filter(Boolean).join(' ')
}

function releaseText(speech: Speech, note: Note, advance: number): string {
  const marks = note.marks
    .filter((mark) => mark.kind !== 'bend')
    .flatMap((mark) => wordsOf(mark, note.fret) ?? [])
  return ['release', ...marks, ...dressWords(speech, note, advance), forLength(speech, advance).trim()]
    .filter(Boolean)
    .join(' ')
}

/** Notes that begin together, said with the strings that have to be named. */
function groupText(line: NoteSpeech, group: readonly Note[], advance: number, palmed: boolean): string {
  const { speech } = line
  const { letters, strings } = speech.options
  const double = doubled(speech, group)
  const said = (double ? group.slice(0, 1) : group).map((note, place) => {
    const named = note.string === line.string && place === 0 ? '' : callString(letters, note.string, strings)
    return noteText(speech, note, { named, advance, palmed, double })
  })
  return `${said.join(' and ')}${forLength(speech, advance)}`
}

const isMany = (speech: Speech, notes: readonly Note[]): boolean =>
  notes.length > 1 && !doubled(speech, notes)

/** A new slur, a new string or several notes at once are a breath of their own. */
function isNewThought({ speech, groups }: NoteSpeech, index: number): boolean {
  const [before, group, next] = [groups[index - 1], groups[index]!, groups[index + 1]]
  if (isSlurredGroup(group)) return false
  if (isSlurredGroup(next) || isMany(speech, group)) return true
  if (!before) return false
  return before[0]!.string !== group[0]!.string || isMany(speech, before) || isSlurredGroup(before)
}

/** Where a palm mute said for several begins or ends, so does a clause. */
function palmChanges({ clause, groups }: NoteSpeech, index: number, palm: Pressure | undefined): boolean {
  const [first] = clause
  if (!first || isSlurredGroup(groups[index])) return false
  const next = groups[index + 1]
  const begins =
    palm !== undefined && clause.at(-1)!.palm !== palm && !isSlurredGroup(next) && palmOf(next ?? []) === palm
  const together =
    clause.length > 1 && first.palm !== undefined && clause.every((one) => one.palm === first.palm)
  return begins || (together && palm !== first.palm)
}

/** A slide in or out without a number would swallow the next fret. */
const swallowsFret = (note: Note): boolean =>
  note.marks.some(
    (mark) =>
      mark.kind === 'slide' && (mark.how.startsWith('in') || mark.how === 'out') && mark.frets === undefined,
  )

/** The step notes are said in from here on, when another says them shorter. */
function changeStep(line: NoteSpeech, index: number): void {
  const step = betterStep(line.speech, line.groups, index)
  if (!step) return
  endClause(line)
  line.clauses.push(`in ${noteValueName(step)}`)
  line.speech.step = step
}

function speakGroup(line: NoteSpeech, index: number): void {
  const { speech, groups } = line
  const group = groups[index]!
  const before = groups[index - 1]
  const start = group[0]!.startTicks
  const gap = start - speech.cursor
  if (gap !== 0) {
    endClause(line)
    // A rest is said with the phrase it ends.
    line.clauses.push(wayTo(speech, start, index === 0))
  }
  if (breathes(line, index, gap)) endLine(line, start)
  changeStep(line, index)
  const advance = advanceOf(groups, index)
  const single = group.length === 1 && before?.length === 1
  const released = single && isRelease(before[0]!, group[0]!)
  const startsClause = line.clause.length === 0
  const words = (palmed: boolean): string =>
    released ? releaseText(speech, group[0]!, advance) : groupText(line, group, advance, palmed)
  const said: Said = { text: words(true), bare: words(false), palm: released ? undefined : palmOf(group) }
  if (!released) line.string = (doubled(speech, group) ? group[0] : group.at(-1))!.string
  if (released || isNewThought(line, index) || palmChanges(line, index, said.palm)) endClause(line)
  line.clause.push(said)
  // Said first in its clause, a movement would go on through the clause.
  const alone = startsClause && isSlurredGroup(group)
  if (alone || group.some(swallowsFret) || advance !== speech.step || isMany(speech, group)) endClause(line)
  speech.cursor = start + advance
}

export function speakNotes(speech: Speech, notes: readonly Note[]): void {
  const groups = groupsOf(notes)
  if (groups.length === 0) return
  const lineStart = groups[0]![0]!.startTicks
  const line: NoteSpeech = { speech, groups, clauses: [], clause: [], lineStart, string: undefined }
  groups.forEach((_, index) => speakGroup(line, index))
  endLine(line, 0)
}

/** How firmly all of some notes are palm muted; undefined when not all alike. */
function palmOf(notes: readonly Note[]): Pressure | undefined {
  const all = new Set(
    notes.map((note) => {
      const palm = note.marks.find((mark) => mark.kind === 'palm mute')
      return palm?.kind === 'palm mute' ? palm.pressure : undefined
    }),
  )
  return all.size === 1 ? [...all][0] : undefined
}

/** One thing said within a clause: with its palm mute, and without where the clause says it for all. */
interface Said {
  text: string
  bare: string
  palm: Pressure | undefined
}

/** What is palm muted alike throughout says so once, first: "palm firm low E open open 3". */
function clauseWords(clause: readonly Said[]): string {
  const palm = clause[0]!.palm
  return palm && clause.length > 1 && clause.every((one) => one.palm === palm)
    ? `palm ${palm} ${clause.map((one) => one.bare).join(' ')}`
    : clause.map((one) => one.text).join(' ')
}

type Move = 'hammer-on' | 'pull-off' | 'legato' | 'shift'

const MOVE_WORD: Record<Move, string> = {
  'hammer-on': 'hammer',
  'pull-off': 'pull',
  legato: 'slide',
  shift: 'shift',
}

function moveOf(note: Note): Move | undefined {
  for (const mark of note.marks) {
    if (mark.kind === 'hammer-on' || mark.kind === 'pull-off') return mark.kind
    if (mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')) return mark.how
  }
  return undefined
}

function isRelease(before: Note, note: Note): boolean {
  const from = before.marks.find((mark) => mark.kind === 'bend')
  const here = note.marks.find((mark) => mark.kind === 'bend')
  return (
    from?.kind === 'bend' &&
    here?.kind === 'bend' &&
    here.shape === 'release' &&
    from.shape !== 'release' &&
    from.semitones === here.semitones &&
    before.string === note.string &&
    before.fret === note.fret &&
    !moveOf(note) &&
    !note.marks.some((mark) => mark.kind === 'grace' || mark.kind === 'tap' || mark.kind === 'dead')
  )
}

/** Notes that begin together, in time order, the lowest string first. */
function groupsOf(notes: readonly Note[]): Note[][] {
  const groups: Note[][] = []
  for (const note of [...notes].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)) {
    const last = groups.at(-1)
    if (last && last[0]!.startTicks === note.startTicks) last.push(note)
    else groups.push([note])
  }
  return groups
}
