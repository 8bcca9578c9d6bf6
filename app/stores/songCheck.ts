import { defineStore } from 'pinia'
import type { Check } from '#core/check/check'
import { proveItems, proveSums } from '#core/doubts/prove-list'
import { usePlayingWork } from '../composables/playingWork'
import { useRecordingCheck } from './recordingCheck'
import { useSong } from './song'

/** While something else is worked on, the song is checked once nothing has changed for so long. */
const REST_MS = 3000

/**
 * The check of the open song, made in a worker: at once where it is looked at, else when the work rests. One
 * for the whole application, so that every page says the same number.
 */
export const useSongCheck = defineStore('song check', () => {
  const store = useSong()
  const against = useRecordingCheck()
  const work = usePlayingWork()
  const check = shallowRef<Check>()
  /** Pages that show it just now. */
  const lookers = ref(0)
  let timer: ReturnType<typeof setTimeout> | undefined

  async function make(): Promise<void> {
    const { heardSong: song, nameShift } = store
    if (!song) return
    const made = await work.ask({ want: 'check', song, nameShift, heard: against.findings ?? [] })
    if (made.ok && store.song?.id === song.id) check.value = made.value
  }
  watch(
    [() => store.heardSong, () => store.nameShift, () => against.findings, lookers],
    ([song], [before]) => {
      if (song?.id !== before?.id) check.value = undefined
      clearTimeout(timer)
      timer = setTimeout(() => void make(), lookers.value ? 0 : REST_MS)
    },
    { immediate: true },
  )
  /** Called by what shows it: from then until it goes, it follows every change at once. */
  function look(): void {
    lookers.value++
    onScopeDispose(() => lookers.value--)
  }

  const items = computed(() => (store.heardSong ? proveItems(store.heardSong, check.value) : []))
  const sums = computed(() => proveSums(items.value))
  return { check, look, items, sums }
})
