// A score as a band would play it: people a little early or late, a drummer, a singer-like lead. Sounding
// events per stem, in seconds.
import { midiOf } from '../core/music/pitch'
import { sectionPlaces, songTimeMap } from '../core/document/form'
import { strikePart } from '../core/score/sound-song'
import { ticksToSeconds } from '../core/time/beat-grid'
import { barTicks, swungTick, TICKS_PER_QUARTER, beatTicks, isCompound } from '../core/time/meter'
import type { SoundingEvent } from '../core/score/sounding-event'
import { seededRandom } from './random'
import type { Score } from './score'

export interface Stem {
  name: string
  pan: number
  gain: number
  room: number
  events: SoundingEvent[]
  /** How hard an amplifier is driven that the whole stem goes through. */ amplifier?: number
}

const DRUM_KEYS: Record<string, [key: number, loudness: number]> = {
  k: [36, 0.95],
  s: [38, 0.9],
  h: [42, 0.5],
  o: [46, 0.6],
  c: [49, 0.85],
  r: [51, 0.55],
  '1': [48, 0.8],
  '2': [45, 0.8],
  '3': [41, 0.85],
  t: [37, 0.7],
}
const GAINS: Record<string, number> = {
  steel: 0.5,
  clean: 0.62,
  driven: 0.42,
  distorted: 0.46,
  'finger bass': 0.62,
  'pick bass': 0.6,
}
const plain = {
  curve: [],
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none' as const,
  releaseSeconds: 0.12,
}

export function performBand(score: Score, options: { timingSeconds: number }): Stem[] {
  const { plan, song } = score
  const random = seededRandom(plan.seed + 7)
  const gauss = (): number => (random() + random() + random() + random() - 2) * 0.85
  const human = (event: SoundingEvent, laid: number): SoundingEvent => {
    const shift = Math.max(-2.5, Math.min(2.5, gauss())) * options.timingSeconds + laid
    return {
      ...event,
      startSeconds: Math.max(0, event.startSeconds + shift),
      endSeconds: event.endSeconds + shift,
      loudness: Math.max(0.1, Math.min(1, event.loudness * (1 + 0.09 * gauss()))),
    }
  }
  const detuned = (event: SoundingEvent): SoundingEvent => ({
    ...event,
    midi: event.midi + plan.tapeCents / 100,
  })
  const stems = plan.parts.map((part): Stem => {
    const sound = song.parts[part.id]!.sound
    const laid = sound.includes('bass') ? 0.004 : 0.002
    return {
      name: part.id,
      pan: part.pan ?? 0,
      gain: GAINS[sound]!,
      room: sound.includes('bass') ? 0.02 : sound === 'clean' ? 0.3 : 0.13,
      events: strikePart(song, part.id).map((event) => detuned(human(event, laid))),
    }
  })
  return [
    ...stems,
    {
      name: 'drums',
      pan: 0,
      gain: 0.95,
      room: 0.1,
      events: drumEvents(score).map((event) => human(event, 0)),
    },
    {
      name: 'lead',
      pan: 0.04,
      gain: 0.5,
      room: 0.35,
      events: leadEvents(score).map((event) => detuned(human(event, 0.012))),
    },
  ]
}

function drumEvents({ plan, song }: Score): SoundingEvent[] {
  const map = songTimeMap(song)!
  return sectionPlaces(song).flatMap((place, sectionIndex) => {
    let at = place.startTicks
    return place.section.bars.flatMap((bar, barIndex): SoundingEvent[] => {
      const startTicks = at
      at += barTicks(bar.meter)
      const pattern = plan.sections[sectionIndex]!.drums[barIndex]
      if (!pattern) return []
      return pattern.split('/').flatMap((voice) =>
        [...voice.trim()].flatMap((mark, step): SoundingEvent[] => {
          const drum = DRUM_KEYS[mark]
          if (!drum) return []
          const written = (step * TICKS_PER_QUARTER) / 4
          const tick =
            startTicks +
            (plan.swing && !isCompound(bar.meter) ? swungTick(written, plan.swing, bar.meter) : written)
          const startSeconds = ticksToSeconds(map, tick)
          const soft = mark === 'h' && step % 4 !== 0 ? 0.7 : 1
          return [
            {
              ...plain,
              string: drum[0],
              startSeconds,
              endSeconds: startSeconds + 1.5,
              midi: drum[0],
              loudness: drum[1] * soft,
              sound: 'drums',
            },
          ]
        }),
      )
    })
  })
}

/** The lead's "pitch:length" tokens count in quarters, in compound meters in thirds of the bar's half. */
function leadEvents({ plan, song }: Score): SoundingEvent[] {
  const map = songTimeMap(song)!
  return sectionPlaces(song).flatMap((place, sectionIndex) => {
    const section = plan.sections[sectionIndex]!
    if (!section.voice) return []
    const meter = place.section.bars[0]!.meter
    const unit = isCompound(meter) ? (beatTicks(meter) * 2) / 3 : TICKS_PER_QUARTER
    let at = 0
    return section.voice
      .replaceAll('|', ' ')
      .trim()
      .split(/\s+/)
      .flatMap((token): SoundingEvent[] => {
        const [pitch, length] = token.split(':')
        const start = at
        at += Number(length) * unit
        if (pitch === 'r') return []
        const swing = (tick: number): number =>
          ticksToSeconds(map, place.startTicks + (plan.swing ? swungTick(tick, plan.swing, meter) : tick))
        return [
          {
            ...plain,
            string: 1,
            startSeconds: swing(start),
            endSeconds: swing(at) - 0.03,
            midi: midiOf(pitch!)! + plan.tuningSemitones + (section.shift ?? 0),
            loudness: 0.8,
            sound: 'guest',
            program: plan.voiceProgram,
            vibrato: 'narrow',
            curve: [
              { seconds: 0, semitones: -0.4 },
              { seconds: 0.06, semitones: 0 },
            ],
          },
        ]
      })
  })
}
