// Chord symbols as MusicXML says them: root, kind with its own spelling, added degrees, bass; grips as
// frames.
import type { WrittenGrip } from '../score/written-score'
import { element, type XmlNode } from './xml'

interface Kind {
  kind: string
  /** Degrees added to it: value and alteration. */
  added?: readonly (readonly [value: number, alter: number])[]
}

/** What stands behind the root → the kind. */
export const KINDS: Record<string, Kind> = {
  '': { kind: 'major' },
  m: { kind: 'minor' },
  '5': { kind: 'power' },
  '7': { kind: 'dominant' },
  maj7: { kind: 'major-seventh' },
  m7: { kind: 'minor-seventh' },
  sus2: { kind: 'suspended-second' },
  sus4: { kind: 'suspended-fourth' },
  dim: { kind: 'diminished' },
  aug: { kind: 'augmented' },
  '6': { kind: 'major-sixth' },
  m6: { kind: 'minor-sixth' },
  '9': { kind: 'dominant-ninth' },
  maj9: { kind: 'major-ninth' },
  m9: { kind: 'minor-ninth' },
  '11': { kind: 'dominant-11th' },
  m11: { kind: 'minor-11th' },
  '13': { kind: 'dominant-13th' },
  maj13: { kind: 'major-13th' },
  m13: { kind: 'minor-13th' },
  m7b5: { kind: 'half-diminished' },
  dim7: { kind: 'diminished-seventh' },
  'm(maj7)': { kind: 'major-minor' },
  add9: { kind: 'major', added: [[9, 0]] },
  'm(add9)': { kind: 'minor', added: [[9, 0]] },
  add11: { kind: 'major', added: [[11, 0]] },
  '6/9': { kind: 'major-sixth', added: [[9, 0]] },
  '7#9': { kind: 'dominant', added: [[9, 1]] },
  '7b9': { kind: 'dominant', added: [[9, -1]] },
  '7sus4': { kind: 'suspended-fourth', added: [[7, -1]] },
  '9sus4': {
    kind: 'suspended-fourth',
    added: [
      [7, -1],
      [9, 0],
    ],
  },
}

const ALTER: Record<string, number> = { bb: -2, b: -1, '': 0, '#': 1, '##': 2 }

/** "F#" as step and alteration under a name. */
function pitchNodes(name: string, prefix: string): XmlNode[] {
  const alter = ALTER[name.slice(1)] ?? 0
  return [element(`${prefix}-step`, name[0] ?? 'C'), ...(alter ? [element(`${prefix}-alter`, alter)] : [])]
}

/** A symbol as its parts; undefined when it begins with no root ("N.C."). */
function partsOfSymbol(symbol: string): { root: string; suffix: string; bass: string } | undefined {
  const plain = symbol.trim().replaceAll('♯', '#').replaceAll('♭', 'b')
  const match = /^([A-G](?:##|bb|#|b)?)(m?6\/9|[^/]*)(?:\/([A-G](?:##|bb|#|b)?))?$/.exec(plain)
  return match ? { root: match[1]!, suffix: match[2]!, bass: match[3] ?? '' } : undefined
}

/** One chord symbol; with a grip, its frame. A symbol that is no chord is kept as words over "no chord". */
export function harmonyNode(symbol: string, grip?: WrittenGrip): XmlNode {
  const parts = partsOfSymbol(symbol)
  const frame = grip ? [frameNode(grip)] : []
  if (!parts)
    return element('harmony', [
      element('root', [element('root-step', 'C', { text: '' })]),
      element('kind', 'none', { text: symbol }),
      ...frame,
    ])
  const known = KINDS[parts.suffix]
  return element('harmony', [
    element('root', pitchNodes(parts.root, 'root')),
    element('kind', known?.kind ?? 'other', { text: parts.suffix }),
    ...(parts.bass ? [element('bass', pitchNodes(parts.bass, 'bass'))] : []),
    ...(known?.added ?? []).map(([value, alter]) =>
      element(
        'degree',
        [element('degree-value', value), element('degree-alter', alter), element('degree-type', 'add')],
        { 'print-object': 'no' },
      ),
    ),
    ...frame,
  ])
}

const LEAST_FRETS = 4

function frameNode({ strings }: WrittenGrip): XmlNode {
  const fretted = strings.flatMap(({ fret }) => (fret ? [fret] : []))
  const [lowest, highest] = fretted.length ? [Math.min(...fretted), Math.max(...fretted)] : [1, 1]
  const first = highest <= LEAST_FRETS ? 1 : lowest
  return element('frame', [
    element('frame-strings', strings.length),
    element('frame-frets', Math.max(LEAST_FRETS, highest - first + 1)),
    ...(first > 1 ? [element('first-fret', first)] : []),
    ...strings.flatMap(({ fret, finger }, index) =>
      fret === null
        ? []
        : [
            element('frame-note', [
              element('string', index + 1),
              element('fret', fret),
              ...(finger ? [element('fingering', finger)] : []),
            ]),
          ],
    ),
  ])
}
