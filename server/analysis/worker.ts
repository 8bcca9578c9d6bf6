// Listens to one recording beside the server, so that other requests are answered meanwhile.
import { parentPort, workerData } from 'node:worker_threads'
import { analyse } from '../../core/listen/analyse'
import { quietJob } from '../../core/listen/job'
import { readWav } from '../../core/sound/wav'
import { nodeFft } from '../../tools/fft'

async function heard(bytes: Uint8Array): Promise<unknown> {
  const recording = readWav(bytes)
  if (!recording?.channels[0]?.length) return undefined
  return analyse(recording, await nodeFft(), quietJob)
}

heard(workerData as Uint8Array).then(
  (analysis) => parentPort!.postMessage({ analysis }),
  (error: unknown) => parentPort!.postMessage({ failed: String(error) }),
)
