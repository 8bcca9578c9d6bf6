// `npm run evaluate:evidence`: how often the answers about a place of a record are right, and how often they
// are "cannot tell", on the demo songs played anew with other sounds: a part alone, in the band, and 6 dB
// under it. Prints a table and how right answers of each measured strength are.
import { readFileSync } from 'node:fs'
import { openBank } from '../core/sound/bank'
import { bendOf, isMutedShort, isPitchSounding, wasAttacked } from '../core/listen/evidence/evidence'
import type { MakeFft } from '../core/listen/features/spectrum'
import type { SoundingEvent } from '../core/timeline/sounding-event'
import { coldKiln } from '../demo/cold-kiln'
import { mix } from '../demo/mix'
import { performBand, type Stem } from '../demo/perform-band'
import { seededRandom } from '../demo/random'
import { saltOnTheSignal } from '../demo/salt-on-the-signal'
import { buildScore, type SongPlan } from '../demo/score'
import { nodeFft } from './fft'

const RATE = 44_100
/** Of each kind, so many questions are asked of each part in each mix. */
const QUESTIONS = 60
const KINDS = ['pitch', 'attack', 'mute', 'bend'] as const
type Kind = (typeof KINDS)[number]
interface Asked {
  kind: Kind
  mixed: string
  decided: boolean
  right: boolean
  value: number
}

interface Scene {
  mono: Float32Array
  sampleRate: number
  tuningCents: number
  mixed: string
}

/** The channel in which the part sits. */
function heard(channels: readonly Float32Array[], pan: number): Float32Array {
  const [left, right] = channels as [Float32Array, Float32Array]
  if (Math.abs(pan) < 0.15) return left.map((value, i) => 0.5 * (value + right[i]!))
  return pan < 0 ? left : right
}

const sounds = (event: SoundingEvent, at: number): boolean =>
  event.startSeconds - 0.1 < at && event.endSeconds + 0.25 > at && !event.dead

/** Whether any other pitch sounds there in whose overtones the asked one would lie. */
function explained(stems: readonly Stem[], midi: number, span: { start: number; end: number }): boolean {
  const middle = (span.start + span.end) / 2
  return stems.some(
    (stem) =>
      stem.name !== 'drums' &&
      stem.events.some((event) => {
        if (!sounds(event, middle)) return false
        const apart = Math.round(midi - event.midi)
        return [0, 12, 19, 24, 28, 31, 34, 36].includes(apart) || apart === -12
      }),
  )
}

function pitchQuestions(scene: Scene, stems: readonly Stem[], part: Stem, random: () => number): Asked[] {
  const events = part.events.filter(
    (event) => event.endSeconds - event.startSeconds > 0.15 && !event.dead && event.curve.length === 0,
  )
  return Array.from({ length: QUESTIONS }, (): Asked[] => {
    const event = events[Math.floor(random() * events.length)]
    if (!event) return []
    const truth = random() < 0.5
    const midi =
      Math.round(event.midi - scene.tuningCents / 100) +
      (truth ? 0 : [-2, -1, 1, 2][Math.floor(random() * 4)]!)
    const span = {
      start: event.startSeconds + 0.03,
      end: Math.min(event.endSeconds, event.startSeconds + 0.5),
    }
    if (!truth && explained(stems, midi, span)) return []
    const { verdict, value } = isPitchSounding(scene, midi, span)
    return [
      {
        kind: 'pitch',
        mixed: scene.mixed,
        decided: verdict !== 'cannot tell',
        right: (verdict === 'sounding') === truth,
        value,
      },
    ]
  }).flat()
}

function attackQuestions(scene: Scene, part: Stem): Asked[] {
  return part.events
    .filter((event, index) => {
      const before = part.events[index - 1]
      return (
        before && !event.dead && event.midi !== before.midi && event.startSeconds - before.startSeconds > 0.08
      )
    })
    .map((event): Asked => {
      const { verdict, value } = wasAttacked(scene, Math.round(event.midi), event.startSeconds)
      return {
        kind: 'attack',
        mixed: scene.mixed,
        decided: verdict !== 'cannot tell',
        right: (verdict === 'slurred') === event.slurred,
        value,
      }
    })
}

