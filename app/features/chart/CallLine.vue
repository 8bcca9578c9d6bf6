<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import type { Completion } from '#core/call/complete'
import { enterCall, fitCall, type Fit } from '#core/call/enter'
import { barTicks } from '#core/time/meter'
import type { Content, Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'
import { useCallReading } from './callReading'

// The call line: typed as it is said. What is understood so far shows on the strings; Enter puts it into
// the figure at the cursor.
const props = defineProps<{ bench: Bench; figure: Figure; chords: readonly string[] }>()
const emit = defineEmits<{ draft: [content: Content | undefined]; leave: [] }>()
const store = useSong()
/** Kept for this figure until it is entered, also over a reload. */
const text = useSessionStorage(() => `call/${props.figure.id}`, '')
const field = ref<HTMLTextAreaElement>()
/** Earlier calls of this visit, the newest last. */
const said: string[] = []
let recall = 0

const reading = useCallReading(props.bench, () => props.figure, text)
const { result, problem, early, understood, counted } = reading
watch(understood, (now) => emit('draft', now?.ok ? now.value.content : undefined))
const focused = ref(false)
const caret = ref(0)
const completions = computed<Completion[]>(() =>
  focused.value ? reading.completionsAt(caret.value, props.chords) : [],
)
const follow = (): void => {
  caret.value = field.value?.selectionStart ?? text.value.length
}
const shown = computed(() => (early.value ? undefined : problem.value))

function take(completion: Completion): void {
  text.value = `${text.value.slice(0, completion.at)}${completion.text} ${text.value.slice(completion.end)}`
  const at = completion.at + completion.text.length + 1
  void nextTick(() => {
    field.value?.focus()
    field.value?.setSelectionRange(at, at)
    follow()
  })
}
/** A suggestion takes the place of the word the error points at. */
function mend(suggestion: string): void {
  if (!problem.value) return
  text.value = `${text.value.slice(0, problem.value.at)}${suggestion}${text.value.slice(problem.value.end)}`
  void nextTick(() => {
    field.value?.focus()
    follow()
  })
}
function done(): void {
  said.push(text.value)
  recall = said.length
  text.value = ''
  follow()
}
function enter(): void {
  if (!result.value) {
    emit('leave')
    return
  }
  if (!result.value.ok) {
    store.notice = { text: result.value.error.message, kind: 'refusal' }
    return
  }
  const { value } = result.value
  const content = enterCall(props.bench.content.value, value, randomId)
  if (!props.bench.edit(`call “${text.value.trim().slice(0, 60)}”`, content)) return
  const played = value.content.notes.length > 0 || value.content.strokes.length > 0
  const next = played ? value.endTicks : props.bench.tick.value
  props.bench.go(
    value.string ?? props.bench.row.value,
    Math.min(next, props.figure.lengthTicks - props.bench.step.value),
  )
  done()
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
  const content = enterCall(props.bench.content.value, fitted.call, randomId)
  const { lengthTicks, meter } = fitted
  if (props.bench.edit(way, content, { lengthTicks, meter })) done()
}
/** Goes through earlier calls; true when there was one. */
function recallBy(by: number): boolean {
  const next = recall + by
  if (text.value.includes('\n') || !said.length || next < 0 || next > said.length) return false
  recall = next
  text.value = said[recall] ?? ''
  return true
}
/** Takes the first completion; true when there was one. */
function completeWord(): boolean {
  const [first] = completions.value
  if (shown.value || !first || !text.value.slice(0, caret.value).trim()) return false
  take(first)
  return true
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
  ArrowUp: () => recallBy(-1),
  ArrowDown: () => recallBy(1),
}
function onKey(event: KeyboardEvent): void {
  if (!event.shiftKey && KEYS[event.key]?.()) event.preventDefault()
}
const rows = computed(() => Math.min(4, text.value.split('\n').length))
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
defineExpose({ focus })
</script>

<template>
  <div class="call" data-test="call">
    <div class="box" :class="{ wrong: shown }">
      <textarea
        ref="field"
        v-model="text"
        class="mono"
        :rows="rows"
        spellcheck="false"
        autocomplete="off"
        autocapitalize="off"
        aria-label="Call line: say it as you would to a student"
        :aria-invalid="Boolean(shown)"
        aria-describedby="call-says"
        placeholder="say it: G 7 7, hammer 7 9 11, B 8 8"
        data-test="call-text"
        @keydown="onKey"
        @input="follow"
        @click="follow"
        @keyup="follow"
        @focus="
          () => {
            focused = true
            follow()
          }
        "
        @blur="focused = false"
      />
      <span v-if="counted" class="count mono quiet">{{ counted }}</span>
    </div>
    <CallSays
      :problem="shown"
      :text="text"
      :completions="completions"
      :hint="hint"
      @fit="fit"
      @mend="mend"
      @take="take"
    />
  </div>
</template>

<style scoped>
.call {
  margin: 2px 0 6px;
}
.box {
  display: flex;
  align-items: center;
  border: 1.5px solid var(--action);
  border-radius: 4px;
  background: var(--paper);
}
.box.wrong {
  border-color: var(--attention);
}
.box:focus-within {
  outline: 2.5px solid var(--action);
  outline-offset: 1px;
}
.box.wrong:focus-within {
  outline-color: var(--attention);
}
textarea {
  flex: 1;
  border: 0;
  background: none;
  color: var(--ink);
  font-size: 17px;
  line-height: 1.35;
  padding: 6px 12px;
  resize: none;
  outline: none;
  min-width: 0;
}
textarea::placeholder {
  color: var(--quiet);
  opacity: 1;
}
.count {
  padding: 0 12px;
  font-size: 13px;
  white-space: nowrap;
}
</style>
