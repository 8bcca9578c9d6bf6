// A part of a score laid over the form of a song that is there: bar by bar from the first, a figure a
// section.
import { group } from 'd3-array'
import { ok, refuse, type Result } from '../../result'
import { timelineOf } from '../../timeline/timeline'
import type { Figure, Part, Placement, Song } from '../../document/schema'
import {
  dropped,
  type Dropped,
  type WrittenBar,
  type WrittenNote,
  type WrittenPart,
  type WrittenScore,
} from './written-score'
import { placesOnNeck } from './on-the-neck'
import { ownName, partOf } from './part-of'
import { soundingMidi } from '../../document/part-pitch'
import { chartPart, type Span } from './chart-part'

export interface TakenIn {
  part: Part
  figures: Figure[]
  placements: Placement[]
  notes: number
  dropped: Dropped[]
}

/** Which part of the score, onto which part of the song; a part that is not there is made. */
export interface TakeInWish {
  from: WrittenPart
  /** The part's id in the song, or a new one. */
  partId: string
  /** Begins every new id, so that nothing there has it: up to thirty letters and digits. */
  prefix: string
}

/** Refused where the form has no bars or nothing of the part falls on them. */
export function takeIntoSong(song: Song, score: WrittenScore, wish: TakeInWish): Result<TakenIn> {
  const { places, endTicks, bars } = timelineOf(song)
  if (!places.length) return refuse('import', 'This song has no bars yet: lay out its form on the map first.')
  const part = song.parts[wish.partId] ?? newPartOf(song, wish)
  const shift = pickupShift(score.bars, bars)
  const moved = wish.from.notes.map((note) => ({ ...note, startTicks: note.startTicks + shift.ticks }))
  const begun = moved.filter(({ startTicks }) => startTicks >= 0)
  const known = begun.filter(({ startTicks }) => startTicks < endTicks)
  const laid = onPart(known, wish.from, part)
  if (!laid.length) return refuse('import', `Nothing of “${wish.from.name}” can be played there.`)
  const spans = spansOf(song)
  const sections = places.map(({ section }) => section)
  const chart = chartPart(part, { notes: laid }, { sections, spans, feel: song.feel, rests: false })
  const named = withPrefix(chart, wish.prefix)
  return ok({
    part,
    ...named,
    notes: laid.length,
    dropped: dropped([
      ...chart.dropped,
      {
        what: 'notes behind the last bar',
        count: begun.length - known.length,
        why: 'the form ends before them',
      },
      {
        what: 'notes of the pickup',
        count: moved.length - begun.length,
        why: 'the form begins with its first whole bar: put a short bar before it to have them',
      },
      {
        what: 'notes off the neck',
        count: known.length - laid.length,
        why: `no string of ${part.name} reaches them`,
      },
      {
        what: 'bars',
        count: differingBars(score.bars, bars, shift.bars),
        why: 'they are not as long in the file as in the form: look at what lies in them',
      },
    ]),
  })
}

function spansOf(song: Song): Span[] {
  const { places, bars } = timelineOf(song)
  return places.map(({ section, startTicks, lengthTicks, firstBar }): Span => ({
    name: section.name,
    first: firstBar,
    bars: bars
      .slice(firstBar, firstBar + section.bars.length)
      .map((bar, index) => ({ ...bar, meter: section.bars[index]!.meter, free: false })),
    startTicks,
    lengthTicks,
  }))
}

/** Bars that are not as long in the file as in the form, the file moved by so many. */
const differingBars = (
  file: readonly Pick<WrittenBar, 'lengthTicks'>[],
  form: readonly Pick<WrittenBar, 'lengthTicks'>[],
  shift: number,
): number =>
  form.filter(({ lengthTicks }, index) => {
    const said = file[index - shift]
    return said && said.lengthTicks !== lengthTicks
  }).length

/**
 * A pickup that only the file or only the form begins with: by so much and so many bars the file moves, so
 * that whole bar lies on whole bar.
 */
function pickupShift(
  file: readonly Pick<WrittenBar, 'lengthTicks'>[],
  form: readonly Pick<WrittenBar, 'lengthTicks'>[],
): { ticks: number; bars: number } {
  const [said = 0, saidNext = 0] = file.map(({ lengthTicks }) => lengthTicks)
  const [own = 0, ownNext = 0] = form.map(({ lengthTicks }) => lengthTicks)
  if (said < saidNext && saidNext === own) return { ticks: -said, bars: -1 }
  if (own < ownNext && said === ownNext) return { ticks: own, bars: 1 }
  return { ticks: 0, bars: 0 }
}

/** A new part, called as in the file, or with a number where one of that name is there. */
function newPartOf(song: Song, { from, partId }: TakeInWish): Part {
  const taken = new Set(Object.values(song.parts).map(({ name }) => name))
  return partOf(from, { id: partId, name: ownName(from.name, taken) })
}

/** On the strings of the part: as they are where it is strung alike, else by pitch. */
function onPart(notes: readonly WrittenNote[], from: WrittenPart, part: Part): WrittenNote[] {
  const alike =
    from.tuning.openMidi.join() === part.tuning.openMidi.join() &&
    from.instrument.capo === part.instrument.capo
  const highest = part.instrument.fretCount - part.instrument.capo
  if (alike) return notes.filter(({ fret }) => fret <= highest)
  const places = placesOnNeck(notes, part)
  return notes.flatMap((note, index) => {
    const place = places[index]
    return place ? [{ ...note, ...place, midi: soundingMidi(part, place.string, place.fret) }] : []
  })
}

/** New ids for all of it: what is in the song already may have those of the same file. */
function withPrefix(
  { figures, placements }: { figures: Figure[]; placements: Placement[] },
  prefix: string,
): { figures: Figure[]; placements: Placement[] } {
  const ids = new Map(figures.map(({ id }, index) => [id, `${prefix}-f${index + 1}`]))
  return {
    figures: figures.map((figure) => ({ ...figure, id: ids.get(figure.id)! })),
    placements: placements.map((placement, index) => {
      const id = `${prefix}-p${index + 1}`
      return placement.kind === 'figure'
        ? { ...placement, id, figureId: ids.get(placement.figureId)! }
        : { ...placement, id }
    }),
  }
}

/** What it plays by section, as the transaction that brings it in wants it. */
export function cellsOf({ placements }: Pick<TakenIn, 'placements'>): {
  sectionId: string
  placements: Placement[]
}[] {
  return [...group(placements, ({ sectionId }) => sectionId)].map(([sectionId, own]) => ({
    sectionId,
    placements: own,
  }))
}
