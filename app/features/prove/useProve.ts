// What the page of proving works on: the check, its list by cause, what is chosen of it.
import { proveGroups } from '#core/doubts/prove-groups'
import { isRemark, type ProveItem } from '#core/doubts/prove-list'
import { useSong } from '~/stores/song'
import { useSongCheck } from '~/stores/songCheck'
import { useTransport } from '~/stores/transport'

export const SHOWN = ['open', 'doubts', 'remarks', 'done'] as const
export type Shown = (typeof SHOWN)[number]

const isShown: Record<Shown, (item: ProveItem) => boolean> = {
  open: ({ done }) => !done,
  doubts: ({ kind }) => kind === 'doubt',
  remarks: ({ kind }) => isRemark(kind) || kind === 'to hear',
  done: ({ done, kind }) => done && !isRemark(kind),
}

export function useProve() {
  const store = useSong()
  const transport = useTransport()
  const checked = useSongCheck()
  checked.look()
  const shown = ref<Shown>('open')
  const chosenKey = ref(String(useRoute().query.show ?? ''))
  if (chosenKey.value.startsWith('spot/')) shown.value = 'remarks'
  const all = computed(() => checked.items)
  const groups = computed(() => proveGroups(all.value.filter(isShown[shown.value])))
  const items = computed(() => groups.value.flatMap((group) => group.items))
  const sums = computed(() => checked.sums)
  const check = computed(() => checked.check)
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
  return { store, check, shown, show, all, groups, items, sums, chosen, choose, step, open }
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
