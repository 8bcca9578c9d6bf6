// A recording that was made to a click and begins exactly on its grid was cut where the project began: on
// the one of its first bar. Chance puts a file so near a beat once in thirty; what sounds may well tell
// another story (a riff that goes on over the bar line all the way through).
import { mean } from 'd3-array'
import type { PlaceInBar } from './bars'

/** The file begins as near as this to a place of the grid, seconds. */
const ON_GRID_SECONDS = 0.01

/**
 * The mean log odds of ones that are heard: of four dense rock recordings 0.7 to 1.4, and −0.1 where wrong.
 */
const PLAINLY_HEARD = 0.5

/** The most frequent bar length of a count. */
function usualLength(places: readonly PlaceInBar[]): number {
  const counts = new Map<number, number>()
  for (const { length } of places) counts.set(length, (counts.get(length) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 4
}

export interface FileStart {
  /** The beat that has to be a one. */
  beat: number
  /** Most bars of the song are counted from elsewhere: what fooled the ear goes on all the way through. */
  throughout: boolean
}

/**
 * The one on which the file begins; undefined where it does not begin on the grid (`beats` in seconds,
 * evenly spaced), where the bars are counted so already, or where other ones are plainly heard (`scores` are
 * the log odds that a beat is the one).
 */
export function oneFromFileStart(
  beats: readonly number[],
  places: readonly PlaceInBar[],
  scores: readonly number[],
): FileStart | undefined {
  const [first, last] = [beats[0], beats.at(-1)]
  if (first === undefined || last === undefined || beats.length < 8) return undefined
  const gap = (last - first) / (beats.length - 1)
  const before = Math.round(first / gap)
  if (Math.abs(first - before * gap) > ON_GRID_SECONDS) return undefined
  const length = usualLength(places)
  const beat = (length - (before % length)) % length
  if (places[beat]?.place === 0) return undefined
  const ones = [...places.keys()].filter((index) => places[index]?.place === 0)
  const agreeing = ones.filter((index) => (index - beat) % length === 0)
  const throughout = agreeing.length < ones.length / 2
  // Ones that are plainly heard all the way through are believed: somebody cut the file a beat before.
  const heard = mean(ones, (index) => scores[index]) ?? 0
  return throughout && heard > PLAINLY_HEARD ? undefined : { beat, throughout }
}
