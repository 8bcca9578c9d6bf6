<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import { complete, type Completion } from '#core/call/complete'
import { enterCall, fitCall, type Fit } from '#core/call/enter'
import { parseCall, type CallContext, type CallResult } from '#core/call/parse'
import { stringLetters } from '#core/call/strings'
import { gripsFor } from '#core/fretboard/grips/grip-search'
import { barTicks } from '#core/time/meter'
import { noteValueName } from '#core/call/vocabulary'
import type { Content, Figure, Grip } from '#core/document/schema'
import { randomId } from '#platform/files'
import type { Bench } from '~/features/chart/benchKeys'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// The call line: typed as it is said. What is understood so far shows on the strings; Enter puts it into
// the figure at the cursor.
const props = defineProps<{ bench: Bench; figure: Figure; chords: readonly string[] }>()
const emit = defineEmits<{ draft: [content: Content | undefined]; leave: [] }>()
const store = useSong()
const preferences = usePreferences()
/** Kept for this figure until it is entered, also over a reload. */
const text = useSessionStorage(() => `call/${props.figure.id}`, '')
const field = ref<HTMLTextAreaElement>()
/** Earlier calls of this visit, the newest last. */
const said: string[] = []
let recall = 0

const grips = new Map<string, Grip | undefined>()
function gripFor(symbol: string, after: Grip | undefined): Grip | undefined {
  const key = `${symbol}/${after ? JSON.stringify(after.strings) : ''}/${props.figure.partId}/${preferences.values.naming}`
  if (!grips.has(key)) {
    const found = gripsFor(store.soundingChord(props.bench.part.value!, symbol), props.bench.part.value!, {
      hand: preferences.hand,
      count: 1,
      ...(after ? { after } : {}),
    })
    grips.set(key, found.ok ? found.value[0]?.grip : undefined)
  }
  return grips.get(key)
}
const context = computed<CallContext | undefined>(() => {
  const { part, tick, step, content } = props.bench
  if (!part.value || !store.song) return undefined
  return {
    part: part.value,
    letters: stringLetters(store.song, part.value, preferences.values.naming),
    meter: props.figure.meter,
    subdivision: props.figure.feel.subdivision,
    school: props.figure.school,
    stepTicks: step.value,
    startTicks: tick.value,
    lengthTicks: props.figure.lengthTicks,
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
const untilProblem = computed<CallResult | undefined>(() => {
  if (!problem.value || !context.value) return result.value
  const { lengthTicks: _end, ...open } = context.value
  return parseCall(
    problem.value.overTicks === undefined ? text.value.slice(0, problem.value.at) : text.value,
    problem.value.overTicks === undefined ? context.value : open,
  )
})
watch(untilProblem, (now) => emit('draft', now?.ok ? now.value.content : undefined))
const counted = computed(() => {
  const now = untilProblem.value
  if (!now?.ok || !context.value) return ''
  const step = now.value.stepTicks
  const steps = (ticks: number): string => {
    const value = Math.round((ticks / step) * 100) / 100
    return String(value)
  }
  return `${steps(now.value.endTicks)} of ${steps(props.figure.lengthTicks)} ${noteValueName(step) ?? 'steps'}`
})
const completions = computed<Completion[]>(() =>
  context.value && focused.value
    ? complete(text.value.slice(0, caret.value), { letters: context.value.letters, chords: props.chords })
    : [],
)
const focused = ref(false)
const caret = ref(0)
const follow = (): void => {
  caret.value = field.value?.selectionStart ?? text.value.length
}

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
  if (
    !props.bench.edit(
      `call “${text.value.trim().slice(0, 60)}”`,
      enterCall(props.bench.content.value, value, randomId),
    )
  )
    return
  const next =
    value.content.notes.length || value.content.strokes.length ? value.endTicks : props.bench.tick.value
  props.bench.go(
    value.string ?? props.bench.row.value,
    Math.min(next, props.figure.lengthTicks - props.bench.step.value),
  )
  done()
}
const FITS: Record<string, Fit> = {
  'tie over into a new bar': 'longer figure',
  'squeeze into a tuplet': 'tuplet',
  'a longer bar': 'longer bar',
}
function fit(way: Fit): void {
  const open = untilProblem.value
  const fitted = open?.ok ? fitCall(open.value, props.figure, way) : undefined
  if (!fitted) {
    store.notice = {
      text: 'That cannot be made to fit this way and still be played: shorten the call, or choose another way.',
      kind: 'refusal',
    }
    return
  }
  if (
    props.bench.edit(way, enterCall(props.bench.content.value, fitted.call, randomId), {
      lengthTicks: fitted.lengthTicks,
      meter: fitted.meter,
    })
  )
    done()
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'Enter' && !event.shiftKey) {
    event.preventDefault()
    enter()
  } else if (event.key === 'Escape') {
    event.preventDefault()
    emit('leave')
  } else if (
    event.key === 'Tab' &&
    !event.shiftKey &&
    !(problem.value && !early.value) &&
    completions.value[0] &&
    text.value.slice(0, caret.value).trim()
  ) {
    event.preventDefault()
    take(completions.value[0])
  } else if (event.key === 'ArrowUp' && !text.value.includes('\n') && said.length) {
    event.preventDefault()
    recall = Math.max(0, recall - 1)
    text.value = said[recall] ?? ''
  } else if (event.key === 'ArrowDown' && !text.value.includes('\n') && recall < said.length) {
    event.preventDefault()
    recall++
    text.value = said[recall] ?? ''
  }
}
const rows = computed(() => Math.min(4, text.value.split('\n').length))
const barCount = computed(() => Math.round(props.figure.lengthTicks / barTicks(props.figure.meter)))
function focus(words?: string): void {
  if (words !== undefined) text.value = words
  void nextTick(() => {
    field.value?.focus()
    follow()
  })
}
defineExpose({ focus })
watch(
  () => props.figure.id,
  () => {
    text.value = ''
  },
)
</script>

<template>
  <div class="call" data-test="call">
    <div class="box" :class="{ wrong: problem && !early }">
      <textarea
        ref="field"
        v-model="text"
        class="mono"
        :rows="rows"
        spellcheck="false"
        autocomplete="off"
        autocapitalize="off"
        aria-label="Call line: say it as you would to a student"
        :aria-invalid="Boolean(problem && !early)"
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
    <div id="call-says" class="says" role="status">
      <template v-if="problem && !early">
        <span class="attention" data-test="call-problem"
          ><b v-if="problem.end > problem.at && problem.overTicks === undefined" class="mono">{{
            text.slice(problem.at, problem.end).trim()
          }}</b>
          {{ problem.message }}</span
        >
        <template v-for="suggestion in problem.suggestions" :key="suggestion"
          ><ActButton
            v-if="problem.overTicks !== undefined && FITS[suggestion]"
            class="small"
            @mousedown.prevent
            @click="fit(FITS[suggestion]!)"
          >
            {{ suggestion }}</ActButton
          ><ActButton
            v-else-if="problem.overTicks === undefined"
            class="small mono"
            @mousedown.prevent
            @click="mend(suggestion)"
          >
            {{ suggestion }}
          </ActButton></template
        >
      </template>
      <template v-else-if="completions.length"
        ><ActButton
          v-for="(completion, index) in completions"
          :key="completion.text"
          class="small mono"
          :title="completion.help"
          @mousedown.prevent
          @click="take(completion)"
        >
          {{ completion.text }}<kbd v-if="index === 0 && text.trim()">Tab</kbd>
        </ActButton></template
      >
      <span v-else class="quiet">{{
        focused
          ? `Enter puts it in ${barCount === 1 ? 'this bar' : `these ${barCount} bars`} from the cursor on, Shift Enter makes a new line`
          : 'L: type it as you would say it'
      }}</span>
    </div>
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
.says {
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
  min-height: 27px;
  font-size: 13.5px;
  padding-top: 3px;
}
.small {
  font-size: 12.5px;
  padding: 1px 7px;
}
.small kbd {
  margin-left: 6px;
  font-size: 10.5px;
}
</style>
