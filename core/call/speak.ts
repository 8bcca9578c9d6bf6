// A figure said back in the words of the call line: the inverse of parsing. Grips first, then muting, then
// the hand, then the notes, phrase by phrase (a line each, broken where the line breathes) and slur by slur
// (a comma each). What is said is understood back as exactly the same content.
import { wordsOf } from '../articulation'
import { writeGrip } from '../fretboard/grips/grip'
import { usualDirection } from '../fretboard/strokes'
import type { Articulation, Content, GripSpan, Note, PickSchool, Pressure, Stroke } from '../document/schema'
import { barTicks, beatTicks, countWords, type Meter, type Subdivision } from '../time/meter'
import { callString, type StringSchool } from './strings'
import { noteValueName, numberWord } from './vocabulary'

export interface SpeakOptions {
  letters: readonly string[]
  strings: StringSchool
  meter: Meter
  subdivision: Subdivision
  stepTicks: number
  /** Says which way a dead stroke goes unless it is said. */ school?: PickSchool | undefined
  /** Open strings, string 1 first: with them a root and its fifth are a "power". */
  openMidi?: readonly number[]
}
export interface SpokenLine {
  startTicks: number
  text: string
  layer: 'grips' | 'muting' | 'hand' | 'notes'
}

/** The call-outs for a content, in order; joined by line breaks they are a call. */
export function speak(content: Content, options: SpeakOptions): SpokenLine[] {
  return new Speaker(options).all(content)
}

/** A length in steps where it comes out even ("3", "3/2"), else in ticks. */
function lengthWords(ticks: number, step: number): string {
  for (const bottom of [1, 2, 3, 4, 5, 6, 7, 8]) {
    const top = Math.round((ticks * bottom) / step)
    if (top > 0 && Math.round((step * top) / bottom) === ticks && top < 1e5)
      return bottom === 1 ? String(top) : `${top}/${bottom}`
  }
  return `${ticks} ticks`
}

/** A place as it is said after "at". */
export function placeWords(tick: number, meter: Meter): string {
  const bar = barTicks(meter)
  const within = tick % bar
  const barWords = `at bar ${Math.floor(tick / bar) + 1}`
  if (within === 0) return barWords
  const words = countWords(meter, within)
  return /^(\d+|the (and|e|a) of \d+)$/.test(words) &&
    within % (beatTicks(meter) / 4) === 0 &&
    !(meter.unit === 8 && /of/.test(words))
    ? `${barWords} on ${words}`
    : `at ${tick} ticks`
}

const COUNTABLE = new Set(['dead', 'down', 'up'])

const muteWords = (mute: Content['mutes'][number]): string =>
  mute.kind === 'palm mute' ? `palming ${mute.pressure ?? 'medium'}` : 'letting ring'
const counted = ({ bare, count }: { bare: string; count: number }): string =>
  count > 1 ? `${numberWord(count)} ${bare}` : bare

class Speaker {
  private cursor = 0
  private step: number
  private lines: SpokenLine[] = []
  constructor(private readonly options: SpeakOptions) {
    this.step = options.stepTicks
  }

  all(content: Content): SpokenLine[] {
    this.grips(content.grips)
    this.muting(content)
    this.hand(content.strokes)
    this.notes(content.notes)
    return this.lines
  }
  private line(layer: SpokenLine['layer'], startTicks: number, clauses: readonly string[]): void {
    const text = clauses.filter(Boolean).join(', ')
    if (text) this.lines.push({ layer, startTicks, text })
  }
  /** Words that bring the cursor to a place, if it is not there. */
  private goTo(tick: number): string {
    if (tick === this.cursor) return ''
    this.cursor = tick
    return placeWords(tick, this.options.meter)
  }

  private grips(grips: readonly GripSpan[]): void {
    let end = 0
    const clauses: string[] = []
    for (const { startTicks, lengthTicks, grip } of grips) {
      if (startTicks !== end) {
        clauses.push(this.goTo(startTicks) || placeWords(startTicks, this.options.meter))
        this.cursor = startTicks
      }
      const fingered = grip.strings.some((string) => string.finger)
        ? ` fingered ${grip.strings
            .map((string) => string.finger ?? 'x')
            .reverse()
            .join('')}`
        : ''
      const barre = grip.barre
        ? ` barre ${grip.barre.fret} from ${grip.barre.fromString} to ${grip.barre.toString}`
        : ''
      clauses.push(`hold ${writeGrip(grip)}${fingered}${barre} for ${lengthWords(lengthTicks, this.step)}`)
      end = startTicks + lengthTicks
    }
    this.line('grips', grips[0]?.startTicks ?? 0, clauses)
  }

