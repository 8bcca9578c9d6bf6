// Which chord is in the hand: by pressing it, by going from one to the next, by Tab to the next doubtful one.
import { sectionPlaces, songTimeMap } from '#core/document/form'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { useHearing } from '~/stores/hearing'
import { useTransport } from '~/stores/transport'
import type { ListenSheetWork } from './listenSheet'

export function useChordChoice(view: ListenSheetWork) {
  const transport = useTransport()
  const hearing = useHearing()
  const { chosenChord } = view
  /** The chosen chord as it is drawn: set, or only heard. */
  const drawn = computed(() => {
    const [tick, song] = [chosenChord.value, hearing.view]
    if (tick === undefined || !song) return undefined
    for (const { section, startTicks } of sectionPlaces(song)) {
      const chord = section.harmony.find((one) => startTicks + one.startTicks === tick)
      if (chord) return { chord, tick, sectionId: section.id }
    }
    return undefined
  })
  const span = computed(() => {
    const map = hearing.view && songTimeMap(hearing.view)
    const { value } = drawn
    if (!map || !value) return undefined
    return {
      from: ticksToSeconds(map, value.tick),
      to: ticksToSeconds(map, value.tick + value.chord.lengthTicks),
    }
  })
  /** All chords as they are drawn, in order. */
  const ticksOnLines = computed(() =>
    (view.layout.value?.lines ?? []).flatMap((line) => line.bars.flatMap((bar) => bar.chords)),
  )
  function choose(tick: number | undefined): void {
    chosenChord.value = tick
    if (tick === undefined || !span.value) return
    transport.seek(span.value.from)
    view.chosenBar.value = view.barAt(span.value.from + 0.001)
  }
  function step(by: number): void {
    const all = ticksOnLines.value
    const at = all.findIndex(({ tick }) => tick === chosenChord.value)
    const next = all[Math.max(0, Math.min(all.length - 1, at === -1 ? 0 : at + by))]
    if (next) choose(next.tick)
  }
  /** The next chord that is unsure, from the chosen one on; false when there is none left. */
  function nextDoubt(by: 1 | -1): boolean {
    const doubts = ticksOnLines.value.filter(({ sure }) => sure === 'likely' || sure === 'unsure')
    const here = chosenChord.value ?? (by > 0 ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY)
    const next = by > 0 ? doubts.find(({ tick }) => tick > here) : doubts.findLast(({ tick }) => tick < here)
    if (!next) return false
    choose(next.tick)
    return true
  }
  /** With no chord in the hand it is the first that sounds in the chosen bar. */
  function reach(): void {
    const bar = view.chosenBox.value?.bar
    if (chosenChord.value !== undefined || !bar) return
    const all = ticksOnLines.value
    const inside = bar.chords[0]?.tick
    const map = hearing.view && songTimeMap(hearing.view)
    const line = map ? secondsToTicks(map, bar.startSeconds + 0.01) : 0
    chosenChord.value = all.findLast(({ tick }) => tick <= line)?.tick ?? inside
  }
  return { drawn, span, choose, step, nextDoubt, reach }
}
