<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import type { Completion } from '#core/call/complete'
import { fitCall, type Fit } from '#core/call/enter'
import type { CallGoes } from '#core/call/entering'
import { barTicks } from '#core/time/meter'
import type { Content, Figure } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'
import { useCallEntering } from './callEntering'
import { useCallHistory } from './callHistory'
import { useCallFacts } from './callFacts'
import { useCallReading } from './callReading'

// The call line: typed as it is said. What is understood so far shows on the strings; Enter puts it where it
// goes.
const props = defineProps<{ bench: Bench; figure: Figure; chords: readonly string[] }>()
const emit = defineEmits<{
  draft: [content: Content | undefined, assumed: ReadonlySet<string>]
  leave: []
  choose: [figureId: string]
}>()
const store = useSong()
const preferences = usePreferences()
/** Kept for this figure until it is entered, also over a reload. */
const text = useSessionStorage(() => `call/${props.figure.id}`, '')
const line = ref<{ textarea: HTMLTextAreaElement | undefined }>()
const field = computed(() => line.value?.textarea)
const history = useCallHistory(text)
/** What was entered last in this figure: "again" means it. */
const entered = shallowRef<{ figureId: string; content: Content }>()
const goes = (): CallGoes => preferences.values.callGoes

const reading = useCallReading(props.bench, () => props.figure, text, {
  goes,
  entered: () => (entered.value?.figureId === props.figure.id ? entered.value.content : undefined),
})
const { result, problem, early, understood, counted, sentence } = reading
const entering = useCallEntering(
  props.bench,
  () => props.figure,
  (id) => emit('choose', id),
)
/** A call that speaks of a lick or of accents is no notes. */
const facts = useCallFacts(props.bench, () => props.figure, text)
const shownReading = computed(() =>
  understood.value?.ok && !facts.said.value ? understood.value : undefined,
)
watch(shownReading, (now) => emit('draft', now?.value.content, new Set(now?.assumed)))
const focused = ref(false)
const caret = ref(0)
const completions = computed<Completion[]>(() =>
  // A word that is understood as it stands wants no other ending.
  focused.value && !(result.value?.ok && /\S$/.test(text.value))
    ? reading.completionsAt(caret.value, props.chords)
    : [],
)
const follow = (): void => {
  caret.value = field.value?.selectionStart ?? text.value.length
}
/** Enter was pressed on words that are not understood: the error is shown even at their end. */
const refused = ref(false)
/** Enter was pressed on a call with a slip: once more enters it. */
const asked = ref(false)
watch(text, () => {
  refused.value = false
  asked.value = false
})
const shown = computed(() => {
  if (!facts.said.value) return early.value && !refused.value ? undefined : problem.value
  const message = refused.value ? facts.problem.value : undefined
  return message ? { at: 0, end: text.value.length, message, suggestions: [] } : undefined
})

function put(at: number, end: number, words: string): void {
  text.value = `${text.value.slice(0, at)}${words}${text.value.slice(end)}`
  const caretAt = at + words.length
  void nextTick(() => {
    field.value?.focus()
    field.value?.setSelectionRange(caretAt, caretAt)
    follow()
  })
}
const take = (completion: Completion): void => put(completion.at, completion.end, `${completion.text} `)
/** A suggestion takes the place of the word the error points at. */
function mend(suggestion: string): void {
  if (problem.value) put(problem.value.at, problem.value.end, suggestion)
}
const named = (): string => `call “${text.value.trim().slice(0, 60)}”`
function done(content: Content): void {
  history.keep()
  entered.value = { figureId: props.figure.id, content }
  text.value = ''
  follow()
}
/** True where the call is no notes. */
function enterFacts(): boolean {
  if (!facts.said.value) return false
  refused.value = facts.problem.value !== undefined
  if (facts.enter()) {
    history.keep()
    text.value = ''
  }
  return true
}
function enter(): void {
  if (enterFacts()) return
  if (!result.value) {
    emit('leave')
    return
  }
  if (!result.value.ok) {
    refused.value = true
    return
  }
  if (result.value.slips.length && !asked.value) {
    asked.value = true
    return
  }
  const { value } = result.value
  if (!entering.put(named(), value, goes())) return
  const played = value.content.notes.length > 0 || value.content.strokes.length > 0
  const next = played ? value.endTicks : props.bench.tick.value
  props.bench.go(
    value.string ?? props.bench.row.value,
    Math.min(next, props.figure.lengthTicks - props.bench.step.value),
  )
  done(value.content)
}
function fit(way: Fit): void {
  const open = understood.value
  const fitted = open?.ok ? fitCall(open.value, props.figure, way) : undefined
  if (!fitted) {
    store.notice = {
      text:
        'That cannot be made to fit this way and still be played: ' +
        'shorten the call, or choose another way.',
      kind: 'refusal',
    }
    return
  }
  if (entering.putFitted(`${way}: ${named()}`, fitted)) done(fitted.call.content)
}
/** Takes the first completion; true when there was one. */
function completeWord(): boolean {
  const [first] = completions.value
  if (shown.value || !first || !text.value.slice(0, caret.value).trim()) return false
  take(first)
  return true
}
function turnChoice(number: number): boolean {
  const choice = shownReading.value?.choices[number - 1]
  if (choice) reading.turn(choice.id)
  return choice !== undefined
}
const KEYS: Record<string, () => boolean> = {
  Enter: () => {
    enter()
    return true
  },
  Escape: () => {
    emit('leave')
    return true
  },
  Tab: completeWord,
  ArrowUp: () => history.back(caret.value),
  ArrowDown: () => history.forth(caret.value),
}
function onKey(event: KeyboardEvent): void {
  const number = event.altKey ? /^Digit([1-4])$/.exec(event.code)?.[1] : undefined
  const done = number ? turnChoice(Number(number)) : !event.shiftKey && !event.altKey && KEYS[event.key]?.()
  if (done) event.preventDefault()
}
const barCount = computed(() => Math.round(props.figure.lengthTicks / barTicks(props.figure.meter)))
const hint = computed(() => {
  if (!focused.value) return 'L: type it as you would say it'
  const bars = barCount.value === 1 ? 'this bar' : `these ${barCount.value} bars`
  return `Enter puts it in ${bars} from the cursor on, Shift Enter makes a new line`
})
function focus(words?: string): void {
  if (words !== undefined) text.value = words
  void nextTick(() => {
    field.value?.focus()
    follow()
  })
}
const listOpen = ref(false)
defineExpose({ focus })
</script>

<template>
  <div class="call" data-test="call">
    <CallText
      ref="line"
      v-model="text"
      :wrong="Boolean(shown)"
      :counted="counted"
      :empty="shownReading?.empty ?? []"
      :unknown="shownReading?.unknown ?? []"
      @key="onKey"
      @follow="follow"
      @focus="
        (now) => {
          focused = now
          follow()
        }
      "
    />
    <CallAssumed
      :choices="shownReading?.choices ?? []"
      :slips="shownReading?.slips ?? []"
      :text="text"
      :asks="asked"
      @turn="reading.turn"
    />
    <CallSays
      :problem="shown"
      :text="text"
      :sentence="facts.sentence.value || sentence"
      :completions="completions"
      :hint="hint"
      @fit="fit"
      @mend="mend"
      @take="take"
      @words="listOpen = true"
    />
    <CallWords v-model="listOpen" @take="focus" />
  </div>
</template>

<style scoped>
.call {
  margin: 2px 0 6px;
}
</style>
