import { defineStore } from 'pinia'
import { liveQuery, type Subscription } from 'dexie'
import { orderedParts, orderedSections, overSource, sectionPlaces, songTimeMap, mainSource } from '#core/song/form'
import { record, redo as redoHistory, startHistory, undo as undoHistory, type History } from '#core/song/history'
import { transact, type ArgsOf, type TransactionName } from '#core/song/transactions'
import { withFollowers } from '#core/playing/derive'
import { gripFacts, writeGrip } from '#core/playing/grip'
import { bandShift, namingKey, shapeShift, stringName } from '#core/playing/part-pitch'
import { keyName, pretty, transposeKey } from '#core/music/pitch'
import { transposeSymbol } from '#core/music/chord-name'
import type { Patch } from '#core/song/patch'
import type { Grip, Part, Song } from '#core/song/schema'
import { commitChange, database, loadSong } from '#platform/database'
import { lockSong } from '#platform/tab-lock'
import { usePreferences } from './preferences'

export type SaveState = 'saved' | 'saving' | 'failed'

/** The open document and its history. Components run transactions here and never change the document. */
export const useSong = defineStore('song', () => {
  const history = shallowRef<History>()
  const saveState = ref<SaveState>('saved')
  const notice = ref<{ text: string; kind: 'refusal' | 'storage' } | undefined>()
  /** Why nothing may be changed; undefined when this window writes. */
  const readOnly = ref<string>()
  let queue: Promise<void> = Promise.resolve()
  let release: () => void = () => undefined
  let following: Subscription | undefined

  const song = computed(() => history.value?.song)
  const undoLabel = computed(() => history.value?.undo.at(-1)?.label)
  const redoLabel = computed(() => history.value?.redo.at(-1)?.label)

  async function open(id: string): Promise<string | undefined> {
    close()
    const loaded = await loadSong(id)
    if (!loaded.ok) return loaded.refusal.message
    history.value = startHistory(Object.freeze(loaded.value.song))
    saveState.value = 'saved'
    const lock = await lockSong(id, () => { void promote(id) })
    release = lock.release
    readOnly.value = loaded.value.readOnly ? `This song was ${loaded.value.readOnly}: you can look and listen, but not change it.` : lock.writer ? undefined : 'This song is open in another window: this one follows what happens there. Close the other to write here.'
    if (!lock.writer) follow(id)
    return undefined
  }

  /** Follows the writing window through the journal. */
  function follow(id: string): void {
    following = liveQuery(() => database.songs.get(id).then((row) => row?.updatedAt)).subscribe(() => {
      void loadSong(id).then((loaded) => { if (loaded.ok && readOnly.value) { history.value = startHistory(loaded.value.song)} })
    })
  }

  async function promote(id: string): Promise<void> {
    following?.unsubscribe()
    const loaded = await loadSong(id)
    if (!loaded.ok || song.value?.id !== id) return
    history.value = startHistory(loaded.value.song)
    readOnly.value = loaded.value.readOnly
  }

  function close(): void {
    release()
    release = () => undefined
    following?.unsubscribe()
    following = undefined
    history.value = undefined
    notice.value = undefined
    readOnly.value = undefined
    heardSourceId.value = undefined
  }

  function save(next: Song, label: string, patch: Patch): void {
    if (patch.length === 0) return
    saveState.value = 'saving'
    queue = queue.then(async () => {
      const result = await commitChange(next, label, patch)
      if (result.ok) { if (song.value === next) saveState.value = 'saved' } else { saveState.value = 'failed'; notice.value = { text: result.refusal.message, kind: 'storage' } }
    })
  }

  /** Runs a transaction. False, with the reason shown, when it is refused. */
  function run<Name extends TransactionName>(name: Name, args: ArgsOf<Name>): boolean {
    if (!history.value) return false
    if (readOnly.value) { notice.value = { text: readOnly.value, kind: 'refusal' }; return false }
    // Lines that follow a figure are made anew in the same step.
    const followed = name === 'changeFigure' ? withFollowers(history.value.song, args as ArgsOf<'changeFigure'>) : undefined
    if (followed && !followed.ok) { notice.value = { text: followed.refusal.message, kind: 'refusal' }; return false }
    const result = followed?.ok && followed.value.length > 1 ? transact(history.value.song, 'changeFigures', { what: (args as ArgsOf<'changeFigure'>).what, changes: followed.value.map(({ figureId, set }) => ({ figureId, set })) }) : transact(history.value.song, name, args)
    if (!result.ok) { notice.value = { text: result.refusal.message, kind: 'refusal' }; return false }
    notice.value = undefined
    history.value = record(history.value, Object.freeze(result.value.song), result.value)
    save(result.value.song, result.value.label, result.value.patch)
    return true
  }

  function step(move: typeof undoHistory, words: string): void {
    const moved = history.value && !readOnly.value ? move(history.value) : undefined
    if (!moved) return
    history.value = moved.history
    save(moved.history.song, `${words}: ${moved.label}`, moved.patch)
  }
  const undo = (): void => step(undoHistory, 'Undo')
  const redo = (): void => step(redoHistory, 'Redo')

  // What many views read.
  const preferences = usePreferences()
  const sections = computed(() => (song.value ? orderedSections(song.value) : []))
  const places = computed(() => (song.value ? sectionPlaces(song.value) : []))
  const parts = computed(() => (song.value ? orderedParts(song.value) : []))
  /** Which recording is listened to, when it is not the song's main one. Nothing of the document changes by it. */
  const heardSourceId = ref<string>()
  /** The document seen over the recording that is listened to. */
  const heardSong = computed(() => (song.value && heardSourceId.value ? overSource(song.value, heardSourceId.value) : song.value))
  const map = computed(() => (heardSong.value ? songTimeMap(heardSong.value) : undefined))
  const source = computed(() => (heardSong.value ? mainSource(heardSong.value) : undefined))
  const onMainSource = computed(() => !song.value || source.value?.id === mainSource(song.value)?.id)
  /** Semitones from sounding names to the names shown for the whole band. */
  const nameShift = computed(() => (preferences.values.naming === 'shape' && song.value ? (bandShift(song.value) ?? 0) : 0))
  const shownKey = computed(() => transposeKey(song.value?.key ?? { tonic: 'C', mode: 'major' }, nameShift.value))
  const keyWords = computed(() => {
    if (!song.value) return ''
    return nameShift.value === 0 ? keyName(song.value.key) : `${keyName(shownKey.value)} by shape, ${keyName(song.value.key)} as sounding`
  })
  const showSymbol = (symbol: string): string => pretty(transposeSymbol(symbol, nameShift.value, shownKey.value))
  const factsOf = (part: Part, grip: Grip) => gripFacts(song.value!, part, grip, preferences.values.naming, preferences.hand)
  /** What stands over a grip: its best name, or its strings when it has none. */
  const gripName = (part: Part, grip: Grip): string => pretty(factsOf(part, grip).names[0]?.symbol ?? '') || writeGrip(grip)
  const stringLabel = (part: Part, stringNumber: number): string => stringName(song.value!, part, stringNumber, { strings: preferences.values.strings, naming: preferences.values.naming })

  /** A chord of one part as it is named on the page, and back to what it sounds. */
  const partShift = (part: Part): number => (preferences.values.naming === 'shape' ? shapeShift(part) : 0)
  const shownChord = (part: Part, symbol: string): string => transposeSymbol(symbol, partShift(part), namingKey(song.value!, part, preferences.values.naming))
  const soundingChord = (part: Part, shown: string): string => transposeSymbol(shown, -partShift(part), song.value!.key)

  return { song, history, saveState, notice, readOnly, undoLabel, redoLabel, heardSourceId, heardSong, onMainSource, open, close, run, undo, redo, sections, places, parts, map, source, nameShift, shownKey, keyWords, showSymbol, factsOf, gripName, stringLabel, shownChord, soundingChord, settled: () => queue }
})
