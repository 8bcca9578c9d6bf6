// What the page of proving works on: the check (made off the main thread), the list, what is chosen of it.
import type { Check } from '#core/review/check/check'
import { isRemark, proveItems, proveSums, type ProveItem } from '#core/review/proof/prove-list'
import { usePlayingWork } from '~/composables/playingWork'
import { useRecordingCheck } from '~/stores/recordingCheck'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

export const SHOWN = ['open', 'doubts', 'remarks', 'done'] as const
export type Shown = (typeof SHOWN)[number]

const isShown: Record<Shown, (item: ProveItem) => boolean> = {
  open: ({ done }) => !done,
  doubts: ({ kind }) => kind === 'doubt',
  remarks: ({ kind }) => isRemark(kind) || kind === 'to hear',
  done: ({ done, kind }) => done && !isRemark(kind),
}

/** The check of the open song, made anew with every change. */
function useCheck() {
  const store = useSong()
  const against = useRecordingCheck()
  const work = usePlayingWork()
  const check = shallowRef<Check>()
  watch(
    [() => store.heardSong, () => store.nameShift, () => against.findings],
    async ([song, nameShift, heard]) => {
      if (!song) return
      const made = await work.ask({ want: 'check', song, nameShift, heard: heard ?? [] })
      if (made.ok) check.value = made.value
    },
    { immediate: true },
  )
  return check
}

export function useProve() {
  const store = useSong()
  const transport = useTransport()
  const check = useCheck()
  const shown = ref<Shown>('open')
  const chosenKey = ref(String(useRoute().query.show ?? ''))
  if (chosenKey.value.startsWith('spot/')) shown.value = 'remarks'
  const all = computed(() => (store.heardSong ? proveItems(store.heardSong, check.value) : []))
  const items = computed(() => all.value.filter(isShown[shown.value]))
  const sums = computed(() => proveSums(all.value))
  const chosen = computed(() => items.value.find(({ key }) => key === chosenKey.value) ?? items.value[0])
  // What was chosen is gone from the list: the next one takes its place.
  let lastIndex = 0
  watch(items, (list) => {
    if (list.some(({ key }) => key === chosenKey.value)) return
    chosenKey.value = list[Math.min(lastIndex, list.length - 1)]?.key ?? ''
  })
  watch(chosen, (item) => {
    lastIndex = Math.max(
      0,
      items.value.findIndex(({ key }) => key === item?.key),
    )
  })

  function choose(item: ProveItem): void {
    chosenKey.value = item.key
    if (item.seconds !== undefined && !transport.playing) transport.seek(item.seconds)
  }
  function step(by: number): void {
    const index = items.value.findIndex(({ key }) => key === chosen.value?.key)
    const next = items.value[Math.max(0, Math.min(items.value.length - 1, index + by))]
    if (next) choose(next)
  }
  function show(what: Shown): void {
    shown.value = what
  }

  /** Where a thing is charted, laid out or written. */
  function open(item: ProveItem | undefined = chosen.value): void {
    const { song } = store
    if (!item || !song) return
    if (item.seconds !== undefined) transport.seek(item.seconds)
    void navigateTo(addressOf(song.id, item))
  }
  return { store, check, shown, show, all, items, sums, chosen, choose, step, open }
}
export type Prove = ReturnType<typeof useProve>

const ON_LISTEN = new Set(['not laid out', 'form total', 'beats of a bar', 'odd bar', 'chord not understood'])

function addressOf(songId: string, item: ProveItem): string {
  const at = (page: string): string => `/song/${songId}/${page}`
  if (item.kind !== 'finding') return at('listen')
  const { figureId, partId } = item.finding.place
  if (figureId !== undefined) return at(`chart?figure=${figureId}`)
  if (partId !== undefined) return at('map')
  return at(
    ON_LISTEN.has(item.finding.kind) || item.finding.place.sectionId !== undefined ? 'listen' : 'setup',
  )
}
