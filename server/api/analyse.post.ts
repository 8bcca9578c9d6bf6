import { analyse } from '../../core/listen/analyse'
import { quietJob } from '../../core/listen/job'
import { readWav } from '../../core/sound/wav'
import { nodeFft } from '../../scripts/fft'

/** Larger than fifteen minutes of 16-bit stereo at 48 kHz. */
const MOST_BYTES = 180_000_000

/** For scripts on this machine: a WAV file as the body, what is heard in it as JSON, the same as from the command line. The application never sends a recording here. */
export default defineEventHandler(async (event) => {
  const length = Number(getHeader(event, 'content-length') ?? 0)
  if (length > MOST_BYTES) throw createError({ statusCode: 413, statusMessage: 'At most fifteen minutes of sound' })
  const body = await readRawBody(event, false)
  const recording = body && readWav(new Uint8Array(body))
  if (!recording?.channels[0]?.length) throw createError({ statusCode: 400, statusMessage: 'Send a WAV file as the body' })
  return analyse(recording, await nodeFft(), quietJob)
})
