// What a change takes along that was not named in it: charting that falls away, links that end. Read off the
// two documents, so that no transaction can forget to say it.
import { counted } from '../words/words'
import type { Figure, Placement, Song } from '../document/schema'

/**
 * The consequences of a change, most weighty first, a clause each ("the line “Third below” standing
 * alone").
 */
export function consequencesOf(before: Song, after: Song, args: unknown): string[] {
  if (before === after) return []
  const named = namedIds(args)
  return [
    ...figuresGone(before, after, named),
    ...placementsLost(before, after, named),
    ...linksEnded(before, after, named),
    ...returnsEnded(before, after, named),
    ...notesGone(before, after, named),
  ]
}

/** Every id that stands in the arguments: what is named there is meant. */
function namedIds(args: unknown): ReadonlySet<string> {
  const ids = new Set<string>()
  const visit = (value: unknown, depth: number): void => {
    if (typeof value === 'string' && value.length <= 40) ids.add(value)
    else if (typeof value === 'object' && value !== null && depth < 6)
      for (const inner of Object.values(value)) visit(inner, depth + 1)
  }
  visit(args, 0)
  return ids
}

function figuresGone(before: Song, after: Song, named: ReadonlySet<string>): string[] {
  if (before.figures === after.figures) return []
  const gone = Object.values(before.figures).filter(
    (figure) => !Object.hasOwn(after.figures, figure.id) && !named.has(figure.id),
  )
  if (gone.length === 0) return []
  return [gone.length === 1 ? `the figure “${gone[0]!.name}”` : `its ${counted(gone.length, 'figure')}`]
}

function placementsLost(before: Song, after: Song, named: ReadonlySet<string>): string[] {
  if (before.placements === after.placements) return []
  const divided = takeDivided(before, after)
  let places = 0
  let passes = 0
  const where = new Set<string>()
  for (const placement of Object.values(before.placements)) {
    const now = Object.hasOwn(after.placements, placement.id) ? after.placements[placement.id] : undefined
    if (now === placement || named.has(placement.id)) continue
    if (!now && replacedHere(placement, named)) continue
    const fewer = passesOf(placement) - (now ? passesOf(now) : 0)
    const lost = fewer - divided(placement, fewer)
    if (lost <= 0) continue
    if (now) passes += lost
    else places++
    where.add(before.sections[placement.sectionId]?.name ?? 'a section')
  }
  const list = [...where]
  const at = list.length > 3 ? `${list.slice(0, 3).join(', ')} and ${list.length - 3} more` : list.join(', ')
  return [
    ...(places ? [`${counted(places, 'place')} where it was played (${at})`] : []),
    ...(passes ? [`${counted(passes, 'pass', 'passes')} that no longer fit (${at})`] : []),
  ]
}

/**
 * Passes that a new placement of the same figure took over, where a section was divided: nothing is lost
 * by it.
 */
function takeDivided(before: Song, after: Song): (placement: Placement, most: number) => number {
  const gained = new Map<string, number>()
  const played = (placement: Placement): string =>
    `${placement.partId}/${placement.kind === 'figure' ? placement.figureId : ''}`
  for (const placement of Object.values(after.placements))
    if (!Object.hasOwn(before.placements, placement.id))
      gained.set(played(placement), (gained.get(played(placement)) ?? 0) + passesOf(placement))
  return (placement, most) => {
    const there = gained.get(played(placement)) ?? 0
    const taken = Math.min(there, most)
    gained.set(played(placement), there - taken)
    return taken
  }
}

const passesOf = (placement: Placement): number => (placement.kind === 'figure' ? placement.passes : 0)
/** A whole cell was given anew: what it held before was meant to go. */
const replacedHere = (placement: Placement, named: ReadonlySet<string>): boolean =>
  named.has(placement.sectionId) && named.has(placement.partId)

const LINKS: readonly { link: 'variationOf' | 'derivedFrom' | 'pattern'; words: (name: string) => string }[] =
  [
    { link: 'derivedFrom', words: (name) => `the line “${name}” that follows it, from now on by itself` },
    { link: 'variationOf', words: (name) => `the variation “${name}”, from now on by itself` },
    { link: 'pattern', words: (name) => `the strokes of “${name}”, from now on its own` },
  ]

function linksEnded(before: Song, after: Song, named: ReadonlySet<string>): string[] {
  if (before.figures === after.figures) return []
  const ended: string[] = []
  const kept = Object.values(before.figures).filter(
    (figure) => Object.hasOwn(after.figures, figure.id) && !named.has(figure.id),
  )
  for (const { link, words } of LINKS)
    for (const figure of kept) {
      const now: Figure = after.figures[figure.id]!
      if (figure[link] && !now[link]) ended.push(words(figure.name))
    }
  return ended
}

function returnsEnded(before: Song, after: Song, named: ReadonlySet<string>): string[] {
  if (before.sections === after.sections) return []
  return Object.values(before.sections)
    .filter((section) => section.returns && !named.has(section.id))
    .filter((section) => Object.hasOwn(after.sections, section.id) && !after.sections[section.id]!.returns)
    .map((section) => `what “${section.name}” returns`)
}

function notesGone(before: Song, after: Song, named: ReadonlySet<string>): string[] {
  const gone = (table: 'doubts' | 'spots'): number =>
    before[table] === after[table]
      ? 0
      : Object.keys(before[table]).filter((id) => !Object.hasOwn(after[table], id) && !named.has(id)).length
  const [doubts, spots] = [gone('doubts'), gone('spots')]
  return [...(doubts ? [counted(doubts, 'doubt')] : []), ...(spots ? [counted(spots, 'note', 'notes')] : [])]
}
