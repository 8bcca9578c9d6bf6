// The click of the count-in, and over the record.
import type { SoundingEvent } from '../score/sounding-event'

/** The stick on the rim, the one click the bank has. */
const STICK = 37

/** One click; the first beat of a bar is louder. */
export const click = (seconds: number, first: boolean): SoundingEvent => ({
  string: 37,
  startSeconds: seconds,
  endSeconds: seconds + 0.2,
  midi: STICK,
  curve: [],
  loudness: first ? 1 : 0.6,
  sound: 'drums',
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none',
  releaseSeconds: 0.1,
})