  private muting(content: Content): void {
    const clauses = [...content.mutes]
      .sort((a, b) => a.startTicks - b.startTicks)
      .flatMap((mute) => [
        this.goTo(mute.startTicks),
        `${muteWords(mute)} for ${lengthWords(mute.lengthTicks, this.step)}`,
      ])
    this.line('muting', content.mutes[0]?.startTicks ?? 0, clauses)
  }

  private hand(strokes: readonly Stroke[]): void {
    const bar = barTicks(this.options.meter)
    let clauses: (string | StrokeRun)[] = []
    let lineStart = 0
    let run: StrokeRun | undefined
    let plucked = false
    const flush = (): void => {
      if (run) clauses.push(run)
      run = undefined
    }
    strokes.forEach((stroke, index) => {
      if (
        index === 0 ||
        Math.floor(stroke.startTicks / bar) !== Math.floor(strokes[index - 1]!.startTicks / bar)
      ) {
        flush()
        this.line('hand', lineStart, runWords(clauses))
        clauses = []
        lineStart = stroke.startTicks
        plucked = false
      }
      const gap = stroke.startTicks - this.cursor
      if (gap !== 0) {
        flush()
        plucked = false
        clauses.push(
          gap > 0 && index > 0 ? `rest for ${lengthWords(gap, this.step)}` : this.goTo(stroke.startTicks),
        )
        this.cursor = stroke.startTicks
      }
      const next = strokes[index + 1]
      const advance =
        next && next.startTicks < stroke.startTicks + stroke.lengthTicks
          ? next.startTicks - stroke.startTicks
          : stroke.lengthTicks
      const marks = strokeMarks(stroke)
      const bareMarks = strokeMarks({ ...stroke, palmMute: undefined })
      const length = advance === this.step ? '' : ` for ${lengthWords(advance, this.step)}`
      const rings =
        advance === stroke.lengthTicks ? '' : ` ringing for ${lengthWords(stroke.lengthTicks, this.step)}`
      const usual = usualDirection(stroke.startTicks, this.options)
      const pluckWay =
        stroke.strings?.length &&
        stroke.direction === (Math.min(...stroke.strings) >= 4 ? 'thumb' : 'fingers') &&
        !stroke.dead &&
        stroke.strings.join() === [...stroke.strings].sort((a, b) => a - b).join()
      if (pluckWay && !marks && !length && !rings) {
        flush()
        if (plucked) clauses[clauses.length - 1] = `${clauses.at(-1) as string} ${stroke.strings!.join('-')}`
        else clauses.push(`pluck ${stroke.strings!.join('-')}`)
        plucked = true
      } else {
        plucked = false
        const on = stroke.strings?.length ? ` on ${stroke.strings.join('-')}` : ''
        const dead = stroke.direction === usual ? 'dead' : `dead ${stroke.direction}`
        const way = stroke.dead ? dead : stroke.direction
        const text = `${way}${on}${marks}${length}${rings}`
        if (run?.text === text && run.count < 16 && !rings) run.count++
        else {
          flush()
          run = {
            text,
            bare: `${way}${on}${bareMarks}${length}${rings}`,
            palm: rings ? undefined : stroke.palmMute,
            count: 1,
          }
        }
      }
      this.cursor = stroke.startTicks + advance
    })
    flush()
    this.line('hand', lineStart, runWords(clauses))
  }

