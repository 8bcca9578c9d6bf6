<script setup lang="ts">
import type { Compare } from './useCompare'

// What is put above and what below.
const props = defineProps<{ compare: Compare }>()
const { store, kind, partId, otherPartId, sectionId, otherSectionId, pass, otherPass, passes } = props.compare
const parts = computed(() => store.parts.map(({ id, name }) => ({ title: name, value: id })))
const sections = computed(() =>
  props.compare.sections.value.map(({ id, name }) => ({ title: name, value: id })),
)
const numbers = computed(() =>
  Array.from({ length: passes.value }, (_, index) => ({ title: `pass ${index + 1}`, value: index + 1 })),
)
watch(passes, (count) => {
  pass.value = Math.min(pass.value, Math.max(1, count))
  otherPass.value = Math.min(Math.max(2, otherPass.value), Math.max(1, count))
})
</script>

<template>
  <div class="choice">
    <SelectField
      v-if="kind !== 'written'"
      v-model="partId"
      :label="kind === 'parts' ? 'Part above' : 'Part'"
      :items="parts"
      data-test="compare-part"
    />
    <SelectField
      v-if="kind === 'parts'"
      v-model="otherPartId"
      label="Part below"
      :items="parts"
      data-test="compare-other-part"
    />
    <SelectField
      v-model="sectionId"
      :label="kind === 'sections' ? 'Section above' : 'Section'"
      :items="sections"
      data-test="compare-section"
    />
    <SelectField
      v-if="kind === 'sections'"
      v-model="otherSectionId"
      label="Section below"
      :items="sections"
      data-test="compare-other-section"
    />
    <template v-if="kind === 'passes' && passes > 1">
      <SelectField v-model="pass" label="Above" :items="numbers" data-test="compare-pass" />
      <SelectField v-model="otherPass" label="Below" :items="numbers" data-test="compare-other-pass" />
    </template>
  </div>
</template>

<style scoped>
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
.choice > * {
  flex: 0 1 220px;
}
</style>
