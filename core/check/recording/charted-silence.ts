// Bars that are charted while the recording is silent on the side where the part sits, and bars in which that
// side plays while every part that sits there rests.
import { orderedParts, sectionPlaces } from '../../document/form'
import type { Part, Section, Song } from '../../document/schema'
import type { BarActivity } from '../../hear/features/activity'
import type { Side } from '../../hear/features/stereo-field'
import { cellStretches } from '../../timeline/cells'
import { timelineOf, type FormBar } from '../../timeline/timeline'
import { finding, type Finding } from '../finding'
import { songNotes } from '../../score/song-notes'

/** Nearer to the middle than this a part is not on a side of its own. */
const ON_A_SIDE = 0.4
/** A side that plays in a smaller share of the bars than this is a room, not a player. */
const PLAYED_SHARE = 0.1
/** One bar alone may be a tail that rings, or a breath. */
const LEAST_BARS = 2

const sideOf = ({ pan }: Part): Side | undefined => {
  if (Math.abs(pan) < ON_A_SIDE) return undefined
  return pan < 0 ? 'left' : 'right'
}

/** Bars of one section that follow each other. */
interface Stretch {
  section: Section
  bars: FormBar[]
}
type BarTest = (bar: FormBar) => boolean

/** `activity` is who plays in each bar of the form. */
export function silenceFindings(song: Song, activity: readonly BarActivity[]): Finding[] {
  const sounding = soundingBars(song)
  const has = (part: Part): BarTest => sounding.get(part.id) ?? (() => false)
  return (['left', 'right'] as const).flatMap((side) => {
    const parts = orderedParts(song).filter((part) => sideOf(part) === side)
    const heard = activity.filter((bar) => bar[side]).length
    if (parts.length === 0 || heard < PLAYED_SHARE * activity.length) return []
    const isHeard: BarTest = ({ barIndex }) => activity[barIndex]?.[side] ?? true
    const resting = parts.map((part) => restingBars(song, part))
    const silent = parts.flatMap((part) =>
      stretchesOf(song, (bar) => has(part)(bar) && !isHeard(bar)).map((one) =>
        silentFinding(song, part, side, one),
      ),
    )
    const rested = stretchesOf(
      song,
      (bar) => activity[bar.barIndex]?.[side] === true && resting.every((isResting) => isResting(bar)),
    )
    return [...silent, ...rested.map((one) => restFinding(song, parts, side, one))]
  })
}

/** Of each part the bars in which a note of it sounds. */
function soundingBars(song: Song): Map<string, BarTest> {
  const spans = new Map<string, [number, number][]>()
  for (const { part, startTicks, endTicks } of songNotes(song)) {
    const own = spans.get(part.id) ?? []
    own.push([startTicks, endTicks])
    spans.set(part.id, own)
  }
  return new Map(
    [...spans].map(([partId, notes]): [string, BarTest] => [
      partId,
      ({ startTicks, lengthTicks }) =>
        notes.some(([from, to]) => from < startTicks + lengthTicks && to > startTicks),
    ]),
  )
}

/** Bars that lie whole in a rest of a part. */
function restingBars(song: Song, part: Part): BarTest {
  const rests = sectionPlaces(song).flatMap(({ section, startTicks }) =>
    cellStretches(song, section, part.id)
      .filter(({ kind }) => kind === 'rests')
      .map(
        (rest) => [startTicks + rest.startTicks, startTicks + rest.startTicks + rest.lengthTicks] as const,
      ),
  )
  return ({ startTicks, lengthTicks }) =>
    rests.some(([from, to]) => from <= startTicks && to >= startTicks + lengthTicks)
}

/** Stretches of bars for which something holds, within their sections. */
function stretchesOf(song: Song, holds: BarTest): Stretch[] {
  const { bars } = timelineOf(song)
  const stretches: Stretch[] = []
  for (const bar of bars.filter(holds)) {
    const last = stretches.at(-1)
    const before = last?.bars.at(-1)
    if (last && before?.barIndex === bar.barIndex - 1 && last.section.id === bar.sectionId)
      last.bars.push(bar)
    else stretches.push({ section: song.sections[bar.sectionId]!, bars: [bar] })
  }
  return stretches.filter((stretch) => stretch.bars.length >= LEAST_BARS)
}

const barsWords = ({ section, bars }: Stretch): string => {
  if (bars.length === section.bars.length) return section.name
  return `bars ${bars[0]!.barInSection + 1}–${bars.at(-1)!.barInSection + 1} of ${section.name}`
}
const placeOf = (song: Song, { section, bars }: Stretch, part: Part) => {
  const start = sectionPlaces(song).find((one) => one.section.id === section.id)?.startTicks ?? 0
  return { sectionId: section.id, partId: part.id, startTicks: bars[0]!.startTicks - start }
}

function silentFinding(song: Song, part: Part, side: Side, stretch: Stretch): Finding {
  return finding(
    ['silent on the record', 'look'],
    `${part.name} is charted in ${barsWords(stretch)}, and on its side (${side}) the record is silent there.`,
    placeOf(song, stretch, part),
    { facts: [stretch.bars.length] },
  )
}

function restFinding(song: Song, parts: readonly Part[], side: Side, stretch: Stretch): Finding {
  const names = parts.map(({ name }) => name).join(' and ')
  const verb = parts.length === 1 ? 'rests' : 'rest'
  return finding(
    ['heard, not charted', 'look'],
    `Somebody plays on the ${side} in ${barsWords(stretch)}, where ${names} ${verb}.`,
    placeOf(song, stretch, parts[0]!),
    { facts: [stretch.bars.length] },
  )
}
