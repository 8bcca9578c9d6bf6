import { describe, expect, it } from 'vitest'
import { strToU8, unzipSync, zipSync } from 'fflate'
import fc from 'fast-check'
import { must } from '../result'
import { newPart, newSong } from '../song/new-song'
import { transact } from '../song/transactions'
import { readSongFile, writeSongFile } from './song-file'

const song = must(transact(newSong({ id: 'song', title: 'Paper Boat', artist: 'The Sample Four' }), 'addPart', { part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-7' }) })).song
const recording = { name: 'take.ogg', type: 'audio/ogg', hash: 'b'.repeat(64), bytes: Uint8Array.from([1, 2, 3, 250]) }
const refusal = (bytes: Uint8Array) => { const result = readSongFile(bytes); return result.ok ? 'accepted' : result.refusal.code }
const manifest = strToU8(JSON.stringify({ format: 'synchorda-song', formatVersion: 1, contains: [] }))

describe('song file', () => {
  it('reads back what it wrote, with any title and any recording', () => {
    fc.assert(fc.property(fc.string({ minLength: 1, maxLength: 60 }), fc.option(fc.uint8Array({ maxLength: 300 })), (title, bytes) => {
      const named = { ...song, title }
      const back = must(readSongFile(writeSongFile(named, bytes ? { ...recording, bytes } : undefined)))
      expect(back.song).toEqual(named)
      expect(back.recording?.bytes).toEqual(bytes ?? undefined)
    }))
  })
  it('says what is inside and keeps the recording out unless asked', () => {
    expect(Object.keys(unzipSync(writeSongFile(song)))).toEqual(['manifest.json', 'song.json'])
    expect(Object.keys(unzipSync(writeSongFile(song, recording)))).toContain('recording.ogg')
  })
  it('opens a newer song read-only, without what it does not know', () => {
    const bytes = zipSync({ 'manifest.json': manifest, 'song.json': strToU8(JSON.stringify({ ...song, schemaVersion: 7, moods: ['blue'] })) })
    expect(must(readSongFile(bytes))).toMatchObject({ readOnly: 'saved by a newer Synchorda', song: { title: 'Paper Boat' } })
  })
  it('refuses what is foreign, damaged or dangerous', () => {
    expect(refusal(strToU8('not a zip at all'))).toBe('damaged')
    expect(refusal(zipSync({ 'readme.txt': strToU8('hello') }))).toBe('not-ours')
    expect(refusal(zipSync({ 'manifest.json': manifest, 'song.json': strToU8('{"schemaVersion":1}') }))).toBe('damaged')
    expect(refusal(zipSync({ '../../evil.txt': strToU8('x') }))).toBe('dangerous')
    expect(refusal(zipSync({ 'manifest.json': manifest, 'song.json': new Uint8Array(5_000_000) }))).toBe('dangerous')
    expect(refusal(writeSongFile(song, recording).slice(0, 200))).toBe('damaged')
  })
})
