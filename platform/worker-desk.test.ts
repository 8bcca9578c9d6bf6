// Both sides of a worker, joined by a channel that copies as a browser does.
import { describe, expect, it } from 'vitest'
import { newSong } from '#core/document/new-song'
import { transact } from '#core/editing/transact'
import { checkpoint } from '#core/hear/job'
import { Given, serve, type Answer } from './worker-desk'
import { JobWorker } from './worker-job'

function joined<Task>(openDesk: () => Answer<Task>) {
  let [started, ended] = [0, 0]
  const workers = new JobWorker(() => {
    started++
    const { port1, port2 } = new MessageChannel()
    serve<Task>(
      {
        postMessage: (message, { transfer }) => port2.postMessage(message, transfer),
        addEventListener: (_kind, receive) => {
          port2.onmessage = receive
        },
      },
      openDesk,
    )
    return Object.assign(port1, {
      terminate: () => {
        ended++
        port1.close()
      },
    }) as unknown as Worker
  })
  return { workers, started: () => started, ended: () => ended }
}
const CANCELLED = { ok: false, refusal: { code: 'cancelled' } }

describe('a worker with several sessions', () => {
  it('keeps for each what it has taken in, and ends with the last of them', async () => {
    const { workers, started, ended } = joined<number>(() => {
      let sum = 0
      return (number) => (sum += number)
    })
    const [one, other] = [workers.openSession(), workers.openSession()]
    expect(await one.ask(1).result).toMatchObject({ value: 1 })
    expect(await other.ask(10).result).toMatchObject({ value: 10 })
    expect(await one.ask(2).result).toMatchObject({ value: 3 })
    expect(started()).toBe(1)
    one.close()
    expect([one.alive(), other.alive(), ended()]).toEqual([false, true, 0])
    other.close()
    expect(ended()).toBe(1)
    const later = workers.openSession()
    expect(await later.ask(5).result).toMatchObject({ value: 5 })
    expect(started()).toBe(2)
    later.close()
  })
  it('stops one of them while another goes on', async () => {
    const { workers } = joined<number>(() => async (steps, job) => {
      for (let step = 0; step < steps; step++) await checkpoint(job, 'counting', step / steps)
      return steps
    })
    const [one, other] = [workers.openSession(), workers.openSession()]
    const [endless, short] = [one.ask(1e9), other.ask(50)]
    endless.cancel()
    expect(await endless.result).toMatchObject(CANCELLED)
    expect(await short.result).toMatchObject({ ok: true, value: 50 })
    expect(await one.ask(2).result).toMatchObject({ ok: true, value: 2 })
    one.close()
    other.close()
  })
  it('answers of two questions of one session the newer only', async () => {
    const { workers } = joined<string>(() => async (word, job) => {
      await checkpoint(job, 'thinking', 0)
      return word
    })
    const session = workers.openSession()
    const [first, second] = [session.ask('first'), session.ask('second')]
    expect(await first.result).toMatchObject(CANCELLED)
    expect(await second.result).toMatchObject({ value: 'second' })
    session.close()
  })
  it('gives memory away with an answer, and says why one failed', async () => {
    const { workers } = joined<number>(() => (frames) => {
      if (frames < 0) throw new RangeError('no such length')
      const samples = new Float32Array(frames).fill(0.5)
      return new Given(samples, [samples.buffer])
    })
    const session = workers.openSession()
    expect(await session.ask(3).result).toMatchObject({ value: new Float32Array([0.5, 0.5, 0.5]) })
    expect(await session.ask(-1).result).toMatchObject({ refusal: { message: 'no such length' } })
    session.close()
  })
  it('has the song of each question though only changes of it are sent', async () => {
    const { workers } = joined<{ song: { title: string } }>(
      () =>
        ({ song }) =>
          song.title,
    )
    const song = newSong({ id: 'tidewater', title: 'Tidewater', artist: '' })
    const renamed = transact(song, 'setFacts', { title: 'Low Water' })
    if (!renamed.ok) throw new Error(renamed.refusal.message)
    const [one, other] = [workers.openSession(), workers.openSession()]
    expect(await one.ask({ song }).result).toMatchObject({ value: 'Tidewater' })
    expect(await other.ask({ song: renamed.value.song }).result).toMatchObject({ value: 'Low Water' })
    expect(await one.ask({ song, odd: () => 1 }).result).toMatchObject({ refusal: { code: 'failed' } })
    expect(await one.ask({ song }).result).toMatchObject({ value: 'Tidewater' })
    one.close()
    other.close()
  })
})
