// What the call line makes of licks: naming bars of the figure, and a lick put in by its name.
import { readLickCall, type LickCall } from '#core/call/lick-call'
import { barTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'
import { useLicks } from './licksEditing'

export function useCallLicks(bench: Bench, figure: () => Figure, text: Ref<string>) {
  const store = useSong()
  const licks = useLicks(bench, figure)
  const said = computed<LickCall | undefined>(() =>
    store.song && text.value.trim()
      ? readLickCall(text.value, store.song, figure(), bench.tick.value)
      : undefined,
  )
  /** What Enter will do, in a sentence. */
  const sentence = computed(() => {
    const now = said.value
    if (!now?.ok) return ''
    if (now.does === 'put in') return `“${now.lick.name}” put in at the cursor`
    const bar = barTicks(figure().meter)
    const first = now.startTicks / bar + 1
    const last = Math.ceil((now.startTicks + now.lengthTicks) / bar)
    const bars = first === last ? `bar ${first}` : `bars ${first} to ${last}`
    return `${bars} named “${now.name}”: found again wherever the part plays it`
  })
  function enter(): boolean {
    const now = said.value
    if (!now?.ok) return false
    if (now.does === 'put in') return licks.putIn(now.figure, now.lick)
    const { name, startTicks, lengthTicks } = now
    return licks.name({ name, startTicks, lengthTicks })
  }
  return { said, sentence, enter }
}
