// A few workers for the short questions of many askers. An asker has one question at a time: its newer one
// makes the older void. Every promise settles.
import { refuse, type Result } from '#core/result'
import { plain } from './plain'
import { openSession, type JobOptions, type Session } from './worker-job'

type Options = Pick<JobOptions<never>, 'onProgress'>
interface Question {
  asker: object
  task: unknown
  options: Options
  /** Only the first answer counts. */
  settle: (answer: Result<unknown>) => void
  /** Nobody waits for it any more. */
  isVoid: boolean
}
interface Seat {
  session?: Session
  running?: Question | undefined
}

/** A copy of what is asked; a song is none: it never changes, it is replaced. */
function asItIs(task: unknown): unknown {
  if (typeof task !== 'object' || task === null || !('song' in task)) return plain(task)
  const { song, ...rest } = task
  return { ...plain(rest), song }
}

/** Its worker is there already. */
const isReady = (seat: Seat): seat is Seat & { session: Session } => seat.session?.alive() ?? false

/** Workers are started when they are needed, at most so many, and stay. */
export class WorkerPool {
  private readonly seats: Seat[]
  private waiting: Question[] = []

  constructor(
    private readonly makeWorker: () => Worker,
    most: number,
  ) {
    this.seats = Array.from({ length: most }, () => ({}))
  }

  ask(asker: object, task: unknown, options: Options = {}): Promise<Result<unknown>> {
    this.forget(asker)
    const isFree = this.seats.some(({ running }) => !running)
    return new Promise((settle) => {
      try {
        // What has to wait is copied now: it must not change with the page.
        const question = { asker, task: isFree ? task : asItIs(task), options, settle, isVoid: false }
        this.waiting.push(question)
        this.fill()
      } catch (error) {
        settle(refuse('failed', String(error)))
      }
    })
  }

  /** Makes what an asker has asked void; its worker may still finish it. */
  forget(asker: object): void {
    const all = [...this.waiting, ...this.seats.flatMap(({ running }) => running ?? [])]
    this.waiting = this.waiting.filter((question) => question.asker !== asker)
    for (const question of all.filter((one) => one.asker === asker)) {
      question.isVoid = true
      question.settle(refuse('cancelled', 'Stopped.'))
    }
  }

  /** The same, and ends the worker that is at it: for work that takes long. */
  stop(asker: object): void {
    const seat = this.seats.find(({ running }) => running?.asker === asker)
    this.forget(asker)
    seat?.session?.close()
  }

  /** Gives what waits to the workers that are free, those that run already first. */
  private fill(): void {
    const free = this.seats
      .filter(({ running }) => !running)
      .sort((a, b) => Number(isReady(b)) - Number(isReady(a)))
    for (const seat of free) {
      const next = this.waiting.shift()
      if (!next) return
      this.start(seat, next)
    }
  }

  private start(seat: Seat, question: Question): void {
    seat.running = question
    const session = isReady(seat) ? seat.session : openSession(this.makeWorker)
    seat.session = session
    const onProgress = (stage: string, fraction: number): void => {
      if (!question.isVoid) question.options.onProgress?.(stage, fraction)
    }
    void session.ask<unknown>(question.task, { onProgress }).result.then((answer) => {
      seat.running = undefined
      question.settle(answer)
      this.fill()
    })
  }
}
