// The one song that is open: locked before it is read, saved in order, followed when another window writes,
// never lost when it is damaged, removed elsewhere, or closed before all of it was stored.
import { liveQuery, type Subscription } from 'dexie'
import { startHistory, type History } from '#core/document/history'
import { isDamaged, type Damaged } from '#core/document/replay'
import { salvageSong } from '#core/document/salvage'
import type { Song } from '#core/document/schema'
import { database } from '#platform/database'
import { randomId } from '#platform/files'
import { makeOutbox, type Outbox, type SaveState } from '#platform/outbox'
import { commitChange, createSong, loadSong, type Saving } from '#platform/song-store'
import { lockSong, takeOver, type SongLock } from '#platform/tab-lock'

/** This window, as the database knows the one that writes. */
const WINDOW = randomId()

export interface Notice {
  text: string
  /** `done` says what came of something, and leaves with the page. */
  kind: 'refusal' | 'done' | 'storage' | 'removed'
}
export interface Trouble {
  message: string
  damaged?: Damaged
  leftOut?: string[]
}
/** A song that left the page before all of it was stored: it is what is opened next time. */
interface Unsaved {
  outbox: Outbox<Saving>
  history: History
}
const unsaved = new Map<string, Unsaved>()
/** True while something of any song is still on its way to the disk. */
export const anythingUnsaved = (): boolean => [...unsaved.values()].some(({ outbox }) => outbox.waiting > 0)

const ELSEWHERE =
  'This song is open in another window: this one follows what happens there. Close the other to write here.'

const TAKEN_OVER = 'Another window took this song over: this one follows it now.'
/** What was still on its way to the disk when the song was taken over: it was never shown as saved. */
function notStoredWords(changes: number): string {
  if (changes === 0) return ''
  return changes === 1
    ? 'The last change made here was not stored yet, and is not in it.'
    : `The last ${changes} changes made here were not stored yet, and are not in it.`
}

/** Why nothing may be changed, as it is shown over the page. */
const keptReadOnly = (why: string | undefined): string | undefined =>
  why && `This song was ${why}: you can look and listen, but not change it.`

