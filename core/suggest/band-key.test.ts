import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { ANALYSIS_VERSION, analysisSchema, type Analysis } from '../hear/analysis'
import { readSong } from '../document/migrations'
import { newPart, newSong } from '../document/new-song'
import type { Song } from '../document/schema'
import { transact } from '../editing/transact'
import { must } from '../result'
import { bandKey } from './band-key'

const BARS = 24
const letters = (play: (bar: number) => string): string[] =>
  Array.from({ length: BARS }, (_, bar) => play(bar))
const inB = (bar: number): boolean => bar >= 8 && bar < 16
/** Bars of two seconds; sections A, B, A of eight bars each. */
function heard(more: Partial<Analysis>): Analysis {
  const downbeats = Array.from({ length: BARS }, (_, bar) => 1 + 2 * bar)
  const sections = [0, 8, 16].map((bar, index) => ({
    start: 1 + 2 * bar,
    end: 17 + 2 * bar,
    label: index === 1 ? 'B' : 'A',
    bars: 8,
    confidence: 0.9,
  }))
  return { version: ANALYSIS_VERSION, durationSeconds: 50, beats: downbeats, downbeats, sections, ...more }
}
function band(...pans: number[]): Song {
  return pans.reduce(
    (song, pan, index) =>
      must(
        transact(song, 'addPart', {
          part: {
            ...newPart({ id: `p${index}`, name: `Guitar ${index + 1}`, kind: 'guitar-6' }),
            pan,
          },
        }),
      ).song,
    newSong({ id: 's', title: 'Mill Race', artist: '' }),
  )
}

describe('the key to the band', () => {
  it('says from when a side is played and in which sections it rests', () => {
    const lines = bandKey(
      band(-0.5, 0.5),
      heard({ activity: letters((bar) => (bar < 3 ? 'cb' : 'lcb') + (bar >= 3 && !inB(bar) ? 'r' : '')) }),
      0,
    )
    expect(lines.map(({ seat, parts }) => [seat, parts])).toEqual([
      ['left', ['Guitar 1']],
      ['right', ['Guitar 2']],
      ['low', []],
    ])
    expect(lines[0]?.words).toBe('from 0:07')
    expect(lines[1]?.words).toMatch(/^from 0:07, rests in \S+/)
    expect(lines[2]?.words).toBe('throughout')
  })
  it('says about how high a side lies, and where it lies clearly higher', () => {
    const [left] = bandKey(
      band(-0.5),
      heard({
        activity: letters(() => 'lc'),
        registers: { left: letters(() => '').map((_, bar) => (inB(bar) ? 64 : 45)), right: [] },
      }),
      0,
    )
    expect(left?.words).toMatch(/^throughout, around A2, higher in \S+$/)
  })
  it('offers parts that sit nowhere a side that somebody plays on, and no silent one', () => {
    const both = bandKey(band(0, 0), heard({ activity: letters(() => 'lrc') }), 0)
    expect(both.map(({ offer }) => [offer?.name, Math.sign(offer?.pan ?? 0)])).toEqual([
      ['Guitar 1', -1],
      ['Guitar 2', 1],
    ])
    expect(bandKey(band(0, 0), heard({ activity: letters(() => 'c') }), 0)).toEqual([])
    expect(bandKey(band(0.6, 0), heard({ activity: letters(() => 'r') }), 0)[0]?.offer).toBeUndefined()
  })
  it('says nothing of a recording in mono', () => {
    expect(bandKey(band(0), heard({}), 0)).toEqual([])
  })
})

describe('of the demo songs', () => {
  const read = (path: string): unknown => JSON.parse(readFileSync(path, 'utf8'))
  const lines = (name: string, recording: string): Record<string, string> => {
    const song = must(readSong(read(`demo/songs/${name}.json`)))
    const hashes = Object.entries(read('demo/analyses/recordings.json') as Record<string, string>)
    const hash = hashes.find(([, file]) => file === recording)![0]
    const analysis = analysisSchema.parse(read(`demo/analyses/${hash}.json`))
    return Object.fromEntries(
      bandKey(song, analysis, 0).map(({ seat, parts, words }) => [
        `${seat}: ${parts.join(', ')}`,
        words.split(', around')[0]!,
      ]),
    )
  }

  it('who plays where is as they are mixed', () => {
    expect(lines('salt-on-the-signal', 'salt-on-the-signal.ogg')).toEqual({
      'left: Guitar 1, Guitar 3': 'throughout',
      'right: Guitar 2, Acoustic': 'from 0:22',
      'low: Bass': 'throughout',
    })
    expect(lines('cold-kiln', 'cold-kiln.ogg')).toEqual({
      'left: Baritone': 'throughout',
      'low: Bass': 'throughout',
    })
  })
})
