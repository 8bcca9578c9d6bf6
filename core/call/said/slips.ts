// What cannot be right in a call as it was read: a stretch no hand has, a last bar of chords not full.
import { barTicks, beatTicks } from '../../time/meter'
import { fraction } from '../reading'
import type { Build, Slip } from './build'

/** The widest span of fretted strings at once that is taken without a word, in frets. */
const WIDEST_SPAN = 5

function stretched(frets: readonly number[]): [number, number] | undefined {
  const held = frets.filter((fret) => fret > 0)
  const [low, high] = [Math.min(...held), Math.max(...held)]
  return held.length > 1 && high - low > WIDEST_SPAN ? [low, high] : undefined
}

function stretchSlips(b: Build): Slip[] {
  const played = b.moments.flatMap(({ notes }) =>
    notes[0] ? [{ at: notes[0].at, end: notes[0].end, frets: notes.map((note) => note.fret) }] : [],
  )
  const held = b.grips.map(({ at, end, grip }) => ({
    at,
    end,
    frets: grip.strings.map((one) => one.fret ?? 0),
  }))
  return [...played, ...held].flatMap(({ at, end, frets }) => {
    const span = stretched(frets)
    if (!span) return []
    const which = `Frets ${span[0]} and ${span[1]} at once`
    return [{ at, end, message: `${which} are a stretch no hand has: is one of them another?` }]
  })
}

/** Chords whose lengths were said and that end within a bar. */
function barSlips(b: Build): Slip[] {
  const last = b.grips.at(-1)
  if (last?.lengthTicks === undefined || last.assumed || b.moments.length > 0 || b.grips.length < 2) return []
  const bar = barTicks(b.context.meter)
  const over = (last.startTicks + last.lengthTicks) % bar
  if (over === 0) return []
  const beat = beatTicks(b.context.meter)
  const share = `${fraction(over / beat)} of ${fraction(bar / beat)} beats`
  return [{ at: last.at, end: last.end, message: `The last bar holds ${share}: is a length missing?` }]
}

/** Slips of everything that was performed. */
export const slipsOfAll = (b: Build): Slip[] => [...stretchSlips(b), ...barSlips(b)]
