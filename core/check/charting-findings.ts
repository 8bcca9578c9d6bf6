// What is not charted yet, and what is charted where it has no room: open stretches, empty bars and figures,
// figures of no whole length, placements that lie over each other or over the end.
import { figureContent } from '../document/figure-content'
import { orderedParts, sectionPlaces, sectionTicks } from '../document/form'
import type { Content, Figure, Part, Section, Song } from '../document/schema'
import { cellStretches, lengthInBars } from '../timeline/cells'
import { timelineOf, type Play } from '../timeline/timeline'
import { barTicks, beatTicks } from '../time/meter'
import { digest, figureWords, finding, fix, sectionWords, type Finding } from './finding'

export function chartingFindings(song: Song): Finding[] {
  return [
    ...openFindings(song),
    ...Object.values(song.figures).flatMap((figure) => figureFindings(song, figure)),
    ...orderedParts(song).flatMap((part) => twoAtOnce(song, part)),
  ]
}

/** Stretches in which a part neither plays nor rests. */
function openFindings(song: Song): Finding[] {
  return sectionPlaces(song).flatMap(({ section }) =>
    orderedParts(song).flatMap((part) => {
      const stretches = cellStretches(song, section, part.id)
      const open = stretches.filter((stretch) => stretch.kind === 'open')
      return [
        ...open.map(({ startTicks, lengthTicks }) => notCharted(section, part, { startTicks, lengthTicks })),
        ...overTheEnd(section, part, stretches),
      ]
    }),
  )
}

function notCharted(
  section: Section,
  part: Part,
  open: { startTicks: number; lengthTicks: number },
): Finding {
  const whole = open.lengthTicks === sectionTicks(section)
  const where = whole ? '' : `, from ${sectionWords(section, open.startTicks)}`
  return finding(
    ['not charted', 'missing'],
    `${part.name} in ${section.name}: ${lengthInBars(section, open.lengthTicks)} not charted${where}.`,
    { sectionId: section.id, partId: part.id, startTicks: open.startTicks },
    {
      facts: [open.lengthTicks],
      fix: fix(`${part.name} rests there`, 'setPlacement', {
        placement: {
          kind: 'rests',
          id: `rests-${digest([section.id, part.id, open.startTicks, open.lengthTicks].join('/'))}`,
          partId: part.id,
          sectionId: section.id,
          ...open,
        },
      }),
    },
  )
}

function overTheEnd(section: Section, part: Part, stretches: ReturnType<typeof cellStretches>): Finding[] {
  const total = sectionTicks(section)
  return stretches.flatMap((stretch) => {
    const over = stretch.startTicks + stretch.lengthTicks - total
    if (over <= 0) return []
    const what = stretch.kind === 'figure' ? `“${stretch.figure.name}”` : 'A rest'
    return [
      finding(
        ['over the end', 'wrong'],
        `${what} (${part.name}) goes ${lengthInBars(section, over)} past the end of ${section.name}.`,
        { sectionId: section.id, partId: part.id, startTicks: stretch.startTicks },
        { facts: [over] },
      ),
    ]
  })
}

const isEmpty = (content: Content): boolean =>
  content.notes.length + content.grips.length + content.strokes.length === 0

