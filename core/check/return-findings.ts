// Returns that are not what they return: other bars, other chords, another figure, unless it is said. A
// variation of the same figure says by itself what differs.
import { contentDifferences } from '../document/differences'
import { figureContent } from '../document/figure-content'
import { harmonyOfReturns } from '../document/harmony'
import { barStarts, orderedParts, orderedSections, sectionPlaces } from '../document/form'
import type { Figure, Part, Section, Song } from '../document/schema'
import { transposeSymbol } from '../music/chord-name'
import { meterName } from '../time/meter'
import { sliceContent } from '../timeline/compare'
import { timelineOf } from '../timeline/timeline'
import type { Names } from './names'
import { finding, fix, type Finding, type Fix } from './finding'

const MOST_NAMED = 4
/** Two sections of one name are taken for a return that nobody has marked when so much is the same. */
const ALIKE_SHARE = 0.5

interface Pair {
  section: Section
  base: Section
  /** The first bar of the base that is returned. */
  offset: number
  bars: number
  shift: number
  /** Whether somebody has said that it differs. */
  said: boolean
  /** Whether somebody has said that it returns. */
  marked: boolean
}

export function returnFindings(song: Song, names: Names): Finding[] {
  return orderedSections(song).flatMap((section) => {
    const pair = pairOf(song, section)
    if (!pair) return []
    const chords = chordDifferences(song, pair, names)
    const parts = orderedParts(song).map((part) => ({ part, said: partDifferences(song, pair, part) }))
    const found = [
      ...(pair.marked ? shapeFindings(pair) : []),
      ...differenceFinding(song, pair, undefined, chords),
      ...parts.flatMap(({ part, said }) => differenceFinding(song, pair, part, said)),
    ]
    if (pair.marked) return found
    const lines = 1 + parts.length
    const differing = [chords, ...parts.map(({ said }) => said)].filter((list) => list.length > 0).length
    // Sections that share nothing but their kind are two sections.
    return differing / lines > ALIKE_SHARE ? [] : found
  })
}

/** What a section is held against: what it says it returns, or the first of its name. */
function pairOf(song: Song, section: Section): Pair | undefined {
  const { returns } = section
  if (returns) {
    const base = song.sections[returns.sectionId]
    if (!base) return undefined
    const offset = returns.firstBar ?? 0
    const bars = Math.min(returns.barCount ?? base.bars.length - offset, section.bars.length)
    return {
      section,
      base,
      offset,
      bars,
      shift: returns.shiftSemitones,
      said: returns.withDifferences,
      marked: true,
    }
  }
  const stem = (name: string): string => name.replace(/\s*\d+$/, '')
  const base = orderedSections(song).find(
    (other) =>
      other.kind === section.kind && stem(other.name) === stem(section.name) && other.name !== section.name,
  )
  if (!base || song.sectionOrder.indexOf(base.id) >= song.sectionOrder.indexOf(section.id)) return undefined
  if (base.bars.length !== section.bars.length) return undefined
  return { section, base, offset: 0, bars: section.bars.length, shift: 0, said: false, marked: false }
}

/** Another number of bars, or bars of another meter. */
function shapeFindings({ section, base, offset, bars, said }: Pair): Finding[] {
  const wanted = base.bars.length - offset
  const found: Finding[] = []
  if (!said && section.returns?.barCount === undefined && section.bars.length !== wanted)
    found.push(
      finding(
        ['return', 'wrong'],
        `${section.name} has ${section.bars.length} bars, ${base.name}, which it returns, ${wanted}: ` +
          'say how much of it returns, or that it differs.',
        { sectionId: section.id },
        { facts: [section.bars.length, wanted] },
      ),
    )
  const odd = Array.from({ length: bars }, (_, bar) => bar).filter(
    (bar) => meterName(section.bars[bar]!.meter) !== meterName(base.bars[offset + bar]!.meter),
  )
  if (odd.length)
    found.push(
      finding(
        ['return', 'wrong'],
        `${section.name}: bar ${odd.map((bar) => bar + 1).join(', ')} has another meter than in ` +
          `${base.name}.`,
        { sectionId: section.id, startTicks: barStarts(section)[odd[0]!]! },
        { facts: odd },
      ),
    )
  return found
}

interface BarDifference {
  bar: number
  words: string
  /** What makes it this difference, whatever things are called. */
  fact: string
}

function differenceFinding(
  song: Song,
  pair: Pair,
  part: Part | undefined,
  differences: readonly BarDifference[],
): Finding[] {
  if (!differences.length) return []
  const { section, base, said } = pair
  const named = differences.slice(0, MOST_NAMED).map(({ bar, words }) => `bar ${bar + 1} (${words})`)
  const more = differences.length > MOST_NAMED ? ` and ${differences.length - MOST_NAMED} more` : ''
  const mend = part ? markFix(song, pair, part) : chordsFix(song, pair)
  return [
    finding(
      ['return', said ? 'look' : 'wrong'],
      `${section.name} is not as ${base.name} in ${part ? part.name : 'its chords'}: ` +
        `${named.join('; ')}${more}; ${saidWords(pair)}.`,
      {
        sectionId: section.id,
        ...(part ? { partId: part.id } : {}),
        startTicks: barStarts(section)[differences[0]!.bar]!,
      },
      { facts: differences.map(({ bar, fact }) => `${bar}:${fact}`), fix: mend },
    ),
  ]
}

