<script setup lang="ts">
import type { CountReadings } from './countReadings'

// The same music counted otherwise: each way is heard with a click over the record before it is taken.
defineProps<{ readings: CountReadings }>()
const open = ref(false)
</script>

<template>
  <section v-if="readings.options.value.length" class="count">
    <ActButton kind="link" :aria-expanded="open" data-test="other-counts" @click="open = !open">
      Count it otherwise
    </ActButton>
    <ul v-if="open || readings.heard.value">
      <li v-for="(option, index) in readings.options.value" :key="option.name">
        <ActButton
          :aria-pressed="readings.sounding.value && readings.heardIndex.value === index"
          :title="`Hear it with a click${index === 0 ? ' (V, and on to the next)' : ''}`"
          @click="readings.hear(index)"
        >
          Hear
        </ActButton>
        <span
          >{{ option.name }} <span class="quiet mono">{{ option.bpm.toFixed(0) }}</span></span
        >
        <ActButton title="Count it so (Shift V)" @click="readings.take(index)">Take</ActButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.count {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
  display: grid;
  gap: 5px;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 3px;
}
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 8px;
  align-items: center;
}
</style>
