// Marks on notes as MusicXML says them. What the format has no word for, or only a coarser one, stands
// beside it in the place the format keeps for that (other-play), as the mark itself: our own reader loses
// nothing, others pass over it.
import type { Mark } from '../../document/schema'
import type { WrittenNote } from '../score/written-score'
import { element, type XmlNode } from './xml'

export const MARK_PLAY = 'marks'
export const PLUCK_PLAY = 'pluck'

/** How a note is joined with its neighbours on the string. */
export interface Joins {
  /** The mark of the next note on the string, where that is reached from this one. */
  next?: Mark
  /** Whether there is a note before on the string. */
  hasPrevious: boolean
}

type Way = 'hammer-on' | 'pull-off' | 'slide'
export const wayTo = (note: Pick<WrittenNote, 'marks'>): Mark | undefined =>
  note.marks.find(
    (mark) =>
      mark.kind === 'hammer-on' ||
      mark.kind === 'pull-off' ||
      (mark.kind === 'slide' && (mark.how === 'legato' || mark.how === 'shift')),
  )

const LETTER: Record<Exclude<Way, 'slide'>, string> = { 'hammer-on': 'H', 'pull-off': 'P' }

/** The two ends of a hammer-on, pull-off or slide; told apart by the string they are on. */
function joinNodes(mark: Mark, type: 'start' | 'stop', number: number): Placed[] {
  const both = { type, number }
  if (mark.kind === 'slide')
    return [
      { group: 'notations', node: element('slide', [], { ...both, 'line-type': 'solid' }) },
      ...(mark.how === 'legato' ? [{ group: 'notations', node: element('slur', [], both) } as const] : []),
    ]
  if (mark.kind !== 'hammer-on' && mark.kind !== 'pull-off') return []
  return [{ group: 'technical', node: element(mark.kind, type === 'start' ? LETTER[mark.kind] : '', both) }]
}

type Group = 'notations' | 'technical' | 'articulations' | 'ornaments'
interface Placed {
  group: Group
  node: XmlNode
}
const placed = (group: Group, node: XmlNode): Placed[] => [{ group, node }]

type Bend = Extract<Mark, { kind: 'bend' }>
function bendNodes({ semitones, shape }: Bend): Placed[] {
  const up = element('bend-alter', semitones)
  const bend = (...more: XmlNode[]): Placed => ({ group: 'technical', node: element('bend', [up, ...more]) })
  if (shape === 'pre-bend') return [bend(element('pre-bend'))]
  if (shape === 'release') return [bend(element('release'))]
  if (shape === 'bend and release') return [bend(), bend(element('release'))]
  return shape === 're-bend' ? [bend(), bend(element('release')), bend()] : [bend()]
}

const wave = (type: 'start' | 'stop'): Placed[] =>
  placed('ornaments', element('wavy-line', [], { type, number: 1 }))

type Slide = Extract<Mark, { kind: 'slide' }>
const LOOSE: Partial<Record<Slide['how'], string>> = {
  'in from below': 'scoop',
  'in from above': 'plop',
  out: 'falloff',
}

/** What a mark is in the format by itself; nothing where it has no word or the way to the note says it. */
function nativeNodes(mark: Mark): Placed[] {
  switch (mark.kind) {
    case 'bend':
      return bendNodes(mark)
    case 'vibrato':
      return [...wave('start'), ...wave('stop')]
    case 'natural harmonic':
      return placed('technical', element('harmonic', [element('natural')]))
    case 'pinched harmonic':
      return placed('technical', element('harmonic', [element('artificial')]))
    case 'tap':
      return placed('technical', element('tap'))
    case 'let ring':
      return placed('notations', element('tied', [], { type: 'let-ring' }))
    case 'staccato':
      return placed('articulations', element('staccato'))
    case 'accent':
      return placed('articulations', element('accent'))
    case 'choke':
      return placed('articulations', element('staccatissimo'))
    case 'trill':
      return placed('ornaments', element('trill-mark'))
    case 'tremolo picking':
      return placed('ornaments', element('tremolo', 3, { type: 'single' }))
    case 'arm':
      return placed(
        'technical',
        element('bend', [element('bend-alter', mark.semitones), element('with-bar', mark.how)]),
      )
    case 'slide': {
      const loose = LOOSE[mark.how]
      return loose ? placed('articulations', element(loose)) : []
    }
    default:
      return []
  }
}

/** Marks that the native elements say wholly: everything else is kept beside them as it is. */
const WHOLLY = new Set<Mark['kind']>([
  'hammer-on',
  'pull-off',
  'natural harmonic',
  'tap',
  'let ring',
  'staccato',
  'dead',
  'ghost',
  'accent',
])

/** Everything between the note's value and its end: head, notations, how it is played. */
export function markNodes(note: WrittenNote, joins: Joins): { head: XmlNode[]; after: XmlNode[] } {
  const own = wayTo(note)
  const nodes: Placed[] = [
    ...(joins.next ? joinNodes(joins.next, 'start', note.string) : []),
    ...(own && joins.hasPrevious ? joinNodes(own, 'stop', note.string) : []),
    ...note.marks.flatMap(nativeNodes),
    ...(note.pick ? placed('technical', element(note.pick === 'down' ? 'down-bow' : 'up-bow')) : []),
    ...(note.finger ? placed('technical', element('fingering', note.finger)) : []),
    ...(note.pluck ? placed('technical', element('pluck', note.pluck === 'thumb' ? 'p' : 'i')) : []),
    ...placed('technical', element('string', note.string)),
    ...placed('technical', element('fret', note.fret)),
  ]
  return { head: headNodes(note), after: [notations(nodes), ...playNodes(note, joins)] }
}

export function placeOnly(note: WrittenNote, tied: readonly XmlNode[]): XmlNode {
  const technical = element('technical', [element('string', note.string), element('fret', note.fret)])
  return element('notations', [...tied, technical])
}

function notations(nodes: readonly Placed[]): XmlNode {
  const of = (group: Group): XmlNode[] => nodes.filter((one) => one.group === group).map(({ node }) => node)
  const inGroup = (group: Exclude<Group, 'notations'>): XmlNode | undefined => {
    const inside = of(group)
    return inside.length ? element(group, inside) : undefined
  }
  return element('notations', [
    ...of('notations'),
    inGroup('ornaments'),
    inGroup('technical'),
    inGroup('articulations'),
  ])
}

function headNodes({ marks }: WrittenNote): XmlNode[] {
  const kinds = new Set(marks.map(({ kind }) => kind))
  if (kinds.has('dead')) return [element('notehead', 'x')]
  return kinds.has('ghost') ? [element('notehead', 'normal', { parentheses: 'yes' })] : []
}

function playNodes({ marks, pluck }: WrittenNote, { hasPrevious }: Joins): XmlNode[] {
  const muted = marks.some(({ kind }) => kind === 'palm mute')
  const own = marks
    .filter((mark) => !WHOLLY.has(mark.kind) || (!hasPrevious && wayTo({ marks: [mark] })))
    .map((mark) => element('other-play', JSON.stringify(mark), { type: MARK_PLAY }))
  const by = pluck ? [element('other-play', pluck, { type: PLUCK_PLAY })] : []
  const inside = [...(muted ? [element('mute', 'palm')] : []), ...own, ...by]
  return inside.length ? [element('play', inside)] : []
}
