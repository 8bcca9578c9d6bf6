// check SONG: what is missing or does not add up.
import type { Song } from '../core/document/schema'
import { findings } from '../core/review/findings'

/** A line for each finding, and how many there are. */
export function check(song: Song): void {
  const list = findings(song)
  for (const finding of list) console.log(`${finding.kind}: ${finding.text}`)
  console.log(
    list.length
      ? `${list.length} ${list.length === 1 ? 'finding' : 'findings'}`
      : 'Nothing missing, everything adds up.',
  )
}
