// The chords that are listened for, how they are written (`root:quality/bass`), and what counts as the same
// for the standard measures.
import { nameAtFifths, pitchClassOf, spellPitchClass, type Key } from '../../music/pitch'

export const QUALITIES = [
  'maj',
  'min',
  '5',
  '7',
  'maj7',
  'min7',
  'sus2',
  'sus4',
  '7sus4',
  'add9',
  '9',
  'min9',
  '7#9',
  'dim',
  'aug',
  '6',
  'min6',
] as const
export type Quality = (typeof QUALITIES)[number]
/** Semitones above the root. */
export const TONES: Record<Quality, readonly number[]> = {
  maj: [0, 4, 7],
  min: [0, 3, 7],
  5: [0, 7],
  7: [0, 4, 7, 10],
  maj7: [0, 4, 7, 11],
  min7: [0, 3, 7, 10],
  sus2: [0, 2, 7],
  sus4: [0, 5, 7],
  '7sus4': [0, 5, 7, 10],
  add9: [0, 2, 4, 7],
  9: [0, 2, 4, 7, 10],
  min9: [0, 2, 3, 7, 10],
  '7#9': [0, 3, 4, 7, 10],
  dim: [0, 3, 6],
  aug: [0, 4, 8],
  6: [0, 4, 7, 9],
  min6: [0, 3, 7, 9],
}
export interface ChordLabel {
  root: number
  quality: Quality
  bass: number
}

export function readLabel(label: string): ChordLabel | undefined {
  const match = /^([A-G][#b]*):([^/]+)(?:\/([A-G][#b]*))?$/.exec(label)
  if (!match || !(match[2]! in TONES)) return undefined
  const root = pitchClassOf(match[1]!)
  return { root, quality: match[2] as Quality, bass: match[3] ? pitchClassOf(match[3]) : root }
}
/** A root by name, spelled in a key where there is one. Nobody reads F## or Bbb over a bar. */
export function nameRoot(pitchClass: number, key?: Key): string {
  const spelled = key && spellPitchClass(pitchClass, key)
  return spelled && spelled.length < 3 ? spelled : nameAtFifths(((pitchClass * 7 + 4) % 12) - 4)
}
export function writeLabel(chord: ChordLabel | undefined, key?: Key): string {
  if (!chord) return 'N'
  const bass = chord.bass === chord.root ? '' : `/${nameRoot(chord.bass, key)}`
  return `${nameRoot(chord.root, key)}:${chord.quality}${bass}`
}
/** As a guitarist writes it: "F#m7/E". */
const SUFFIX: Record<Quality, string> = {
  maj: '',
  min: 'm',
  5: '5',
  7: '7',
  maj7: 'maj7',
  min7: 'm7',
  sus2: 'sus2',
  sus4: 'sus4',
  '7sus4': '7sus4',
  add9: 'add9',
  9: '9',
  min9: 'm9',
  '7#9': '7#9',
  dim: 'dim',
  aug: 'aug',
  6: '6',
  min6: 'm6',
}
export function labelSymbol(label: string): string {
  const match = /^([A-G][#b]*):([^/]+)(\/[A-G][#b]*)?$/.exec(label)
  return match ? match[1]! + (SUFFIX[match[2] as Quality] ?? match[2]!) + (match[3] ?? '') : label
}
/** The other way: "F#m7/E" → "F#:min7/E"; "N" when it is not understood. */
export function symbolLabel(symbol: string): string {
  const match = /^([A-G][#b]*)([^/]*)(\/[A-G][#b]*)?$/.exec(symbol)
  const quality = match && QUALITIES.find((name) => SUFFIX[name] === match[2])
  return match && quality ? `${match[1]}:${quality}${match[3] ?? ''}` : 'N'
}
