<script setup lang="ts">
import type { Completion } from '#core/call/complete'
import type { Fit } from '#core/call/enter'
import type { CallError } from '#core/call/reading'

// Under the call line: what is wrong and how to mend it, or how it can go on.
defineProps<{
  problem: CallError | undefined
  text: string
  completions: readonly Completion[]
  hint: string
}>()
const emit = defineEmits<{ fit: [way: Fit]; mend: [suggestion: string]; take: [completion: Completion] }>()
const FITS: Record<string, Fit> = {
  'tie over into a new bar': 'longer figure',
  'squeeze into a tuplet': 'tuplet',
  'a longer bar': 'longer bar',
}
</script>

<template>
  <div id="call-says" class="says" role="status">
    <template v-if="problem">
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
    <template v-else-if="completions.length"
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
    <span v-else class="quiet">{{ hint }}</span>
  </div>
</template>

<style scoped>
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