/** What the document says of a return. */
function saidWords({ marked, said }: Pair): string {
  if (!marked) return 'nothing says that it differs'
  return said ? 'it says that it differs, not where' : 'it says that it returns it unchanged'
}

/** Saying that it differs is enough where a part joins, leaves or varies. */
function markFix(song: Song, pair: Pair, part: Part): Fix | undefined {
  const { returns, id } = pair.section
  if (!returns || pair.said || partDifferences(song, { ...pair, said: true }, part).length) return undefined
  return fix('Mark it as a return with differences', 'setReturn', {
    sectionId: id,
    returns: { ...returns, withDifferences: true },
  })
}

function chordsFix(song: Song, { section, base }: Pair): Fix | undefined {
  const row = harmonyOfReturns(song, base.id).find(({ sectionId }) => sectionId === section.id)
  return (
    row &&
    fix(`Take the chords of ${base.name}`, 'changeSection', {
      sectionId: section.id,
      set: { harmony: row.harmony },
    })
  )
}

/** Chords bar by bar as text, moved as the return is. */
function chordDifferences(
  song: Song,
  { section, base, offset, bars, shift }: Pair,
  names: Names,
): BarDifference[] {
  const key = section.key ?? song.key
  const chordsIn = (one: Section, bar: number, by: number): string => {
    const starts = barStarts(one)
    return one.harmony
      .filter(({ startTicks }) => Math.max(0, startTicks) >= starts[bar]! && startTicks < starts[bar + 1]!)
      .map(({ symbol }) => transposeSymbol(symbol, by, key))
      .join(' ')
  }
  return Array.from({ length: bars }, (_, bar) => bar).flatMap((bar) => {
    const [here, there] = [chordsIn(section, bar, 0), chordsIn(base, offset + bar, shift)]
    if (here === there) return []
    const said = (symbols: string): string =>
      symbols
        .split(' ')
        .map((symbol) => names.symbol(symbol, key))
        .join(' ')
    const words = `${said(here) || 'no chord'} instead of ${said(there) || 'none'}`
    return [{ bar, words, fact: `${here}<${there}` }]
  })
}

/** What a part plays in a bar of a section. */
interface Played {
  figure: Figure | undefined
  /** Where the bar begins in the figure. */
  inFigure: number
  shiftFrets: number
  form: 'exact' | 'eased'
}

function playedIn(song: Song, part: Part, section: Section, bar: number): Played[] {
  const place = sectionPlaces(song).find((one) => one.section.id === section.id)!
  const starts = barStarts(section)
  const [from, to] = [place.startTicks + starts[bar]!, place.startTicks + starts[bar + 1]!]
  return (timelineOf(song).playsByPart.get(part.id) ?? [])
    .filter((play) => play.startTicks < to && play.startTicks + play.lengthTicks > from)
    .filter(({ placement }) => placement.sectionId === section.id)
    .map(({ figure, placement, startTicks }) => ({
      figure,
      inFigure: from - startTicks,
      shiftFrets: placement.kind === 'figure' ? placement.shiftFrets : 0,
      form: placement.kind === 'figure' ? placement.form : 'exact',
    }))
}

function partDifferences(song: Song, pair: Pair, part: Part): BarDifference[] {
  const { section, base, offset, bars, shift, said } = pair
  return Array.from({ length: bars }, (_, bar) => bar).flatMap((bar) => {
    const here = playedIn(song, part, section, bar)
    const there = playedIn(song, part, base, offset + bar)
    // Who joins or leaves in a return that is said to differ is heard at once; what is not charted is said
    // elsewhere.
    const silent = [here, there].some((played) => !played.some(({ figure }) => figure))
    if (!here.length || !there.length || (silent && said)) return []
    const words = differenceOf(song, part, pair, { here, there, bar, shift, said })
    return words === undefined ? [] : [{ bar, words, fact: words }]
  })
}

function differenceOf(
  song: Song,
  part: Part,
  { section }: Pair,
  at: { here: Played[]; there: Played[]; bar: number; shift: number; said: boolean },
): string | undefined {
  const [own, other] = [at.here[0]!, at.there[0]!]
  if (!own.figure || !other.figure) {
    if (own.figure === other.figure) return undefined
    return own.figure ? `plays “${own.figure.name}” instead of resting` : 'rests'
  }
  const moved = own.shiftFrets - other.shiftFrets
  if (own.figure.id === other.figure.id && own.inFigure === other.inFigure) {
    return moved === at.shift ? undefined : `moved by ${moved} frets instead of ${at.shift}`
  }
  if (at.said && isKin(song, own.figure, other.figure)) return undefined
  const meter = section.bars[at.bar]!.meter
  const barOf = ({ figure, inFigure, form }: Played) =>
    sliceContent(figureContent(song, figure!, form), inFigure, inFigure + figure!.lengthTicks)
  const found = contentDifferences(barOf(other), barOf(own), meter).find(({ barNumber }) => barNumber === 1)
  if (!found && moved === at.shift) return undefined
  return `“${own.figure.name}” instead of “${other.figure.name}”`
}

/** Whether one figure varies the other, or both the same. */
function isKin(song: Song, a: Figure, b: Figure): boolean {
  const root = (figure: Figure): string => {
    const base = figure.variationOf && song.figures[figure.variationOf.figureId]
    return base && base.id !== figure.id ? root(base) : figure.id
  }
  return root(a) === root(b)
}
