// Undo and redo over patches, named. Pure: the store holds one of these and replaces it.
import { applyPatch, invertPatch, type Patch } from './patch'
import type { Song } from './schema'

export interface Entry {
  label: string
  patch: Patch
}
export interface History {
  song: Song
  undo: readonly Entry[]
  redo: readonly Entry[]
}

const LIMIT = 500
export const startHistory = (song: Song): History => ({ song, undo: [], redo: [] })

export const record = (history: History, song: Song, entry: Entry): History => ({
  song,
  undo: [...history.undo.slice(-LIMIT + 1), entry],
  redo: [],
})

/** Takes the last change back; undefined when there is none. `patch` is what was applied to do so. */
export function undo(history: History): { history: History; patch: Patch; label: string } | undefined {
  const entry = history.undo.at(-1)
  if (!entry) return undefined
  const patch = invertPatch(entry.patch)
  return {
    history: {
      song: applyPatch(history.song, patch),
      undo: history.undo.slice(0, -1),
      redo: [...history.redo, entry],
    },
    patch,
    label: entry.label,
  }
}

/** Does the last undone change again; undefined when there is none. */
export function redo(history: History): { history: History; patch: Patch; label: string } | undefined {
  const entry = history.redo.at(-1)
  if (!entry) return undefined
  return {
    history: {
      song: applyPatch(history.song, entry.patch),
      undo: [...history.undo, entry],
      redo: history.redo.slice(0, -1),
    },
    patch: entry.patch,
    label: entry.label,
  }
}
