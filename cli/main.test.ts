import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { analysisSchema } from '../core/hear/analysis'
import { writeSongFile } from '../core/exchange/song-file'
import { must } from '../core/result'
import { readSong } from '../core/document/migrations'
import { level } from '../tests/support/pitch'
import { readWav } from '../core/sound/wav'
import { main } from './main'

const folder = mkdtempSync(join(tmpdir(), 'synchorda-'))
const path = (name: string): string => join(folder, name)
const SALT = 'demo/songs/salt-on-the-signal.json'
const KILN = 'demo/songs/cold-kiln.json'
const heard = () => {
  const lines: string[] = []
  const keep = (...values: unknown[]) => {
    lines.push(values.join(' '))
  }
  vi.spyOn(console, 'log').mockImplementation(keep)
  vi.spyOn(console, 'error').mockImplementation(keep)
  return lines
}
afterEach(() => {
  vi.restoreAllMocks()
})

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
    const { findings, excused } = JSON.parse(lines.join(''))
    expect(findings).toMatchObject([
      {
        kind: 'not charted',
        severity: 'missing',
        words: 'Guitar 2 in Outro: 2 bars not charted, from bar 15.',
        place: { partId: 'g2', sectionId: 'outro', words: 'Outro, bar 15 · Guitar 2' },
        fix: { transaction: 'setPlacement' },
      },
    ])
    expect(findings[0].place.seconds).toBeGreaterThan(150)
    expect(excused).toHaveLength(6)
  })
  it('checks a song that breaks the rules of a song as far as it can be read', async () => {
    const song = JSON.parse(readFileSync(SALT, 'utf8'))
    song.partOrder = song.partOrder.slice(1)
    writeFileSync(path('broken.json'), JSON.stringify(song))
    const lines = heard()
    expect(await main(['check', path('broken.json')])).toBe(0)
    expect(JSON.parse(lines.join('')).findings[0]).toMatchObject({ kind: 'damaged', severity: 'wrong' })
    expect(await main(['timeline', path('broken.json')])).toBe(1)
  })
  it('holds a chart against its recording: nothing of its own, and a fret that is one off', async () => {
    const song = JSON.parse(readFileSync(KILN, 'utf8'))
    const lines = heard()
    expect(await main(['check', KILN, '--recording', 'public/demo/cold-kiln.ogg'])).toBe(0)
    expect(JSON.parse(lines.join('')).findings).toEqual([])
    song.figures['pour-bass'].content.notes[0].fret++
    writeFileSync(path('off.json'), JSON.stringify(song))
    lines.length = 0
    expect(await main(['check', path('off.json'), '--recording', 'public/demo/cold-kiln.ogg'])).toBe(0)
    const kinds = JSON.parse(lines.join('')).findings.map(({ kind }: { kind: string }) => kind)
    expect(kinds).toContain('not as heard')
  })
  it('complains about a recording that is none, and about a song that lies over none', async () => {
    const lines = heard()
    expect(await main(['check', KILN, '--recording', 'package.json'])).toBe(1)
    expect(lines.join(' ')).toContain('not a sound file')
    const song = JSON.parse(readFileSync(KILN, 'utf8'))
    for (const source of Object.values<{ grid?: unknown }>(song.sources)) delete source.grid
    writeFileSync(path('bare.json'), JSON.stringify(song))
    lines.length = 0
    expect(await main(['check', path('bare.json'), '--recording', 'public/demo/cold-kiln.ogg'])).toBe(1)
    expect(lines.join(' ')).toContain('not laid out')
  })
  it('says what to learn first, in which steps, and how fast', async () => {
    const lines = heard()
    expect(await main(['coverage', SALT, '--part', 'bass', '--json'])).toBe(0)
    const [bass] = JSON.parse(lines.join('')).parts
    expect(bass).toMatchObject({
      part: 'Bass',
      figures: [{ name: 'Root eighths', share: 0.261 }, {}, {}, {}, {}, {}, {}, {}, {}],
    })
    expect(bass.figures.at(-1).after).toBe(1)
    lines.length = 0
    expect(await main(['plan', SALT, '--order', 'song', '--part', 'Guitar 1', '--json'])).toBe(0)
    const plan = JSON.parse(lines.join(''))
    expect(plan.steps).toHaveLength(12)
    expect(plan.steps[0]).toMatchObject({
      step: 1,
      name: 'Intro riff',
      form: 'exact',
      reason: 'comes first in Intro',
    })
    expect(plan.minutes).toBe(
      plan.steps.reduce((sum: number, step: { minutes: number }) => sum + step.minutes, 0),
    )
    lines.length = 0
    expect(await main(['ladder', '--from', '60', '--to', '100', '--clean', '3', '--json'])).toBe(0)
    const { rungs } = JSON.parse(lines.join(''))
    expect([rungs[0], rungs.at(-1)]).toEqual([
      { tempo: 60, cleanRounds: 3 },
      { tempo: 100, cleanRounds: 3 },
    ])
  })
  it('analyses a recording into the JSON others rely on', async () => {
    expect(await main(['analyse', 'public/demo/ninth-platform.ogg', '--out', path('out.json')])).toBe(0)
    const result = JSON.parse(readFileSync(path('out.json'), 'utf8'))
    expect(analysisSchema.omit({ durationSeconds: true }).strict().safeParse(result).success).toBe(true)
    expect(result.tempo).toBeCloseTo(106, -1)
  })
  it('renders the chart as sound at a sane level', async () => {
    expect(await main(['render', SALT, '--out', path('salt.wav')])).toBe(0)
    const {
      channels: [left],
      sampleRate,
    } = readWav(readFileSync(path('salt.wav')))!
    const mono = left!
    expect(mono.length / sampleRate).toBeGreaterThan(100)
    expect(level(mono, sampleRate, 30, 50)).toBeGreaterThan(0.01)
    expect(mono.reduce((most, value) => Math.max(most, Math.abs(value)), 0)).toBeLessThan(0.9)
    // Before the first bar there is nothing to play; the free opening is Guitar 2 alone, the rest comes in
    // after it.
    expect(level(mono, sampleRate, 0, 0.5)).toBe(0)
  })
  it.each([
    [['check', 'nowhere.json']],
    [['check', 'package.json']],
    [['analyse', 'package.json']],
    [['dance', SALT]],
    [['plan', SALT, '--order', 'backwards']],
    [['coverage', SALT, '--part', 'Tuba']],
    [['ladder', '--from', '60']],
    [['ladder', '--from', '100', '--to', '60']],
    [[]],
  ])('complains about %j and leaves', async (args) => {
    const lines = heard()
    expect(await main(args)).toBe(1)
    expect(lines.join(' ').length).toBeGreaterThan(20)
  })
})

