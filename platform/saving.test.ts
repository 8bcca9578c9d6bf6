// Saving over random work: changes, undo and redo, a disk that fails now and then, windows that come and go.
// Whatever happens, what is on the disk is a state the song was in, and what undo reaches is the same after a
// reload as before.
import 'fake-indexeddb/auto'
import { readFileSync } from 'node:fs'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { must } from '../core/result'
import { record, redo, startHistory, undo, type History } from '../core/document/history'
import { readSong } from '../core/document/migrations'
import { isDamaged } from '../core/document/replay'
import type { Song } from '../core/document/schema'
import { transact } from '../core/editing/transact'
import { dice, RANDOM_ARGS, TRANSACTION_NAMES, type Dice } from '../tests/support/random-transactions'
import { database } from './database'
import { makeOutbox, type SaveState } from './outbox'
import { commitChange, createSong, loadSong, type Loaded, type Saving } from './song-store'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
beforeEach(async () => {
  await Promise.all(database.tables.map((table) => table.clear()))
})

async function load(id: string): Promise<Loaded> {
  const loaded = await loadSong(id)
  if (isDamaged(loaded)) throw new Error(loaded.refusal.message)
  return must(loaded)
}

/** One gesture: a change that is taken, an undo or a redo; undefined when nothing came of it. */
function gesture(history: History, roll: Dice): { history: History; saving: Saving } | undefined {
  if (roll.chance(0.25)) {
    const back = roll.chance(0.6)
    const moved = back ? undo(history) : redo(history)
    if (!moved) return undefined
    const { label, patch } = moved
    const saving: Saving = { song: moved.history.song, label, patch, kind: back ? 'undo' : 'redo' }
    return { history: moved.history, saving }
  }
  const name = roll.one(TRANSACTION_NAMES)
  const result = transact(history.song, name, RANDOM_ARGS[name](history.song, roll) as never)
  if (!result.ok || result.value.patch.length === 0) return undefined
  const { song, label, patch } = result.value
  return { history: record(history, song, { label, patch }), saving: { song, label, patch, kind: 'do' } }
}

/** The same for the same song, whatever the order of its keys. */
const text = (song: Song): string =>
  JSON.stringify(song, (_, value: unknown) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => a.localeCompare(b)))
      : value,
  )

const labels = (history: History): string[][] => [
  history.undo.map(({ label }) => label),
  history.redo.map(({ label }) => label),
]

describe('saving', () => {
  it.each([
    ['cold-kiln', 1],
    ['salt-on-the-signal', 2],
    ['ninth-platform', 3],
  ])('%s through random work gives the same song and the same undo after a reload', async (name, seed) => {
    const roll = dice(seed)
    let history = startHistory(demo(name))
    must(await createSong(history.song))
    for (let step = 0; step < 130; step++) {
      const done = gesture(history, roll)
      if (!done) continue
      history = done.history
      must(await commitChange(done.saving))
      if (step % 25 !== 0) continue
      const read = await load(history.song.id)
      expect(read.song).toEqual(history.song)
      expect(labels(read.history)).toEqual(labels(history))
    }
    // And the way back from there is the same way.
    let [here, there] = [history, (await load(history.song.id)).history]
    for (let step = 0; step < 10; step++) {
      const [one, other] = [undo(here), undo(there)]
      expect(other?.history.song).toEqual(one?.history.song)
      if (!one || !other) break
      here = one.history
      there = other.history
    }
  })

  it('on a disk that fails now and then leaves a state the song was in, at last all of it', async () => {
    const roll = dice(5)
    let history = startHistory(demo('salt-on-the-signal'))
    must(await createSong(history.song))
    const states = new Set([text(history.song)])
    const shown: SaveState[] = []
    let full = false
    const add = database.journal.add.bind(database.journal)
    const spy = vi
      .spyOn(database.journal, 'add')
      .mockImplementation(((row: never) =>
        full
          ? Promise.reject(Object.assign(new Error('full'), { name: 'QuotaExceededError' }))
          : add(row)) as never)
    const outbox = makeOutbox<Saving>(
      (saving) => commitChange(saving),
      (state) => shown.push(state),
    )
    for (let step = 0; step < 60; step++) {
      full = roll.chance(0.4)
      const done = gesture(history, roll)
      if (!done) continue
      history = done.history
      states.add(text(history.song))
      outbox.add(done.saving)
      const all = await outbox.settled()
      const { song } = await load(history.song.id)
      expect(states).toContain(text(song))
      // Saved is said only when the disk has what is shown.
      expect(all).toBe(shown.at(-1) === 'saved')
      if (all) expect(song).toEqual(history.song)
    }
    full = false
    expect(await outbox.settled()).toBe(true)
    expect((await load(history.song.id)).song).toEqual(history.song)
    outbox.clear()
    spy.mockRestore()
  })

  it('by two windows lets only the one write that took the song last', async () => {
    const roll = dice(9)
    const start = startHistory(demo('cold-kiln'))
    must(await createSong(start.song))
    const windows = ['first', 'second']
    let writer = ''
    let current = start
    let written = 0
    for (let step = 0; step < 60; step++) {
      if (step % 7 === 0) {
        writer = roll.one(windows)
        const loaded = await loadSong(start.song.id, writer)
        if (isDamaged(loaded)) throw new Error(loaded.refusal.message)
        expect(must(loaded).song).toEqual(current.song)
      }
      const done = gesture(current, roll)
      if (!done) continue
      const from = roll.one(windows)
      const result = await commitChange(done.saving, from)
      expect(result.ok).toBe(from === writer)
      if (!result.ok) continue
      written++
      current = done.history
    }
    expect(written).toBeGreaterThan(3)
    expect((await load(start.song.id)).song).toEqual(current.song)
  })
})
