// What is stored and what can be reached from the shelf agree: no recording goes while a song may still need
// it, none stays when no song does.
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { must } from '../core/result'
import { record, redo, startHistory, undo, type History } from '../core/document/history'
import type { Song } from '../core/document/schema'
import { transact } from '../core/editing/transact'
import { fakeLocks } from '../tests/support/fake-locks'
import { dice } from '../tests/support/random-transactions'
import { smallSong } from '../tests/support/small-song'
import { openBackup, writeBackup } from './backup'
import { database } from './database'
import { commitChange, createSong, freeRecordings, loadSong, removeSong } from './song-store'
import { lockSong, openSongIds, whileArriving, whileFree, type SongLock } from './tab-lock'

const quiet = { onProgress: (): void => undefined }
const hashNumber = (number: number): string => number.toString(16).padStart(64, '0')
const songNumber = (id: string, recording: string): Song => {
  const song = smallSong()
  const source = { ...song.sources.rec!, audioHash: recording }
  return { ...song, id, sources: { ...song.sources, rec: source } }
}
async function store(hash: string): Promise<void> {
  const blob = new Blob([hash])
  await database.audio.put({ hash, name: 'take.ogg', type: 'audio/ogg', blob, bytes: blob.size })
}
const stored = async (): Promise<string[]> => (await database.audio.toCollection().primaryKeys()).sort()
const titleOf = async (id: string): Promise<string> => {
  const loaded = await loadSong(id)
  return 'ok' in loaded && loaded.ok ? loaded.value.song.title : 'not here'
}
/** A window with a song open. */
async function open(id: string): Promise<SongLock> {
  return lockSong(id, { onPromoted: () => undefined, onLost: () => undefined })
}
const addTake = (song: Song, id: string, audioHash: string) =>
  must(
    transact(song, 'addSource', {
      source: { ...song.sources.rec!, id, kind: 'live take', name: id, audioHash },
    }),
  )

beforeEach(async () => {
  vi.stubGlobal('navigator', { locks: fakeLocks() })
  await Promise.all(database.tables.map((table) => table.clear()))
})
afterEach(() => vi.unstubAllGlobals())

