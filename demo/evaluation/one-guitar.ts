// One guitar alone as a recording, drawn at random: chords or a line, through an amplifier or not, a little
// out of tune, in another room each time.
import { mix } from '../mix'
import { seededRandom } from '../random'
import { CHORD_SOUNDS, drawnChords } from './drawn-chords'
import { drawnLine } from './drawn-line'
import { bankOf, colour, type Sounds } from './render'
import type { SoundingEvent } from '../../core/score/sounding-event'

export interface OneGuitar {
  channels: Float32Array[]
  sampleRate: number
  seconds: number
  tuningCents: number
  /** As charted: pitches without the tuning of the tape. */
  events: SoundingEvent[]
}

const SAMPLE_RATE = 44_100
const SECONDS = 40
const MOST_CENTS = 20

/** The sound follows from the seed, everything else is drawn from it. */
export async function oneGuitar(kind: 'chords' | 'line', seed: number, sounds: Sounds): Promise<OneGuitar> {
  const random = seededRandom(seed)
  const sound = CHORD_SOUNDS[seed % CHORD_SOUNDS.length]!
  const events =
    kind === 'chords'
      ? drawnChords({ sound, seconds: SECONDS }, random)
      : drawnLine(sound, SECONDS, random).map((event) => ({ ...event, curve: [] }))
  const tuningCents = Math.round((random() - 0.5) * MOST_CENTS)
  const amplifier = random() < 0.35 ? 2 + 10 * random() : undefined
  const played = events.map((event) => ({
    ...event,
    midi: event.midi + tuningCents / 100,
    ...(amplifier ? { sound: 'clean' as const } : {}),
  }))
  const stem = {
    name: 'guitar',
    pan: random() < 0.5 ? 0 : -0.6,
    gain: 0.6,
    room: 0.1 * random(),
    events: played,
    ...(amplifier ? { amplifier } : {}),
  }
  const mixed = mix(await bankOf(sounds), [stem], {
    sampleRate: SAMPLE_RATE,
    seconds: SECONDS,
    targetRms: 0.15,
    drive: 1 + random() * 0.6,
    reverbSeconds: 0.4 + random(),
  })
  const tilt = (random() - 0.5) * 1.2
  const channels = mixed.map((channel) => colour(channel, random, tilt))
  return { channels, sampleRate: SAMPLE_RATE, seconds: SECONDS, tuningCents, events }
}
