<script setup lang="ts">
import { counted } from '#core/words/words'
import { coverage, percentOf, type Coverage } from '#core/timeline/coverage'
import { allBars } from '#core/document/form'
import { clock } from '#core/time/beat-grid'
import { useSong } from '~/stores/song'

// What the whole comes to: bars and minutes, and how much of each part is charted.
const store = useSong()
const sums = computed(() => (store.song ? coverage(store.song) : []))
const total = computed(() => store.source?.durationSeconds ?? 0)
/** Seconds of the recording before the first bar and after the last. */
const uncovered = computed(() => {
  const grid = store.source?.grid
  return grid ? total.value - (grid.endSeconds - grid.bars[0]!.beatSeconds[0]!) : 0
})
const share = (sum: Coverage): number => sum.chartedTicks / Math.max(1, sum.totalTicks)
const sumWords = (sum: Coverage): string => `${percentOf(share(sum))} % · ${counted(sum.figures, 'figure')}`
</script>

<template>
  <tr v-if="store.song" role="row">
    <th role="rowheader" scope="row" class="form-cell">
      <b>{{ allBars(store.song).length }} bars · {{ clock(total - uncovered) }}</b
      ><span class="quiet words"
        >record {{ clock(total, 1) }}, {{ uncovered.toFixed(1) }} s before and after</span
      >
    </th>
    <td v-for="sum in sums" :key="sum.partId" role="gridcell">
      <span class="mono">{{ sumWords(sum) }}</span><span class="meter"
        ><span :style="{ width: `${100 * share(sum)}%` }"
      /></span>
    </td>
  </tr>
</template>

<style scoped>
tr {
  border-top: 2px solid var(--deep);
}
th,
td {
  text-align: left;
  vertical-align: top;
  font-weight: 400;
  padding: 8px 9px 8px 0;
}
td {
  padding-left: 9px;
}
.words {
  font-size: 13px;
  display: block;
}
.meter {
  display: block;
  height: 5px;
  background: var(--wood);
  margin-top: 5px;
}
.meter span {
  display: block;
  height: 100%;
  background: var(--action);
}
</style>