describe('playing from the command line', () => {
  /** What a command answers as JSON, and its exit code. */
  async function answer(...args: string[]) {
    const lines = heard()
    const code = await main([...args, '--json'])
    return { code, data: JSON.parse(lines.join('\n')) }
  }
  it('names a grip by shape and as sounding', async () => {
    const plain = await answer('name-grip', 'x57765')
    expect(plain).toMatchObject({
      code: 0,
      data: {
        names: [
          {
            symbol: 'Dm',
            root: 'D',
            quality: 'minor',
            bass: 'D',
            inversion: 0,
            degrees: [null, 'R', '5', 'R', 'b3', '5'],
            omitted: [],
          },
          {},
        ],
        soundingPitches: [null, 'D3', 'A3', 'D4', 'F4', 'A4'],
        reachMm: 54,
        fingering: [null, '1', '3', '4', '2', '1'],
      },
    })
    const low = await answer(
      'name-grip',
      '022000',
      '--tuning',
      'Eb2 Ab2 Db3 Gb3 Bb3 Eb4',
      '--key',
      'Eb minor',
    )
    expect([low.data.names[0].symbol, low.data.namesByShape[0].symbol]).toEqual(['Ebm', 'Em'])
    expect((await answer('name-grip', '000xxx', '--tuning', 'D2 A2 D3 G3 B3 E4')).data.names[0].symbol).toBe(
      'D5',
    )
    expect((await answer('name-grip', '022100', '--capo', '3')).data).toMatchObject({
      names: [{ symbol: 'G' }],
      namesByShape: [{ symbol: 'E' }],
    })
  })
  it('finds grips near the one before', async () => {
    const { data } = await answer('grips', 'F#m7/E', '--after', 'x02220', '--count', '5')
    expect(data.grips).toHaveLength(5)
    expect(data.grips.map((one: { grip: string }) => one.grip)).toContain('002222')
  })
  it('reads a call, or says where it stopped understanding', async () => {
    const { data } = await answer(
      'call',
      'G seven seven, hammer seven nine eleven, B eight eight',
      '--step',
      '1/8',
    )
    expect(data.notes.map((note: { string: number; fret: number }) => `${note.string}/${note.fret}`)).toEqual(
      ['3/7', '3/7', '3/7', '3/9', '3/11', '2/8', '2/8'],
    )
    expect(data.notes[3]).toMatchObject({
      startTicks: 15_120,
      lengthTicks: 5040,
      marks: [{ kind: 'hammer-on' }],
    })
    expect(await answer('call', 'G seven zeven')).toMatchObject({
      code: 1,
      data: { error: { at: 8, suggestions: ['seven', 'eleven'] } },
    })
  })
  it('speaks, moves, harmonises and explains a figure', async () => {
    const { data } = await answer('speak', KILN, '--figure', 'riff 1')
    expect(
      (
        await answer(
          'call',
          data.call,
          '--tuning',
          'B1 E2 A2 D3 F#3 B3',
          '--step',
          `1/${40_320 / data.stepTicks}`,
        )
      ).data.notes.length,
    ).toBeGreaterThan(5)
    const paths = (await answer('paths', KILN, '--figure', 'Riff 1')).data
    expect(paths.paths.length).toBeGreaterThanOrEqual(3)
    const harmony = (
      await answer(
        'harmony',
        KILN,
        '--figure',
        'Riff 1',
        '--interval',
        '3',
        '--direction',
        'above',
        '--key',
        'B minor',
      )
    ).data
    expect(new Set(harmony.notes.map((note: { semitones: number }) => note.semitones))).toEqual(
      new Set([3, 4]),
    )
    expect((await answer('scale', KILN, '--figure', 'Riff 1')).data.fits[0].tonic).toBe('B')
    const bass = await answer('speak', KILN, '--figure', 'Riff 1', '--part', 'Bass')
    const baritone = await answer('speak', KILN, '--figure', 'Riff 1', '--part', 'Baritone')
    expect(bass.data.call).not.toBe(baritone.data.call)
  })
  it.each([
    [['name-grip', 'xx'], /no grip for 6 strings/],
    [['name-grip', '022100', '--tuning', 'E2 H2'], /four to eight pitches/],
    [['grips', 'Hm'], /not a chord symbol/],
    [['speak', SALT, '--figure', 'nothing'], /This song has: /],
    [['speak', KILN, '--figure', 'Riff 1', '--part', 'Kazoo'], /There is no part “Kazoo”/],
    [['call', 'G 7', '--frets', '5'], /from 12 to 36/],
    [['harmony', SALT, '--figure', 'twin solo', '--interval', '0'], /from 1 to 15/],
    [['call', 'G 7', '--step', '1/11'], /share of a whole note/],
    [['harmony', SALT, '--figure', 'root eighths', '--direction', 'sideways'], /above or below/],
    [['scale', SALT, '--figure'], /wants a value/],
    [['grips', 'Em', '--colour', 'red'], /There is no --colour/],
    [['name-grip', '022100', '--capo', 'two'], /whole number/],
  ])('refuses %j in a sentence', async (args, sentence) => {
    const { code, data } = await answer(...args)
    expect(code).toBe(1)
    expect(data.error.message).toMatch(sentence)
  })
})

describe('accents from the command line', () => {
  it('are moments of the recording with their strength, and what is missing is said', async () => {
    const lines = heard()
    const args = ['accents', 'public/demo/ninth-platform.ogg', '--from', '60', '--to', '64']
    expect(await main([...args, '--of', 'right', '--json'])).toBe(0)
    const { accents } = JSON.parse(lines.join('')) as { accents: { seconds: number; strength: number }[] }
    expect(accents.length).toBeGreaterThan(5)
    for (const { seconds, strength } of accents) {
      expect(seconds).toBeGreaterThanOrEqual(60)
      expect(seconds).toBeLessThanOrEqual(64)
      expect(strength).toBeLessThanOrEqual(1)
    }
    expect(await main([...args, '--of', 'tuba'])).toBe(1)
    expect(await main(['accents', 'public/demo/ninth-platform.ogg', '--from', '9', '--to', '3'])).toBe(1)
  })
})
