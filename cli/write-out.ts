// A file that a command writes.
import { writeFileSync } from 'node:fs'
import { Complaint } from './answer'

/** Throws a `Complaint` where nothing can be written. */
export function writeOut(path: string, content: Uint8Array | string): void {
  try {
    writeFileSync(path, content)
  } catch {
    throw new Complaint(`${path} cannot be written: is there such a folder, and may it be written to?`)
  }
}
