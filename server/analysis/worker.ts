// Listens to one recording beside the server, so that other requests are answered meanwhile.
import { parentPort, workerData } from 'node:worker_threads'
import { analyse } from '../../core/hear/analyse'
import { quietJob } from '../../core/hear/job'
import { wavLayout, wavPieces } from '../../core/sound/wav'
import { nodeFft } from '../../node/fft'

async function heard(bytes: Uint8Array): Promise<unknown> {
  const layout = wavLayout(bytes, bytes.length)
  if (!layout?.frames) return undefined
  const pieces = wavPieces(layout, (at, length) => bytes.subarray(at, at + length))
  return analyse({ pieces, sampleRate: layout.sampleRate, frames: layout.frames }, await nodeFft(), quietJob)
}

heard(workerData as Uint8Array).then(
  (analysis) => parentPort!.postMessage({ analysis }),
  (error: unknown) => parentPort!.postMessage({ failed: String(error) }),
)
