<script setup lang="ts">
import { OFFERED_MARKS } from '#core/marks'
import { benchActions, meantFor } from './benchActions'
import type { Bench } from './benchKeys'

// What can be done at the cursor, with its keys.
const props = defineProps<{ bench: Bench; words: string }>()
const emit = defineEmits<{ done: [] }>()
const { row } = props.bench
const actions = benchActions(props.bench)
const here = computed(() => actions.filter((action) => meantFor(action, row.value)))
const marks = OFFERED_MARKS.map((entry) => ({ title: entry.name, value: entry.name }))
const bars = props.bench.bars
const barsLabel = computed(() => {
  const { selected } = bars
  if (!selected.value) return 'Bar'
  const { first, last } = selected.value
  return first === last ? `Bar ${first + 1}` : `Bars ${first + 1} to ${last + 1}`
})
const BAR_ACTS = [
  { title: 'Select this bar (Ctrl B)', run: () => bars.selectMore(1) },
  { title: 'Copy (Ctrl C)', run: bars.copy },
  { title: 'Paste over (Ctrl V)', run: bars.paste },
  { title: 'Insert a bar before (Ctrl Enter)', run: bars.insert },
  { title: 'Remove (Ctrl Del)', run: bars.remove },
]
const barItems = BAR_ACTS.map(({ title }) => ({ title, value: title }))
function barAct(title: string): void {
  BAR_ACTS.find((act) => act.title === title)?.run()
  emit('done')
}
function addMark(name: string): void {
  const chosen = OFFERED_MARKS.find((entry) => entry.name === name)
  if (chosen) props.bench.articulate(chosen.mark, chosen.name)
  emit('done')
}
</script>

<template>
  <div class="palette" role="toolbar" :aria-label="`For ${words}`">
    <b class="where">{{ words }}</b>
    <ActButton v-for="action in here" :key="action.label" class="small" @click="action.run()">
      {{ action.label.split(':')[0] }} <kbd>{{ action.keys[0] === 'Delete' ? 'Del' : action.keys[0] }}</kbd>
    </ActButton>
    <MenuButton
      v-if="typeof row === 'number'"
      label="more marks"
      :items="marks"
      data-test="more-marks"
      @choose="addMark"
    />
    <MenuButton :label="barsLabel" :items="barItems" data-test="bar-acts" @choose="barAct" />
  </div>
</template>

<style scoped>
.palette {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  min-height: 34px;
  margin: 8px 0 4px;
}
.where {
  margin-right: 6px;
  font-size: 14px;
  min-width: 142px;
}
</style>
