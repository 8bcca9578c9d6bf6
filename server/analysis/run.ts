// One analysis at a time in a worker thread, with bounded memory and time.
import { Worker } from 'node:worker_threads'

const LONGEST_MS = 180_000
const MOST_MEGABYTES = 4096

export type Outcome = { analysis: unknown } | { failed: 'busy' | 'too long' | 'died' | 'unreadable' }

let running = false

/** Listens to WAV bytes; refuses while another is being listened to. */
export async function analyseAside(bytes: Uint8Array): Promise<Outcome> {
  if (running) return { failed: 'busy' }
  running = true
  try {
    return await inWorker(bytes)
  } finally {
    running = false
  }
}

function inWorker(bytes: Uint8Array): Promise<Outcome> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('./analysis-worker.mjs', import.meta.url), {
      workerData: bytes,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
    })
    const end = (outcome: Outcome): void => {
      clearTimeout(timer)
      void worker.terminate()
      resolve(outcome)
    }
    const timer = setTimeout(() => end({ failed: 'too long' }), LONGEST_MS)
    worker.on('message', ({ analysis, failed }: { analysis?: unknown; failed?: string }) => {
      if (failed !== undefined) end({ failed: 'died' })
      else end(analysis === undefined ? { failed: 'unreadable' } : { analysis })
    })
    worker.on('error', () => end({ failed: 'died' }))
  })
}
