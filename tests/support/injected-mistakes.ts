// Mistakes of the kinds people make, put into a song at random: for measuring the check.
import { toggleStrokeMark } from '../../core/document/figure-edit'
import type { Figure, GripSpan, Note, Song } from '../../core/document/schema'
import { readChordSymbol } from '../../core/music/chord-name'
import { spellPitchClass } from '../../core/music/pitch'

export const MISTAKES = [
  'fret off by one',
  'swapped string',
  'bar of nine eighths',
  'wrong chord name',
  'missing bar',
  'unmarked difference',
] as const
export type Mistake = (typeof MISTAKES)[number]

/** `draw(n)` gives a whole number under n. The song with one mistake in it, and where. */
export function withMistake(
  song: Song,
  mistake: Mistake,
  draw: (below: number) => number,
): { song: Song; where: string } | undefined {
  const copy = structuredClone(song)
  const where = PUT[mistake](copy, draw)
  return where === undefined ? undefined : { song: copy, where }
}

const one = <T>(list: readonly T[], draw: (below: number) => number): T | undefined =>
  list.length ? list[draw(list.length)] : undefined

/** A fret that is written somewhere. */
interface Spot {
  fret: number
  string: number
  strings: number
  where: string
  /** Writes it anew; false where that would change nothing. */
  set: (fret: number, string: number) => boolean
}

/** Every written note and every held string of every figure. */
const spotsOf = (song: Song): Spot[] =>
  Object.values(song.figures).flatMap((figure) => {
    const strings = song.parts[figure.partId]!.tuning.openMidi.length
    const notes = figure.content.notes.map((note) => noteSpot(figure, note, strings))
    const held = figure.content.grips.flatMap((span) =>
      span.grip.strings.flatMap(({ fret }, index) =>
        fret === null ? [] : [gripSpot(figure, span, index + 1, fret)],
      ),
    )
    return [...notes, ...held]
  })

const noteSpot = (figure: Figure, note: Note, strings: number): Spot => ({
  strings,
  fret: note.fret,
  string: note.string,
  where: `${figure.name}, tick ${note.startTicks}`,
  set: (fret, string) => {
    Object.assign(note, { fret, string })
    return true
  },
})

const gripSpot = (figure: Figure, { grip, startTicks }: GripSpan, string: number, fret: number): Spot => ({
  strings: grip.strings.length,
  fret,
  string,
  where: `${figure.name}, grip at ${startTicks}`,
  set: (wanted, on) => {
    const [own, other] = [grip.strings[string - 1]!, grip.strings[on - 1]!]
    if (on !== string && other.fret === own.fret) return false
    if (on !== string) own.fret = other.fret
    other.fret = wanted
    return true
  },
})

const PUT: Record<Mistake, (song: Song, draw: (below: number) => number) => string | undefined> = {
  'fret off by one': (song, draw) => {
    const spot = one(spotsOf(song), draw)
    if (!spot) return undefined
    const fret = spot.fret === 0 || draw(2) === 0 ? spot.fret + 1 : spot.fret - 1
    spot.set(fret, spot.string)
    return `${spot.where}: ${spot.fret} → ${fret}`
  },
  'swapped string': (song, draw) => {
    const spot = one(spotsOf(song), draw)
    if (!spot) return undefined
    const string =
      spot.string === spot.strings || (spot.string > 1 && draw(2) === 0) ? spot.string - 1 : spot.string + 1
    if (!spot.set(spot.fret, string)) return undefined
    return `${spot.where}: string ${spot.string} → ${string}`
  },
  'bar of nine eighths': (song, draw) => {
    const section = one(Object.values(song.sections), draw)
    const bar = section && one(section.bars, draw)
    if (!bar) return undefined
    bar.meter = { beats: 9, unit: 8 }
    return section!.name
  },
  'wrong chord name': (song, draw) => {
    const section = one(
      Object.values(song.sections).filter(({ harmony }) => harmony.length),
      draw,
    )
    const chord = section && one(section.harmony, draw)
    const read = chord && readChordSymbol(chord.symbol)
    if (!read) return undefined
    const before = chord.symbol
    const root = (read.root + 1 + draw(11)) % 12
    chord.symbol =
      spellPitchClass(root, song.key) + chord.symbol.replace(/^[A-G][#b]?/, '').replace(/\/.*$/, '')
    return `${section!.name}, tick ${chord.startTicks}: ${before} → ${chord.symbol}`
  },
  'missing bar': (song, draw) => {
    const section = one(
      Object.values(song.sections).filter(({ bars }) => bars.length > 1),
      draw,
    )
    if (!section) return undefined
    section.bars.splice(draw(section.bars.length), 1)
    return section.name
  },
  'unmarked difference': (song, draw) => {
    const returning = Object.values(song.sections).filter(({ returns }) => returns)
    const section = one(returning, draw)
    const placement =
      section &&
      one(
        Object.values(song.placements).filter(
          (entry) => entry.kind === 'figure' && entry.sectionId === section.id,
        ),
        draw,
      )
    if (placement?.kind !== 'figure') return undefined
    const figure = structuredClone(song.figures[placement.figureId]!)
    const { variationOf: _variation, pattern: _pattern, derivedFrom: _rule, ...plain } = figure
    const own = { ...plain, id: 'another', name: `${figure.name} again` }
    const event = one([...own.content.notes, ...own.content.strokes], draw)
    if (!event) return undefined
    if ('fret' in event) event.fret += 2
    else event.marks = toggleStrokeMark(event, { kind: 'dead' }).marks
    song.figures.another = own
    placement.figureId = 'another'
    return `${section!.name}: ${own.name}`
  },
}