  private notes(notes: readonly Note[]): void {
    const groups = groupsOf(notes)
    if (groups.length === 0) return
    const beat = beatTicks(this.options.meter)
    const bar = barTicks(this.options.meter)
    let clauses: string[] = []
    let clause: Said[] = []
    let string: number | undefined
    let lineStart = groups[0]![0]!.startTicks
    const endClause = (): void => {
      if (clause.length) clauses.push(clauseWords(clause))
      clause = []
    }
    const endLine = (next: number): void => {
      endClause()
      this.line('notes', lineStart, clauses)
      clauses = []
      lineStart = next
    }
    groups.forEach((group, index) => {
      const start = group[0]!.startTicks
      const before = groups[index - 1]
      const gap = start - this.cursor
      if (gap !== 0) {
        endClause()
        // A rest is said with the phrase it ends.
        clauses.push(gap > 0 && index > 0 ? `rest for ${lengthWords(gap, this.step)}` : this.goTo(start))
        this.cursor = start
      }
      const slurred = group.some((note) => moveOf(note))
      const breathes =
        before &&
        !slurred &&
        (gap >= beat ||
          start - before[0]!.startTicks >= 2 * beat ||
          (start % bar === 0 && start - lineStart >= 2 * bar))
      if (breathes) endLine(start)
      const stepNow = this.betterStep(groups, index)
      if (stepNow) {
        endClause()
        clauses.push(`in ${noteValueName(stepNow)}`)
        this.step = stepNow
      }
      const advance = this.advanceOf(group, groups[index + 1]?.[0]!.startTicks)
      const released = before && group.length === 1 && before.length === 1 && isRelease(before[0]!, group[0]!)
      const startsClause = clause.length === 0
      const double = released ? undefined : this.doubled(group)
      const length = advance === this.step ? '' : ` for ${lengthWords(advance, this.step)}`
      const words = (palmed: boolean): string => {
        if (released) return this.release(group[0]!, advance)
        let at = string
        const said = (double ? group.slice(0, 1) : group)
          .map((note, place) => {
            const named =
              note.string === at && place === 0
                ? ''
                : `${callString(this.options.letters, note.string, this.options.strings)} `
            at = note.string
            return this.note(note, named, advance, { palmed, double })
          })
          .join(' and ')
        return `${said}${length}`
      }
      const said: Said = { text: words(true), bare: words(false), palm: released ? undefined : palmOf(group) }
      if (!released) string = double ? group[0]!.string : group.at(-1)!.string
      // A new slur, a new string or several notes at once are a breath of their own.
      const nextSlurred = groups[index + 1]?.some((note) => moveOf(note)) ?? false
      const many = (notes: readonly Note[]): boolean => notes.length > 1 && !this.doubled(notes)
      const newThought =
        !slurred &&
        !released &&
        (nextSlurred ||
          many(group) ||
          (before &&
            (before[0]!.string !== group[0]!.string || many(before) || before.some((note) => moveOf(note)))))
      // Where a palm mute said for several begins or ends, so does a clause.
      const palmBegins =
        !slurred &&
        clause.length > 0 &&
        said.palm !== undefined &&
        clause.at(-1)!.palm !== said.palm &&
        !nextSlurred &&
        palmOf(groups[index + 1] ?? []) === said.palm
      const palmEnds =
        !slurred &&
        clause.length > 1 &&
        clause[0]!.palm !== undefined &&
        clause.every((one) => one.palm === clause[0]!.palm) &&
        said.palm !== clause[0]!.palm
      if (newThought || released || palmBegins || palmEnds) endClause()
      clause.push(said)
      // Said first in its clause, a movement would go on through the clause; and a slide without a number
      // would swallow the next fret.
      if (
        (startsClause && slurred) ||
        group.some((note) =>
          note.articulations.some(
            (mark) =>
              mark.kind === 'slide' &&
              (mark.how.startsWith('in') || mark.how === 'out') &&
              mark.frets === undefined,
          ),
        ) ||
        advance !== this.step ||
        many(group)
      )
        endClause()
      this.cursor = start + advance
    })
    endClause()
    this.line('notes', lineStart, clauses)
  }

