import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fakeLocks } from '../tests/support/fake-locks'
import { lockSong, takeOver, type SongLock } from './tab-lock'

const events = () => ({ onPromoted: vi.fn(), onLost: vi.fn() })
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5))
beforeEach(() => vi.stubGlobal('navigator', { locks: fakeLocks() }))
afterEach(() => vi.unstubAllGlobals())

describe('two windows on one song', () => {
  it('the first writes; the second follows, and writes when the first closes', async () => {
    const [one, two] = [events(), events()]
    const first = await lockSong('s', one)
    const second = await lockSong('s', two)
    expect([first.writer, second.writer]).toEqual([true, false])
    first.release()
    await settle()
    expect(two.onPromoted).toHaveBeenCalledOnce()
    expect(one.onLost).not.toHaveBeenCalled()
  })
  it('one that has left is not promoted later', async () => {
    const two = events()
    const first = await lockSong('s', events())
    const second = await lockSong('s', two)
    second.release()
    first.release()
    await settle()
    expect(two.onPromoted).not.toHaveBeenCalled()
  })
  it('a frozen writer is taken over and told so, once', async () => {
    const one = events()
    const first = await lockSong('s', one)
    const taken: SongLock = await takeOver('s', events())
    await settle()
    expect(taken.writer).toBe(true)
    expect(one.onLost).toHaveBeenCalledOnce()
    first.release()
    taken.release()
    await settle()
    expect((await lockSong('s', events())).writer).toBe(true)
  })
  it('without locks every window writes', async () => {
    vi.stubGlobal('navigator', {})
    expect((await lockSong('s', events())).writer).toBe(true)
  })
})