function muteQuestions(scene: Scene, part: Stem): Asked[] {
  return part.events
    .filter(
      (event) =>
        !event.dead && (event.palmMute !== undefined || event.endSeconds - event.startSeconds > 0.45),
    )
    .map((event): Asked => {
      const next = part.events.find(
        (other) => other.string === event.string && other.startSeconds > event.startSeconds + 0.02,
      )
      const until = Math.min(event.startSeconds + 1, next?.startSeconds ?? event.endSeconds)
      const { verdict, value } = isMutedShort(
        scene,
        Math.round(event.midi - scene.tuningCents / 100),
        event.startSeconds,
        until,
      )
      return {
        kind: 'mute',
        mixed: scene.mixed,
        decided: verdict !== 'cannot tell',
        right: (verdict === 'short') === (event.palmMute !== undefined),
        value,
      }
    })
}

function bendQuestions(scene: Scene, part: Stem, makeFft: MakeFft): Asked[] {
  return part.events
    .filter(
      (event) => !event.dead && event.vibrato === 'none' && event.endSeconds - event.startSeconds > 0.25,
    )
    .map((event): Asked => {
      const midi = Math.round(event.midi - scene.tuningCents / 100)
      const truth = 100 * Math.max(0, ...event.curve.map(({ semitones }) => semitones))
      const span = { start: event.startSeconds + 0.02, end: event.endSeconds }
      const { verdict, value } = bendOf(scene, midi, span, makeFft)
      return {
        kind: 'bend',
        mixed: scene.mixed,
        decided: verdict !== 'cannot tell',
        right: Math.abs(value - truth) <= 30,
        value,
      }
    })
}

/** A part in a mix: alone, with the band, or under it. */
function mixes(stems: readonly Stem[], part: Stem): { mixed: string; stems: Stem[] }[] {
  const others = stems.filter((stem) => stem !== part)
  return [
    { mixed: 'alone', stems: [part] },
    { mixed: 'in the band', stems: [part, ...others] },
    { mixed: '6 dB under', stems: [{ ...part, gain: part.gain / 2 }, ...others] },
  ]
}

const SOUNDS: Record<string, SoundingEvent['sound'][]> = {
  g1: ['distorted', 'driven'],
  g2: ['clean', 'driven'],
  kiln: ['distorted', 'clean'],
}

const file = readFileSync('public/sound/bank.sf3')
const bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
const makeFft = await nodeFft()
const random = seededRandom(Number(process.env.SEED ?? 12))
const asked: Asked[] = []
const plans: SongPlan[] = [saltOnTheSignal, coldKiln(false)]
for (const plan of plans) {
  const score = buildScore(plan, { hash: '0'.repeat(64) })
  const all = performBand(score, { timingSeconds: 0.0055 })
  // A minute and a half of each is enough.
  const seconds = 170
  const from = plan.id === 'salt-on-the-signal' ? 30 : 0
  const cut = (stem: Stem): Stem => ({
    ...stem,
    events: stem.events
      .filter(({ startSeconds }) => startSeconds >= from && startSeconds < seconds - 1)
      .map((event) => ({
        ...event,
        startSeconds: event.startSeconds - from,
        endSeconds: event.endSeconds - from,
      })),
  })
  const stems = all.map(cut)
  for (const [name, kinds] of Object.entries(SOUNDS)) {
    const found = stems.find((stem) => stem.name === name)
    if (!found) continue
    for (const sound of kinds) {
      const part = { ...found, events: found.events.map((event) => ({ ...event, sound })) }
      for (const { mixed, stems: together } of mixes(
        stems.map((stem) => (stem === found ? part : stem)),
        part,
      )) {
        const channels = mix(bank, together, {
          sampleRate: RATE,
          seconds: seconds - from,
          targetRms: 0.15,
          drive: 1.1,
          reverbSeconds: 1.2,
        })
        const scene = {
          mono: heard(channels, part.pan),
          sampleRate: RATE,
          tuningCents: plan.tapeCents,
          mixed,
        }
        asked.push(
          ...pitchQuestions(scene, together, part, random),
          ...attackQuestions(scene, part),
          ...muteQuestions(scene, part),
          ...bendQuestions(scene, part, makeFft),
        )
        console.error(plan.id, name, sound, mixed)
      }
    }
  }
}
console.log('kind     mix            asked  decided    right')
for (const kind of KINDS)
  for (const mixed of ['alone', 'in the band', '6 dB under']) {
    const own = asked.filter((one) => one.kind === kind && one.mixed === mixed)
    const decided = own.filter((one) => one.decided)
    const right = decided.filter((one) => one.right).length / Math.max(1, decided.length)
    console.log(
      kind.padEnd(8),
      mixed.padEnd(14),
      String(own.length).padStart(5),
      `${Math.round((100 * decided.length) / Math.max(1, own.length))} %`.padStart(8),
      right.toFixed(3).padStart(8),
    )
  }
