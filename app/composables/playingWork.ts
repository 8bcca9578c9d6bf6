// Asking the playing worker: one worker a kind of question, so that a list of grips does not cancel a path. A newer question makes the older one void.
import { ok, type Result } from '#core/result'
import { openSession, type Session } from '#platform/worker-job'
import type { PlayingTask } from '../workers/playing.worker'

const makeWorker = (): Worker => new Worker(new URL('../workers/playing.worker.ts', import.meta.url), { type: 'module' })

/** Nothing of a page's reactivity crosses into a worker or the document. */
export function plainCopy<T>(value: T): T { return JSON.parse(JSON.stringify(value)) as T }

export function usePlayingWork() {
  let session: Session | undefined
  onScopeDispose(() => session?.close())
  /** The core's answer: a result, or a plain value as ok. Cancelled questions come back with code `cancelled`. */
  async function ask<T>(task: PlayingTask): Promise<Result<T>> {
    if (!session?.alive()) session = openSession(makeWorker)
    const done = await session.ask<Result<T> | T>(plainCopy(task)).result
    if (!done.ok) return done
    const { value } = done
    return typeof value === 'object' && value !== null && 'ok' in value ? (value as Result<T>) : ok(value as T)
  }
  return { ask }
}
export type PlayingWork = ReturnType<typeof usePlayingWork>
