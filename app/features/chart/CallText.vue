<script setup lang="ts">
import { useTextareaAutosize } from '@vueuse/core'
import type { Span } from '#core/call/said/items'

// The text of a call, as tall as it is. Words that carry nothing are dim, words that were not understood are
// underlined: a layer under the text that is drawn with the same words.
const props = defineProps<{
  wrong: boolean
  counted: string
  empty: readonly Span[]
  unknown: readonly Span[]
}>()
const text = defineModel<string>({ required: true })
const emit = defineEmits<{ key: [event: KeyboardEvent]; follow: []; focus: [focused: boolean] }>()
const { textarea } = useTextareaAutosize({ input: text, styleProp: 'height' })

interface Piece {
  text: string
  kind: 'said' | 'empty' | 'unknown'
}
const pieces = computed<Piece[]>(() => {
  const marked = [
    ...props.empty.map((span) => ({ ...span, kind: 'empty' as const })),
    ...props.unknown.map((span) => ({ ...span, kind: 'unknown' as const })),
  ].sort((a, b) => a.at - b.at)
  const found: Piece[] = []
  let at = 0
  for (const span of marked) {
    if (span.at < at) continue
    found.push({ text: text.value.slice(at, span.at), kind: 'said' })
    found.push({ text: text.value.slice(span.at, span.end), kind: span.kind })
    at = span.end
  }
  found.push({ text: text.value.slice(at), kind: 'said' })
  return found.filter((piece) => piece.text)
})
defineExpose({ textarea })
</script>

<template>
  <div class="box" :class="{ wrong }">
    <div class="words">
      <div class="under mono" aria-hidden="true">
        <span v-for="(piece, index) in pieces" :key="index" :class="piece.kind">{{ piece.text }}</span>
      </div>
      <textarea
        ref="textarea"
        v-model="text"
        class="mono"
        rows="1"
        spellcheck="false"
        autocomplete="off"
        autocapitalize="off"
        aria-label="Call line: say it as you would to a student"
        :aria-invalid="wrong"
        aria-describedby="call-says"
        placeholder="say it: 7 on the G, hammer on to 9, then 8 on the B"
        data-test="call-text"
        @keydown="emit('key', $event)"
        @input="emit('follow')"
        @click="emit('follow')"
        @keyup="emit('follow')"
        @focus="emit('focus', true)"
        @blur="emit('focus', false)"
      />
    </div>
    <span v-if="counted" class="count mono quiet">{{ counted }}</span>
  </div>
</template>

<style scoped>
.box {
  display: flex;
  align-items: start;
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
.words {
  position: relative;
  flex: 1;
  min-width: 0;
}
textarea,
.under {
  display: block;
  width: 100%;
  border: 0;
  font-size: 17px;
  line-height: 1.4;
  padding: 6px 12px;
  white-space: pre-wrap;
  overflow-wrap: break-word;
}
textarea {
  position: relative;
  background: none;
  /* The words are drawn by the layer under them; here are only the caret and what is selected. */
  color: transparent;
  caret-color: var(--ink);
  resize: none;
  outline: none;
  overflow: hidden;
  max-height: 40vh;
}
textarea::placeholder {
  color: var(--quiet);
  opacity: 1;
}
.under {
  position: absolute;
  inset: 0;
  color: var(--ink);
  pointer-events: none;
}
.empty {
  color: var(--quiet);
}
.unknown {
  text-decoration: underline wavy 1.5px var(--attention);
  text-underline-offset: 4px;
}
.count {
  padding: 9px 12px 0;
  font-size: 13px;
  white-space: nowrap;
}
@media (forced-colors: active) {
  textarea {
    color: CanvasText;
  }
  .under {
    visibility: hidden;
  }
}
</style>
