// A chord to hold against the record: its bass, and its tones in the middle register, struck at the start
// and again half way.
import { readChordSymbol } from '../music/chord-name'
import type { SoundingEvent } from './sounding-event'

const LOWEST_BASS = 40
const LOWEST_TONE = 52
const STRUM_SECONDS = 0.014

/**
 * Events of a chord symbol (sounding) over a stretch; empty when the symbol is not understood. `cents`
 * moves it to the pitch of the record.
 */
export function soundCandidate(
  symbol: string,
  startSeconds: number,
  endSeconds: number,
  cents = 0,
): SoundingEvent[] {
  const chord = readChordSymbol(symbol)
  if (!chord || endSeconds - startSeconds < 0.1) return []
  const bass = LOWEST_BASS + ((chord.bass - LOWEST_BASS + 120) % 12)
  const tones = chord.semitones
    .map((semitones) => LOWEST_TONE + ((chord.root + semitones - LOWEST_TONE + 120) % 12))
    .sort((a, b) => a - b)
  const middle = (startSeconds + endSeconds) / 2
  return [startSeconds, middle].flatMap((at, half) =>
    [bass, ...tones].map((midi, index): SoundingEvent => ({
      string: index + 1,
      startSeconds: at + index * STRUM_SECONDS,
      endSeconds: (half ? endSeconds : middle) - 0.02,
      midi: midi + cents / 100,
      curve: [],
      loudness: 0.7 - 0.03 * index,
      sound: 'steel',
      slurred: false,
      dead: false,
      harmonic: false,
      vibrato: 'none',
      releaseSeconds: 0.08,
    })),
  )
}
