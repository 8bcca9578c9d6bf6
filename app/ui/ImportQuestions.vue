<script setup lang="ts">
import type { ImportAnswers, ImportQuestion } from '#core/exchange/import-questions'

// What a file leaves open: each question with the answer taken, which another takes the place of.
defineProps<{ questions: readonly ImportQuestion[] }>()
const answers = defineModel<ImportAnswers>({ required: true })
</script>

<template>
  <v-radio-group
    v-for="question in questions"
    :key="question.id"
    class="question"
    density="compact"
    :model-value="question.taken"
    :data-test="`question-${question.id}`"
    hide-details
    @update:model-value="(value) => (answers = { ...answers, [question.id]: value })"
  >
    <template #label>{{ question.text }}</template>
    <v-radio
      v-for="{ value, words } in question.options"
      :key="value"
      :value="value"
      :label="words"
      color="primary"
    />
  </v-radio-group>
</template>

<style scoped>
.question :deep(.v-label) {
  opacity: 1;
  font-size: 14px;
  white-space: normal;
  margin-inline-start: 0;
}
</style>
