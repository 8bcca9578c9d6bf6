// A MusicXML harmony as a chord symbol: as its file spells it, else from its kind and degrees.
import type { Grip } from '../../document/schema'
import { readChordSymbol } from '../../music/chord-name'
import { KINDS } from './write-harmony'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

const SIGNS: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' }
const MOST_CHARACTERS = 24

function pitchIn(node: XmlNode | undefined, prefix: string): string {
  const step = textOf(node, `${prefix}-step`)
  return /^[A-G]$/.test(step) ? step + (SIGNS[numberOf(node, `${prefix}-alter`) ?? 0] ?? '') : ''
}

interface Degree {
  value: number
  alter: number
  type: string
}
const degreesOf = (harmony: XmlNode): Degree[] =>
  childrenOf(harmony, 'degree').map((node) => ({
    value: numberOf(node, 'degree-value') ?? 0,
    alter: numberOf(node, 'degree-alter') ?? 0,
    type: textOf(node, 'degree-type'),
  }))

/** What is written behind the root for a kind with these degrees; of unknown degrees only the kind. */
function suffixOf(root: string, kind: string, degrees: readonly Degree[]): string {
  const written = Object.entries(KINDS)
  const kept = degrees.filter(({ type }) => type !== 'subtract')
  const same = written.find(([, known]) => known.kind === kind && sameDegrees(known.added ?? [], kept))
  if (same) return same[0]
  const plain = written.find(([, known]) => known.kind === kind && !known.added)?.[0] ?? ''
  const altered = plain + kept.map(degreeText).join('')
  return readChordSymbol(root + altered) ? altered : plain
}
const sameDegrees = (
  a: readonly (readonly [value: number, alter: number])[],
  b: readonly Degree[],
): boolean =>
  a.length === b.length &&
  a.every(([value, alter]) => b.some((one) => one.value === value && one.alter === alter))

/** "b5", "#9", "add11". */
function degreeText({ value, alter, type }: Degree): string {
  if (alter) return `${alter > 0 ? '#' : 'b'}${value}`
  return `${type === 'add' ? 'add' : ''}${value}`
}

/** As it stands in the file, in plain signs and without brackets: "7(♯9)" is "7#9". */
const plainText = (text: string): string => text.trim().replaceAll('♯', '#').replaceAll('♭', 'b')

/** Undefined where nothing can be read. */
export function readHarmony(harmony: XmlNode): string | undefined {
  const kind = childOf(harmony, 'kind')
  const name = kind?.text.trim() ?? ''
  const text = plainText(kind?.attributes.text ?? '')
  if (name === 'none') return (text || 'N.C.').slice(0, MOST_CHARACTERS)
  const root = pitchIn(childOf(harmony, 'root'), 'root')
  if (!root) return undefined
  const bass = pitchIn(childOf(harmony, 'bass'), 'bass')
  const slash = bass ? `/${bass}` : ''
  const ways = Object.hasOwn(KINDS, text) ? [text] : [text.replaceAll(/[()]/g, ''), text]
  const spelled = ways.find((one) => one && readChordSymbol(root + one))
  const symbol = root + (spelled ?? suffixOf(root, name, degreesOf(harmony))) + slash
  return symbol.slice(0, MOST_CHARACTERS)
}

const MOST_STRINGS = 12
const HIGHEST_FRET = 36
/**
 * The grip of a chord diagram, string 1 first: frets, muted where nothing is marked; undefined without one.
 */
export function readFrame(harmony: XmlNode): Grip | undefined {
  const frame = childOf(harmony, 'frame')
  const strings = numberOf(frame, 'frame-strings') ?? 0
  if (!frame || !Number.isInteger(strings) || strings < 1 || strings > MOST_STRINGS) return undefined
  const frets = new Map(childrenOf(frame, 'frame-note').map(frameNote))
  const all = Array.from({ length: strings }, (_, index) => ({ fret: frets.get(index + 1) ?? null }))
  return all.some(({ fret }) => fret !== null) ? { strings: all } : undefined
}
/** String and fret of one mark; no fret where it makes no sense. */
function frameNote(note: XmlNode): readonly [string: number, fret: number | null] {
  const fret = numberOf(note, 'fret') ?? -1
  const known = Number.isInteger(fret) && fret >= 0 && fret <= HIGHEST_FRET
  return [numberOf(note, 'string') ?? 0, known ? fret : null]
}
