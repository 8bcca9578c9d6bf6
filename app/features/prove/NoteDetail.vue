<script setup lang="ts">
import { isRemark, type ProveItem } from '#core/doubts/prove-list'
import { LANDMARKS, type Spot } from '#core/document/schema'
import { useHearPlace } from './hearPlace'
import type { Prove } from './useProve'

// A spot to listen to again, or a remark that stays at its place.
const props = defineProps<{
  item: Extract<ProveItem, { kind: 'to hear' | 'remark' | 'landmark' }>
  prove: Prove
}>()
const { store } = props.prove
const { hearRecord, hearChart } = useHearPlace()
const spot = computed(() => props.item.spot)
const change = (set: Partial<Spot>): void => void store.run('setSpot', { spot: { ...spot.value, ...set } })
const KINDS = [
  { title: 'to hear again', value: 'to hear' as const },
  { title: 'a remark', value: 'remark' as const },
  { title: 'a landmark', value: 'landmark' as const },
]
const HEADS = { 'to hear': 'To hear again', remark: 'Remark', landmark: 'Landmark' }
const READERS = [
  { title: 'for the teacher', value: 'teacher' as const },
  { title: 'for the student', value: 'student' as const },
]
function key(number: number): void {
  if (props.item.seconds === undefined) return
  if (number === 1) hearRecord(props.item.seconds)
  if (number === 2) hearChart(props.item.seconds)
}
const article = ref<HTMLElement>()
const write = (): void => article.value?.querySelector<HTMLElement>('textarea')?.focus()
defineExpose({ key, act: () => change({ done: !spot.value.done }), why: write })
</script>

<template>
  <article ref="article" class="note" data-test="note">
    <h2>{{ HEADS[item.kind] }}</h2>
    <p class="quiet">{{ item.where }}</p>
    <v-textarea
      label="In words"
      rows="2"
      auto-grow
      maxlength="2000"
      :model-value="spot.text"
      :readonly="Boolean(store.readOnly)"
      data-test="note-text"
      @change="change({ text: ($event.target as HTMLTextAreaElement).value.trim() })"
    />
    <div class="row">
      <ToggleRow
        label="Kind"
        :items="KINDS"
        :model-value="spot.kind ?? 'to hear'"
        @update:model-value="change({ kind: $event })"
      />
      <SelectField
        v-if="spot.kind === 'landmark'"
        class="landmark"
        label="What is there"
        :items="LANDMARKS"
        :model-value="spot.landmark ?? 'cue words'"
        data-test="landmark"
        @update:model-value="change({ landmark: $event })"
      />
      <ToggleRow
        v-if="spot.kind === 'remark'"
        label="For whom"
        :items="READERS"
        :model-value="spot.reader ?? 'teacher'"
        @update:model-value="change({ reader: $event })"
      />
    </div>
    <div class="row">
      <CheckField
        v-if="!isRemark(spot.kind)"
        label="done"
        :model-value="spot.done"
        :disabled="Boolean(store.readOnly)"
        data-test="note-done"
        @update:model-value="change({ done: $event })"
      />
      <CheckField
        label="on the sheet"
        :model-value="spot.onSheet ?? false"
        :disabled="Boolean(store.readOnly)"
        data-test="note-on-sheet"
        @update:model-value="change({ onSheet: $event })"
      />
      <template v-if="item.seconds !== undefined">
        <ActButton data-test="hear-record" @click="key(1)"><kbd>1</kbd> the record</ActButton>
        <ActButton @click="key(2)"><kbd>2</kbd> the chart</ActButton>
      </template>
      <ActButton data-test="open-place" @click="prove.open(item)">Open its place</ActButton>
      <ActButton
        kind="link"
        :disabled="Boolean(store.readOnly)"
        data-test="remove-note"
        @click="store.run('removeSpot', { spotId: spot.id })"
        >remove it</ActButton
      >
    </div>
  </article>
</template>

<style scoped>
.note {
  display: grid;
  gap: 12px;
}
.landmark {
  max-width: 200px;
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
