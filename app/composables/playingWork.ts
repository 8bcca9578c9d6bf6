// Asking the playing worker: one for all pages and panels, each asker with one question at a time, so that a
// list of grips does not cancel a path. A newer question makes the older one void.
import { ok, type Result } from '#core/result'
import type { JobOptions } from '#platform/worker-job'
import { playingPool } from '~/session/workers'
import type { PlayingAnswer, PlayingTask, PlayingWant } from '../workers/playing-tasks'

export function usePlayingWork() {
  const asker = {}
  onScopeDispose(() => playingPool.forget(asker))
  /**
   * The core's answer: a result, or a plain value as ok. Cancelled questions come back with code
   * `cancelled`.
   */
  async function ask<Want extends PlayingWant>(
    task: PlayingTask<Want>,
    options: Pick<JobOptions<never>, 'onProgress'> = {},
  ): Promise<Result<PlayingAnswer<Want>>> {
    const done = await playingPool.ask(asker, task, options)
    if (!done.ok) return done
    const { value } = done
    return typeof value === 'object' && value !== null && 'ok' in value
      ? (value as Result<PlayingAnswer<Want>>)
      : ok(value as PlayingAnswer<Want>)
  }
  /** Gives up what is being worked out. */
  const stop = (): void => playingPool.stop(asker)
  return { ask, stop }
}
export type PlayingWork = ReturnType<typeof usePlayingWork>
