// What stands on a MusicXML note, as our marks: the words of the format, and, where our own writer put the
// mark itself beside them, that.
import { markSchema, MOST_MARKS } from '../../marks'
import type { Mark } from '../../document/schema'
import { MARK_PLAY, PLUCK_PLAY } from './write-marks'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

export interface ReadMarks {
  marks: Mark[]
  pick?: 'down' | 'up'
  finger?: 'T' | '1' | '2' | '3' | '4'
  pluck?: 'thumb' | 'fingers'
}

const notationsOf = (note: XmlNode): readonly XmlNode[] => childrenOf(note, 'notations')
const inGroup = (note: XmlNode, group: string): readonly XmlNode[] =>
  notationsOf(note)
    .flatMap((notations) => childrenOf(notations, group))
    .flatMap(({ children }) => children)

const isStop = ({ attributes }: XmlNode): boolean => attributes.type === 'stop'

/** A mark from one element of the technical group. */
function technicalMark(node: XmlNode): Mark | undefined {
  switch (node.name) {
    case 'hammer-on':
    case 'pull-off':
      return isStop(node) ? { kind: node.name } : undefined
    case 'harmonic':
      return childOf(node, 'artificial')
        ? { kind: 'pinched harmonic', semitones: 12 }
        : { kind: 'natural harmonic' }
    case 'tap':
      return { kind: 'tap' }
    default:
      return undefined
  }
}

/** Bends of one note together: up, up and back, from above, back down. */
function bendMark(technical: readonly XmlNode[]): Mark[] {
  const bends = technical.filter(({ name }) => name === 'bend')
  const barred = bends.find((node) => childOf(node, 'with-bar'))
  if (barred) return barMark(barred)
  const first = bends[0]
  const semitones = Math.abs(numberOf(first, 'bend-alter') ?? 0)
  if (!first || semitones < 0.25 || semitones > 5) return []
  const released = bends.some((node, index) => index > 0 && childOf(node, 'release'))
  const mark = (shape: Extract<Mark, { kind: 'bend' }>['shape']): Mark[] => [
    { kind: 'bend', semitones, shape },
  ]
  if (childOf(first, 'pre-bend')) return mark('pre-bend')
  if (childOf(first, 'release')) return mark('release')
  if (released) return mark(bends.length > 2 ? 're-bend' : 'bend and release')
  return mark('plain')
}

function barMark(node: XmlNode): Mark[] {
  const semitones = numberOf(node, 'bend-alter') ?? -2
  const how = textOf(node, 'with-bar')
  const known = how === 'dive' || how === 'return' ? how : 'dip'
  return [{ kind: 'arm', semitones: Math.max(-24, Math.min(12, semitones)), how: known }]
}

const ARTICULATIONS: Record<string, Mark> = {
  accent: { kind: 'accent' },
  'strong-accent': { kind: 'accent' },
  staccato: { kind: 'staccato' },
  staccatissimo: { kind: 'choke' },
  scoop: { kind: 'slide', how: 'in from below' },
  plop: { kind: 'slide', how: 'in from above' },
  falloff: { kind: 'slide', how: 'out' },
  doit: { kind: 'slide', how: 'out' },
}
const ORNAMENTS: Record<string, Mark> = {
  'wavy-line': { kind: 'vibrato', width: 'narrow' },
  tremolo: { kind: 'tremolo picking' },
  'trill-mark': { kind: 'trill', frets: 2 },
}

function headMarks(note: XmlNode): Mark[] {
  const head = childOf(note, 'notehead')
  if (head?.text.trim() === 'x') return [{ kind: 'dead' }]
  return head?.attributes.parentheses === 'yes' ? [{ kind: 'ghost' }] : []
}

/** Slides and ties that are said beside the groups. */
function besideMarks(note: XmlNode): Mark[] {
  const beside = notationsOf(note).flatMap(({ children }) => children)
  const slid = beside.some((node) => (node.name === 'slide' || node.name === 'glissando') && isStop(node))
  const slurred = beside.some((node) => node.name === 'slur' && isStop(node))
  const rings = beside.some(({ name, attributes }) => name === 'tied' && attributes.type === 'let-ring')
  return [
    ...(slid ? [{ kind: 'slide' as const, how: slurred ? ('legato' as const) : ('shift' as const) }] : []),
    ...(rings ? [{ kind: 'let ring' as const }] : []),
  ]
}

/** Our own writer called the tremolo arm a bar until a bar was only a measure. */
const presentMark = (mark: unknown): unknown =>
  typeof mark === 'object' && mark !== null && 'kind' in mark && mark.kind === 'bar'
    ? { ...mark, kind: 'arm' }
    : mark

/** Marks our own writer put beside the format's words. Whatever is none is passed over. */
function ownMarks(note: XmlNode): Mark[] {
  return plays(note, MARK_PLAY).flatMap((text) => {
    try {
      const read = markSchema.safeParse(presentMark(JSON.parse(text)))
      return read.success ? [read.data] : []
    } catch {
      return []
    }
  })
}

const plays = (note: XmlNode, type: string): string[] =>
  childrenOf(childOf(note, 'play'), 'other-play')
    .filter(({ attributes }) => attributes.type === type)
    .map(({ text }) => text)

const FINGERS = new Set(['T', '1', '2', '3', '4'])

export function readMarks(note: XmlNode): ReadMarks {
  const technical = inGroup(note, 'technical')
  const own = ownMarks(note)
  const said = new Set(own.map(({ kind }) => kind))
  const muted = textOf(childOf(note, 'play'), 'mute') === 'palm'
  const native = [
    ...besideMarks(note),
    ...technical.flatMap((node) => technicalMark(node) ?? []),
    ...bendMark(technical),
    ...headMarks(note),
    ...inGroup(note, 'articulations').flatMap(({ name }) => ARTICULATIONS[name] ?? []),
    ...inGroup(note, 'ornaments').flatMap(({ name }) => ORNAMENTS[name] ?? []),
    ...(muted ? [{ kind: 'palm mute' as const, pressure: 'medium' as const }] : []),
  ]
  const kinds = new Set<string>()
  const all = [...own, ...native.filter(({ kind }) => !said.has(kind))].filter(({ kind }) =>
    kinds.has(kind) ? false : kinds.add(kind),
  )
  const has = (name: string): boolean => technical.some((node) => node.name === name)
  const finger = technical.find(({ name }) => name === 'fingering')?.text.trim() ?? ''
  const pluck = plays(note, PLUCK_PLAY)[0]
  return {
    marks: all.slice(0, MOST_MARKS),
    ...(has('down-bow') ? { pick: 'down' as const } : {}),
    ...(has('up-bow') ? { pick: 'up' as const } : {}),
    ...(FINGERS.has(finger) ? { finger: finger as NonNullable<ReadMarks['finger']> } : {}),
    ...(pluck === 'thumb' || pluck === 'fingers' ? { pluck } : {}),
  }
}
