<script setup lang="ts">
import type { Completion } from '#core/call/complete'
import type { Fit } from '#core/call/enter'
import { CALL_GOES, type CallGoes } from '#core/call/entering'
import type { CallError } from '#core/call/reading'
import { usePreferences } from '~/stores/preferences'

// Under the call line: what is wrong and how to mend it, or what Enter puts in and where, or how it can go
// on.
const props = defineProps<{
  problem: CallError | undefined
  text: string
  /** What Enter will put in. */
  sentence: string
  completions: readonly Completion[]
  hint: string
}>()
const emit = defineEmits<{
  fit: [way: Fit]
  mend: [suggestion: string]
  take: [completion: Completion]
  words: []
}>()
const preferences = usePreferences()
/** The word an error points at, where its sentence does not have it already. */
const wordOfProblem = computed(() => {
  const { problem, text } = props
  if (!problem || problem.overTicks !== undefined) return ''
  const word = text.slice(problem.at, problem.end).trim()
  return problem.message.includes(`“${word}”`) ? '' : word
})
const GOES: Record<CallGoes, string> = {
  here: 'at the cursor',
  after: 'after this',
  over: 'on top of this',
  variation: 'as a variation',
  every: 'for every such section',
}
const goesItems = CALL_GOES.map((value) => ({ title: GOES[value], value }))
const FITS: Record<string, Fit> = {
  'tie over into a new bar': 'longer figure',
  'squeeze into a tuplet': 'tuplet',
  'a longer bar': 'longer bar',
}
</script>

<template>
  <div class="under">
    <div id="call-says" class="says" role="status">
      <template v-if="problem">
        <span class="attention" data-test="call-problem"
          ><b v-if="wordOfProblem" class="mono">{{ wordOfProblem }}</b> {{ problem.message }}</span
        >
        <template v-for="suggestion in problem.suggestions" :key="suggestion"
          ><ActButton
            v-if="problem.overTicks !== undefined && FITS[suggestion]"
            class="small"
            @mousedown.prevent
            @click="emit('fit', FITS[suggestion]!)"
          >
            {{ suggestion }}</ActButton
          ><ActButton
            v-else-if="problem.overTicks === undefined"
            class="small mono"
            @mousedown.prevent
            @click="emit('mend', suggestion)"
          >
            {{ suggestion }}
          </ActButton></template
        >
      </template>
      <span v-else-if="sentence" class="sentence" data-test="call-sentence"
        ><b>Enter:</b> {{ sentence }}</span
      >
      <template v-if="!problem && completions.length"
        ><ActButton
          v-for="(completion, index) in completions"
          :key="completion.text"
          class="small mono"
          :title="completion.help"
          @mousedown.prevent
          @click="emit('take', completion)"
        >
          {{ completion.text }}<kbd v-if="index === 0 && text.trim()">Tab</kbd>
        </ActButton></template
      >
      <span v-if="!problem && !sentence && !completions.length" class="quiet">{{ hint }}</span>
    </div>
    <div class="goes">
      <SelectField
        inline
        label="Where a call goes"
        lead="goes"
        :items="goesItems"
        :model-value="preferences.values.callGoes"
        data-test="call-goes"
        @update:model-value="(goes) => preferences.set('callGoes', goes)"
      />
      <ActButton class="small" data-test="call-words" @click="emit('words')">What can be said</ActButton>
    </div>
  </div>
</template>

<style scoped>
.under {
  display: flex;
  gap: 12px;
  align-items: start;
  justify-content: space-between;
}
.goes {
  margin-left: 26px;
  display: flex;
  gap: 8px;
  align-items: center;
  flex: none;
  padding-top: 3px;
  font-size: 13px;
}
.sentence {
  flex-basis: 100%;
  overflow-wrap: anywhere;
}
.says {
  flex: 1;
  min-width: 0;
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
