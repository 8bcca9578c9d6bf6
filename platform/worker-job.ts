// Work in a worker. Every promise settles: done, cancelled, failed, or died. Several askers share a worker,
// each with a session of its own: one question at a time, about what the worker keeps for it.
import type { Result } from '#core/result'
import { ok, refuse } from '#core/result'
import { SongSender } from '#core/document/song-wire'
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
/** What a worker is told: questions are numbered, sessions too. */
export type JobRequest =
  | { kind: 'start'; session: number; run: number; task: unknown }
  | { kind: 'cancel'; session: number }
  | { kind: 'close'; session: number }
export interface JobOptions<T> {
  transfer?: Transferable[]
  onProgress?: (stage: string, fraction: number) => void
  /** Receives what is known before the end. */ onFound?: (value: T) => void
}

/** Time a worker gets to stop by itself after a cancel. */
const GRACE_MS = 200

export interface Session {
  /** One question at a time: asking again cancels what runs. */
  ask: <T>(task: unknown, options?: JobOptions<T>) => JobHandle<T>
  /** False once what the worker kept for it is gone; a new session is needed then. */
  alive: () => boolean
  close: () => void
}

const DIED = 'The background work stopped unexpectedly. Try again.'
const STOPPED = refuse('cancelled', 'Stopped.')
const reasonOf = (error: unknown): string =>
  error instanceof Error ? error.message : 'The task could not be handed over.'

/** A question under way. */
interface Asked {
  session: number
  receive: (message: JobMessage<never>) => void
  settle: (result: Result<never>) => void
}

/** One worker for many sessions: started for the first of them, ended with the last. */
export class JobWorker {
  private worker: Worker | undefined
  private readonly open = new Set<number>()
  private readonly asked = new Map<number, Asked>()
  private readonly songs = new SongSender()
  private sessions = 0
  private runs = 0

  constructor(private readonly makeWorker: () => Worker) {}

  openSession(): Session {
    const session = ++this.sessions
    this.worker ??= this.start()
    this.open.add(session)
    return {
      ask: (task, options = {}) => this.ask(session, task, options),
      alive: () => this.open.has(session),
      close: () => this.close(session),
    }
  }

  private start(): Worker {
    const worker = this.makeWorker()
    worker.onmessage = ({ data }: MessageEvent<JobMessage<never>>) =>
      // Answers to a question that is settled come too late.
      this.asked.get(data.run)?.receive(data)
    worker.onmessageerror = () => this.end(refuse('failed', 'The result could not be handed over.'))
    worker.onerror = (event) => {
      event.preventDefault?.()
      this.end(refuse('died', DIED))
    }
    return worker
  }

  /** Ends the worker and with it whatever it is at, for whomever. */
  private end(result: Result<never>): void {
    this.worker?.terminate()
    this.worker = undefined
    this.songs.startAnew()
    this.open.clear()
    for (const { settle } of [...this.asked.values()]) settle(result)
  }

  private close(session: number): void {
    if (!this.open.delete(session)) return
    if (this.open.size === 0) this.end(STOPPED)
    else {
      this.giveUp(session)
      this.worker?.postMessage({ kind: 'close', session } satisfies JobRequest)
    }
  }

  /** Settles what a session has asked; true when there was something. */
  private giveUp(session: number): boolean {
    const own = [...this.asked.values()].filter((one) => one.session === session)
    for (const { settle } of own) settle(STOPPED)
    return own.length > 0
  }

  private ask<T>(session: number, task: unknown, { transfer, ...listening }: JobOptions<T>): JobHandle<T> {
    const { worker } = this
    if (!worker || !this.open.has(session))
      return { result: Promise.resolve(refuse('died', DIED)), cancel: () => undefined }
    if (this.giveUp(session)) worker.postMessage({ kind: 'cancel', session } satisfies JobRequest)
    const run = ++this.runs
    const result = new Promise<Result<T>>((resolve) => {
      const settle = (value: Result<T>): void => {
        this.asked.delete(run)
        resolve(value)
      }
      this.asked.set(run, { session, settle, receive: (message) => answered(message, listening, settle) })
    })
    this.post(run, { kind: 'start', session, run, task }, transfer)
    const cancel = (): void => {
      // What is still on its way when somebody stops it must not look like work going on.
      delete listening.onProgress
      delete listening.onFound
      this.cancel(run)
    }
    return { result, cancel }
  }

  private post(run: number, request: JobRequest & { task: unknown }, transfer: Transferable[] = []): void {
    try {
      const task = plain(this.songs.packTask(request.task))
      this.worker?.postMessage({ ...request, task }, transfer)
    } catch (error) {
      this.songs.startAnew()
      this.asked.get(run)?.settle(refuse('failed', reasonOf(error)))
    }
  }

  private cancel(run: number): void {
    const asked = this.asked.get(run)
    if (!asked) return
    this.worker?.postMessage({ kind: 'cancel', session: asked.session } satisfies JobRequest)
    setTimeout(() => {
      if (!this.asked.has(run)) return
      // A worker that does not listen is ended, unless others have something in it.
      if (this.open.size === 1) this.end(STOPPED)
      else asked.settle(STOPPED)
    }, GRACE_MS)
  }
}

type Listening<T> = Omit<JobOptions<T>, 'transfer'>

function answered<T>(
  message: JobMessage<T>,
  options: Listening<T>,
  settle: (result: Result<T>) => void,
): void {
  switch (message.kind) {
    case 'progress':
      options.onProgress?.(message.stage, message.fraction)
      return
    case 'found':
      options.onFound?.(message.value)
      return
    case 'done':
      settle(ok(message.value))
      return
    case 'cancelled':
      settle(STOPPED)
      return
    case 'failed':
      settle(refuse('failed', message.message))
  }
}

/** A worker for one session only. */
export const openSession = (makeWorker: () => Worker): Session => new JobWorker(makeWorker).openSession()

/** Asks one question in a session of its own. */
export function runJob<T>(workers: JobWorker, task: unknown, options: JobOptions<T> = {}): JobHandle<T> {
  const session = workers.openSession()
  const { result, cancel } = session.ask<T>(task, options)
  return {
    result: result.then((value) => {
      session.close()
      return value
    }),
    cancel,
  }
}
