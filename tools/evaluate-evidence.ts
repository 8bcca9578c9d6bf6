// `npm run evaluate:evidence`: how often the answers about a place of a record are right, and how often they
// are "cannot tell", on the demo songs played anew with other sounds: a part alone, in the band, and 6 dB
// under it. Prints a table and how right answers of each measured strength are.
import { readFileSync } from 'node:fs'
import { openBank } from '../core/sound/bank'
import { bendOf } from '../core/hear/evidence/bend'
import { isPitchSounding, wasAttacked } from '../core/hear/evidence/evidence'
import { isMutedShort } from '../core/hear/evidence/mute'
import { nearSound, partSound } from '../core/hear/evidence/part-sound'
import type { MakeFft } from '../core/hear/features/spectrum'
import type { SoundingEvent } from '../core/score/sounding-event'
import { coldKiln } from '../demo/cold-kiln'
import { drawnLine } from '../demo/evaluation/drawn-line'
import { mix } from '../demo/mix'
import { performBand, type Stem } from '../demo/perform-band'
import { seededRandom } from '../demo/random'
import { saltOnTheSignal } from '../demo/salt-on-the-signal'
import { buildScore, type SongPlan } from '../demo/score'
import { nodeFft } from '../node/fft'

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
  near: Float32Array
  sampleRate: number
  tuningCents: number
  mixed: string
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
    const { verdict, value } = isPitchSounding({ ...scene, mono: scene.near }, midi, span)
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

const asksOf =
  (kind: Kind, mixed: string) =>
  ({ verdict, value }: { verdict: string; value: number }, right: boolean): Asked => ({
    kind,
    mixed,
    decided: verdict !== 'cannot tell',
    right,
    value,
  })

function lineQuestions(scene: Scene, part: Stem, makeFft: MakeFft): Asked[] {
  return part.events.slice(1).flatMap((event, index): Asked[] => {
    const midi = Math.round(event.midi)
    const next = part.events[index + 2]?.startSeconds ?? event.endSeconds
    const attack = wasAttacked(scene, event.startSeconds, makeFft)
    const asked = [asksOf('attack', scene.mixed)(attack, !event.slurred)]
    const long = next - event.startSeconds >= 0.4
    if (long && !event.curve.length && !event.slurred) {
      const mute = isMutedShort(scene, midi, { start: event.startSeconds, end: next }, makeFft)
      const muted = event.palmMute !== undefined
      asked.push(asksOf('mute', scene.mixed)(mute, (mute.verdict === 'short') === muted))
    }
    if (long && event.palmMute === undefined) {
      const span = { start: event.startSeconds + 0.02, end: next }
      const bend = bendOf(scene, midi, span, makeFft)
      const truth = 100 * Math.max(0, ...event.curve.map(({ semitones }) => semitones))
      asked.push(asksOf('bend', scene.mixed)(bend, Math.abs(bend.value - truth) <= 30))
    }
    return asked
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

const CHORDS: Record<string, SoundingEvent['sound'][]> = {
  g1: ['distorted', 'driven'],
  g2: ['clean', 'driven'],
  kiln: ['distorted', 'clean'],
}
const LINES: SoundingEvent['sound'][] = ['clean', 'driven', 'distorted', 'steel']

const file = readFileSync('public/sound/bank.sf3')
const bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
const makeFft = await nodeFft()
const random = seededRandom(Number(process.env.SEED ?? 12))
const asked: Asked[] = []
const plans: SongPlan[] = [saltOnTheSignal, coldKiln(false)]
/** A minute and a half of each song is enough, from where the whole band plays. */
const SECONDS = 90
const FROM: Record<string, number> = { 'salt-on-the-signal': 30 }
const sounded = { sampleRate: RATE, seconds: SECONDS, targetRms: 0.15, drive: 1.1, reverbSeconds: 1.2 }

/** A part in its mixes, each with its questions. */
function ask(
  stems: readonly Stem[],
  part: Stem,
  tuningCents: number,
  questions: (scene: Scene, all: Stem[]) => Asked[],
): void {
  for (const { mixed, stems: together } of mixes(stems, part)) {
    const channels = mix(bank, together, sounded)
    asked.push(
      ...questions(
        {
          mono: partSound(channels, part.pan),
          near: nearSound(channels, part.pan),
          sampleRate: RATE,
          tuningCents,
          mixed,
        },
        together,
      ),
    )
  }
  console.error(part.name, part.events[0]?.sound)
}

for (const plan of plans) {
  const from = FROM[plan.id] ?? 0
  const stems = performBand(buildScore(plan, { hash: '0'.repeat(64) }), { timingSeconds: 0.0055 }).map(
    (stem) => ({
      ...stem,
      events: stem.events
        .filter(({ startSeconds }) => startSeconds >= from && startSeconds < from + SECONDS - 1)
        .map((event) => ({
          ...event,
          startSeconds: event.startSeconds - from,
          endSeconds: event.endSeconds - from,
        })),
    }),
  )
  for (const [name, kinds] of Object.entries(CHORDS)) {
    const found = stems.find((stem) => stem.name === name)
    for (const sound of found ? kinds : []) {
      const part = { ...found!, events: found!.events.map((event) => ({ ...event, sound })) }
      const band = [part, ...stems.filter((stem) => stem !== found)]
      ask(band, part, plan.tapeCents, (scene, all) => pitchQuestions(scene, all, part, random))
    }
  }
  for (const [index, sound] of LINES.entries()) {
    const events = drawnLine(sound, SECONDS, random)
    const line = { name: 'line', pan: index % 2 ? 0.6 : -0.65, gain: 0.6, room: 0.15, events }
    ask([line, ...stems], line, 0, (scene) => lineQuestions(scene, line, makeFft))
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
      (decided.length ? right.toFixed(3) : '–').padStart(8),
    )
  }