  /** Three notes or more in a row of one named value are said in it. */
  private betterStep(groups: readonly Note[][], index: number): number | undefined {
    const lengths = groups
      .slice(index, index + 3)
      .map((group, offset) => this.advanceOf(group, groups[index + offset + 1]?.[0]!.startTicks))
    const [first] = lengths
    if (
      first === undefined ||
      first === this.step ||
      lengths.length < 3 ||
      lengths.some((length) => length !== first) ||
      !noteValueName(first)
    )
      return undefined
    return first
  }
  private advanceOf(group: readonly Note[], next: number | undefined): number {
    const start = group[0]!.startTicks
    const longest = Math.max(...group.map((note) => note.lengthTicks))
    return next !== undefined && next - start < longest ? next - start : longest
  }
  /** A root with its fifth on the next string, or its octave two strings on, marked alike: said as one. */
  private doubled(group: readonly Note[]): 'power' | 'octave' | undefined {
    const { openMidi } = this.options
    const [root, upper] = group
    if (
      !openMidi ||
      group.length !== 2 ||
      !root ||
      !upper ||
      root.finger ||
      upper.finger ||
      moveOf(root) ||
      moveOf(upper)
    )
      return undefined
    const marks = (note: Note): string =>
      JSON.stringify([note.articulations, note.accent ?? false, note.pick, note.lengthTicks])
    const semitones = openMidi[upper.string - 1]! + upper.fret - openMidi[root.string - 1]! - root.fret
    if (marks(root) !== marks(upper)) return undefined
    if (root.string - upper.string === 1 && semitones === 7) return 'power'
    return root.string - upper.string === 2 && semitones === 12 ? 'octave' : undefined
  }
  private note(
    note: Note,
    named: string,
    advance: number,
    { palmed, double }: { palmed: boolean; double: string | undefined },
  ): string {
    const has = (kind: Articulation['kind']): boolean => note.articulations.some((mark) => mark.kind === kind)
    const grace = note.articulations.find((mark) => mark.kind === 'grace')
    const move = moveOf(note)
    const before = [
      move ? MOVE_WORD[move] : '',
      grace?.kind === 'grace' ? `grace ${note.fret + grace.frets} to` : '',
      has('tap') ? 'tap' : '',
      has('dead') ? 'muted' : '',
    ]
      .filter(Boolean)
      .join(' ')
    const number = this.options.strings === 'numbers' && named ? `fret ${note.fret}` : String(note.fret)
    const fretWord = note.fret === 0 ? 'open' : number
    const marks = note.articulations.flatMap((mark) =>
      palmed || mark.kind !== 'palm mute' ? (wordsOf(mark, note.fret) ?? []) : [],
    )
    if (note.accent) marks.push('accent')
    if (note.pick) marks.push(`pick ${note.pick}`)
    if (note.finger) marks.push(`finger ${note.finger}`)
    if (note.lengthTicks !== advance) marks.push(`ringing for ${lengthWords(note.lengthTicks, this.step)}`)
    return [named.trim(), before, fretWord, double, ...marks].filter(Boolean).join(' ')
  }
  private release(note: Note, advance: number): string {
    const marks = note.articulations
      .filter((mark) => mark.kind !== 'bend')
      .flatMap((mark) => wordsOf(mark, note.fret) ?? [])
    if (note.accent) marks.push('accent')
    if (note.pick) marks.push(`pick ${note.pick}`)
    if (note.finger) marks.push(`finger ${note.finger}`)
    if (note.lengthTicks !== advance) marks.push(`ringing for ${lengthWords(note.lengthTicks, this.step)}`)
    return ['release', ...marks, advance === this.step ? '' : `for ${lengthWords(advance, this.step)}`]
      .filter(Boolean)
      .join(' ')
  }
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

/** How firmly all of some notes are palm muted; undefined when not all alike. */
function palmOf(notes: readonly Note[]): Pressure | undefined {
  const all = new Set(
    notes.map((note) => {
      const palm = note.articulations.find((mark) => mark.kind === 'palm mute')
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
  for (const mark of note.articulations) {
    if (mark.kind === 'hammer-on' || mark.kind === 'pull-off') return mark.kind
    if (mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')) return mark.how
  }
  return undefined
}

function isRelease(before: Note, note: Note): boolean {
  const from = before.articulations.find((mark) => mark.kind === 'bend')
  const here = note.articulations.find((mark) => mark.kind === 'bend')
  return (
    from?.kind === 'bend' &&
    here?.kind === 'bend' &&
    here.shape === 'release' &&
    from.shape !== 'release' &&
    from.semitones === here.semitones &&
    before.string === note.string &&
    before.fret === note.fret &&
    !moveOf(note) &&
    !note.articulations.some((mark) => mark.kind === 'grace' || mark.kind === 'tap' || mark.kind === 'dead')
  )
}

function strokeMarks(
  stroke: Pick<Stroke, 'accent' | 'staccato' | 'choke'> & { palmMute?: Pressure | undefined },
): string {
  return [
    stroke.accent ? 'accent' : '',
    stroke.staccato ? 'staccato' : '',
    stroke.choke ? 'choke' : '',
    stroke.palmMute ? `palm ${stroke.palmMute}` : '',
  ]
    .filter(Boolean)
    .map((mark) => ` ${mark}`)
    .join('')
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
