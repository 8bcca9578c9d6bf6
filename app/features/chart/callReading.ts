// What the call line makes of its text: the call as understood so far, and where it stops being understood.
import { complete, type Completion } from '#core/call/complete'
import { parseCall, type CallContext, type CallResult } from '#core/call/parse'
import { stringLetters } from '#core/call/strings'
import { noteValueName } from '#core/call/vocabulary'
import { gripsFor } from '#core/fretboard/grips/grip-search'
import type { Figure, Grip } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'

/** Grips for chords named in a call, each looked for once. */
function useGripFor(bench: Bench, figure: () => Figure) {
  const store = useSong()
  const preferences = usePreferences()
  const grips = new Map<string, Grip | undefined>()
  return (symbol: string, after: Grip | undefined): Grip | undefined => {
    const before = after ? JSON.stringify(after.strings) : ''
    const key = [symbol, before, figure().partId, preferences.values.naming].join('/')
    if (!grips.has(key)) {
      const found = gripsFor(store.soundingChord(bench.part.value!, symbol), bench.part.value!, {
        hand: preferences.hand,
        count: 1,
        ...(after ? { after } : {}),
      })
      grips.set(key, found.ok ? found.value[0]?.grip : undefined)
    }
    return grips.get(key)
  }
}

/** Reads the text of the call line at the cursor of the bench. */
export function useCallReading(bench: Bench, figure: () => Figure, text: Ref<string>) {
  const store = useSong()
  const preferences = usePreferences()
  const gripFor = useGripFor(bench, figure)
  const context = computed<CallContext | undefined>(() => {
    const { part, tick, step, content } = bench
    if (!part.value || !store.song) return undefined
    return {
      part: part.value,
      letters: stringLetters(store.song, part.value, preferences.values.naming),
      meter: figure().meter,
      subdivision: figure().feel.subdivision,
      school: figure().school,
      stepTicks: step.value,
      startTicks: tick.value,
      lengthTicks: figure().lengthTicks,
      content: content.value,
      gripFor,
    }
  })
  const result = computed<CallResult | undefined>(() =>
    context.value && text.value.trim() ? parseCall(text.value, context.value) : undefined,
  )
  const problem = computed(() => (result.value && !result.value.ok ? result.value.error : undefined))
  /** While a word is still being typed at the end, an error there is no news yet. */
  const early = computed(
    () =>
      problem.value !== undefined &&
      problem.value.end >= text.value.length &&
      problem.value.overTicks === undefined &&
      !/\s$/.test(text.value),
  )
  /** The call up to where it is understood; one that is too long, whole. */
  const understood = computed<CallResult | undefined>(() => {
    if (!problem.value || !context.value) return result.value
    if (problem.value.overTicks === undefined)
      return parseCall(text.value.slice(0, problem.value.at), context.value)
    const { lengthTicks: _end, ...open } = context.value
    return parseCall(text.value, open)
  })
  /** "6 of 16 eighths". */
  const counted = computed(() => {
    const now = understood.value
    if (!now?.ok || !context.value) return ''
    const step = now.value.stepTicks
    const steps = (ticks: number): number => Math.round((ticks / step) * 100) / 100
    const unit = noteValueName(step) ?? 'steps'
    return `${steps(now.value.endTicks)} of ${steps(figure().lengthTicks)} ${unit}`
  })
  const completionsAt = (caret: number, chords: readonly string[]): Completion[] =>
    context.value ? complete(text.value.slice(0, caret), { letters: context.value.letters, chords }) : []
  return { result, problem, early, understood, counted, completionsAt }
}
