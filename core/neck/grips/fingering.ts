// Which finger holds which string of a grip: every sensible assignment is tried and the most comfortable
// one kept. Rules of the hand: a finger further along holds a higher fret; one finger may lie flat over
// several strings at one fret (a barre) unless a string between must ring lower; the thumb may hold the
// lowest string. Cost grows with the share of the span two fingers need.
import { fingerPlaceMm } from '../../instrument/neck'
import type { Grip, Part } from '../../document/schema'
import { fingerSpanMm, type Finger, type Hand, USUAL_HAND } from '../hand'

export interface Stretch {
  from: Finger
  to: Finger
  mm: number
  limitMm: number
}
export interface Fingering {
  /** Per string, string 1 first; undefined where nothing is held. */
  fingers: (Finger | undefined)[]
  barres: { finger: Finger; fret: number; fromString: number; toString: number }[]
  stretches: Stretch[]
  /** 0 open strings only … 10 at the limit of what a hand can do. */
  difficulty: number
  reasons: string[]
}

const FINGERS: Finger[] = ['1', '2', '3', '4']
interface Held {
  string: number
  fret: number
}
interface Hold {
  finger: Finger
  fret: number
  strings: number[]
}

/** The most comfortable fingering; undefined when four fingers and a thumb cannot hold it. */
export const fingerGrip = (
  grip: Grip,
  part: Pick<Part, 'instrument'>,
  hand: Hand = USUAL_HAND,
): Fingering | undefined => fingerings(grip, part, hand, 1)[0]

/** The most comfortable fingerings, best first; empty when four fingers and a thumb cannot hold the grip. */
export function fingerings(
  grip: Grip,
  part: Pick<Part, 'instrument'>,
  hand: Hand = USUAL_HAND,
  count = 6,
): Fingering[] {
  const held = grip.strings
    .flatMap((string, index): Held[] => (string.fret ? [{ string: index + 1, fret: string.fret }] : []))
    .sort((a, b) => a.fret - b.fret || b.string - a.string)
  const fixed = grip.strings.map((string) => string.finger)
  const { capo, scaleLengthMm } = part.instrument
  const frame: Frame = {
    grip,
    hand,
    inner: innerMuted(grip),
    placeMm: new Map(held.map(({ fret }) => [fret, fingerPlaceMm(fret + capo, scaleLengthMm)])),
  }
  const best: { holds: Hold[]; cost: number }[] = []
  for (const holds of holdings(held, grip)) {
    if (
      holds.some((hold) =>
        hold.strings.some((string) => fixed[string - 1] && fixed[string - 1] !== hold.finger),
      )
    )
      continue
    const cost = costOf(holds, frame)
    if (best.length === count && cost >= best[count - 1]!.cost) continue
    const at = best.findIndex((other) => cost < other.cost)
    best.splice(at === -1 ? best.length : at, 0, { holds, cost })
    if (best.length > count) best.pop()
  }
  return best.map((one) => told(one.holds, frame))
}

/**
 * All ways to group held strings under fingers: each fret's strings under one flat finger or under several,
 * fingers rising with the frets.
 */
function holdings(held: Held[], grip: Grip): Hold[][] {
  const frets = [...new Set(held.map((place) => place.fret))]
  const lowest = held.reduce((most, place) => Math.max(most, place.string), 0)
  const results: Hold[][] = []
  const place = (index: number, nextFinger: number, holds: Hold[]): void => {
    // Each fret still to come needs a finger of its own.
    if (nextFinger + frets.length - index > 4 + (holds.some((hold) => hold.finger === 'T') ? 0 : 1)) return
    if (index === frets.length) {
      results.push(holds)
      return
    }
    const fret = frets[index]!
    const strings = held.filter((entry) => entry.fret === fret).map((entry) => entry.string)
    for (const groups of groupings(strings, grip, fret)) {
      for (let first = nextFinger; first + groups.length <= 4; first++)
        place(index + 1, first + groups.length, [
          ...holds,
          ...groups.map((group, offset): Hold => ({
            finger: FINGERS[first + offset]!,
            fret,
            strings: group,
          })),
        ])
    }
    if (strings.includes(lowest) && !holds.some((hold) => hold.finger === 'T') && lowest >= 5) {
      const rest = strings.filter((string) => string !== lowest)
      const thumb: Hold = { finger: 'T', fret, strings: [lowest] }
      if (rest.length === 0) place(index + 1, nextFinger, [...holds, thumb])
      else
        for (const groups of groupings(rest, grip, fret))
          for (let first = nextFinger; first + groups.length <= 4; first++)
            place(index + 1, first + groups.length, [
              ...holds,
              thumb,
              ...groups.map((group, offset): Hold => ({
                finger: FINGERS[first + offset]!,
                fret,
                strings: group,
              })),
            ])
    }
  }
  place(0, 0, [])
  return results
}

