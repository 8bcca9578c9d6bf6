import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSong } from '../document/migrations'
import { must } from '../result'
import { run, twoVerses } from '../../tests/support/two-verses'
import { foldedPart } from './folded'

const wordsOf = (song: Parameters<typeof foldedPart>[0], partId = 'g'): string[] =>
  foldedPart(song, partId).map(({ words }) => words)

describe('a part folded', () => {
  it('counts what comes again, and says what rests and what is not charted', () => {
    expect(wordsOf(twoVerses())).toEqual(['riff ×2', 'riff ×2'])
    const bare = run(twoVerses(), 'removePlacement', { placementId: 'p2' })
    expect(wordsOf(bare)).toEqual(['riff ×2', 'not charted'])
    const rests = {
      kind: 'rests',
      id: 'r',
      partId: 'g',
      sectionId: 'v2',
      startTicks: 0,
      lengthTicks: 161_280,
    } as const
    expect(wordsOf(run(bare, 'setPlacement', { placement: rests }))[1]).toBe('rests')
  })

  it('names the pass that differs by what its name adds', () => {
    const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
    const lines = foldedPart(salt, 'g1')
    expect(lines.map(({ name }) => name)).toContain('Verse 1')
    expect(lines.find(({ name }) => name === 'Verse 1')!.words).toBe(
      'Pickup run, then Verse chug ×4, the 4th with the run',
    )
    expect(lines.map(({ startTicks }) => startTicks)).toEqual(
      lines.map(({ startTicks }) => startTicks).sort((a, b) => a - b),
    )
  })
})
