import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { lockSong, takeOver, type SongLock } from './tab-lock'

type Granted = (lock: object | null) => Promise<void> | undefined
interface Waiting {
  granted: Granted
  resolve: () => void
  reject: (error: unknown) => void
}

/** The browser's locks as far as they are used here: one holder, a queue, stealing. */
function fakeLocks() {
  let holder: Waiting | undefined
  const queue: Waiting[] = []
  const next = (): void => {
    holder = queue.shift()
    if (holder) hold(holder)
  }
  const hold = (own: Waiting): void => {
    holder = own
    void own.granted({})?.then(() => {
      own.resolve()
      if (holder === own) next()
    })
  }
  const request = (
    _name: string,
    options: { ifAvailable?: boolean; steal?: boolean; signal?: AbortSignal },
    granted: Granted,
  ): Promise<void> =>
    new Promise((resolve, reject) => {
      const own = { granted, resolve, reject }
      if (options.steal) {
        holder?.reject(new DOMException('stolen', 'AbortError'))
        hold(own)
      } else if (!holder) hold(own)
      else if (options.ifAvailable) {
        void granted(null)
        resolve()
      } else {
        queue.push(own)
        options.signal?.addEventListener('abort', () => {
          const at = queue.indexOf(own)
          if (at >= 0) queue.splice(at, 1)
          reject(new DOMException('given up', 'AbortError'))
        })
      }
    })
  return { request }
}

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
