import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { strToU8, unzipSync, zipSync } from 'fflate'
import fc from 'fast-check'
import { must } from '../result'
import { newPart, newSong } from '../document/new-song'
import { transact } from '../editing/transact'
import { engraveSheet } from '../engrave/sheet'
import { checkSong } from '../check/check'
import { coverage } from '../timeline/coverage'
import { unroll } from '../timeline/unroll'
import { dice, type Dice } from '../../tests/support/random-transactions'
import { SCHEMA_VERSION } from '../document/schema'
import { readSongFile, writeSongFile } from './song-file'
import { workedMs } from '../../tests/support/working-time'

const hash = 'b'.repeat(64)
const withPart = must(
  transact(newSong({ id: 'song', title: 'Paper Boat', artist: 'The Sample Four' }), 'addPart', {
    part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-7' }),
  }),
).song
const song = must(
  transact(withPart, 'addSource', {
    source: {
      id: 'record',
      kind: 'recording',
      name: 'take',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: hash,
    },
  }),
).song
const recording = {
  name: 'take.ogg',
  type: 'audio/ogg',
  hash,
  bytes: Uint8Array.from([1, 2, 3, 250]),
}
const refusal = (bytes: Uint8Array) => {
  const result = readSongFile(bytes)
  return result.ok ? 'accepted' : result.refusal.code
}
const manifest = strToU8(JSON.stringify({ format: 'synchorda-song', formatVersion: 1, contains: [] }))

describe('song file', () => {
  it('reads back what it wrote, with any title and any recording', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 60 }),
        fc.option(fc.uint8Array({ maxLength: 300 })),
        (title, bytes) => {
          const named = { ...song, title }
          const back = must(readSongFile(writeSongFile(named, bytes ? { ...recording, bytes } : undefined)))
          expect(back.song).toEqual(named)
          expect(back.recording?.bytes).toEqual(bytes ?? undefined)
        },
      ),
    )
  })
  it('says what is inside and keeps the recording out unless asked', () => {
    expect(Object.keys(unzipSync(writeSongFile(song)))).toEqual(['manifest.json', 'song.json'])
    expect(Object.keys(unzipSync(writeSongFile(song, recording)))).toContain('recording.ogg')
  })
  it('opens a newer song read-only, without what it does not know', () => {
    const bytes = zipSync({
      'manifest.json': manifest,
      'song.json': strToU8(JSON.stringify({ ...song, schemaVersion: SCHEMA_VERSION + 1, moods: ['blue'] })),
    })
    expect(must(readSongFile(bytes))).toMatchObject({
      readOnly: 'saved by a newer Synchorda',
      song: { title: 'Paper Boat' },
    })
  })
  it('refuses what is foreign, damaged or dangerous', () => {
    expect(refusal(strToU8('not a zip at all'))).toBe('damaged')
    expect(refusal(zipSync({ 'readme.txt': strToU8('hello') }))).toBe('not-ours')
    expect(refusal(zipSync({ 'manifest.json': manifest, 'song.json': strToU8('{"schemaVersion":1}') }))).toBe(
      'damaged',
    )
    expect(refusal(zipSync({ '../../evil.txt': strToU8('x') }))).toBe('dangerous')
    expect(refusal(zipSync({ 'manifest.json': manifest, 'song.json': new Uint8Array(5_000_000) }))).toBe(
      'dangerous',
    )
    expect(refusal(writeSongFile(song, recording).slice(0, 200))).toBe('damaged')
  })
})

describe('damaged and hostile song files', () => {
  const HOSTILE = [null, '', 'x', -1, 0, 1e308, 2 ** 40, Number.MAX_SAFE_INTEGER, [], {}, true, 'constructor']
  const SHEET = { paper: 'A4', naming: 'shape', strings: 'letters', form: 'exact' } as const
  const KEYS = ['__proto__', 'constructor', 'extra', 'id']
  const demo = JSON.parse(readFileSync('demo/songs/cold-kiln.json', 'utf8')) as object

  /** Changes one value somewhere in a document, or gives it a key nobody should use. */
  function damage(document: object, roll: Dice): unknown {
    const copy = structuredClone(document) as Record<string, unknown>
    let at: Record<string, unknown> = copy
    for (;;) {
      const keys = Object.keys(at)
      const key = keys.length ? roll.one(keys) : undefined
      const inner = key === undefined ? undefined : at[key]
      if (typeof inner === 'object' && inner !== null && roll.chance(0.85)) {
        at = inner as Record<string, unknown>
        continue
      }
      if (roll.chance(0.2) && key !== undefined) Reflect.deleteProperty(at, key)
      else if (roll.chance(0.1) && !Array.isArray(at)) at[roll.one(KEYS)] = roll.one(HOSTILE)
      else if (key !== undefined)
        at[key] =
          typeof inner === 'number' && roll.chance(0.5) ? inner * roll.one([-1, 1000, 0]) : roll.one(HOSTILE)
      return copy
    }
  }

  it('are refused in a sentence, or can be worked with like any other', () => {
    const roll = dice(7)
    let accepted = 0
    for (let count = 0; count < 200; count++) {
      const document = JSON.stringify(damage(demo, roll))
      const read = readSongFile(
        zipSync({ 'manifest.json': manifest, 'song.json': strToU8(document) }, { level: 0 }),
      )
      if (!read.ok) {
        expect(read.refusal.message).toMatch(/^\S.{15,}[.]$/s)
        expect(read.refusal.message).not.toMatch(/expected|received|undefined|\[object/i)
        continue
      }
      accepted++
      const started = workedMs()
      coverage(read.value.song)
      unroll(read.value.song)
      checkSong(read.value.song)
      if (accepted % 8 === 0) engraveSheet(read.value.song, { ...SHEET, partIds: read.value.song.partOrder })
      expect(workedMs() - started, document.slice(0, 80)).toBeLessThan(2000)
    }
    expect(accepted).toBeGreaterThan(8)
  })
  it.each([0, 1, 2, 9])('nested without end in version %i are refused', (schemaVersion) => {
    const deep = `${'{"a":'.repeat(3000)}1${'}'.repeat(3000)}`
    const text = `{"schemaVersion":${schemaVersion},"figures":${deep}}`
    expect(refusal(zipSync({ 'manifest.json': manifest, 'song.json': strToU8(text) }))).toMatch(
      /damaged|newer/,
    )
  })
  it('in which beats do not rise, or a recording is not the song’s, are refused', () => {
    const source = { ...song.sources.record!, grid: { bars: [{ beatSeconds: [1, 1] }], endSeconds: 2 } }
    const flat = { ...song, sources: { record: source } }
    expect(refusal(writeSongFile(flat))).toBe('damaged')
    expect(refusal(writeSongFile(song, { ...recording, hash: 'c'.repeat(64) }))).toBe('damaged')
  })
})