export function useOpenSong() {
  const history = shallowRef<History>()
  const saveState = ref<SaveState>('saved')
  const notice = ref<Notice>()
  const readOnly = ref<string>()
  /** Following another window that writes: this one may take the song over. */
  const following = ref(false)
  const trouble = shallowRef<Trouble>()
  let openings = 0
  let openId: string | undefined
  let lock: SongLock | undefined
  let watching: Subscription | undefined
  let outbox: Outbox<Saving> | undefined

  function outboxFor(id: string): Outbox<Saving> {
    return makeOutbox<Saving>(
      (saving) => commitChange(saving, WINDOW),
      (state, refusal) => {
        if (state === 'saved') unsaved.delete(id)
        if (openId !== id) return
        saveState.value = state
        if (state === 'saved' && notice.value?.kind === 'storage') notice.value = undefined
        if (refusal?.code === 'removed') removedElsewhere()
        else if (refusal?.code === 'taken-over') void lost(id)
        else if (refusal) notice.value = { text: refusal.message, kind: 'storage' }
      },
    )
  }

  /**
   * Opens a song. Resolves with false when another was opened meanwhile; whatever was opened last is what is
   * shown, and holds the only lock.
   */
  async function open(id: string): Promise<boolean> {
    const mine = ++openings
    leave()
    openId = id
    const wanted = await lockSong(id, { onPromoted: () => void promoted(id), onLost: () => void lost(id) })
    if (mine !== openings) {
      wanted.release()
      return false
    }
    lock = wanted
    if (!(await read(id, wanted.writer, () => mine === openings))) return mine === openings
    watch(id)
    return true
  }

  /** Reads the song as it lies on the disk. False when there is none to show, or nobody wants it any more. */
  async function read(id: string, writer: boolean, wanted: () => boolean): Promise<boolean> {
    if (writer && takeUpUnsaved(id)) return true
    const loaded = await loadSong(id, writer ? WINDOW : undefined)
    if (!wanted()) return false
    if (isDamaged(loaded)) return showDamaged(loaded)
    if (!loaded.ok) {
      trouble.value = { message: loaded.refusal.message }
      return false
    }
    trouble.value = undefined
    history.value = writer ? loaded.value.history : startHistory(loaded.value.song)
    saveState.value = 'saved'
    following.value = !writer
    readOnly.value = keptReadOnly(loaded.value.readOnly) ?? (writer ? undefined : ELSEWHERE)
    if (writer) outbox = outboxFor(id)
    return true
  }

  /** Goes on with what this window has not stored yet: the disk is older, and must not be written past it. */
  function takeUpUnsaved(id: string): boolean {
    const waiting = unsaved.get(id)
    if (!waiting || waiting.outbox.waiting === 0) return false
    outbox = waiting.outbox
    history.value = waiting.history
    readOnly.value = undefined
    following.value = false
    outbox.retry()
    return true
  }

  /** What can be read of a damaged song, for looking at only. */
  function showDamaged(damaged: Damaged): boolean {
    const salvaged = salvageSong(damaged.data)
    trouble.value = {
      message: damaged.refusal.message,
      damaged,
      ...(salvaged.ok ? { leftOut: salvaged.value.leftOut } : {}),
    }
    if (salvaged.ok) history.value = startHistory(salvaged.value.song)
    readOnly.value = 'What can be read of this damaged song is shown; it cannot be changed as it is.'
    return false
  }

  /** Takes the last state that was sound in place of the damaged one. */
  async function takeLastGood(): Promise<void> {
    const good = trouble.value?.damaged?.lastGood
    if (!good || !openId) return
    const id = openId
    const created = await createSong({ ...good.song, id }, { writer: WINDOW })
    if (!created.ok) notice.value = { text: created.refusal.message, kind: 'storage' }
    else await open(id)
  }

  /** Follows what happens to the song elsewhere: what another window writes, and its removal. */
  function watch(id: string): void {
    let reads = 0
    watching = liveQuery(() => database.songs.get(id).then((row) => row?.updatedAt ?? 0)).subscribe((at) => {
      if (openId !== id) return
      if (at === 0) removedElsewhere()
      else if (following.value) {
        const mine = ++reads
        void read(id, false, () => openId === id && following.value && mine === reads)
      }
    })
  }

  /** The window that wrote has closed: what it wrote last is read, and this one writes from now on. */
  async function promoted(id: string): Promise<void> {
    if (openId !== id) return
    following.value = false
    await read(id, true, () => openId === id)
  }

  /** Another window took the song over: what it makes of it is followed. */
  async function lost(id: string): Promise<void> {
    if (openId !== id) return
    const notStored = outbox?.waiting ?? 0
    outbox?.clear()
    outbox = undefined
    unsaved.delete(id)
    lock?.release()
    following.value = true
    notice.value = { text: `${TAKEN_OVER} ${notStoredWords(notStored)}`.trim(), kind: 'refusal' }
    await read(id, false, () => openId === id)
    const again = await lockSong(id, { onPromoted: () => void promoted(id), onLost: () => void lost(id) })
    if (openId === id) lock = again
    else again.release()
  }

  /** Writes here although another window holds the song: for one that is frozen or forgotten. */
  async function writeHere(): Promise<void> {
    const id = openId
    if (!id || !following.value) return
    lock?.release()
    lock = await takeOver(id, { onLost: () => void lost(id) })
    if (openId !== id) return
    following.value = false
    await read(id, true, () => openId === id)
  }

  function removedElsewhere(): void {
    if (!history.value || trouble.value) return
    saveState.value = 'failed'
    notice.value = {
      text: 'This song was removed from the shelf in another window: it is only in this window now.',
      kind: 'removed',
    }
  }

  /** Puts a song that was removed elsewhere back on the shelf, as it is here. */
  async function putBack(): Promise<void> {
    const song = history.value?.song
    if (!song) return
    outbox?.clear()
    unsaved.delete(song.id)
    const created = await createSong(song, { writer: WINDOW })
    saveState.value = created.ok ? 'saved' : 'failed'
    notice.value = created.ok ? undefined : { text: created.refusal.message, kind: 'storage' }
  }

  function save(next: Song, change: Omit<Saving, 'song'>): void {
    if (change.patch.length === 0 || !outbox) return
    unsaved.set(next.id, { outbox, history: history.value! })
    outbox.add({ song: next, ...change })
  }

  /** Lets go of the song; its lock is given back when all of it is stored. */
  function leave(): void {
    watching?.unsubscribe()
    watching = undefined
    const [held, leaving] = [lock, outbox]
    lock = outbox = undefined
    if (leaving && leaving.waiting > 0) void leaving.settled().finally(() => held?.release())
    else held?.release()
    openId = undefined
    history.value = undefined
    trouble.value = undefined
    notice.value = undefined
    readOnly.value = undefined
    following.value = false
    saveState.value = 'saved'
  }

  function close(): void {
    openings++
    leave()
  }

  return {
    history,
    saveState,
    notice,
    readOnly,
    following,
    trouble,
    open,
    close,
    save,
    writeHere,
    putBack,
    takeLastGood,
    retrySave: () => outbox?.retry(),
    settled: () => outbox?.settled() ?? Promise.resolve(true),
  }
}
