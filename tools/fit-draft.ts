// Lessons for the network that says which notes of a chord sound: guitars alone, drawn at random.
import { toneCandidates } from '../core/hear/draft/chord-tones'
import { strokeLooks } from '../core/hear/draft/strokes'
import { quietJob } from '../core/hear/job'
import { oneGuitar } from '../demo/evaluation/one-guitar'
import type { Sounds } from '../demo/evaluation/render'
import { nodeFft } from '../node/fft'
import type { Group } from './fit-net'

const FIRST_SEED = 1000
const SCENES = 140
/** Two of three with the shipped bank; the bank that is measured with is not among them. */
const BANKS: readonly Sounds[] = ['house', 'house', 'fourth']
const RANGE = { low: 33, high: 88 }
/** A stroke is the one of the truth when it lies so near. */
const NEAR_SECONDS = 0.05

export async function chordToneGroups(): Promise<Group[]> {
  const makeFft = await nodeFft()
  const groups: Group[] = []
  for (let scene = 0; scene < SCENES; scene++) {
    const { events, tuningCents, seconds, ...recording } = await oneGuitar(
      'chords',
      FIRST_SEED + scene,
      BANKS[scene % BANKS.length]!,
    )
    const wish = { ...RANGE, tuningCents, side: 'all' as const, from: 0, to: seconds }
    const { looks, all } = await strokeLooks(recording, wish, makeFft, quietJob)
    for (const { start, after, before } of looks) {
      const near = events.filter(({ startSeconds }) => Math.abs(startSeconds - start) <= NEAR_SECONDS)
      if (!near.length) continue
      for (const candidate of toneCandidates(after, before, all))
        groups.push({
          rows: [candidate.input],
          right: 0,
          target: near.some(({ midi }) => midi === candidate.midi) ? 1 : 0,
        })
    }
  }
  return groups
}
