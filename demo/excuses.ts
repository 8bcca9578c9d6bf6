// What the check finds in the demo songs and their people want so, each with its reason.
import { transact } from '../core/editing/transact'
import type { Song } from '../core/document/schema'
import { must } from '../core/result'
import { checkSong } from '../core/check/check'
import type { FindingKind } from '../core/check/finding'

interface Wanted {
  kind: FindingKind
  /** The figure or the section it is about. */
  about: string
  why: string
}
const WANTED: Record<string, readonly Wanted[]> = {
  'salt-on-the-signal': [
    { kind: 'outside note', about: 'intro-riff', why: 'The raised sixth leads up to the seventh: heard.' },
    { kind: 'two at once', about: 'verse1', why: 'The run takes over on three; the riff stops there.' },
    { kind: 'outside note', about: 'root-eighths', why: 'Walks back down by half steps.' },
    { kind: 'outside note', about: 'lift-walk', why: 'Walks up to the fifth of the dominant.' },
    { kind: 'return', about: 'chorus3', why: 'Stays on its last chord; the turn upwards is left out.' },
    { kind: 'reach', about: 'solo-third', why: 'Pulled off from the little finger: he reaches it.' },
  ],
  'cold-kiln': [
    { kind: 'outside note', about: 'threes', why: 'The half step above the root is the riff.' },
    { kind: 'outside note', about: 'threes-bass', why: 'The half step above the root is the riff.' },
    { kind: 'chord outside the key', about: 'bridge', why: 'The bridge leans on the half step above.' },
  ],
}

/** The song with its excuses; what of them finds nothing any more is an error. */
export function excused(song: Song): Song {
  return (WANTED[song.id] ?? []).reduce((done, { kind, about, why }, index) => {
    const found = checkSong(done).open.find(
      ({ kind: own, place }) => own === kind && (place.figureId === about || place.sectionId === about),
    )
    if (!found) throw new Error(`nothing to excuse in ${song.id}: ${kind}, ${about}`)
    const excuse = { id: `excuse-${index + 1}`, finding: found.id, why }
    return must(transact(done, 'excuseFinding', { excuse })).song
  }, song)
}