function figureFindings(song: Song, figure: Figure): Finding[] {
  const part = song.parts[figure.partId]!
  const about = { partId: part.id, figureId: figure.id }
  const content = figureContent(song, figure)
  const named = `“${figure.name}” (${part.name})`
  const found: Finding[] = []
  if (isEmpty(content))
    found.push(finding(['empty figure', 'missing'], `${named} has nothing in it yet.`, about))
  else
    for (const bar of emptyBars(figure, content))
      found.push(
        finding(
          ['not charted', 'missing'],
          `${named} has nothing in bar ${bar + 1}: write it, or make the figure shorter and let it rest.`,
          { ...about, startTicks: bar * barTicks(figure.meter) },
        ),
      )
  if (!placedFigures(song).has(figure.id))
    found.push(
      finding(['unplaced', 'look'], `${named} is placed nowhere.`, about, {
        fix: fix('Remove it', 'removeFigure', { figureId: figure.id }),
      }),
    )
  if (!figure.freeTime && oddLength(figure))
    found.push(
      finding(
        ['length of a figure', 'wrong'],
        `${named} is ${(figure.lengthTicks / beatTicks(figure.meter)).toFixed(2).replace(/\.?0+$/, '')} ` +
          'beats long, which is no whole number of bars: what follows it would start beside the one.',
        about,
        { facts: [figure.lengthTicks] },
      ),
    )
  return found
}

/** A lick of a few beats is no mistake; more than a bar is whole bars or half ones. */
function oddLength({ lengthTicks, meter }: Figure): boolean {
  const bar = barTicks(meter)
  return lengthTicks < bar ? lengthTicks % (beatTicks(meter) / 2) !== 0 : lengthTicks % (bar / 2) !== 0
}

/** Bars in which nothing begins and nothing sounds on. */
function emptyBars(figure: Figure, content: Content): number[] {
  if (figure.freeTime) return []
  const bar = barTicks(figure.meter)
  const events = [...content.grips, ...content.strokes, ...content.notes]
  return Array.from({ length: Math.ceil(figure.lengthTicks / bar) }, (_, index) => index).filter(
    (index) =>
      !events.some(
        ({ startTicks, lengthTicks }) =>
          startTicks < (index + 1) * bar && startTicks + lengthTicks > index * bar,
      ),
  )
}

const placed = new WeakMap<Song['placements'], Set<string>>()
function placedFigures({ placements }: Song): Set<string> {
  const known = placed.get(placements)
  if (known) return known
  const made = new Set(
    Object.values(placements).flatMap((placement) =>
      placement.kind === 'figure'
        ? [placement.figureId, ...(placement.passFigures ?? []).map(({ figureId }) => figureId)]
        : [],
    ),
  )
  placed.set(placements, made)
  return made
}

/** Two things one player would have to play at once. */
function twoAtOnce(song: Song, part: Part): Finding[] {
  const plays = (timelineOf(song).playsByPart.get(part.id) ?? []).filter(({ figure }) => figure)
  const found: Finding[] = []
  for (const [index, play] of plays.entries())
    for (const other of plays.slice(index + 1)) {
      if (other.startTicks >= play.startTicks + play.lengthTicks) break
      const struck = struckTogether(song, play, other)
      if (struck !== undefined) found.push(together(song, part, [play, other], struck))
    }
  return found
}

/** The first tick from which both play: something of the earlier begins once the later has begun. */
function struckTogether(song: Song, earlier: Play, later: Play): number | undefined {
  const starts = ({ figure, startTicks }: Play): number[] => {
    const { notes, strokes } = figureContent(song, figure!)
    return [...notes, ...strokes].map((event) => startTicks + event.startTicks)
  }
  const begun = Math.min(...starts(later))
  const until = Math.max(...starts(later))
  const both = starts(earlier).filter((tick) => tick >= begun && tick <= until)
  return both.length ? Math.min(...both) : undefined
}

function together(song: Song, part: Part, [play, other]: [Play, Play], tick: number): Finding {
  const { sectionId, startTicks } = other.placement
  const names = `“${play.figure!.name}” and “${other.figure!.name}”`
  const inFigure = figureWords(play.figure!, tick - play.startTicks)
  return finding(
    ['two at once', 'look'],
    `${part.name} would play ${names} at once, from ${inFigure} of the first: one player cannot join them. ` +
      'Let the first end there, or give one to another part.',
    { sectionId, partId: part.id, startTicks },
    { facts: [play.figure!.id, other.figure!.id, tick - play.startTicks], fix: undefined },
  )
}
