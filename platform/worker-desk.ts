// The worker's side of its sessions: questions of one session are answered one after the other, each
// session's beside the others', with progress and a stop. What a session keeps is kept until it is closed.
import { SongReceiver } from '#core/document/song-wire'
import { Cancelled, type JobContext } from '#core/hear/job'
import { pause } from './pause'
import type { JobMessage, JobRequest } from './worker-job'

/** What one question is told and may say. */
export interface DeskJob extends Omit<JobContext, 'found'> {
  /** Aborted when it is called off. */
  signal: AbortSignal
  found: (value: unknown, transfer?: Transferable[]) => void
}
/** Answers the questions of one session; made anew for each of them. */
export type Answer<Task> = (task: Task, job: DeskJob) => unknown
/** An answer whose memory is given away with it. */
export class Given {
  constructor(
    readonly value: unknown,
    readonly transfer: Transferable[],
  ) {}
}

/** How often progress is told, in milliseconds. */
const TOLD_EVERY = 80

interface Desk<Task> {
  answer: Answer<Task>
  busy: Promise<void>
  /** Calls off what was asked so far. */
  stop: AbortController
}

/** What a worker is to itself: `self`. */
interface Port {
  postMessage: (message: unknown, options: { transfer: Transferable[] }) => void
  addEventListener: (kind: 'message', receive: (event: MessageEvent<JobRequest>) => void) => void
}

/** Serves every session that is opened from outside. */
export function serve<Task>(port: Port, openDesk: () => Answer<Task>): void {
  const desks = new Map<number, Desk<Task>>()
  const songs = new SongReceiver()
  const say = (message: JobMessage<unknown>, transfer: Transferable[] = []): void =>
    port.postMessage(message, { transfer })

  async function work(desk: Desk<Task>, run: number, task: Task, signal: AbortSignal): Promise<void> {
    let told = 0
    const job: DeskJob = {
      signal,
      isCancelled: () => signal.aborted,
      report: (stage, fraction) => {
        if (performance.now() - told < TOLD_EVERY) return
        told = performance.now()
        say({ run, kind: 'progress', stage, fraction })
      },
      pause,
      found: (value, transfer) => say({ run, kind: 'found', value }, transfer),
    }
    try {
      if (signal.aborted) throw new Cancelled()
      const made = await desk.answer(task, job)
      if (made instanceof Given) say({ run, kind: 'done', value: made.value }, made.transfer)
      else say({ run, kind: 'done', value: made })
    } catch (error) {
      if (error instanceof Cancelled) say({ run, kind: 'cancelled' })
      else say({ run, kind: 'failed', message: error instanceof Error ? error.message : String(error) })
    }
  }

  port.addEventListener('message', ({ data }) => {
    const desk = desks.get(data.session) ?? {
      answer: openDesk(),
      busy: Promise.resolve(),
      stop: new AbortController(),
    }
    if (data.kind === 'start') {
      desks.set(data.session, desk)
      // Songs come as changes of the one before: they are read in the order they are sent.
      const task = songs.unpackTask(data.task) as Task
      const { signal } = desk.stop
      desk.busy = desk.busy.then(() => work(desk, data.run, task, signal))
      return
    }
    desk.stop.abort()
    desk.stop = new AbortController()
    if (data.kind === 'close') desks.delete(data.session)
  })
}
