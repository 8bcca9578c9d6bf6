<script setup lang="ts">
import { counted } from '#core/words/words'
import type { PlanStep } from '#core/teach/plan'
import type { Teach } from './useTeach'

// The steps in their order; the chosen one opened. Dragged, or moved with Alt and the arrows.
const props = defineProps<{ teach: Teach }>()
const { steps, chosen } = props.teach
const list = ref<HTMLElement>()
const dragged = ref('')
const percent = (share: number): string => `+${Math.max(1, Math.round(100 * share))} %`
watch(chosen, () => list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }), {
  flush: 'post',
})
function drop(target: PlanStep): void {
  const ids = steps.value.map(({ figureId }) => figureId)
  const [from, to] = [ids.indexOf(dragged.value), ids.indexOf(target.figureId)]
  if (from >= 0 && to >= 0) props.teach.move(dragged.value, to - from)
  dragged.value = ''
}
/** "only bar 4 is new": what a variation asks beyond its base. */
function newWords({ bars, newBars, baseName }: PlanStep): string {
  if (baseName === undefined) return counted(bars, 'bar')
  return `only ${newBars} of ${bars} bars differ from ${baseName}`
}
</script>

<template>
  <ol ref="list" class="steps" data-test="plan">
    <li
      v-for="(step, index) in steps"
      :key="step.figureId"
      class="step"
      :class="{ open: step.figureId === chosen?.figureId }"
      :aria-current="step.figureId === chosen?.figureId"
      draggable="true"
      @dragstart="dragged = step.figureId"
      @dragover.prevent
      @drop="drop(step)"
    >
      <button type="button" class="title" @click="teach.choose(step.figureId)">
        <b class="mono number">{{ index + 1 }}</b>
        <b>{{ step.name }}</b>
        <span v-if="step.form === 'eased'" class="quiet">eased</span>
        <span class="gain mono">{{ percent(step.gain) }}</span>
      </button>
      <p class="quiet line">
        {{ newWords(step) }}; {{ step.difficulty.word }}; about {{ step.minutes }} minutes
      </p>
      <slot v-if="step.figureId === chosen?.figureId" name="chosen" :step="step" />
    </li>
  </ol>
</template>

<style scoped>
.steps {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
.step {
  border-bottom: 1px solid var(--rule);
  border-left: 4px solid transparent;
  padding: 8px 10px 8px 8px;
}
.step.open {
  border-left-color: var(--action);
  background: var(--selection);
}
.title {
  display: flex;
  gap: 10px;
  width: 100%;
  background: none;
  border: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.number {
  min-width: 22px;
}
.gain {
  margin-left: auto;
  color: var(--evidence);
}
.line {
  margin-left: 32px;
  font-size: 14.5px;
}
</style>
