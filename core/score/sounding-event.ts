import type { SongOrigin } from './origin'
import type { Part, Pressure } from '../document/schema'

/** One note on one string, in seconds of the timeline it is played on. */
export interface SoundingEvent {
  /** Where it is written; undefined for what nobody charted: clicks, guests, candidates. */
  origin?: SongOrigin
  string: number
  startSeconds: number
  endSeconds: number
  /** Sounding pitch as a MIDI number, fractions allowed. */
  midi: number
  curve: { seconds: number; semitones: number }[]
  /** 0–1 */
  loudness: number
  sound: Part['sound'] | 'drums' | 'guest'
  slurred: boolean
  dead: boolean
  /** Noise of the hand on the strings for as long as it lasts; `curve` says how it climbs. */
  scraped?: boolean
  harmonic: boolean
  vibrato: 'none' | 'narrow' | 'wide'
  palmMute?: Pressure
  releaseSeconds: number
  /** A filter that stands still: dull above this. */
  cutoffHz?: number
  /** For guests outside the charted band (the demo's voice): the program of the bank they play. */
  program?: number
}
