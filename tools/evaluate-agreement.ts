// `npm run evaluate:agreement -- FOLDER`: whether evidence says the same of a guitar track alone and of the
// mix it is in, for recordings that have both: NAME.ogg and NAME.guitar.ogg. What is asked about are notes
// that a draft finds in the guitar alone, and their neighbours.
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { draftNotes, type DraftNote } from '../core/hear/draft/draft'
import { bendOf } from '../core/hear/evidence/bend'
import { isPitchSounding, wasAttacked } from '../core/hear/evidence/evidence'
import { isMutedShort } from '../core/hear/evidence/mute'
import { nearSound } from '../core/hear/evidence/part-sound'
import { measureTuning } from '../core/hear/features/tuning'
import { quietJob } from '../core/hear/job'
import { decodeAudio } from '../node/decode'
import { nodeFft } from '../node/fft'

const FROM_SECONDS = 20
const EVERY_SECONDS = 12
const LOOK_SECONDS = 6
const TUNING_SECONDS = 60
const RANGE = { low: 28, high: 80 }
/** The note itself, and two pitches that are rarely there. */
const STEPS = [0, 1, -2]
const KINDS = ['pitch', 'attack', 'mute', 'bend'] as const
type Kind = (typeof KINDS)[number]
/** Bends within so many cents are the same. */
const SAME_CENTS = 30

const folder = process.argv[2]
if (folder === undefined || !existsSync(folder))
  throw new Error('evaluate:agreement wants a folder of recordings.')
const makeFft = await nodeFft()

interface Place {
  mono: Float32Array
  sampleRate: number
  tuningCents: number
}
async function placeOf(path: string, tuningCents?: number): Promise<Place> {
  const { channels, sampleRate } = await decodeAudio(readFileSync(path))
  const mono = nearSound(channels, 0)
  const piece = mono.subarray(0, TUNING_SECONDS * sampleRate)
  const cents = tuningCents ?? (await measureTuning(piece, sampleRate, makeFft, quietJob)).cents ?? 0
  return { mono, sampleRate, tuningCents: cents }
}

/** An answer that can be held against another of the same question; nothing where it cannot tell. */
type Told = string | number | undefined
const told = ({ verdict }: { verdict: string }): Told => (verdict === 'cannot tell' ? undefined : verdict)

function answers(place: Place, { startSeconds, endSeconds, midi }: DraftNote): [Kind, Told][] {
  const short = { start: startSeconds + 0.03, end: Math.min(endSeconds, startSeconds + 0.5) }
  const whole = { start: startSeconds, end: endSeconds }
  const bend = bendOf(place, midi, whole, makeFft)
  return [
    ...STEPS.map((step): [Kind, Told] => ['pitch', told(isPitchSounding(place, midi + step, short))]),
    ['attack', told(wasAttacked(place, startSeconds, makeFft))],
    ['mute', told(isMutedShort(place, midi, whole, makeFft))],
    ['bend', bend.verdict === 'cannot tell' ? undefined : bend.value],
  ]
}

const same = (one: Told, other: Told): boolean =>
  typeof one === 'number' && typeof other === 'number' ? Math.abs(one - other) <= SAME_CENTS : one === other

type Tally = Map<Kind, { asked: number; both: number; agree: number }>
function count(tally: Tally, alone: [Kind, Told][], mixed: [Kind, Told][]): void {
  for (const [index, [kind, own]] of alone.entries()) {
    const row = tally.get(kind)!
    const other = mixed[index]![1]
    row.asked++
    if (own === undefined || other === undefined) continue
    row.both++
    if (same(own, other)) row.agree++
  }
}

async function tallyOf(name: string): Promise<Tally> {
  const alone = await placeOf(`${folder}/${name}.guitar.ogg`)
  const mixed = await placeOf(`${folder}/${name}.ogg`, alone.tuningCents)
  const tally: Tally = new Map(KINDS.map((kind) => [kind, { asked: 0, both: 0, agree: 0 }]))
  const { mono, sampleRate, tuningCents } = alone
  for (let from = FROM_SECONDS; from + LOOK_SECONDS < mono.length / sampleRate; from += EVERY_SECONDS) {
    const wish = { ...RANGE, side: 'all' as const, from, to: from + LOOK_SECONDS, tuningCents }
    const notes = await draftNotes({ channels: [mono], sampleRate }, wish, makeFft, quietJob)
    for (const note of notes) count(tally, answers(alone, note), answers(mixed, note))
  }
  return tally
}

console.log('recording  kind    asked  both decide  agree')
for (const file of readdirSync(folder).filter((name) => name.endsWith('.guitar.ogg'))) {
  const name = file.replace('.guitar.ogg', '')
  for (const [kind, { asked, both, agree }] of await tallyOf(name))
    console.log(
      name.padEnd(10),
      kind.padEnd(7),
      String(asked).padStart(5),
      String(both).padStart(12),
      (both ? (agree / both).toFixed(2) : '–').padStart(6),
    )
}
