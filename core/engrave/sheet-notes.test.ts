import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSong } from '../document/migrations'
import type { Song } from '../document/schema'
import { transact } from '../editing/transact'
import { must } from '../result'
import { noteBlocks } from './sheet-notes'

const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const words = (song: Song, partIds: string[]): string[] =>
  noteBlocks(
    song,
    partIds.map((id) => song.parts[id]!),
    180,
  ).flatMap(({ primitives }) =>
    primitives.flatMap((one) => (one.kind === 'text' && !/^\d+$/.test(one.text) ? [one.text] : [])),
  )

describe('notes on the sheet', () => {
  it('are those that are wanted there, of the parts that are on it', () => {
    expect(words(salt, ['g1']).slice(0, 2)).toEqual(['Notes', 'Verse 1, bar 1, Guitar 1'])
    expect(words(salt, ['b'])).toEqual([])
  })
  it('give a settled doubt with its reason and what others read', () => {
    const doubt = {
      ...salt.doubts['seventh-or-ninth']!,
      status: 'settled' as const,
      decision: 'seventh',
      why: 'No C♯ anywhere in the bar',
      onSheet: true,
    }
    const settled = must(transact(salt, 'setDoubt', { doubt })).song
    const text = words(settled, ['g2']).join(' ')
    expect(text).toContain('Pre-chorus 1, bar 4, Guitar 2')
    expect(text).toContain('B7. No C♯ anywhere in the bar. Others read: B9: a C♯ on top.')
    const open = must(
      transact(salt, 'setDoubt', { doubt: { ...salt.doubts['seventh-or-ninth']!, onSheet: true } }),
    ).song
    expect(words(open, ['g2']).join(' ')).toContain('B7, or B9: a C♯ on top.')
  })
})
