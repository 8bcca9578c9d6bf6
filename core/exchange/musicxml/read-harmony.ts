// A MusicXML harmony as a chord symbol: as its file spells it, else from its kind and degrees.
import { readChordSymbol } from '../../music/chord-name'
import { KINDS } from './write-harmony'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

const SIGNS: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' }
const MOST_CHARACTERS = 24

function pitchIn(node: XmlNode | undefined, prefix: string): string {
  const step = textOf(node, `${prefix}-step`)
  return /^[A-G]$/.test(step) ? step + (SIGNS[numberOf(node, `${prefix}-alter`) ?? 0] ?? '') : ''
}

type Degree = readonly [value: number, alter: number]
const degreesOf = (harmony: XmlNode): Degree[] =>
  childrenOf(harmony, 'degree')
    .filter((node) => textOf(node, 'degree-type') !== 'subtract')
    .map((node) => [numberOf(node, 'degree-value') ?? 0, numberOf(node, 'degree-alter') ?? 0] as const)

/** What is written behind the root for a kind with these degrees; of unknown degrees only the kind. */
function suffixOf(kind: string, degrees: readonly Degree[]): string {
  const written = Object.entries(KINDS)
  const same = written.find(([, known]) => known.kind === kind && sameDegrees(known.added ?? [], degrees))
  return (same ?? written.find(([, known]) => known.kind === kind && !known.added))?.[0] ?? ''
}
const sameDegrees = (a: readonly Degree[], b: readonly Degree[]): boolean =>
  a.length === b.length && a.every(([value, alter]) => b.some((one) => one[0] === value && one[1] === alter))

/** Undefined where nothing can be read, or no chord is meant. */
export function readHarmony(harmony: XmlNode): string | undefined {
  const kind = childOf(harmony, 'kind')
  const name = kind?.text.trim() ?? ''
  const text = kind?.attributes.text ?? ''
  if (name === 'none') return text.slice(0, MOST_CHARACTERS) || undefined
  const root = pitchIn(childOf(harmony, 'root'), 'root')
  if (!root) return undefined
  const bass = pitchIn(childOf(harmony, 'bass'), 'bass')
  const slash = bass ? `/${bass}` : ''
  const spelled = root + text + slash
  const symbol =
    text && readChordSymbol(spelled) ? spelled : root + suffixOf(name, degreesOf(harmony)) + slash
  return symbol.slice(0, MOST_CHARACTERS)
}
