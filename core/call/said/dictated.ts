// A grip told string by string or finger by finger: "A minor 7, low E five, D five, G five, B five".
import type { Grip } from '../../document/schema'
import { readChordSymbol } from '../../music/chord-name'
import { callString } from '../strings'
import { bindStrings } from './bind'
import { startBuild, type Build } from './build'
import { gripNamed, performChange } from './grips-said'
import type { Item, ItemOf } from './items'
import { namedMidi } from './named-pitch'
import { performNote } from './perform-notes'
import { SaidProblem } from './problem'

const plain = (item: Item): boolean =>
  item.k === 'strings' ||
  item.k === 'and' ||
  (item.k === 'stop' && item.text === ',') ||
  (item.k === 'change' && item.change.what === 'mute') ||
  (item.k === 'note' &&
    !item.move &&
    !item.join &&
    item.marks.length === 0 &&
    typeof item.fret === 'number' &&
    !item.dead &&
    !item.double)

const notesIn = (items: readonly Item[]): ItemOf<'note'>[] =>
  items.filter((item): item is ItemOf<'note'> => item.k === 'note')

/** Frets alone, one for each string from the lowest on: "open two two one open open". */
function fretByFret(notes: readonly ItemOf<'note'>[], strings: number): Map<number, number> | undefined {
  if (notes.some((note) => note.strings) || notes.length < 4 || notes.length > strings) return undefined
  return new Map(notes.map((note, index) => [notes.length - index, note.fret as number]))
}

/** What was told: string → fret, and the fret of a barre over all strings that nothing else was said of. */
interface Strings {
  frets: Map<number, number>
  barre: number | undefined
}

/** What each string was told, when every string is told once; other fingers may press over a barre. */
function toldOnce(b: Build, items: readonly Item[]): Strings | undefined {
  const { openMidi } = b.context.part.tuning
  const everywhere = (item: Item): item is ItemOf<'note'> =>
    item.k === 'note' && Boolean(item.barre) && item.strings?.length === openMidi.length
  const barre = items.find(everywhere)?.fret
  const singles = items.filter((item) => !everywhere(item) && item.k !== 'change')
  const notes = notesIn(singles)
  const inOrder = singles.some((item) => item.k === 'strings')
    ? undefined
    : fretByFret(notes, openMidi.length)
  const frets =
    inOrder ?? fretsOn(b, singles, new Set(notes.filter((note) => note.barre).map((note) => note.at)))
  return frets && { frets, barre: typeof barre === 'number' ? barre : undefined }
}

function fretsOn(
  b: Build,
  items: readonly Item[],
  barres: ReadonlySet<number>,
): Map<number, number> | undefined {
  const scratch = startBuild(b.context, b.shapes, b.decided)
  const { items: bound } = bindStrings(items, 'frets')
  try {
    bound.forEach((item, index) => {
      if (item.k === 'note') performNote(scratch, bound, index)
      else if (item.k === 'strings') scratch.current = item.specs
    })
  } catch (error) {
    if (error instanceof SaidProblem) return undefined
    throw error
  }
  const frets = new Map<number, number>()
  const single = new Set<number>()
  for (const note of scratch.moments.flatMap((moment) => moment.notes)) {
    if (single.has(note.string)) return undefined
    if (!barres.has(note.at)) single.add(note.string)
    frets.set(note.string, note.fret)
  }
  return frets
}

/** What was told over what the chord's usual grip has on the other strings, as far as they agree. */
function spelled(b: Build, { frets, barre }: Strings, symbol: string | undefined, span: Item): Grip {
  const usual = symbol === undefined ? undefined : usualOf(b, symbol, span)
  const agrees =
    usual &&
    [...frets].every(([string, fret]) => usual.strings[string - 1]?.fret === fret) &&
    (barre === undefined || usual.strings.some((string) => string.fret === barre))
  const otherwise = (string: number): number | null =>
    agrees ? (usual.strings[string - 1]?.fret ?? null) : (barre ?? null)
  return {
    strings: b.context.part.tuning.openMidi.map((_, index) => ({
      fret: frets.get(index + 1) ?? otherwise(index + 1),
    })),
  }
}