/**
 * Strings at one fret split into runs each under one finger, low strings first. A run may not cover a
 * string that must ring lower.
 */
function groupings(strings: number[], grip: Grip, fret: number): number[][][] {
  if (strings.length === 0) return [[]]
  const all: number[][][] = []
  for (let take = strings.length; take >= 1; take--) {
    const run = strings.slice(0, take)
    const covered = grip.strings.slice(run.at(-1)! - 1, run[0])
    if (run.length > 1 && covered.some((string) => string.fret !== null && string.fret < fret)) continue
    for (const rest of groupings(strings.slice(take), grip, fret)) all.push([run, ...rest])
  }
  return all
}

/** What all fingerings of one grip share. */
interface Frame {
  grip: Grip
  hand: Hand
  inner: number[]
  placeMm: ReadonlyMap<number, number>
}

const stretchOf = (a: Hold, b: Hold, { placeMm, hand }: Frame): Stretch => ({
  from: a.finger,
  to: b.finger,
  mm: Math.abs(placeMm.get(b.fret)! - placeMm.get(a.fret)!),
  limitMm: fingerSpanMm(a.finger, b.finger, hand),
})
const shareOf = (stretch: Stretch): number => stretch.mm / Math.max(1, stretch.limitMm)

/** Two fingers in one fret with several strings held higher between them: one reaches over the others. */
function reachesOver(low: Hold, high: Hold, grip: Grip): boolean {
  const [from, to] = [high.strings[0] ?? 0, low.strings.at(-1) ?? 0].sort((a, b) => a - b)
  const between = grip.strings.slice(from, (to ?? 1) - 1)
  return between.filter(({ fret }) => fret !== null && fret > low.fret).length > 1
}

/** Several fingers in one fret: side by side they fit, far apart the hand has to turn. */
function crowding(holds: readonly Hold[], grip: Grip): number {
  let cost = 0
  for (const [index, hold] of holds.entries()) {
    const before = holds[index - 1]
    if (before?.fret !== hold.fret) continue
    const apart = Math.abs((before.strings[0] ?? 0) - (hold.strings[0] ?? 0))
    cost += 0.15 + 0.2 * Math.max(0, apart - 2) + (reachesOver(before, hold, grip) ? 3 : 0)
  }
  return cost
}

/** What a finger that lies flat over several strings costs. */
function flatCost(hold: Hold, grip: Grip): number {
  if (hold.strings.length < 2) return 0
  let cost = 0
  const width = hold.strings[0]! - hold.strings.at(-1)! + 1
  const damped = grip.strings
    .slice(hold.strings.at(-1)! - 1, hold.strings[0])
    .filter((string) => string.fret === null).length
  cost += hold.finger === '1' ? 0.4 + width * 0.25 : 0.55 + width * 0.42 + (hold.finger === '3' ? 0 : 0.7)
  // A string in a flat finger's way that must not ring has to be touched dead by its tip.
  // It has to end exactly before an open string that rings: single fingers do that more surely.
  const beside = grip.strings[(hold.strings.at(-1) ?? 1) - 2]
  if (beside?.fret === 0) cost += 1.4
  cost += damped * 1.1 + (width - hold.strings.length - damped) * (hold.finger === '1' ? 0.15 : 0.5)
  return cost
}

/** What a fingering asks of the hand; hundreds are compared, so nothing is put into words here. */
function costOf(holds: readonly Hold[], frame: Frame): number {
  const { grip, inner } = frame
  let cost = holds.length * 0.55
  for (let a = 0; a < holds.length; a++)
    for (let b = a + 1; b < holds.length; b++) {
      const share = shareOf(stretchOf(holds[a]!, holds[b]!, frame))
      // Fingers crammed into one fret are slower to set than fingers spread a fret each.
      if (share > 0.9) cost += 0.3 + 6 * (share - 0.9)
      else if (share > 0.7) cost += 1.5 * (share - 0.7)
    }
  for (const hold of holds) cost += hold.finger === 'T' ? 1.4 : 0
  for (const hold of holds) cost += flatCost(hold, grip)
  cost += crowding(holds, grip)
  // Skipping a finger without need (1 and 3 on neighbouring frets) costs a little, so that the plain order
  // wins.
  const used = holds.map((hold) => FINGERS.indexOf(hold.finger)).filter((index) => index >= 0)
  const frets = holds.filter((hold) => hold.finger !== 'T').map((hold) => hold.fret)
  if (used.length)
    cost +=
      0.12 * used[0]! +
      used
        .slice(1)
        .reduce(
          (sum, finger, index) =>
            sum + 0.42 * Math.abs(finger - used[index]! - Math.max(1, frets[index + 1]! - frets[index]!)),
          0,
        )
  cost += inner.length * 0.7
  if (grip.strings.some((string) => string.fret === 0) && Math.max(0, ...frets) > 5) cost += 0.4
  return cost
}

