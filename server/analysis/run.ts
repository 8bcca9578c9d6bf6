// One analysis at a time in a worker thread, with bounded memory and time.
import { Worker } from 'node:worker_threads'

const LONGEST_MS = 180_000
const MOST_MEGABYTES = 4096

export type Outcome =
  { analysis: unknown } | { failed: 'busy' | 'too slow' | 'too long' | 'died' | 'unreadable' }

/** A body comes in as slowly as its sender likes: after so long its turn is over. */
const LONGEST_SENDING_MS = 120_000

let running = false

/**
 * Takes a recording in and listens to it. Refuses while another has its turn, before anything of this one is
 * taken in; gives up a sender that does not go on.
 */
export async function analyseAside(receive: () => Promise<Uint8Array>): Promise<Outcome> {
  if (running) return { failed: 'busy' }
  running = true
  let timer: ReturnType<typeof setTimeout> | undefined
  try {
    const given = new Promise<undefined>((resolve) => {
      timer = setTimeout(() => resolve(undefined), LONGEST_SENDING_MS)
    })
    const bytes = await Promise.race([receive(), given])
    return bytes ? await inWorker(bytes) : { failed: 'too slow' }
  } finally {
    clearTimeout(timer)
    running = false
  }
}

function inWorker(bytes: Uint8Array): Promise<Outcome> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('./analysis-worker.mjs', import.meta.url), {
      workerData: bytes,
      transferList: [bytes.buffer as ArrayBuffer],
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
