<script setup lang="ts">
import { timesWords } from '#core/words/words'
import { extent } from 'd3-array'
import { scaleLinear, scaleUtc } from 'd3-scale'
import type { Teach } from './useTeach'

// What was practised of the chosen step: the tempo reached clean, day by day, against its goal.
const props = defineProps<{ teach: Teach }>()
const [WIDTH, HEIGHT, LEFT, BOTTOM] = [520, 120, 40, 22]
const log = computed(() => {
  const { students, chosen, store } = props.teach
  const all = students.chosen?.log ?? []
  return all
    .filter(({ songId, figureId }) => songId === store.song?.id && figureId === chosen.value?.figureId)
    .sort((a, b) => a.day.localeCompare(b.day))
})
const goal = computed(() => Math.max(1, ...log.value.map((one) => one.goal)))
const days = computed(() => extent(log.value, ({ day }) => new Date(day)) as [Date, Date])
const x = computed(() => scaleUtc(days.value, [LEFT + 8, WIDTH - 20]))
const at = (day: string): number => (days.value[0] < days.value[1] ? x.value(new Date(day)) : WIDTH / 2)
const y = computed(() => scaleLinear([0, goal.value * 1.1], [HEIGHT - BOTTOM, 8]))
const told = computed(() =>
  log.value
    .map(({ day, reached, goal: to, cleanRounds, rounds, minutes, simulated }) => {
      const who = simulated ? ', by the simulated student' : ''
      return `${day}: ${reached} of ${to}, ${cleanRounds} of ${rounds} rounds clean, ${minutes} minutes${who}`
    })
    .join('; '),
)
</script>

<template>
  <figure v-if="log.length" class="chart" data-test="log">
    <figcaption>
      <h2>{{ teach.chosen.value?.name }}, practised {{ timesWords(log.length) }}</h2>
    </figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="told">
      <line class="goal" :x1="LEFT" :x2="WIDTH" :y1="y(goal)" :y2="y(goal)" />
      <text class="mono" :x="LEFT - 6" :y="y(goal) + 4" text-anchor="end">{{ goal }}</text>
      <line class="ground" :x1="LEFT" :x2="WIDTH" :y1="y(0)" :y2="y(0)" />
      <g v-for="one in log" :key="one.id">
        <line class="stem" :x1="at(one.day)" :x2="at(one.day)" :y1="y(0)" :y2="y(one.reached)" />
        <circle :class="{ simulated: one.simulated }" :cx="at(one.day)" :cy="y(one.reached)" r="5" />
        <text class="mono" :x="at(one.day)" :y="HEIGHT - 6" text-anchor="middle">{{ one.day.slice(5) }}</text>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
}
h2 {
  font-size: 17px;
}
.goal {
  stroke: var(--evidence);
  stroke-dasharray: 5 4;
}
.ground {
  stroke: var(--rule);
}
.stem {
  stroke: var(--action);
  stroke-width: 2;
}
circle {
  fill: var(--action);
  stroke: var(--action);
  stroke-width: 2;
}
circle.simulated {
  fill: var(--page);
}
text {
  font-size: 12px;
  fill: var(--quiet);
}
</style>