/** A name and frets that do not go together are said. */
function checkName(b: Build, grip: Grip, symbol: string, span: Item): void {
  const chord = readChordSymbol(symbol)
  if (!chord) return
  const tones = new Set([chord.bass, ...chord.semitones.map((semitones) => (chord.root + semitones) % 12)])
  const open = namedMidi(b.context)
  const strange = grip.strings.findIndex(
    (string, index) => string.fret !== null && !tones.has(((open[index] ?? 0) + string.fret) % 12),
  )
  if (strange === -1) return
  const string = callString(b.context.letters, strange + 1, 'letters')
  const where = `Fret ${grip.strings[strange]?.fret} on ${string}`
  b.slips.push({
    at: span.at,
    end: span.end,
    message: `${where} is no note of ${symbol}: is the name meant, or the frets?`,
  })
}
function usualOf(b: Build, symbol: string, span: Item): Grip | undefined {
  try {
    return gripNamed(b, symbol, span)
  } catch {
    return undefined
  }
}

interface Told {
  from: number
  to: number
  grip: Grip
}

const stringsTold = (items: readonly Item[]): number =>
  items.reduce((sum, item) => sum + (item.k === 'strings' ? item.specs.length : 0), 0)

/** Where a telling begins at an item, how far it goes and what grip it gives. */
function toldAt(b: Build, items: readonly Item[], start: number): Told | undefined {
  const first = items[start]!
  const symbol = first.k === 'chord' && !first.hit ? first.symbol : undefined
  const from = symbol === undefined ? start : start + 1
  let to = from
  while (to < items.length && plain(items[to]!)) to++
  if (to < items.length && !(items[to]!.k === 'stop')) return undefined
  const said = items.slice(from, to)
  const notes = notesIn(said)
  if (!isTelling(said, notes, symbol)) return undefined
  const told = toldOnce(b, said)
  if (!told) return undefined
  const base = spelled(b, told, symbol, first)
  if (symbol !== undefined) {
    if (playedOver(told, base, notes, symbol)) return undefined
    checkName(b, base, symbol, first)
  }
  return { from: start, to, grip: mutedAsSaid(b, base, said) }
}

/** Whether frets tell a grip: after a chord's name, or with fingers and a barre. */
function isTelling(
  said: readonly Item[],
  notes: readonly ItemOf<'note'>[],
  symbol: string | undefined,
): boolean {
  const fingers = notes.filter((note) => note.finger).length
  if (symbol === undefined) return fingers > 1 && notes.some((note) => note.barre)
  if (notes.length === 0) return false
  return notes.length > 1 || fingers > 0 || stringsTold(said) > 1 || symbol.includes('/')
}

/** One or two frets that are not in the chord's usual grip are played over it. */
function playedOver(
  { frets }: Strings,
  base: Grip,
  notes: readonly ItemOf<'note'>[],
  symbol: string,
): boolean {
  if (frets.size > 2 || symbol.includes('/') || notes.some((note) => note.finger)) return false
  return base.strings.filter((one) => one.fret !== null).length <= frets.size
}

function mutedAsSaid(b: Build, grip: Grip, items: readonly Item[]): Grip {
  const scratch = startBuild(b.context, b.shapes, b.decided)
  scratch.grips.push({ startTicks: b.at, lengthTicks: undefined, grip, symbol: undefined, at: 0, end: 0 })
  for (const item of items) if (item.k === 'change') performChange(scratch, item)
  return scratch.grips[0]!.grip
}

/** The items with every grip that is told string by string as one grip. */
export function dictatedItems(items: readonly Item[], b: Build): Item[] {
  for (let start = 0; start < items.length; start++) {
    const item = items[start]!
    if (item.k !== 'chord' && !(item.k === 'note' && item.finger && start === 0)) continue
    const told = toldAt(b, items, start)
    if (!told) continue
    const symbol = item.k === 'chord' ? item.symbol : undefined
    const grip: Item = {
      k: 'grip',
      grip: told.grip,
      ...(symbol === undefined ? {} : { symbol }),
      at: item.at,
      end: items[told.to - 1]!.end,
    }
    return [...items.slice(0, start), grip, ...dictatedItems(items.slice(told.to), b)]
  }
  return [...items]
}
