// analyse IN.wav: what is heard in a recording, as JSON.
import { existsSync, statSync, writeFileSync } from 'node:fs'
import { analyse } from '../core/hear/analyse'
import { quietJob } from '../core/hear/job'
import type { Analysis } from '../core/hear/analysis'
import { nodeFft } from '../node/fft'
import { openSoundFile } from '../node/sound-file'
import { Complaint } from './answer'

/** Writes the analysis to `out` or standard output. Throws a `Complaint` when there is nothing to hear. */
export async function analyseFile(path: string, out: string | undefined): Promise<void> {
  if (!existsSync(path) || statSync(path).isDirectory())
    throw new Complaint(`There is no readable file ${path}.`)
  const { durationSeconds: _length, ...analysis } = await heardIn(path)
  const text = `${JSON.stringify(analysis)}\n`
  if (out) writeFileSync(out, text)
  else process.stdout.write(text)
}

async function heardIn(path: string): Promise<Analysis> {
  const unreadable = new Complaint(`${path} is not a sound file that can be read.`)
  const recording = await openSoundFile(path).catch(() => undefined)
  if (!recording) throw unreadable
  const makeFft = await nodeFft()
  // A file may turn out to be none in its middle.
  const pieces = async function* () {
    try {
      yield* recording.pieces
    } catch {
      throw unreadable
    }
  }
  return analyse({ ...recording, pieces: pieces() }, makeFft, quietJob)
}
