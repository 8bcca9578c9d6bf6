// Random walks over all transactions on all demo songs: whatever is sent, nothing throws, every document that
// comes out can be read again, and every step is taken back exactly.
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { placementTicks } from '../document/figure-content'
import { sectionTicks } from '../document/form'
import { readSong } from '../document/migrations'
import { applyPatch, invertPatch } from '../document/patch'
import type { Song } from '../document/schema'
import { transact, type Applied } from './transact'
import { dice, RANDOM_ARGS, TRANSACTION_NAMES } from '../../tests/support/random-transactions'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const DEMOS = ['salt-on-the-signal', 'cold-kiln', 'ninth-platform']
const STEPS = Number(process.env.WALK_STEPS ?? 300)

/**
 * Placements of one cell that lie over each other or beyond their section, found the slow and obvious
 * way.
 */
function misplaced(song: Song): string[] {
  const all = Object.values(song.placements)
  const end = (index: number): number => all[index]!.startTicks + placementTicks(song, all[index]!)
  const found = all
    .filter((placement, index) => end(index) > sectionTicks(song.sections[placement.sectionId]!))
    .map((placement) => `${placement.id} beyond its section`)
  for (let a = 0; a < all.length; a++)
    for (let b = a + 1; b < all.length; b++) {
      const [one, two] = [all[a]!, all[b]!]
      if (one.partId !== two.partId || one.sectionId !== two.sectionId) continue
      if (one.startTicks < end(b) && two.startTicks < end(a)) found.push(`${one.id} over ${two.id}`)
    }
  return found
}

/** One step of a walk; undefined when it was refused, which it says in a sentence. */
function step(song: Song, roll: ReturnType<typeof dice>): Applied | undefined {
  const name = roll.one(TRANSACTION_NAMES)
  const args = RANDOM_ARGS[name](song, roll)
  const result = transact(song, name, args as never)
  if (result.ok) return result.value
  expect(result.refusal.message, name).toMatch(/^\S.{12,}[.!?]$/s)
  expect(result.refusal.message).not.toMatch(/expected|invalid|undefined|NaN|\[object/i)
  return undefined
}

describe('random walks over all transactions', () => {
  it('send every transaction there is', () =>
    expect(Object.keys(RANDOM_ARGS).sort()).toEqual([...TRANSACTION_NAMES].sort()))

  it.each(DEMOS.flatMap((name) => [1, 2, 3].map((seed) => [name, seed] as const)))(
    'on %s, seed %i, leave a song that can be read again after every step',
    (name, seed) => {
      const start = demo(name)
      const roll = dice(seed)
      let song = start
      const done: Applied[] = []
      for (let count = 0; count < STEPS; count++) {
        const applied = step(song, roll)
        if (!applied) continue
        expect(misplaced(applied.song), applied.label).toEqual([])
        song = applied.song
        done.push(applied)
        const read = readSong(JSON.parse(JSON.stringify(song)))
        if (!read.ok) throw new Error(`${applied.label}: ${read.refusal.message}`)
      }
      expect(done.length).toBeGreaterThan(STEPS / 8)
      for (const { patch } of done.reverse())
        song = applyPatch(song, invertPatch(JSON.parse(JSON.stringify(patch))))
      expect(song).toEqual(start)
    },
  )
})
