// Lines as they are typed in the call line, for tests that reason about notes on a neck.
import { stringLetters } from '../../core/call/strings'
import { parseCall } from '../../core/call/parse'
import { newPart, newSong } from '../../core/document/new-song'
import type { Content, Part } from '../../core/document/schema'
import { lineOf, pitched } from '../../core/neck/lines/line'
import { tuningsFor } from '../../core/instrument/tunings'
import { TICKS_PER_QUARTER } from '../../core/time/meter'

export const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
export const dropD: Part = {
  ...guitar,
  tuning: tuningsFor('guitar-6').find((tuning) => tuning.name === 'Dropped low string to D')!,
}
export const bass = newPart({ id: 'b', name: 'Bass', kind: 'bass-4' })

/** What a call says, in eighths of 4/4. */
export function said(text: string, part: Part = guitar): Content {
  const result = parseCall(text, {
    part,
    letters: stringLetters(newSong({ id: 's', title: 's', artist: '' }), part),
    meter: { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: TICKS_PER_QUARTER / 2,
  })
  if (!result.ok) throw new Error(result.error.message)
  return result.value.content
}
/** The sounding pitches of a content's notes, in order. */
export const midisOf = (content: Content, part: Part = guitar): number[] =>
  lineOf(pitched(content), part).map((note) => note.midi)
