<script setup lang="ts">
import { useRecordingCheck } from '~/stores/recordingCheck'

// Asks whether the chart is what the record plays; says how far it is and what came of it.
const against = useRecordingCheck()
const percent = computed(() => Math.round(100 * (against.progress ?? 0)))
const found = computed(() => {
  const count = against.findings?.length ?? 0
  if (count === 0) return 'The record has nothing against the chart.'
  return `The record has ${count === 1 ? 'one thing' : `${count} things`} against the chart.`
})
</script>

<template>
  <div v-if="against.ready" class="against" data-test="against-record">
    <template v-if="against.progress !== undefined">
      <v-progress-linear :model-value="percent" height="6" aria-label="Listening to the record" />
      <span class="quiet mono" role="status">{{ percent }} %</span>
      <ActButton data-test="stop-against" @click="against.stop()">Stop</ActButton>
    </template>
    <template v-else>
      <p v-if="against.findings" class="quiet" role="status">{{ found }}</p>
      <ActButton v-else data-test="hold-against" @click="against.listen()"
        >Hold it against the record <kbd>H</kbd></ActButton
      >
    </template>
    <p v-if="against.problem" role="alert">{{ against.problem }}</p>
  </div>
</template>

<style scoped>
.against {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 32px;
  font-size: 14.5px;
}
</style>
