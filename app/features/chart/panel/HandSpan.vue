<script setup lang="ts">
import { z } from 'zod'
import { HANDS } from '#core/neck/hand'
import { usePreferences } from '~/stores/preferences'

// Whose hand the grips are for: one of those there are, or a span measured on the student.
const preferences = usePreferences()
function setHand(name: string): void {
  const hand = HANDS.find((entry) => entry.name === name)
  if (hand) {
    preferences.set('handName', hand.name)
    preferences.set('handCautionMm', hand.cautionMm)
  }
}
/** The hands there are, and this person's own when it is none of them. */
const handItems = computed(() => {
  const names = HANDS.map((hand) => hand.name)
  const own = preferences.values.handName
  return names.includes(own) ? names : [...names, own]
})
/** Spans that hands have. */
const spanSchema = z.int().min(50).max(160)
/** A span measured on the student: from then on it is their own hand. */
function setSpan(mm: number): void {
  preferences.set('handName', HANDS.find((hand) => hand.cautionMm === mm)?.name ?? 'Own hand')
  preferences.set('handCautionMm', mm)
}
</script>

<template>
  <div class="hand">
    <v-select
      label="Hand"
      :items="handItems"
      :model-value="preferences.values.handName"
      data-test="hand"
      @update:model-value="setHand"
    />
    <NumberField
      label="Span, mm"
      :schema="spanSchema"
      :model-value="preferences.values.handCautionMm"
      @take="setSpan"
    />
  </div>
</template>

<style scoped>
.hand :deep(.v-field) {
  --v-field-padding-start: 10px;
}
.hand :deep(.v-field__input) {
  font-size: 13.5px;
}
.hand {
  display: grid;
  grid-template-columns: 1fr 98px;
  gap: 8px;
  margin: 14px 0 6px;
  align-content: start;
  align-items: start;
}
</style>
