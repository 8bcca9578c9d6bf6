// From a snapshot and a journal to a song with its history: the state as last saved, what undo and redo can
// reach, and, when the last state breaks a rule, the last one that did not.
import { ok, type Refusal, type Result } from '../result'
import type { Entry, History } from './history'
import { readSong } from './migrations'
import { changeWithOneShapeOfMark } from './migrations/one-shape-of-mark'
import { applyPatch, invertPatch, type Patch } from './patch'
import type { Song } from './schema'

export interface JournalEntry {
  seq: number
  label: string
  patch: Patch
  kind: 'do' | 'undo' | 'redo'
}
export interface LastGood {
  song: Song
  seq: number
  /** Labels of the changes that came after it and are not in it, oldest first. */
  lost: string[]
}
export interface Damaged {
  refusal: Refusal
  /** The document as it lies in the database. */
  data: unknown
  lastGood: LastGood | undefined
}

/** The song at the end of its journal. `entries` in order; those up to `seq` are in the snapshot already. */
export function replay(
  snapshot: unknown,
  seq: number,
  entries: readonly JournalEntry[],
): Result<{ song: Song; seq: number }> | Damaged {
  const present = entries.map(asWrittenNow)
  const since = present.filter((entry) => entry.seq > seq)
  const data = replayed(snapshot, since)
  const read = readSong(data)
  if (read.ok) return ok({ song: read.value, seq: since.at(-1)?.seq ?? seq })
  if (read.refusal.code === 'newer' || read.refusal.code === 'not-a-song') return read
  return { refusal: read.refusal, data, lastGood: lastGood(snapshot, seq, present) }
}

/** An entry as this version would have written it: the journal is not rewritten when the shape changes. */
const asWrittenNow = (entry: JournalEntry): JournalEntry => ({
  ...entry,
  patch: entry.patch.map(changeWithOneShapeOfMark),
})

export const isDamaged = (result: object): result is Damaged => 'lastGood' in result

/** Applies what can be applied: an entry of an unknown shape ends the replay. */
function replayed(snapshot: unknown, entries: readonly JournalEntry[]): unknown {
  let data = snapshot
  for (const entry of entries) {
    try {
      data = applyPatch(data as Song, entry.patch)
    } catch {
      return data
    }
  }
  return data
}

/** Goes back through the journal, before the snapshot too, to the newest state that can be read. */
function lastGood(snapshot: unknown, seq: number, entries: readonly JournalEntry[]): LastGood | undefined {
  const since = entries.filter((entry) => entry.seq > seq)
  for (let kept = since.length - 1; kept >= 0; kept--) {
    const read = readSong(replayed(snapshot, since.slice(0, kept)))
    if (read.ok) return good(read.value, since[kept - 1]?.seq ?? seq, entries)
  }
  const before = entries.filter((entry) => entry.seq <= seq)
  let data = snapshot
  for (const entry of before.reverse()) {
    data = replayed(data, [{ ...entry, patch: invertPatch(entry.patch) }])
    const read = readSong(data)
    if (read.ok) return good(read.value, entry.seq - 1, entries)
  }
  return undefined
}

const good = (song: Song, seq: number, entries: readonly JournalEntry[]): LastGood => ({
  song,
  seq,
  lost: entries.filter((entry) => entry.seq > seq).map((entry) => entry.label),
})

/** What undo and redo reach after these entries. */
export function historyOf(song: Song, entries: readonly JournalEntry[]): History {
  const undo: Entry[] = []
  let redo: Entry[] = []
  for (const { kind, label, patch } of entries.map(asWrittenNow)) {
    if (kind === 'do') {
      undo.push({ label, patch })
      redo = []
      continue
    }
    const [from, to] = kind === 'undo' ? [undo, redo] : [redo, undo]
    const entry = from.pop()
    if (entry) to.push(entry)
  }
  return { song, undo, redo }
}
