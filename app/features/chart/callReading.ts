// What the call line makes of its text: the call as understood so far, what was assumed on the way, and where
// it stops being understood.
import { complete, type Completion } from '#core/call/complete'
import type { CallGoes } from '#core/call/entering'
import { readCall, type CallReading } from '#core/call/read-call'
import type { CallContext } from '#core/call/reading'
import { callSentence } from '#core/call/sentence'
import { stringLetters } from '#core/call/strings'
import { noteValueName } from '#core/call/vocabulary'
import { writeGrip } from '#core/neck/grips/grip'
import { gripsFor } from '#core/neck/grips/grip-search'
import { barTicks } from '#core/time/meter'
import type { Content, Figure, Grip } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'

/** Grips for chords named in a call, each looked for once. */
function useGripFor(bench: Bench, figure: () => Figure) {
  const store = useSong()
  const preferences = usePreferences()
  const grips = new Map<string, Grip | undefined>()
  return (symbol: string, after: Grip | undefined): Grip | undefined => {
    const before = after ? writeGrip(after) : ''
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

/** The last bar before the cursor that has something in it: "again" means it, until a call was entered. */
function barBefore(content: Content, tick: number, bar: number): Content | undefined {
  const before = [...content.notes, ...content.strokes].filter((event) => event.startTicks < tick)
  if (before.length === 0) return undefined
  const last = Math.max(...before.map((event) => event.startTicks))
  const from = Math.floor(last / bar) * bar
  const inside = (event: { startTicks: number }): boolean =>
    event.startTicks >= from && event.startTicks < tick
  return {
    notes: content.notes.filter(inside),
    strokes: content.strokes.filter(inside),
    grips: content.grips.filter(
      (span) => span.startTicks < tick && span.startTicks + span.lengthTicks > from,
    ),
    mutes: [],
  }
}

/** Reads the text of the call line at the cursor of the bench. */
export function useCallReading(
  bench: Bench,
  figure: () => Figure,
  text: Ref<string>,
  more: { goes: () => CallGoes; entered: () => Content | undefined },
) {
  const store = useSong()
  const preferences = usePreferences()
  const gripFor = useGripFor(bench, figure)
  /** What was chosen of the assumptions, by their ids; forgotten with the words they were in. */
  const decided = ref<Record<string, number>>({})
  const after = computed(() => more.goes() === 'after')
  const context = computed<CallContext | undefined>(() => {
    const { part, tick, step, content, row } = bench
    if (!part.value || !store.song) return undefined
    const { lengthTicks } = figure()
    return {
      part: part.value,
      letters: stringLetters(store.song, part.value, preferences.values.naming),
      meter: figure().meter,
      subdivision: figure().feel.subdivision,
      school: figure().school,
      stepTicks: step.value,
      startTicks: after.value ? lengthTicks : tick.value,
      ...(after.value ? {} : { lengthTicks }),
      content: content.value,
      before: more.entered() ?? barBefore(content.value, tick.value, barTicks(figure().meter)),
      key: store.song.key,
      ...(typeof row.value === 'number' ? { string: row.value } : {}),
      gripFor,
    }
  })
  const result = computed<CallReading | undefined>(() =>
    context.value && text.value.trim() ? readCall(text.value, context.value, decided.value) : undefined,
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
  const understood = computed<CallReading | undefined>(() => {
    if (!problem.value || !context.value) return result.value
    if (problem.value.overTicks === undefined)
      return readCall(text.value.slice(0, problem.value.at), context.value, decided.value)
    const { lengthTicks: _end, ...open } = context.value
    return readCall(text.value, open, decided.value)
  })
  /** "6 of 16 eighths". */
  const counted = computed(() => {
    const now = understood.value
    if (!now?.ok || !context.value) return ''
    const step = now.value.stepTicks
    const steps = (ticks: number): number => Math.round((ticks / step) * 100) / 100
    const unit = noteValueName(step) ?? 'steps'
    const whole = Math.max(figure().lengthTicks, after.value ? now.value.endTicks : 0)
    return `${steps(now.value.endTicks)} of ${steps(whole)} ${unit}`
  })
  /** What Enter will put in, in a sentence. */
  const sentence = computed(() => {
    const now = result.value
    if (!now?.ok || !context.value) return ''
    return callSentence(now, {
      ...context.value,
      strings: preferences.values.strings,
      openMidi: context.value.part.tuning.openMidi,
    })
  })
  const completionsAt = (caret: number, chords: readonly string[]): Completion[] =>
    context.value ? complete(text.value.slice(0, caret), { letters: context.value.letters, chords }) : []
  /** The next reading of one assumption. */
  function turn(id: string): void {
    const now = understood.value
    const choice = now?.ok ? now.choices.find((one) => one.id === id) : undefined
    if (choice) decided.value = { ...decided.value, [id]: (choice.taken + 1) % choice.options.length }
  }
  watch(text, (now, before) => {
    // What was decided stands as long as the call only grows.
    if (!now.startsWith(before.slice(0, Math.min(before.length, now.length)))) decided.value = {}
  })
  return { result, problem, early, understood, counted, sentence, completionsAt, turn }
}
