import { afterEach, describe, expect, it, vi } from 'vitest'
import { JobWorker, openSession, runJob, type JobMessage } from './worker-job'

type Said =
  | { kind: 'progress'; stage: string; fraction: number }
  | { kind: 'found' | 'done'; value: number }
  | { kind: 'cancelled' }
  | { kind: 'failed'; message: string }

/** A worker that does what a test tells it to. */
class FakeWorker {
  onmessage: ((event: { data: JobMessage<number> }) => void) | null = null
  onerror: ((event: { preventDefault: () => void }) => void) | null = null
  onmessageerror: (() => void) | null = null
  posted: unknown[] = []
  terminated = 0
  postMessage(message: unknown): void {
    this.posted.push(message)
  }
  terminate(): void {
    this.terminated++
  }
  say(data: Said, run = 1): void {
    this.onmessage?.({ data: { run, ...data } as JobMessage<number> })
  }
}
function start(over: Partial<FakeWorker> = {}, onProgress?: (stage: string, fraction: number) => void) {
  const worker = Object.assign(new FakeWorker(), over)
  const job = runJob<number>(
    new JobWorker(() => worker as unknown as Worker),
    { n: 1 },
    onProgress ? { onProgress } : {},
  )
  return { worker, job }
}
afterEach(() => {
  vi.useRealTimers()
})

describe('a job in a worker always settles', () => {
  it('done: hands over the value and ends the worker', async () => {
    const { worker, job } = start()
    expect(worker.posted).toEqual([{ kind: 'start', session: 1, run: 1, task: { n: 1 } }])
    worker.say({ kind: 'done', value: 7 })
    expect(await job.result).toEqual({ ok: true, value: 7 })
    expect(worker.terminated).toBe(1)
  })
  it('failed: keeps the reason', async () => {
    const { worker, job } = start()
    worker.say({ kind: 'failed', message: 'no sound in it' })
    expect(await job.result).toMatchObject({
      ok: false,
      refusal: { code: 'failed', message: 'no sound in it' },
    })
  })
  it('cancelled by itself, or ended after a moment of grace', async () => {
    vi.useFakeTimers()
    const polite = start()
    polite.job.cancel()
    expect(polite.worker.posted).toContainEqual({ kind: 'cancel', session: 1 })
    polite.worker.say({ kind: 'cancelled' })
    expect(await polite.job.result).toMatchObject({ ok: false, refusal: { code: 'cancelled' } })
    const deaf = start()
    deaf.job.cancel()
    await vi.advanceTimersByTimeAsync(250)
    expect(await deaf.job.result).toMatchObject({ ok: false, refusal: { code: 'cancelled' } })
    expect(deaf.worker.terminated).toBe(1)
  })
  it('died: says so instead of waiting for ever', async () => {
    const { worker, job } = start()
    worker.onerror?.({ preventDefault: () => undefined })
    expect(await job.result).toMatchObject({ ok: false, refusal: { code: 'died' } })
  })
  it('a task or a result that cannot be cloned', async () => {
    const unsendable = start({
      postMessage: () => {
        throw new Error('could not be cloned')
      },
    })
    expect(await unsendable.job.result).toMatchObject({ ok: false, refusal: { code: 'failed' } })
    const { worker, job } = start()
    worker.onmessageerror?.()
    expect(await job.result).toMatchObject({ ok: false, refusal: { code: 'failed' } })
  })
  it('says nothing of progress or findings on their way when it is cancelled', async () => {
    const seen: unknown[] = []
    const worker = new FakeWorker()
    const job = runJob<number>(
      new JobWorker(() => worker as unknown as Worker),
      { n: 1 },
      { onProgress: (stage) => seen.push(stage), onFound: (value) => seen.push(value) },
    )
    worker.say({ kind: 'progress', stage: 'beats', fraction: 0.1 })
    job.cancel()
    worker.say({ kind: 'progress', stage: 'chords', fraction: 0.2 })
    worker.say({ kind: 'found', value: 3 })
    worker.say({ kind: 'cancelled' })
    expect(seen).toEqual(['beats'])
    expect(await job.result).toMatchObject({ ok: false, refusal: { code: 'cancelled' } })
  })
  it('reports progress, and nothing after it has settled', async () => {
    const seen: [string, number][] = []
    const { worker, job } = start({}, (stage, fraction) => {
      seen.push([stage, fraction])
    })
    worker.say({ kind: 'progress', stage: 'beats', fraction: 0.5 })
    worker.say({ kind: 'done', value: 1 })
    worker.say({ kind: 'failed', message: 'late' })
    expect(seen).toEqual([['beats', 0.5]])
    expect((await job.result).ok).toBe(true)
  })
})

describe('a session', () => {
  it('keeps its worker for another question and drops late answers to the one before', async () => {
    const worker = new FakeWorker()
    const session = openSession(() => worker as unknown as Worker)
    const found: number[] = []
    const first = session.ask<number>({ q: 1 }, { onFound: (value) => found.push(value) })
    worker.say({ kind: 'found', value: 3 }, 1)
    const second = session.ask<number>({ q: 2 })
    expect(worker.posted).toContainEqual({ kind: 'cancel', session: 1 })
    worker.say({ kind: 'done', value: 10 }, 1)
    worker.say({ kind: 'done', value: 20 }, 2)
    expect(await first.result).toMatchObject({ ok: false, refusal: { code: 'cancelled' } })
    expect(await second.result).toEqual({ ok: true, value: 20 })
    expect(found).toEqual([3])
    expect(worker.terminated).toBe(0)
    session.close()
    expect(session.alive()).toBe(false)
    expect(await session.ask<number>({ q: 3 }).result).toMatchObject({ ok: false, refusal: { code: 'died' } })
  })
})
