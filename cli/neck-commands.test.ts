import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSong } from '../core/document/migrations'
import { must } from '../core/result'
import { improvise, riffs, shapes, tension, zones } from './neck-commands'

const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))

describe('the neck from the command line', () => {
  it('lists zones with their places, in words and as data', () => {
    const { data, words } = zones('A minor pentatonic', {})
    expect(data).toMatchObject({
      tonic: 'A',
      zones: [{ position: 3 }, { position: 5, lowest: '1' }, {}, {}, {}],
    })
    expect(words.split('\n')[1]).toContain('6/5 6/8 5/5 5/7')
    expect(() => zones('A something', {})).toThrow('is no scale')
  })
  it('lists movable shapes, also in another tuning', () => {
    expect(shapes('A', {}).words).toContain('577655  root on string 6, fret 5')
    expect(shapes('D5', { tuning: 'D2 A2 D3 G3 B3 E4' }).words).toContain('root on string')
    expect(() => shapes('H', {})).toThrow('not a chord symbol')
  })
  it('computes tension for gauges given either way round', () => {
    const up = tension({ gauges: '9 11 16 24 32 42' }).words
    expect(tension({ gauges: '42 32 24 16 11 9' }).words).toBe(up)
    expect(up.split('\n')).toHaveLength(6)
    expect(() => tension({ gauges: '9 11' })).toThrow('6 numbers')
  })
  it('says what to improvise with and why, and refuses an unknown section with those there are', () => {
    expect(improvise(salt, { section: 'Verse 1' }).words).toContain('minor pentatonic')
    expect(() => improvise(salt, { section: 'Verse 99' })).toThrow('Verse 1')
  })
  it('puts riffs side by side', () => {
    const { data, words } = riffs(salt)
    expect((data as { riffs: unknown[] }).riffs.length).toBeGreaterThan(3)
    expect(words).toContain('shared:')
  })
})
