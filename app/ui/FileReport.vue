<script setup lang="ts">
import { counted } from '#core/words/words'
import { droppedWords, type Held } from '#core/exchange/format-names'
import type { Dropped } from '#core/exchange/score/written-score'

// What a file holds and what is left out of it, and why.
defineProps<{ held: Held; dropped: readonly Dropped[] }>()
</script>

<template>
  <div class="report" data-test="file-report">
    <p>
      {{ counted(held.measures, 'bar') }}, {{ counted(held.sections, 'section')
      }}<template v-if="held.harmonies">, {{ counted(held.harmonies, 'chord') }}</template>
    </p>
    <ul v-if="held.parts.length">
      <li v-for="part in held.parts" :key="part.name">{{ part.name }}: {{ counted(part.notes, 'note') }}</li>
    </ul>
    <template v-if="dropped.length">
      <p class="lost">Left out</p>
      <ul>
        <li v-for="entry in dropped" :key="entry.what">{{ droppedWords(entry) }}</li>
      </ul>
    </template>
    <p v-else class="quiet">Nothing is left out.</p>
  </div>
</template>

<style scoped>
.report {
  border-left: 3px solid var(--rule);
  padding-left: 12px;
  font-size: 14px;
  display: grid;
  gap: 4px;
}
ul {
  padding-left: 16px;
  margin: 0;
}
.lost {
  font-weight: 600;
}
</style>
