import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ok, refuse, type Result } from '../core/result'
import { makeOutbox, type SaveState } from './outbox'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

/** A disk that refuses while `full` says so. */
function disk() {
  const written: string[] = []
  const states: SaveState[] = []
  const state = { full: undefined as string | undefined }
  const write = async (entry: string): Promise<Result<unknown>> => {
    await Promise.resolve()
    if (state.full) return refuse(state.full, 'There is no room.')
    written.push(entry)
    return ok(undefined)
  }
  const outbox = makeOutbox(write, (next) => states.push(next))
  return { written, states, state, outbox }
}

describe('the outbox', () => {
  it('writes in order and says saved only when nothing is left', async () => {
    const { outbox, written, states } = disk()
    for (const entry of ['a', 'b', 'c']) outbox.add(entry)
    expect(await outbox.settled()).toBe(true)
    expect(written).toEqual(['a', 'b', 'c'])
    expect(states.filter((state) => state === 'saved')).toHaveLength(1)
  })
  it(
    'keeps what could not be written first: nothing later is stored before it, ' + 'nothing is called saved',
    async () => {
      const { outbox, written, states, state } = disk()
      state.full = 'storage-full'
      outbox.add('first')
      expect(await outbox.settled()).toBe(false)
      outbox.add('second')
      expect(await outbox.settled()).toBe(false)
      expect(written).toEqual([])
      expect(states).not.toContain('saved')
      state.full = undefined
      outbox.add('third')
      expect(await outbox.settled()).toBe(true)
      expect(written).toEqual(['first', 'second', 'third'])
      expect(states.at(-1)).toBe('saved')
    },
  )
  it('tries again by itself', async () => {
    const { outbox, written, state } = disk()
    state.full = 'storage'
    outbox.add('late')
    await outbox.settled()
    state.full = undefined
    await vi.advanceTimersByTimeAsync(10_000)
    expect(written).toEqual(['late'])
    expect(outbox.waiting).toBe(0)
  })
  it.each(['removed', 'taken-over'])('does not try again what cannot be mended: %s', async (code) => {
    const { outbox, written, state } = disk()
    state.full = code
    outbox.add('never')
    await outbox.settled()
    state.full = undefined
    await vi.advanceTimersByTimeAsync(60_000)
    expect(written).toEqual([])
    outbox.clear()
    expect(outbox.waiting).toBe(0)
  })
})
