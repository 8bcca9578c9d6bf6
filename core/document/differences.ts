// What differs between two contents, said as a teacher would: "bar 2, beat 4: string 5 fret 5 instead of
// fret 3".
import { barTicks, countWords, type Meter } from '../time/meter'
import type { Content, Grip, Note, Stroke } from './schema'

export interface Difference {
  startTicks: number
  barNumber: number
  text: string
}

const marks = (note: Note): string =>
  note.articulations
    .map((articulation) => articulation.kind)
    .sort()
    .join(', ')

/** Low to high, as grips are written. */
const gripText = (grip: Grip): string => {
  const frets = grip.strings.map((string) => string.fret ?? 'x').reverse()
  return frets.join(frets.some((fret) => String(fret).length > 1) ? '-' : '')
}
const strokeText = (stroke: Stroke): string => `${stroke.dead ? 'dead stroke' : 'stroke'} ${stroke.direction}`

/** Differences from `base` to `other`, in time order. Empty when they play the same. */
export function contentDifferences(base: Content, other: Content, meter: Meter): Difference[] {
  const bar = barTicks(meter)
  const found: Difference[] = []
  const say = (startTicks: number, text: string): void => {
    found.push({
      startTicks,
      barNumber: Math.floor(startTicks / bar) + 1,
      text: `bar ${Math.floor(startTicks / bar) + 1}, ${countWords(meter, startTicks % bar)}: ${text}`,
    })
  }
  compare(
    base.notes,
    other.notes,
    (note) => `${note.startTicks}/${note.string}`,
    (before, after) => {
      if (!before) say(after!.startTicks, `string ${after!.string} fret ${after!.fret} added`)
      else if (!after) say(before.startTicks, `string ${before.string} fret ${before.fret} left out`)
      else if (before.fret !== after.fret)
        say(after.startTicks, `string ${after.string} fret ${after.fret} instead of ${before.fret}`)
      else if (marks(before) !== marks(after))
        say(after.startTicks, `${marks(after) || 'plain'} instead of ${marks(before) || 'plain'}`)
      else if (before.lengthTicks !== after.lengthTicks) say(after.startTicks, 'other length')
    },
  )
  compare(
    base.grips,
    other.grips,
    (span) => String(span.startTicks),
    (before, after) => {
      if (!before || !after)
        say(
          (before ?? after)!.startTicks,
          before ? `grip ${gripText(before.grip)} left out` : `grip ${gripText(after!.grip)} added`,
        )
      else if (
        JSON.stringify(before.grip.strings.map((string) => string.fret)) !==
        JSON.stringify(after.grip.strings.map((string) => string.fret))
      )
        say(after.startTicks, `grip ${gripText(after.grip)} instead of ${gripText(before.grip)}`)
    },
  )
  compare(
    base.strokes,
    other.strokes,
    (stroke) => String(stroke.startTicks),
    (before, after) => {
      if (!before || !after)
        say(
          (before ?? after)!.startTicks,
          `${strokeText((before ?? after)!)} ${before ? 'left out' : 'added'}`,
        )
      else if (before.dead !== after.dead)
        say(
          after.startTicks,
          after.dead ? 'dead stroke instead of a sounding one' : 'sounding stroke instead of a dead one',
        )
      else if (before.direction !== after.direction)
        say(after.startTicks, `${after.direction} instead of ${before.direction}`)
      else if (before.palmMute !== after.palmMute)
        say(after.startTicks, `${after.palmMute ?? 'no'} palm mute instead of ${before.palmMute ?? 'none'}`)
    },
  )
  return found.sort((a, b) => a.startTicks - b.startTicks)
}

function compare<T>(
  before: T[],
  after: T[],
  keyOf: (entry: T) => string,
  report: (before: T | undefined, after: T | undefined) => void,
): void {
  const old = new Map(before.map((entry) => [keyOf(entry), entry]))
  for (const entry of after) {
    report(old.get(keyOf(entry)), entry)
    old.delete(keyOf(entry))
  }
  for (const entry of old.values()) report(entry, undefined)
}
