import { describe, expect, it } from 'vitest'
import { WorkerPool } from './worker-pool'

interface Posted {
  kind: string
  run: number
  task: unknown
}
class FakeWorker {
  onmessage: ((event: { data: object }) => void) | null = null
  onerror: ((event: { preventDefault: () => void }) => void) | null = null
  posted: Posted[] = []
  terminated = false
  postMessage(message: Posted): void {
    this.posted.push(message)
  }
  terminate(): void {
    this.terminated = true
  }
  answer(value: unknown): void {
    this.onmessage?.({ data: { run: this.posted.at(-1)?.run, kind: 'done', value } })
  }
  get tasks(): unknown[] {
    return this.posted.map(({ task }) => task)
  }
}
function pool(most: number) {
  const workers: FakeWorker[] = []
  const made = new WorkerPool(() => {
    const worker = new FakeWorker()
    workers.push(worker)
    return worker as unknown as Worker
  }, most)
  return {
    workers,
    ask: (asker: object, task: unknown) => made.ask(asker, task),
    stop: (asker: object) => made.stop(asker),
  }
}
/** Lets answers come through. */
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))
const cancelled = { ok: false, refusal: { code: 'cancelled' } }

describe('a pool of workers', () => {
  it('starts no more than it may, and none while one is free', async () => {
    const { workers, ask } = pool(2)
    const first = ask({}, 1)
    workers[0]!.answer('one')
    expect(await first).toEqual({ ok: true, value: 'one' })
    void ask({}, 2)
    expect(workers).toHaveLength(1)
    const [, fourth] = [ask({}, 3), ask({}, 4)]
    expect(workers.map(({ tasks }) => tasks)).toEqual([[1, 2], [3]])
    workers[1]!.answer('three')
    await settled()
    workers[1]!.answer('four')
    expect(await fourth).toEqual({ ok: true, value: 'four' })
  })
  it('makes an older question of the same asker void, waiting or under way, and no other', async () => {
    const { workers, ask } = pool(1)
    const [me, other] = [{}, {}]
    const running = ask(me, 'old')
    const theirs = ask(other, 'theirs')
    const waiting = ask(me, 'newer')
    const last = ask(me, 'newest')
    expect([await running, await waiting]).toMatchObject([cancelled, cancelled])
    for (const value of ['late', 'their answer', 'my answer']) {
      workers[0]!.answer(value)
      await settled()
    }
    expect(await theirs).toEqual({ ok: true, value: 'their answer' })
    expect(await last).toEqual({ ok: true, value: 'my answer' })
    expect(workers[0]!.tasks).toEqual(['old', 'theirs', 'newest'])
  })
  it('ends the worker of what is stopped and goes on with a new one; so it does when one dies', async () => {
    const { workers, ask, stop } = pool(1)
    const me = {}
    const long = ask(me, 'long')
    const next = ask({}, 'next')
    stop(me)
    expect(await long).toMatchObject(cancelled)
    await settled()
    expect(workers.map(({ terminated }) => terminated)).toEqual([true, false])
    workers[1]!.onerror?.({ preventDefault: () => undefined })
    expect(await next).toMatchObject({ ok: false, refusal: { code: 'died' } })
    const after = ask({}, 'after')
    workers[2]!.answer('here')
    expect(await after).toEqual({ ok: true, value: 'here' })
  })
  it('says of a question that cannot be sent that it failed', async () => {
    const { ask } = pool(1)
    void ask({}, 'first')
    expect(await ask({}, { given: () => 1 })).toMatchObject({ ok: false, refusal: { code: 'failed' } })
  })
  it('keeps what was asked as it was asked', async () => {
    const { workers, ask } = pool(1)
    void ask({}, 'first')
    const task = { frets: [1] }
    void ask({}, task)
    task.frets.push(2)
    workers[0]!.answer('done')
    await settled()
    expect(workers[0]!.tasks[1]).toEqual({ frets: [1] })
  })
})
