// Asking the playing worker: one worker a kind of question, so that a list of grips does not cancel a path.
// A newer question makes the older one void.
import { ok, type Result } from '#core/result'
import { openSession, type JobOptions, type Session } from '#platform/worker-job'
import type { PlayingAnswer, PlayingTask, PlayingWant } from '../workers/playing-tasks'

const makeWorker = (): Worker =>
  new Worker(new URL('../workers/playing.worker.ts', import.meta.url), { type: 'module' })

export function usePlayingWork() {
  let session: Session | undefined
  onScopeDispose(() => session?.close())
  /**
   * The core's answer: a result, or a plain value as ok. Cancelled questions come back with code
   * `cancelled`.
   */
  async function ask<Want extends PlayingWant>(
    task: PlayingTask<Want>,
    options: Pick<JobOptions<never>, 'onProgress'> = {},
  ): Promise<Result<PlayingAnswer<Want>>> {
    if (!session?.alive()) session = openSession(makeWorker)
    const done = await session.ask<unknown>(task, options).result
    if (!done.ok) return done
    const { value } = done
    return typeof value === 'object' && value !== null && 'ok' in value
      ? (value as Result<PlayingAnswer<Want>>)
      : ok(value as PlayingAnswer<Want>)
  }
  /** Gives up what is being worked out. */
  function stop(): void {
    session?.close()
    session = undefined
  }
  return { ask, stop }
}
export type PlayingWork = ReturnType<typeof usePlayingWork>
