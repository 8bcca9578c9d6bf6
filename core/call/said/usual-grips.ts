// The grips people mean when they name a chord: the open ones everybody learns first, and the two that move
// along the neck. For other tunings and rarer names the grip search decides.
import type { Grip } from '../../document/schema'
import { readGrip } from '../../neck/grips/grip'
import { readChordSymbol } from '../../music/chord-name'
import { pitchClassOf } from '../../music/pitch'
import type { CallContext } from '../reading'
import { namedMidi } from './named-pitch'

/** Open grips in standard tuning, low to high. */
const OPEN: Readonly<Record<string, string>> = {
  C: 'x32010',
  A: 'x02220',
  G: '320003',
  E: '022100',
  D: 'xx0232',
  F: '133211',
  Am: 'x02210',
  Em: '022000',
  Dm: 'xx0231',
  Bm: 'x24432',
  'F#m': '244222',
  C7: 'x32310',
  A7: 'x02020',
  G7: '320001',
  E7: '020100',
  D7: 'xx0212',
  B7: 'x21202',
  Cmaj7: 'x32000',
  Amaj7: 'x02120',
  Gmaj7: '320002',
  Emaj7: '021100',
  Dmaj7: 'xx0222',
  Fmaj7: 'xx3210',
  Am7: 'x02010',
  Em7: '020000',
  Dm7: 'xx0211',
  Csus2: 'x30033',
  Dsus2: 'xx0230',
  Asus2: 'x02200',
  Esus4: '022200',
  Asus4: 'x02230',
  Dsus4: 'xx0233',
  Csus4: 'x33010',
  Gsus4: '320013',
  Cadd9: 'x32030',
  E9: '020102',
  'D/F#': '200232',
  'C/G': '332010',
  'G/B': 'x20003',
  'Am/G': '302210',
  'C/B': 'x22010',
  'E/G#': '4x2100',
  'A/C#': 'x42220',
  'D/A': 'x00232',
  'F/C': 'x33211',
  'C/E': '032010',
  'E7#9': '076780',
  'G/F#': '220003',
  E5: '022xxx',
  A5: 'x022xx',
  D5: 'xx023x',
}
/** Grips that move: above a root on the sixth string, and on the fifth. */
const MOVING: Readonly<Record<string, readonly [sixth: string, fifth: string]>> = {
  '': ['022100', 'x02220'],
  m: ['022000', 'x02210'],
  '7': ['020100', 'x02020'],
  m7: ['020000', 'x02010'],
  maj7: ['0x110x', 'x02120'],
  '5': ['022xxx', 'x022xx'],
  sus4: ['022200', 'x02230'],
  sus2: ['024xxx', 'x02200'],
}
const STANDARD = '64,59,55,50,45,40'

const moved = (shape: string, by: number): string =>
  [...shape].map((sign) => (sign === 'x' ? 'x' : String(Number(sign) + by))).join('-')

/** The usual grip for a chord name where the strings are called as in standard tuning, if there is one. */
export function usualGrip(symbol: string, context: Pick<CallContext, 'letters' | 'part'>): Grip | undefined {
  if (namedMidi(context).join() !== STANDARD) return undefined
  const open = Object.hasOwn(OPEN, symbol) ? OPEN[symbol] : undefined
  if (open) return readGrip(open, 6)
  const read = /^([A-G][#b]?)(.*)$/.exec(symbol)
  if (!read || !Object.hasOwn(MOVING, read[2]!) || !readChordSymbol(symbol)) return undefined
  const [sixth, fifth] = MOVING[read[2]!]!
  const root = pitchClassOf(read[1]!)
  const onSixth = (root - 4 + 12) % 12
  const onFifth = (root - 9 + 12) % 12
  const shape = onFifth < onSixth && onFifth > 0 ? moved(fifth, onFifth) : moved(sixth, onSixth)
  return readGrip(shape, 6)
}
