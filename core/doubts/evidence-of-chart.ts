// Evidence that lies in the form and under the hand rather than in the sound: how often something fits, and
// which place on the neck is nearer.
import { figureContent } from '../document/figure-content'
import { sectionTicks } from '../document/form'
import type { Claim, Place, Song } from '../document/schema'
import { fittingPasses } from '../timeline/cells'
import { timelineOf } from '../timeline/timeline'
import { placeTicks } from './charted-note'
import type { Evidence } from './evidence'
import { TICKS_PER_QUARTER } from '../time/meter'

/** How often what is played there fits into its section, by the bars counted on the record. */
export function passEvidence(song: Song, place: Place, count: number): Evidence[] {
  const section = song.sections[place.sectionId]
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  if (!section || !ticks) return []
  const plays = place.partId === undefined ? [] : (timelineOf(song).playsByPart.get(place.partId) ?? [])
  const play = plays.find(
    ({ startTicks, lengthTicks, figure }) =>
      figure && startTicks <= ticks.from && startTicks + lengthTicks > ticks.from,
  )
  const lengthTicks = play?.figure?.lengthTicks ?? place.lengthTicks
  if (lengthTicks === undefined) return []
  const total = sectionTicks(section)
  const fits = fittingPasses({ lengthTicks }, total)
  const whole = fits * lengthTicks === total
  return [
    {
      measured:
        `the ${section.bars.length} counted bars of ${section.name} hold it ${fits} times` +
        (whole ? '' : ' and a part'),
      value: fits,
      unit: 'times',
      speaks: fits === count ? 'for' : 'against',
    },
  ]
}

/** A place on the neck so many frets nearer to what is played around it is the likelier one. */
const CLEARLY_NEARER = 3

/** How far the hand would go to a string and fret from what it plays before and after. */
export function handEvidence(
  song: Song,
  place: Place,
  claim: Extract<Claim, { kind: 'string' }>,
): Evidence[] {
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  if (!ticks || place.partId === undefined) return []
  const play = (timelineOf(song).playsByPart.get(place.partId) ?? []).find(
    ({ startTicks, lengthTicks, figure }) =>
      figure && startTicks <= ticks.from && startTicks + lengthTicks > ticks.from,
  )
  if (!play?.figure) return []
  const at = ticks.from - play.startTicks
  const fretted = figureContent(song, play.figure).notes.filter(({ fret }) => fret > 0)
  const before = fretted.filter(({ startTicks }) => startTicks < at).slice(-2)
  const after = fretted.filter(({ startTicks }) => startTicks > at).slice(0, 2)
  const around = [...before, ...after].map(({ fret }) => fret)
  if (around.length === 0 || claim.fret === 0)
    return [
      { measured: 'an open string, or nothing around it', value: 0, unit: 'frets', speaks: 'cannot tell' },
    ]
  const middle = around.reduce((sum, fret) => sum + fret, 0) / around.length
  const away = Math.abs(claim.fret - middle)
  return [
    {
      measured: `fret ${claim.fret} lies ${away.toFixed(1)} frets from what is played around it`,
      value: away,
      unit: 'frets',
      speaks: away <= CLEARLY_NEARER ? 'for' : 'against',
    },
  ]
}
