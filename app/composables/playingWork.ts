// Asking the playing workers: two for all pages and panels, each asker with one question at a time, so that a
// list of grips does not cancel a path. A newer question makes the older one void.
import { ok, type Result } from '#core/result'
import { WorkerPool } from '#platform/worker-pool'
import type { JobOptions } from '#platform/worker-job'
import type { PlayingAnswer, PlayingTask, PlayingWant } from '../workers/playing-tasks'

const MOST_WORKERS = 2
const pool = new WorkerPool(
  () => new Worker(new URL('../workers/playing.worker.ts', import.meta.url), { type: 'module' }),
  MOST_WORKERS,
)

export function usePlayingWork() {
  const asker = {}
  onScopeDispose(() => pool.forget(asker))
  /**
   * The core's answer: a result, or a plain value as ok. Cancelled questions come back with code
   * `cancelled`.
   */
  async function ask<Want extends PlayingWant>(
    task: PlayingTask<Want>,
    options: Pick<JobOptions<never>, 'onProgress'> = {},
  ): Promise<Result<PlayingAnswer<Want>>> {
    const done = await pool.ask(asker, task, options)
    if (!done.ok) return done
    const { value } = done
    return typeof value === 'object' && value !== null && 'ok' in value
      ? (value as Result<PlayingAnswer<Want>>)
      : ok(value as PlayingAnswer<Want>)
  }
  /** Gives up what is being worked out. */
  const stop = (): void => pool.stop(asker)
  return { ask, stop }
}
export type PlayingWork = ReturnType<typeof usePlayingWork>