describe('recordings', () => {
  it('of a song removed while another window has it open are there when it is put back', async () => {
    await store(hashNumber(1))
    const song = songNumber('one', hashNumber(1))
    must(await createSong(song))
    const lock = await open('one')
    await removeSong('one')
    expect(await stored()).toEqual([hashNumber(1)])
    must(await createSong(song))
    expect(await freeRecordings()).toBe(0)
    lock.release()
    await vi.waitFor(async () => expect((await openSongIds()).size).toBe(0))
    await freeRecordings()
    expect(await stored()).toEqual([hashNumber(1)])
    await removeSong('one')
    expect(await stored()).toEqual([])
  })

  it('of a take that was added and undone go with the song, and not before', async () => {
    await store(hashNumber(1))
    await store(hashNumber(2))
    let history: History = startHistory(songNumber('one', hashNumber(1)))
    must(await createSong(history.song))
    const { song, label, patch } = addTake(history.song, 'live', hashNumber(2))
    history = record(history, song, { label, patch })
    must(await commitChange({ song, label, patch, kind: 'do' }))
    const back = undo(history)!
    must(await commitChange({ ...back, song: back.history.song, kind: 'undo' }))
    await freeRecordings()
    // Redo brings the take back, with its sound.
    expect(await stored()).toEqual([hashNumber(1), hashNumber(2)])
    await removeSong('one')
    expect(await stored()).toEqual([])
  })

  it('that arrive are not cleared away before their song is there', async () => {
    await whileArriving(async () => {
      await store(hashNumber(1))
      expect(await freeRecordings()).toBe(0)
      must(await createSong(songNumber('one', hashNumber(1))))
    })
    await freeRecordings()
    expect(await stored()).toEqual([hashNumber(1)])
  })

  it('agree with the shelf after random work in two windows', async () => {
    const roll = dice(11)
    const windows: (SongLock & { id: string; history: History })[] = []
    let made = 0
    const fresh = async (): Promise<string> => {
      const hash = hashNumber(++made)
      await store(hash)
      return hash
    }
    const shelf = () => database.songs.toCollection().primaryKeys()
    const newSong = () =>
      whileArriving(async () => must(await createSong(songNumber(`s${made + 1}`, await fresh()))))
    async function openOne(): Promise<void> {
      const id = roll.one(await shelf())
      const loaded = await loadSong(id)
      const known = windows.some((window) => window.id === id)
      if (windows.length < 2 && !known && 'ok' in loaded && loaded.ok)
        windows.push({ ...(await open(id)), id, history: loaded.value.history })
    }
    async function closeOne(): Promise<void> {
      const one = roll.one(windows)
      const gone = !(await database.songs.get(one.id))
      if (gone && roll.chance(0.5)) must(await createSong(one.history.song))
      one.release()
      windows.splice(windows.indexOf(one), 1)
      await vi.waitFor(async () => expect((await openSongIds()).has(one.id)).toBe(false))
    }
    async function takeIn(): Promise<void> {
      const one = roll.one(windows)
      const { song, label, patch } = addTake(one.history.song, `t${made}`, await fresh())
      one.history = record(one.history, song, { label, patch })
      await commitChange({ song, label, patch, kind: 'do' })
    }
    async function back(move: typeof undo, kind: 'undo' | 'redo'): Promise<void> {
      const one = roll.one(windows)
      const moved = move(one.history)
      if (!moved) return
      one.history = moved.history
      await commitChange({ ...moved, song: moved.history.song, kind })
    }
    const anywhere = [newSong, openOne, async () => removeSong(roll.one(await shelf()))]
    const inWindow = [closeOne, takeIn, () => back(undo, 'undo'), () => back(redo, 'redo')]
    for (let step = 0; step < 160; step++) {
      const filled = (await shelf()).length > 0
      await roll.one([...(filled ? anywhere : [newSong]), ...(windows.length ? inWindow : [])])()
      await freeRecordings()
      const there = new Set(await stored())
      const needed = (await database.songs.toArray()).flatMap((row) => row.recordings)
      expect(needed.filter((hash) => !there.has(hash))).toEqual([])
      for (const { history } of windows)
        expect(there.has(history.song.sources.rec!.audioHash!), `open song, step ${step}`).toBe(true)
      if (windows.length === 0) expect([...there].sort()).toEqual([...new Set(needed)].sort())
    }
    expect(made).toBeGreaterThan(20)
  })
})

describe('a shelf brought back', () => {
  it('leaves a song alone that another window has open, says so, and brings back the others', async () => {
    const [one, two] = ['one', 'two'].map((id, at) => songNumber(id, hashNumber(at + 1)))
    await store(hashNumber(1))
    must(await createSong(one!))
    must(await createSong(two!))
    const made = must(await writeBackup(quiet))
    expect(made.withoutRecording).toEqual([two!.title])
    const backup = must(await openBackup(made.file))
    const lock = await open('one')
    const renamed = must(transact(one!, 'setFacts', { title: 'Changed since' }))
    must(await commitChange({ ...renamed, kind: 'do' }, 'window'))
    must(await commitChange({ ...must(transact(two!, 'setFacts', { title: 'Other' })), kind: 'do' }))
    const restored = must(await backup.restore('everything', quiet))
    expect(restored.songs).toBe(1)
    expect(restored.problems[0]).toMatch(/Paper Boat”: it is open in another window.*Close it there/)
    expect([await titleOf('one'), await titleOf('two')]).toEqual(['Changed since', 'Paper Boat'])
    // The window goes on and what it saves can be read.
    const again = must(transact(renamed.song, 'setFacts', { artist: 'The Late Ferry' }))
    must(await commitChange({ ...again, kind: 'do' }, 'window'))
    expect(await titleOf('one')).toBe('Changed since')
    lock.release()
    await vi.waitFor(async () => expect(await whileFree('one', () => Promise.resolve(true))).toBe(true))
    expect(must(await backup.restore('everything', quiet)).songs).toBe(2)
    expect(await titleOf('one')).toBe('Paper Boat')
    // A window that wrote before, and was not seen, may not write into it.
    const late = await commitChange({ ...again, kind: 'do' }, 'window')
    expect(late.ok ? '' : late.refusal.code).toBe('taken-over')
  })
})
