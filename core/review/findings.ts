// What is missing, does not add up, or cannot be played: sentences with their place, computed from the
// document alone.
import { gripFacts } from '../fretboard/grips/grip'
import { lineProblems } from '../fretboard/lines/line-problems'
import { soundingMidi } from '../document/part-pitch'
import { allBars, mainSource, orderedParts, sectionPlaces } from '../document/form'
import { cellStretches, lengthInBars } from '../timeline/cells'
import { figureContent } from '../document/figure-content'
import { gridBeats } from '../time/beat-grid'
import { barTicks, countWords } from '../time/meter'
import type { Figure, Song } from '../document/schema'

export interface Finding {
  kind: 'not charted' | 'counts' | 'empty' | 'reach' | 'unplaced' | 'range' | 'playing'
  text: string
  sectionId?: string
  partId?: string
  figureId?: string
}

export function findings(song: Song): Finding[] {
  return [...gridFindings(song), ...unchartedFindings(song), ...figureFindings(song)]
}

function gridFindings(song: Song): Finding[] {
  const grid = mainSource(song)?.grid
  const bars = allBars(song)
  if (!grid) return [{ kind: 'counts', text: 'The recording is not laid out in bars yet.' }]
  if (grid.bars.length !== bars.length)
    return [{ kind: 'counts', text: `The form has ${bars.length} bars, the beat grid ${grid.bars.length}.` }]
  return bars.flatMap((bar, index) =>
    grid.bars[index]!.beatSeconds.length === gridBeats(bar)
      ? []
      : [
          {
            kind: 'counts' as const,
            text:
              `Bar ${index + 1} should have ${gridBeats(bar)} beats; ` +
              `the grid has ${grid.bars[index]!.beatSeconds.length}.`,
          },
        ],
  )
}

function unchartedFindings(song: Song): Finding[] {
  return sectionPlaces(song).flatMap(({ section }) =>
    orderedParts(song).flatMap((part) =>
      cellStretches(song, section, part.id).flatMap((stretch): Finding[] =>
        stretch.kind === 'open'
          ? [
              {
                kind: 'not charted',
                text: `${part.name} in ${section.name}: ${lengthInBars(section, stretch.lengthTicks)}.`,
                sectionId: section.id,
                partId: part.id,
              },
            ]
          : [],
      ),
    ),
  )
}

const barWords = (figure: Figure, tick: number): string =>
  `bar ${Math.floor(tick / barTicks(figure.meter)) + 1}, ` +
  countWords(figure.meter, tick % barTicks(figure.meter))

function figureFindings(song: Song): Finding[] {
  const placed = new Set(
    Object.values(song.placements).flatMap((placement) =>
      placement.kind === 'figure'
        ? [placement.figureId, ...(placement.passFigures ?? []).map((entry) => entry.figureId)]
        : [],
    ),
  )
  return Object.values(song.figures).flatMap((figure): Finding[] => {
    const part = song.parts[figure.partId]!
    const content = figureContent(song, figure)
    const found: Finding[] = []
    const about = { partId: part.id, figureId: figure.id }
    if (content.notes.length + content.grips.length + content.strokes.length === 0)
      found.push({ kind: 'empty', text: `“${figure.name}” (${part.name}) has nothing in it yet.`, ...about })
    if (!placed.has(figure.id))
      found.push({ kind: 'unplaced', text: `“${figure.name}” (${part.name}) is placed nowhere.`, ...about })
    for (const span of content.grips) {
      const { caution } = gripFacts(song, part, span.grip, 'shape')
      if (caution) found.push({ kind: 'reach', text: `“${figure.name}”: ${caution}`, ...about })
    }
    for (const problem of lineProblems(content, part))
      found.push({
        kind: 'playing',
        text: `“${figure.name}”, ${barWords(figure, problem.startTicks)}: ${problem.text}.`,
        ...about,
      })
    if (content.notes.some((note) => soundingMidi(part, note.string, note.fret) > 100))
      found.push({
        kind: 'range',
        text: `“${figure.name}” has a note above what the instrument can sound.`,
        ...about,
      })
    return found
  })
}
