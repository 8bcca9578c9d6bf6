// analyse IN.wav: what is heard in a recording, as JSON.
import { readFileSync, writeFileSync } from 'node:fs'
import { analyse } from '../core/listen/analyse'
import { quietJob } from '../core/listen/job'
import { readWav } from '../core/sound/wav'
import { decodeAudio } from '../tools/decode'
import { nodeFft } from '../tools/fft'
import { Complaint } from './answer'

/** Writes the analysis to `out` or standard output. Throws a `Complaint` when there is nothing to hear. */
export async function analyseFile(path: string, out: string | undefined): Promise<void> {
  let bytes: Uint8Array
  try {
    bytes = readFileSync(path)
  } catch {
    throw new Complaint(`There is no readable file ${path}.`)
  }
  const recording = readWav(bytes) ?? (await decodeAudio(bytes).catch(() => undefined))
  if (!recording?.channels[0]?.length) throw new Complaint(`${path} is not a sound file that can be read.`)
  const { durationSeconds: _length, ...analysis } = await analyse(recording, await nodeFft(), quietJob)
  const text = `${JSON.stringify(analysis)}\n`
  if (out) writeFileSync(out, text)
  else process.stdout.write(text)
}
