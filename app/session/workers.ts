// The workers of the application besides the one that sounds: one for what listens to recordings, however
// many ask, and one for the short questions of pages and panels.
import { JobWorker } from '#platform/worker-job'
import { WorkerPool } from '#platform/worker-pool'

/** Hears, drafts, checks and proves against recordings; each asker has a session. */
export const listeningWorker = new JobWorker(
  () => new Worker(new URL('../workers/listening.worker.ts', import.meta.url), { type: 'module' }),
)

/** Answers short questions one after the other. */
export const playingPool = new WorkerPool(
  () => new Worker(new URL('../workers/playing.worker.ts', import.meta.url), { type: 'module' }),
  1,
)