/**
 * A fingering with its measures and reasons, the widest stretch for its fingers first: that is the one to
 * say.
 */
function told(holds: readonly Hold[], frame: Frame): Fingering {
  const { grip, inner } = frame
  const stretches = holds.flatMap((a, index) => holds.slice(index + 1).map((b) => stretchOf(a, b, frame)))
  const reasons = stretches
    .filter((stretch) => shareOf(stretch) > 1)
    .sort((a, b) => shareOf(b) - shareOf(a))
    .map(
      (stretch) =>
        `fingers ${stretch.from} and ${stretch.to} ${Math.round(stretch.mm)} mm apart, ` +
        `${Math.round(stretch.limitMm)} mm is comfortable`,
    )
  for (const hold of holds) {
    if (hold.finger === 'T') reasons.push('the thumb holds the low string')
    const width = hold.strings[0]! - hold.strings.at(-1)! + 1
    if (hold.strings.length > 1)
      reasons.push(
        width >= 4
          ? `finger ${hold.finger} flat over ${width} strings`
          : `finger ${hold.finger} holds ${hold.strings.length} strings`,
      )
  }
  if (inner.length)
    reasons.push(
      inner.length === 1
        ? `string ${inner[0]} is damped between sounding ones`
        : `strings ${inner.join(' and ')} are damped between sounding ones`,
    )
  return {
    fingers: grip.strings.map((_, index) => holds.find((hold) => hold.strings.includes(index + 1))?.finger),
    barres: holds
      .filter((hold) => hold.strings.length > 1)
      .map((hold) => ({
        finger: hold.finger,
        fret: hold.fret,
        fromString: hold.strings[0]!,
        toString: hold.strings.at(-1)!,
      })),
    stretches,
    difficulty: Math.min(10, Math.round(costOf(holds, frame) * 10) / 10),
    reasons,
  }
}

/** Muted strings that lie between sounding ones. */
function innerMuted(grip: Grip): number[] {
  const sounding = grip.strings.flatMap((string, index) => (string.fret === null ? [] : [index + 1]))
  return grip.strings.flatMap((string, index) =>
    string.fret === null && index + 1 > sounding[0]! && index + 1 < sounding.at(-1)! ? [index + 1] : [],
  )
}

const DIFFICULTIES: readonly (readonly [below: number, word: string])[] = [
  [1.6, 'easy'],
  [3, 'moderate'],
  [4.6, 'demanding'],
  [6.5, 'hard'],
  [9, 'at the limit'],
]
/** What a fingering asks of the hand, in a word. */
export const difficultyWord = (difficulty: number): string =>
  DIFFICULTIES.find(([below]) => difficulty < below)?.[1] ?? 'beyond most hands'

/**
 * A grip with the fingers of a fingering written on it, and the first finger's barre where it lies over
 * three strings or more.
 */
export function fingeredGrip(grip: Grip, fingering: Fingering): Grip {
  const barre = fingering.barres.find(
    (entry) => entry.finger === '1' && entry.fromString - entry.toString >= 2,
  )
  return {
    strings: grip.strings.map((string, index) => ({
      fret: string.fret,
      ...(fingering.fingers[index] ? { finger: fingering.fingers[index] } : {}),
    })),
    ...(barre ? { barre: { fret: barre.fret, fromString: barre.fromString, toString: barre.toString } } : {}),
  }
}

const FINGER_WORDS: Record<Finger, string> = {
  T: 'thumb',
  1: 'first finger',
  2: 'second finger',
  3: 'third finger',
  4: 'little finger',
}
/**
 * The hand on a grip: "first finger fret 3, third finger fret 5, 58 mm apart on a 648 mm scale". Empty when
 * nothing is held.
 */
export function fingeringWords(grip: Grip, fingering: Fingering, part: Pick<Part, 'instrument'>): string {
  const held = new Map(
    grip.strings.flatMap((string, index) => {
      const finger = fingering.fingers[index]
      return finger && string.fret ? [[finger, string.fret] as const] : []
    }),
  )
  const order = (finger: Finger): number => ['T', ...FINGERS].indexOf(finger)
  const words = [...held]
    .sort(([a], [b]) => order(a) - order(b))
    .map(([finger, fret]) => `${FINGER_WORDS[finger]} fret ${fret}`)
  const mm = Math.round(Math.max(0, ...fingering.stretches.map((stretch) => stretch.mm)))
  return [...words, ...(mm ? [`${mm} mm apart on a ${part.instrument.scaleLengthMm} mm scale`] : [])].join(
    ', ',
  )
}
