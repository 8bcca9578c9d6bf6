// Work in a worker. Every promise settles: done, cancelled, failed, or died. A session keeps its worker for
// further questions about what it holds; a job is a session with one question.
import type { Result } from '#core/result'
import { ok, refuse } from '#core/result'
import { plain } from './plain'

export interface JobHandle<T> {
  result: Promise<Result<T>>
  cancel: () => void
}
export type JobMessage<T> = { run: number } & (
  | { kind: 'progress'; stage: string; fraction: number }
  | { kind: 'found'; value: T }
  | { kind: 'done'; value: T }
  | { kind: 'cancelled' }
  | { kind: 'failed'; message: string }
)
export interface JobOptions<T> {
  transfer?: Transferable[]
  onProgress?: (stage: string, fraction: number) => void
  /** Receives what is known before the end. */ onFound?: (value: T) => void
}

/** Time a worker gets to stop by itself after a cancel. */
const GRACE_MS = 200

export interface Session {
  /** One question at a time: asking again cancels what runs. Answers carry the number of their question. */
  ask: <T>(task: unknown, options?: JobOptions<T>) => JobHandle<T>
  /** False once the worker is gone; a new session is needed then. */
  alive: () => boolean
  close: () => void
}

/** A promise that settles once; `settled` tells whether it has. */
function settleOnce<T>(onSettled: () => void) {
  let settle!: (result: Result<T>) => void
  let settled = false
  const result = new Promise<Result<T>>((resolve) => {
    settle = (value) => {
      if (settled) return
      settled = true
      onSettled()
      resolve(value)
    }
  })
  return { result, settle, settled: () => settled }
}

const DIED = 'The background work stopped unexpectedly. Try again.'
const reasonOf = (error: unknown): string =>
  error instanceof Error ? error.message : 'The task could not be handed over.'

/** Takes the answers to one question; what was asked before is cancelled. */
function listen<T>(
  worker: Worker,
  run: number,
  options: JobOptions<T>,
  asked: { settle: (result: Result<T>) => void; givenUp: () => boolean },
): void {
  const { settle, givenUp } = asked
  worker.onmessage = ({ data }: MessageEvent<JobMessage<T>>) => {
    // Answers to an earlier question come too late.
    if (data.run !== run) return
    // What is still on its way when somebody stops it must not look like work going on.
    if (givenUp() && (data.kind === 'progress' || data.kind === 'found')) return
    if (data.kind === 'progress') options.onProgress?.(data.stage, data.fraction)
    else if (data.kind === 'found') options.onFound?.(data.value)
    else if (data.kind === 'done') settle(ok(data.value))
    else if (data.kind === 'cancelled') settle(refuse('cancelled', 'Stopped.'))
    else settle(refuse('failed', data.message))
  }
}

/** Starts a worker at once and keeps it until it is closed, dies, or does not heed a cancel. */
export function openSession(makeWorker: () => Worker): Session {
  const worker = makeWorker()
  let alive = true
  let stop: ((result: Result<never>) => void) | undefined
  let runs = 0
  const end = (result: Result<never>): void => {
    if (!alive) return
    alive = false
    worker.terminate()
    stop?.(result)
  }
  worker.onmessageerror = () => end(refuse('failed', 'The result could not be handed over.'))
  worker.onerror = (event) => {
    event.preventDefault?.()
    end(refuse('died', DIED))
  }

  function ask<T>(task: unknown, options: JobOptions<T> = {}): JobHandle<T> {
    const { result, settle, settled } = settleOnce<T>(() => {
      stop = undefined
    })
    if (!alive) {
      settle(refuse('died', DIED))
      return { result, cancel: () => undefined }
    }
    if (stop) worker.postMessage({ kind: 'cancel' })
    stop?.(refuse('cancelled', 'Stopped.'))
    stop = (value) => settle(value)
    const run = ++runs
    let givenUp = false
    listen(worker, run, options, { settle, givenUp: () => givenUp })
    try {
      worker.postMessage({ kind: 'start', run, task: plain(task) }, options.transfer ?? [])
    } catch (error) {
      settle(refuse('failed', reasonOf(error)))
    }
    const cancel = (): void => {
      if (settled()) return
      givenUp = true
      worker.postMessage({ kind: 'cancel' })
      setTimeout(() => {
        if (!settled()) end(refuse('cancelled', 'Stopped.'))
      }, GRACE_MS)
    }
    return { result, cancel }
  }
  return { ask, alive: () => alive, close: () => end(refuse('cancelled', 'Stopped.')) }
}

/** Starts a worker, sends it its task and waits. */
export function runJob<T>(
  makeWorker: () => Worker,
  task: unknown,
  options: JobOptions<T> = {},
): JobHandle<T> {
  const session = openSession(makeWorker)
  const { result, cancel } = session.ask<T>(task, options)
  return {
    result: result.then((value) => {
      session.close()
      return value
    }),
    cancel,
  }
}
