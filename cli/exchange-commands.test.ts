import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { must } from '../core/result'
import { readWav } from '../core/sound/wav'
import { readSong } from '../core/document/migrations'
import type { Song } from '../core/document/schema'
import { everyMarkSong } from '../tests/support/every-mark'
import { missingFacts, partFacts } from '../tests/support/score-facts'
import { scoreFromSong } from '../core/exchange/score/from-song'
import { main } from './main'

const folder = mkdtempSync(join(tmpdir(), 'synchorda-exchange-'))
const path = (name: string): string => join(folder, name)
const SONG = path('song.json')

/** Runs a command: its exit code and what it said. */
async function run(...args: string[]): Promise<{ code: number; said: string }> {
  const lines: string[] = []
  const keep = (...values: unknown[]): void => void lines.push(values.join(' '))
  vi.spyOn(console, 'log').mockImplementation(keep)
  vi.spyOn(console, 'error').mockImplementation(keep)
  return { code: await main(args), said: lines.join('\n') }
}
const songAt = (name: string): Song => must(readSong(JSON.parse(readFileSync(path(name), 'utf8'))))

beforeAll(() => writeFileSync(SONG, JSON.stringify(everyMarkSong())))
afterEach(() => void vi.restoreAllMocks())

describe('export', () => {
  it.each([
    ['musicxml', '<?xml version="1.0"'],
    ['mxl', 'PK'],
    ['midi', 'MThd'],
    ['csv', 'section,start'],
    ['chords', 'Whole song:'],
    ['svg', '<svg'],
    ['pdf', '%PDF'],
  ])('writes %s and reports what it holds', async (format, begins) => {
    const { code, said } = await run(
      'export',
      SONG,
      '--format',
      format,
      '--out',
      path(`a.${format}`),
      '--json',
    )
    expect([code, JSON.parse(said)]).toMatchObject([0, { format, dropped: expect.any(Array) }])
    expect(readFileSync(path(`a.${format}`), 'latin1').slice(0, begins.length)).toBe(begins)
  })

  it('writes a section as sound, as long as it lasts', async () => {
    const { said } = await run(
      'export',
      SONG,
      '--format',
      'wav',
      '--section',
      'Verse',
      '--out',
      path('v.wav'),
      '--json',
    )
    expect(JSON.parse(said).seconds).toBeCloseTo(18, 0)
    expect(readWav(readFileSync(path('v.wav')))!.channels[0]!.length / 44_100).toBeCloseTo(18, 0)
  })

  it('writes only what is asked for', async () => {
    const scope = ['--part', 'guitar 2', '--section', 'Chorus', '--json']
    const { said } = await run('export', SONG, '--format', 'musicxml', '--out', path('b.musicxml'), ...scope)
    expect(JSON.parse(said).held).toEqual({
      measures: 8,
      sections: 1,
      harmonies: 0,
      parts: [{ name: 'Guitar 2', notes: 0 }],
    })
  })

  it.each([
    [['--format', 'docx', '--out', 'x'], '--format is one of musicxml, mxl, midi'],
    [['--format', 'midi'], 'wants --out'],
    [['--format', 'midi', '--out', '/no-such-folder/x.mid'], 'cannot be written'],
    [['--format', 'midi', '--out', 'x', '--part', 'Flute'], 'There is no part “Flute”: Guitar 1, Guitar 2.'],
    [['--format', 'midi', '--out', 'x', '--section', 'Coda'], 'There is no section “Coda”'],
  ])('says what is wrong: %s', async (flags, words) => {
    const { code, said } = await run('export', SONG, ...flags)
    expect(code).not.toBe(0)
    expect(said).toContain(words)
  })
})

describe('import', () => {
  it('makes a song of a file that has all of it', async () => {
    await run('export', SONG, '--format', 'mxl', '--out', path('c.mxl'))
    const { code, said } = await run('import', path('c.mxl'), '--out', path('c.json'), '--json')
    expect([code, JSON.parse(said).held.measures]).toEqual([0, 24])
    const facts = (song: Song): string[] => partFacts(scoreFromSong(song))
    expect(missingFacts(facts(everyMarkSong()), facts(songAt('c.json')))).toEqual([])
  })

  it('lays a part over the form of a song that is there, and leaves the rest of it', async () => {
    await run('export', SONG, '--format', 'musicxml', '--part', 'Guitar 1', '--out', path('d.musicxml'))
    const into = ['--into', SONG, '--part', 'Guitar 2', '--out', path('d.json')]
    expect((await run('import', path('d.musicxml'), ...into)).code).toBe(0)
    const [before, after] = [scoreFromSong(everyMarkSong()), scoreFromSong(songAt('d.json'))]
    expect(after.parts[0]).toEqual(before.parts[0])
    // Guitar 2 has no capo: the same sounds lie two frets higher, or elsewhere.
    const sounds = before.parts[0]!.notes.map(({ startTicks, midi }) => `${startTicks} ${midi}`)
    const found = after.parts[1]!.notes.map(({ startTicks, midi }) => `${startTicks} ${midi}`)
    expect(missingFacts(found, sounds)).toEqual([])
    expect(found.length).toBeGreaterThan(0.95 * sounds.length)
  })

  it('says what a file leaves open, and takes another answer', async () => {
    const tab = '<notations><technical><string>3</string><fret>4</fret></technical></notations>'
    const note = `<note><pitch><step>A</step><octave>3</octave></pitch><duration>4</duration>${tab}</note>`
    const measure = `<measure number="1"><attributes><divisions>1</divisions></attributes>${note}</measure>`
    writeFileSync(path('f.musicxml'), `<score-partwise><part id="P1">${measure}</part></score-partwise>`)
    const asked = JSON.parse(
      (await run('import', path('f.musicxml'), '--out', path('f.json'), '--json')).said,
    )
    expect(asked.questions).toMatchObject([{ id: 'pitches', taken: 'frets' }])
    await run('import', path('f.musicxml'), '--out', path('f.json'), '--pitches', 'pitches')
    expect(scoreFromSong(songAt('f.json')).parts[0]!.notes[0]!.midi).toBe(57)
    const wrong = await run('import', path('f.musicxml'), '--out', path('f.json'), '--timing', 'fast')
    expect([wrong.code === 0, wrong.said.includes('--timing is one of as played')]).toEqual([false, true])
  })

  it('says why a file is not read, and writes nothing', async () => {
    writeFileSync(path('e.musicxml'), '<score-partwise>')
    const { code, said } = await run('import', path('e.musicxml'), '--out', path('e.json'))
    expect([code === 0, existsSync(path('e.json'))]).toEqual([false, false])
    expect(said).toContain('no sound XML')
    expect((await run('import', path('gone.mid'), '--out', path('e.json'))).said).toContain(
      'no readable file',
    )
  })
})
