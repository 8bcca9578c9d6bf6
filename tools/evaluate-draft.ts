// `npm run evaluate:draft`: how well a draft hears what one guitar plays. Chords and lines drawn at random
// with a sound bank that nothing is fitted to, and the parts of a demo song: alone, and lines panned to a
// side of the whole band. F of notes with beginning within 50 ms and the pitch exact.
import { readFileSync } from 'node:fs'
import { mean } from 'd3-array'
import { draftNotes } from '../core/hear/draft/draft'
import { quietJob } from '../core/hear/job'
import { openBank } from '../core/sound/bank'
import type { SoundingEvent } from '../core/score/sounding-event'
import { oneGuitar, type OneGuitar } from '../demo/evaluation/one-guitar'
import { canRender } from '../demo/evaluation/render'
import { drawnLine } from '../demo/evaluation/drawn-line'
import { mix } from '../demo/mix'
import { performBand, type Stem } from '../demo/perform-band'
import { seededRandom } from '../demo/random'
import { saltOnTheSignal } from '../demo/salt-on-the-signal'
import { buildScore } from '../demo/score'
import { nodeFft } from '../node/fft'

/** Never among the seeds of tools/fit-draft.ts. */
const FIRST_SEED = 7000
const SCENES = 8
const NEAR_SECONDS = 0.05
const RATE = 44_100
const PIECE_SECONDS = 40
/** Where the demo song is cut out: verses with its chords, and the solo. */
const PIECES = [40, 128]
const makeFft = await nodeFft()
const shipped = readFileSync('public/sound/bank.sf3')
const bank = await openBank(
  shipped.buffer.slice(shipped.byteOffset, shipped.byteOffset + shipped.length) as ArrayBuffer,
)

type Side = 'left' | 'right' | 'all'
async function draftScore(guitar: OneGuitar, side: Side = 'all'): Promise<number> {
  const { channels, sampleRate, tuningCents, seconds } = guitar
  const wish = { from: 0.2, to: seconds - 1, side, low: 38, high: 88, tuningCents }
  const found = await draftNotes({ channels, sampleRate }, wish, makeFft, quietJob)
  const wanted = guitar.events.filter(
    ({ dead, startSeconds }) => !dead && startSeconds >= wish.from && startSeconds < wish.to,
  )
  const left = new Set(found)
  let hits = 0
  for (const { midi, startSeconds } of wanted) {
    const hit = [...left].find(
      (note) => note.midi === Math.round(midi) && Math.abs(note.startSeconds - startSeconds) <= NEAR_SECONDS,
    )
    if (hit) hits += 1
    if (hit) left.delete(hit)
  }
  return (2 * hits) / (found.length + wanted.length || 1)
}

function pieceOf(stem: Stem, from: number): Stem {
  const inside = stem.events.filter(
    ({ startSeconds }) => startSeconds >= from && startSeconds < from + PIECE_SECONDS - 1,
  )
  const shifted = inside.map((event) => ({
    ...event,
    startSeconds: event.startSeconds - from,
    endSeconds: event.endSeconds - from,
  }))
  return { ...stem, events: shifted }
}

/** What is heard of one stem of those that play. */
function recorded(stems: readonly Stem[], events: readonly SoundingEvent[], tuningCents: number): OneGuitar {
  const channels = mix(bank, [...stems], {
    sampleRate: RATE,
    seconds: PIECE_SECONDS,
    targetRms: 0.15,
    drive: 1.1,
    reverbSeconds: 1.2,
  })
  const written = events.map((event) => ({ ...event, midi: event.midi - tuningCents / 100 }))
  return { channels, sampleRate: RATE, seconds: PIECE_SECONDS, tuningCents, events: written }
}

const rows = new Map<string, number[]>()
const add = (name: string, score: number): void => void rows.set(name, [...(rows.get(name) ?? []), score])

if (canRender('other'))
  for (let seed = FIRST_SEED; seed < FIRST_SEED + SCENES; seed++)
    for (const kind of ['chords', 'line'] as const)
      add(`${kind} alone, another bank`, await draftScore(await oneGuitar(kind, seed, 'other')))
else console.log('the other sound bank is not on this machine (package timgm6mb-soundfont)')

const plan = saltOnTheSignal
const band = performBand(buildScore(plan, { hash: '0'.repeat(64) }), { timingSeconds: 0.0055 })
const random = seededRandom(77)
for (const from of PIECES) {
  const stems = band.map((stem) => pieceOf(stem, from))
  const solo = from === PIECES[1]
  for (const stem of stems.filter(
    ({ name, events }) => ['g1', 'g2', 'ac'].includes(name) && events.length > 20,
  )) {
    const alone = stem.name === 'g2' && solo ? 'solo alone' : 'chords alone'
    add(`${alone}, demo song`, await draftScore(recorded([stem], stem.events, plan.tapeCents)))
    if (alone === 'solo alone')
      add('solo in the band', await draftScore(recorded(stems, stem.events, plan.tapeCents), 'right'))
  }
  for (const [index, sound] of (['clean', 'driven', 'distorted'] as const).entries()) {
    const events = drawnLine(sound, PIECE_SECONDS, random).map((event) => ({ ...event, curve: [] }))
    const line: Stem = { name: 'line', pan: index % 2 ? 0.6 : -0.65, gain: 0.6, room: 0.15, events }
    add('line alone', await draftScore(recorded([line], events, 0)))
    const others = stems.filter(({ pan }) => Math.abs(pan - line.pan) > 0.5)
    add(
      'line panned in the band',
      await draftScore(recorded([line, ...others], events, 0), index % 2 ? 'right' : 'left'),
    )
  }
}
for (const [name, scores] of rows)
  console.log(name.padEnd(32) + mean(scores)!.toFixed(2).padStart(6) + `   of ${scores.length}`)
