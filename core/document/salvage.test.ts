// Whatever is wrong with a song, what can be read of it is a song, and what was left out is said.
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { dice, type Dice } from '../../tests/support/random-transactions'
import { readSong } from './migrations'
import { salvageSong } from './salvage'

type Plain = Record<string, unknown>
const demo = JSON.parse(readFileSync('demo/songs/cold-kiln.json', 'utf8')) as Plain
const TABLES = ['sources', 'sections', 'parts', 'figures', 'placements'] as const

/** Breaks some rows of a song: gone, of another shape, pointing elsewhere. */
function broken(roll: Dice): Plain {
  const copy = structuredClone(demo)
  for (let hits = 0; hits <= roll.below(4); hits++) {
    const table = copy[roll.one(TABLES)] as Record<string, Plain>
    const ids = Object.keys(table)
    if (ids.length === 0) continue
    const id = roll.one(ids)
    const row = table[id]!
    const key = roll.one(Object.keys(row))
    const ways = [
      () => Reflect.deleteProperty(table, id),
      () => Reflect.deleteProperty(row, key),
      () => (row[key] = roll.one([null, -1, 'elsewhere', {}, 1e308])),
    ]
    roll.one(ways)()
  }
  return copy
}

describe('what is salvaged', () => {
  it('is always a song that can be read, with a word for everything left out', () => {
    const roll = dice(21)
    for (let count = 0; count < 120; count++) {
      const data = broken(roll)
      const salvaged = must(salvageSong(data))
      expect(readSong(JSON.parse(JSON.stringify(salvaged.song))).ok).toBe(true)
      for (const words of salvaged.leftOut) expect(words).not.toMatch(/expected|received|undefined|\[object/i)
    }
  })
  it('is all of a sound song', () => {
    const salvaged = must(salvageSong(demo))
    expect(salvaged.leftOut).toEqual([])
    expect(salvaged.song).toEqual(must(readSong(demo)))
  })
  it('loses with a part only what was the part’s', () => {
    const parts = { ...(demo.parts as Plain) }
    const [gone] = Object.keys(parts)
    Reflect.deleteProperty(parts, gone!)
    const { song } = must(salvageSong({ ...demo, parts }))
    expect(song.partOrder).not.toContain(gone)
    expect(Object.values(song.figures).every(({ partId }) => partId !== gone)).toBe(true)
    expect(Object.keys(song.sections)).toEqual(Object.keys(demo.sections as Plain))
  })
})
