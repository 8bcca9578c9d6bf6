import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { analysisSchema } from '../core/listen/analysis'
import { writeSongFile } from '../core/files/song-file'
import { must } from '../core/result'
import { readSong } from '../core/song/migrations'
import { level } from '../tests/support/pitch'
import { readWav } from '../core/sound/wav'
import { main } from './main'

const folder = mkdtempSync(join(tmpdir(), 'synchorda-'))
const path = (name: string): string => join(folder, name)
const SALT = 'demo/songs/salt-on-the-signal.json'
const heard = () => {
  const lines: string[] = []
  const keep = (...values: unknown[]) => { lines.push(values.join(' ')) }
  vi.spyOn(console, 'log').mockImplementation(keep)
  vi.spyOn(console, 'error').mockImplementation(keep)
  return lines
}
afterEach(() => { vi.restoreAllMocks() })

describe('the command line', () => {
  it('prints the unrolled form, a line a bar', async () => {
    const lines = heard()
    expect(await main(['timeline', SALT])).toBe(0)
    expect(lines).toHaveLength(99)
    expect(lines[9]).toContain('Verse 1')
    expect(lines[9]).toContain('Verse chug (1)')
  })
  it('reads song files as well as documents', async () => {
    const song = must(readSong(JSON.parse(readFileSync(SALT, 'utf8'))))
    writeFileSync(path('salt.zip'), writeSongFile(song))
    const lines = heard()
    expect(await main(['check', path('salt.zip')])).toBe(0)
    expect(lines.some((line) => line === 'not charted: Guitar 1 in Bridge: 8 bars.')).toBe(true)
    expect(lines.at(-1)).toMatch(/\d+ findings/)
  })
  it('analyses a recording into the JSON others rely on', async () => {
    expect(await main(['analyse', 'public/demo/ninth-platform.ogg', '--out', path('out.json')])).toBe(0)
    const result = JSON.parse(readFileSync(path('out.json'), 'utf8'))
    expect(analysisSchema.omit({ durationSeconds: true }).strict().safeParse(result).success).toBe(true)
    expect(result.tempo).toBeCloseTo(106, -1)
  })
  it('renders the chart as sound at a sane level', async () => {
    expect(await main(['render', SALT, '--out', path('salt.wav')])).toBe(0)
    const { channels: [left], sampleRate } = readWav(readFileSync(path('salt.wav')))!
    const mono = left!
    expect(mono.length / sampleRate).toBeGreaterThan(100)
    expect(level(mono, sampleRate, 30, 50)).toBeGreaterThan(0.01)
    expect(level(mono, sampleRate, 1, 12)).toBe(0)
  })
  it.each([[['check', 'nowhere.json']], [['check', 'package.json']], [['analyse', 'package.json']], [['dance', SALT]], [[]]])('complains about %j and leaves', async (args) => {
    const lines = heard()
    expect(await main(args)).toBe(1)
    expect(lines.join(' ').length).toBeGreaterThan(20)
  })
})
