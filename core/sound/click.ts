// The click of the count-in, and over the record.
import type { SoundingEvent } from '../timeline/sounding-event'

/** One click; the first beat of a bar is higher. */
export const click = (seconds: number, first: boolean): SoundingEvent => ({
  string: 37,
  startSeconds: seconds,
  endSeconds: seconds + 0.2,
  midi: first ? 76 : 37,
  curve: [],
  loudness: first ? 0.9 : 0.7,
  sound: 'drums',
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none',
  releaseSeconds: 0.1,
})
