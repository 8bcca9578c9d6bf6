import 'fake-indexeddb/auto'
import Dexie from 'dexie'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { must } from '../core/result'
import { newSong } from '../core/document/new-song'
import { invertPatch } from '../core/document/patch'
import { transact } from '../core/editing/transact'
import { database, storageRefusal } from './database'
import { isDamaged, type Damaged } from '../core/document/replay'
import type { Song } from '../core/document/schema'
import type { Result } from '../core/result'
import type { Patch } from '../core/document/patch'
import {
  commitChange as commit,
  createSong,
  loadSong,
  removeSong,
  summarise,
  type Loaded,
} from './song-store'

const commitChange = (after: Song, label: string, patch: Patch, kind: 'do' | 'undo' = 'do') =>
  commit({ song: after, label, patch, kind })
function sound(read: Result<Loaded> | Damaged): Loaded {
  if (isDamaged(read)) throw new Error(read.refusal.message)
  return must(read)
}

const song = newSong({ id: 'one', title: 'One', artist: 'The Sample Four' })
beforeEach(async () => {
  await Promise.all(database.tables.map((table) => table.clear()))
})

describe('songs in the browser', () => {
  it('come back as snapshot and journal', async () => {
    must(await createSong(song))
    const first = must(transact(song, 'setFacts', { title: 'Two' }))
    must(await commitChange(first.song, first.label, first.patch))
    expect(sound(await loadSong('one')).song.title).toBe('Two')
    must(await commitChange(song, first.label, invertPatch(first.patch), 'undo'))
    expect(sound(await loadSong('one')).song).toEqual(song)
  })
  it('fold a long journal into a snapshot without losing anything', async () => {
    must(await createSong(song))
    let current = song
    for (let change = 1; change <= 95; change++) {
      const applied = must(transact(current, 'setFacts', { title: `Title ${change}` }))
      must(await commitChange(applied.song, applied.label, applied.patch))
      current = applied.song
    }
    expect(sound(await loadSong('one')).song).toEqual(current)
    expect(await database.journal.count()).toBeLessThan(145)
    expect((await database.songs.get('one'))!.title).toBe('Title 95')
  })
  it('keep one song’s journal out of another', async () => {
    must(await createSong(song))
    must(await createSong({ ...song, id: 'two' }))
    const applied = must(transact(song, 'setFacts', { title: 'Changed' }))
    must(await commitChange(applied.song, applied.label, applied.patch))
    expect(sound(await loadSong('two')).song.title).toBe('One')
  })
  it('go with their recording, unless another song uses it', async () => {
    const withAudio = must(
      transact(song, 'addSource', {
        source: {
          id: 'r',
          kind: 'recording',
          name: 'r',
          rank: 1,
          offsetSemitones: 0,
          offsetCents: 0,
          offsetSeconds: 0,
          audioHash: 'd'.repeat(64),
        },
      }),
    ).song
    await database.audio.put({
      hash: 'd'.repeat(64),
      name: 'r',
      type: 'audio/wav',
      blob: new Blob(['x']),
      bytes: 1,
    })
    must(await createSong(withAudio))
    must(await createSong({ ...withAudio, id: 'two' }))
    await removeSong('one')
    expect(await database.audio.count()).toBe(1)
    await removeSong('two')
    expect(await database.audio.count()).toBe(0)
    expect(await loadSong('two')).toMatchObject({ ok: false, refusal: { code: 'no-song' } })
  })
  it('refuse damaged rows instead of showing half a song', async () => {
    must(await createSong({ ...song, id: 'bad' }))
    await database.snapshots.put({
      songId: 'bad',
      seq: 0,
      song: { ...song, id: 'bad', partOrder: ['ghost'] },
    })
    const read = await loadSong('bad')
    expect(isDamaged(read) && read.refusal.code).toBe('damaged')
    expect(summarise(song).bars).toBe(0)
  })
  it('say that the storage is full and what to do, and are not called saved', async () => {
    must(await createSong(song))
    const applied = must(transact(song, 'setFacts', { title: 'Too much' }))
    const full = Object.assign(new Error('full'), { name: 'QuotaExceededError' })
    const add = vi.spyOn(database.journal, 'add').mockRejectedValueOnce(full)
    expect(await commitChange(applied.song, applied.label, applied.patch)).toMatchObject({
      ok: false,
      refusal: { code: 'storage-full' },
    })
    add.mockRestore()
    expect(sound(await loadSong('one')).song.title).toBe('One')
    expect(storageRefusal(full).message).toContain('Save the song as a file')
  })

  it('keep a recording that another song needs, though only its journal says so', async () => {
    const hash = 'e'.repeat(64)
    const source = {
      id: 'r',
      kind: 'recording' as const,
      name: 'r',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: hash,
    }
    must(await createSong(must(transact(song, 'addSource', { source })).song))
    must(await createSong({ ...song, id: 'two' }))
    const added = must(transact({ ...song, id: 'two' }, 'addSource', { source }))
    must(await commitChange(added.song, added.label, added.patch))
    await database.audio.put({ hash, name: 'r', type: '', blob: new Blob(['x']), bytes: 1 })
    await database.alignments.put({ key: `${hash}/other`, alignment: {} as never })
    await removeSong('one')
    expect(await database.audio.count()).toBe(1)
    await removeSong('two')
    expect(await database.audio.count()).toBe(0)
    expect(await database.alignments.count()).toBe(0)
  })
  it('are not called saved when they were removed, or when another window writes them', async () => {
    must(await createSong(song))
    expect(sound(await loadSong('one', 'first window')).song.title).toBe('One')
    sound(await loadSong('one', 'second window'))
    const { patch, label, song: after } = must(transact(song, 'setFacts', { title: 'Late' }))
    const change = { song: after, label, patch, kind: 'do' as const }
    expect(await commit(change, 'first window')).toMatchObject({ ok: false, refusal: { code: 'taken-over' } })
    expect((await commit(change, 'second window')).ok).toBe(true)
    await removeSong('one')
    expect(await commit(change, 'second window')).toMatchObject({ ok: false, refusal: { code: 'removed' } })
    expect(await database.songs.count()).toBe(0)
  })
  it('are brought from the first database, in which a row held its whole song', async () => {
    database.close()
    await Dexie.delete('synchorda')
    const old = new Dexie('synchorda')
    old.version(1).stores({ songs: 'id, updatedAt', journal: '++seq, songId', audio: 'hash' })
    old.version(2).stores({ alignments: 'key', outlines: 'hash', analyses: 'hash', preferences: 'key' })
    const applied = must(transact(song, 'setFacts', { title: 'Kept' }))
    await old.table('songs').put({
      id: 'one',
      title: 'Kept',
      artist: '',
      updatedAt: 1,
      snapshot: song,
      snapshotSeq: 0,
      summary: summarise(song),
    })
    await old.table('journal').add({ songId: 'one', label: applied.label, patch: applied.patch })
    old.close()
    await database.open()
    const read = sound(await loadSong('one'))
    expect(read.song.title).toBe('Kept')
    expect(read.history.undo).toHaveLength(1)
    expect(await database.songs.get('one')).not.toHaveProperty('snapshot')
  })
})
