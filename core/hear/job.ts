import type { Analysis } from './analysis'

/** What long work is told and may ask. `pause` lets the host breathe and hear a cancel between chunks. */
export interface JobContext {
  isCancelled: () => boolean
  report: (stage: string, fraction: number) => void
  pause: () => Promise<void>
  /** Receives what is known so far. */
  found?: (partial: Analysis) => void
}

export class Cancelled extends Error {
  constructor() {
    super('cancelled')
  }
}

export const quietJob: JobContext = {
  isCancelled: () => false,
  report: () => undefined,
  pause: () => Promise.resolve(),
}

/** Between chunks: reports, breathes, and stops when asked to. */
export async function checkpoint(job: JobContext, stage: string, fraction: number): Promise<void> {
  job.report(stage, fraction)
  await job.pause()
  if (job.isCancelled()) throw new Cancelled()
}
