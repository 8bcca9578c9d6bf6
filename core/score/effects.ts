// What effects of a rig add to what is struck, note by note: an octave, repeats in the time of the song, a
// filter that stands still. Everything else of a rig is told, not played.
import type { Rig } from '../document/schema'
import type { SoundingEvent } from './sounding-event'

const OCTAVE_LOUDNESS = 0.75
const FIRST_REPEAT = 0.6
const EACH_REPEAT = 0.65
const USUAL_REPEATS = 3
/** Softer than this a repeat is not heard. */
const FAINTEST = 0.02
/** So many of a kind are played: each delay or octave multiplies what sounds. */
const MOST = { octave: 2, delay: 1 }
/** Strings of added voices, apart from those of the hand: they do not stop each other. */
const OCTAVE_STRINGS = 40
const REPEAT_STRINGS = 200
const STRINGS_A_REPEAT = 200

/**
 * The events with what a rig adds to them. `secondsAfter` gives the moment so many ticks after a moment, so
 * that repeats fall in time with a band that drifts.
 */
export function throughRig(
  events: SoundingEvent[],
  rig: Rig | undefined,
  secondsAfter: (seconds: number, ticks: number) => number,
): SoundingEvent[] {
  let sounding = events
  const left = { ...MOST }
  for (const effect of rig?.effects ?? []) {
    if (effect.kind === 'octave' && effect.semitones && left.octave-- > 0) {
      const semitones = effect.semitones
      sounding = sounding.flatMap((event) => (event.dead ? [event] : [event, voice(event, semitones)]))
    }
    if (effect.kind === 'filter' && effect.cutoffHz) {
      const cutoffHz = effect.cutoffHz
      sounding = sounding.map((event) => ({
        ...event,
        cutoffHz: Math.min(cutoffHz, event.cutoffHz ?? cutoffHz),
      }))
    }
    if (effect.kind === 'delay' && effect.delayTicks && left.delay-- > 0) {
      const { delayTicks, repeats = USUAL_REPEATS } = effect
      sounding = sounding.flatMap((event) => [
        event,
        ...Array.from({ length: repeats }, (_, index) =>
          repeated(event, index, secondsAfter(event.startSeconds, delayTicks * (index + 1))),
        ).filter(({ loudness }) => loudness > FAINTEST),
      ])
    }
  }
  return sounding
}

const voice = (event: SoundingEvent, semitones: number): SoundingEvent => ({
  ...event,
  string: event.string + OCTAVE_STRINGS,
  midi: event.midi + semitones,
  loudness: event.loudness * OCTAVE_LOUDNESS,
})

const repeated = (event: SoundingEvent, index: number, startSeconds: number): SoundingEvent => ({
  ...event,
  string: event.string + REPEAT_STRINGS + index * STRINGS_A_REPEAT,
  startSeconds,
  endSeconds: startSeconds + event.endSeconds - event.startSeconds,
  loudness: event.loudness * FIRST_REPEAT * EACH_REPEAT ** index,
})
