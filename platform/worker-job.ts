// One job in one worker. The promise always settles: done, cancelled, failed, or died.
import type { Result } from '#core/result'
import { ok, refuse } from '#core/result'

export interface JobHandle<T> { result: Promise<Result<T>>; cancel: () => void }
export type JobMessage<T> = { kind: 'progress'; stage: string; fraction: number } | { kind: 'done'; value: T } | { kind: 'cancelled' } | { kind: 'failed'; message: string }

/** Time a worker gets to stop by itself after a cancel. */
const GRACE_MS = 200

/** Starts a worker, sends it its task and waits. `makeWorker` is called at once. */
export function runJob<T>(makeWorker: () => Worker, task: unknown, options: { transfer?: Transferable[]; onProgress?: (stage: string, fraction: number) => void } = {}): JobHandle<T> {
  const worker = makeWorker()
  let settle!: (result: Result<T>) => void
  let settled = false
  const result = new Promise<Result<T>>((resolve) => {
    settle = (value) => { if (settled) return; settled = true; worker.terminate(); resolve(value) }
  })
  worker.onmessage = ({ data }: MessageEvent<JobMessage<T>>) => {
    if (data.kind === 'progress') options.onProgress?.(data.stage, data.fraction)
    else if (data.kind === 'done') settle(ok(data.value))
    else if (data.kind === 'cancelled') settle(refuse('cancelled', 'Stopped.'))
    else settle(refuse('failed', data.message))
  }
  worker.onmessageerror = () => settle(refuse('failed', 'The result could not be handed over.'))
  worker.onerror = (event) => { event.preventDefault?.(); settle(refuse('died', 'The background work stopped unexpectedly. Try again.')) }
  try { worker.postMessage({ kind: 'start', task }, options.transfer ?? []) } catch (error) { settle(refuse('failed', error instanceof Error ? error.message : 'The task could not be handed over.')) }
  return {
    result,
    cancel() {
      if (settled) return
      worker.postMessage({ kind: 'cancel' })
      setTimeout(() => settle(refuse('cancelled', 'Stopped.')), GRACE_MS)
    },
  }
}
