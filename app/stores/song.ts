import { defineStore } from 'pinia'
import { record, redo as redoHistory, undo as undoHistory } from '#core/document/history'
import type { ArgsOf, TransactionName } from '#core/document/transactions'
import { transact, type Applied } from '#core/editing/transact'
import { useOpenSong } from '../session/open-song'
import { ask } from '../session/question'
import { useSongNames } from '../session/song-names'

/** "Remove Guitar 2?" of "remove Guitar 2". */
const questionOf = (asked: string): string => `${asked.charAt(0).toUpperCase()}${asked.slice(1)}?`

/** The open document and its history. Components run transactions here and never change the document. */
export const useSong = defineStore('song', () => {
  const document = useOpenSong()
  const { history, notice, readOnly } = document
  const song = computed(() => history.value?.song)
  const undoLabel = computed(() => history.value?.undo.at(-1)?.label)
  const redoLabel = computed(() => history.value?.redo.at(-1)?.label)

  function refused(text: string): false {
    notice.value = { text, kind: 'refusal' }
    return false
  }
  function take(applied: Applied): true {
    notice.value = undefined
    // What changes nothing is no step to take back.
    if (applied.patch.length === 0) return true
    const next = Object.freeze(applied.song)
    history.value = record(history.value!, next, { label: applied.label, patch: applied.patch })
    document.save(next, { label: applied.label, patch: applied.patch, kind: 'do' })
    return true
  }

  /**
   * Runs a transaction. False, with the reason shown, when it is refused; false too while it asks whether
   * what goes along with it may go (`then` is called once it is done, whichever way).
   */
  function run<Name extends TransactionName>(name: Name, args: ArgsOf<Name>, then?: () => void): boolean {
    const before = song.value
    if (!before) return false
    if (readOnly.value) return refused(readOnly.value)
    const result = transact(before, name, args)
    if (!result.ok) return refused(result.refusal.message)
    const { consequences, asked } = result.value
    if (consequences.length === 0) {
      take(result.value)
      then?.()
      return true
    }
    const title = questionOf(asked)
    void ask({ title, consequences, yes: 'Do it' }).then((yes) => {
      if (!yes || song.value !== before) return
      take(result.value)
      then?.()
    })
    return false
  }

  function step(move: typeof undoHistory, kind: 'undo' | 'redo'): void {
    const moved = history.value && !readOnly.value ? move(history.value) : undefined
    if (!moved) return
    history.value = moved.history
    document.save(moved.history.song, { label: moved.label, patch: moved.patch, kind })
  }
  const undo = (): void => step(undoHistory, 'undo')
  const redo = (): void => step(redoHistory, 'redo')
  function close(): void {
    document.close()
    names.heardSourceId.value = undefined
  }

  const names = useSongNames(song)
  return { ...document, ...names, song, undoLabel, redoLabel, close, run, undo, redo }
})
