// How much a song sounds: bounds that no real song reaches, so that whatever is read can be unrolled, played
// and checked.
import { figureContent } from '../figure-content'
import type { Content, Song } from '../schema'
import { own, type Problem } from './problem'
import { beatTicks, type Meter } from '../../time/meter'

/** Sounding notes of a whole song, every pass counted. */
const MOST_SOUNDING = 1_000_000
/** Passes of all placements together. */
const MOST_PASSES = 100_000

interface Counted {
  beat: number
  notes: number
}
const counted = new WeakMap<Content, Counted>()

/** Notes one pass of a content sounds at most: a stroke on every string, a tremolo every eighth of a beat. */
function soundingNotes(content: Content, meter: Meter): number {
  const beat = beatTicks(meter)
  const known = counted.get(content)
  if (known?.beat === beat) return known.notes
  const widest = content.grips.reduce((most, { grip }) => Math.max(most, grip.strings.length), 6)
  let notes = (content.strokes.length + content.grips.length) * widest
  for (const note of content.notes) {
    const picked = note.marks.some(({ kind }) => kind === 'tremolo picking')
    notes += picked ? Math.max(1, Math.round((8 * note.lengthTicks) / beat)) : 1
  }
  counted.set(content, { beat, notes })
  return notes
}

export function* soundingProblems(song: Song): Generator<Problem> {
  let notes = 0
  let passes = 0
  for (const placement of Object.values(song.placements)) {
    const figure = placement.kind === 'figure' ? own(song.figures, placement.figureId) : undefined
    if (placement.kind !== 'figure' || !figure) continue
    passes += placement.passes
    notes += placement.passes * soundingNotes(figureContent(song, figure, placement.form), figure.meter)
    const about = { table: 'placements', id: placement.id } as const
    if (passes > MOST_PASSES) yield { message: `figures are played more than ${MOST_PASSES} times`, ...about }
    else if (notes > MOST_SOUNDING)
      yield { message: `more than ${MOST_SOUNDING} notes would sound in all`, ...about }
  }
}
