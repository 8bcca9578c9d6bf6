import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { must } from '../core/result'
import { newSong } from '../core/song/new-song'
import { invertPatch } from '../core/song/patch'
import { transact } from '../core/song/transactions'
import { commitChange, createSong, database, loadSong, removeSong, storageRefusal, summarise } from './database'

const song = newSong({ id: 'one', title: 'One', artist: 'The Sample Four' })
beforeEach(async () => { await Promise.all(database.tables.map((table) => table.clear())) })

describe('songs in the browser', () => {
  it('come back as snapshot and journal', async () => {
    must(await createSong(song))
    const first = must(transact(song, 'setFacts', { title: 'Two' }))
    must(await commitChange(first.song, first.label, first.patch))
    expect(must(await loadSong('one')).song.title).toBe('Two')
    must(await commitChange(song, 'Undo', invertPatch(first.patch)))
    expect(must(await loadSong('one')).song).toEqual(song)
  })
  it('fold a long journal into a snapshot without losing anything', async () => {
    must(await createSong(song))
    let current = song
    for (let change = 1; change <= 95; change++) {
      const applied = must(transact(current, 'setFacts', { title: `Title ${change}` }))
      must(await commitChange(applied.song, applied.label, applied.patch))
      current = applied.song
    }
    expect(must(await loadSong('one')).song).toEqual(current)
    expect(await database.journal.count()).toBeLessThan(45)
    expect((await database.songs.get('one'))!.title).toBe('Title 95')
  })
  it('keep one song’s journal out of another', async () => {
    must(await createSong(song))
    must(await createSong({ ...song, id: 'two' }))
    const applied = must(transact(song, 'setFacts', { title: 'Changed' }))
    must(await commitChange(applied.song, applied.label, applied.patch))
    expect(must(await loadSong('two')).song.title).toBe('One')
  })
  it('go with their recording, unless another song uses it', async () => {
    const withAudio = must(transact(song, 'addSource', { source: { id: 'r', kind: 'recording', name: 'r', rank: 1, offsetSemitones: 0, offsetCents: 0, offsetSeconds: 0, audioHash: 'd'.repeat(64) } })).song
    await database.audio.put({ hash: 'd'.repeat(64), name: 'r', type: 'audio/wav', blob: new Blob(['x']), bytes: 1 })
    must(await createSong(withAudio))
    must(await createSong({ ...withAudio, id: 'two' }))
    await removeSong('one')
    expect(await database.audio.count()).toBe(1)
    await removeSong('two')
    expect(await database.audio.count()).toBe(0)
    expect(await loadSong('two')).toMatchObject({ ok: false, refusal: { code: 'no-song' } })
  })
  it('refuse damaged rows instead of showing half a song', async () => {
    await database.songs.put({ id: 'bad', title: 'Bad', artist: '', updatedAt: 0, snapshot: { ...song, id: 'bad', partOrder: ['ghost'] }, snapshotSeq: 0, summary: summarise(song) })
    expect(await loadSong('bad')).toMatchObject({ ok: false, refusal: { code: 'damaged' } })
  })
  it('say that the storage is full and what to do, and are not called saved', async () => {
    must(await createSong(song))
    const applied = must(transact(song, 'setFacts', { title: 'Too much' }))
    const full = Object.assign(new Error('full'), { name: 'QuotaExceededError' })
    const add = vi.spyOn(database.journal, 'add').mockRejectedValueOnce(full)
    expect(await commitChange(applied.song, applied.label, applied.patch)).toMatchObject({ ok: false, refusal: { code: 'storage-full' } })
    add.mockRestore()
    expect(must(await loadSong('one')).song.title).toBe('One')
    expect(storageRefusal(full).message).toContain('Save the song as a file')
  })
})
