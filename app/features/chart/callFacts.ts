// What the call line makes of calls that are no notes: bars selected, a lick named or put in by its name,
// accents of the band.
import { readAccentCall, type AccentCall } from '#core/call/accent-call'
import { readBarsCall, type BarsCall } from '#core/call/bars-call'
import { readLickCall, type LickCall } from '#core/call/lick-call'
import { barTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import { useAccentLines } from './accentLines'
import type { Bench } from './benchKeys'
import { useLicks } from './licksEditing'

type Said = { lick: LickCall } | { accents: AccentCall } | { bars: BarsCall }
function callOf(said: Said): LickCall | AccentCall | BarsCall {
  if ('bars' in said) return said.bars
  return 'lick' in said ? said.lick : said.accents
}

export function useCallFacts(bench: Bench, figure: () => Figure, text: Ref<string>) {
  const store = useSong()
  const licks = useLicks(bench, figure)
  const lines = useAccentLines(figure)
  const said = computed<Said | undefined>(() => {
    if (!store.song || !text.value.trim()) return undefined
    const bars = readBarsCall(text.value, figure())
    if (bars) return { bars }
    const accents = readAccentCall(text.value, figure())
    if (accents) return { accents }
    const lick = readLickCall(text.value, store.song, figure(), bench.tick.value)
    return lick && { lick }
  })
  /** What is missing, in a sentence. */
  const problem = computed(() => {
    const call = said.value && callOf(said.value)
    return call && !call.ok ? call.message : undefined
  })

  function lickSentence(lick: Extract<LickCall, { ok: true }>): string {
    if (lick.does === 'put in') return `“${lick.lick.name}” put in at the cursor`
    const bar = barTicks(figure().meter)
    const first = lick.startTicks / bar + 1
    const last = Math.ceil((lick.startTicks + lick.lengthTicks) / bar)
    const bars = first === last ? `bar ${first}` : `bars ${first} to ${last}`
    return `${bars} named “${lick.name}”: found again wherever it is played`
  }
  const barsSentence = ({ first, last }: Extract<BarsCall, { ok: true }>): string =>
    `${first === last ? `bar ${first + 1}` : `bars ${first + 1} to ${last + 1}`} selected`
  /** What Enter will do, in a sentence. */
  const sentence = computed(() => {
    const now = said.value
    if (!now || !callOf(now).ok) return ''
    if ('lick' in now) return now.lick.ok ? lickSentence(now.lick) : ''
    if ('bars' in now) return now.bars.ok ? barsSentence(now.bars) : ''
    return now.accents.ok ? `${now.accents.at.length} accents of the ${now.accents.of} drawn under it` : ''
  })

  function enter(): boolean {
    const now = said.value
    if (!now) return false
    if ('bars' in now) {
      if (!now.bars.ok) return false
      bench.go(bench.row.value, now.bars.first * barTicks(figure().meter))
      bench.bars.select(now.bars.first, now.bars.last)
      return true
    }
    if ('accents' in now) return now.accents.ok && lines.set(now.accents.of, now.accents.at)
    if (!now.lick.ok) return false
    if (now.lick.does === 'put in') return licks.putIn(now.lick.figure, now.lick.lick)
    const { name, startTicks, lengthTicks } = now.lick
    return licks.name({ name, startTicks, lengthTicks })
  }
  return { said, problem, sentence, enter }
}
