<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { curveStepAfter, line } from 'd3-shape'
import type { PlanStep } from '#core/teach/plan'

// How much of the part is known after each step: this order drawn through, the song's own dashed.
const props = defineProps<{
  curve: readonly number[]
  songCurve: readonly number[]
  steps: readonly PlanStep[]
}>()
const [WIDTH, HEIGHT, LEFT, TOP, BOTTOM] = [520, 176, 40, 12, 26]
const x = computed(() => scaleLinear([0, Math.max(1, props.curve.length - 1)], [LEFT, WIDTH - 12]))
const y = scaleLinear([0, 1], [HEIGHT - BOTTOM, TOP])
const pathOf = (shares: readonly number[]): string =>
  line<number>(
    (_, index) => x.value(index),
    (share) => y(share),
  ).curve(curveStepAfter)([...shares]) ?? ''
const percent = (share: number): string => `${Math.round(100 * share)} %`
/** The step after which most is known for little: named in the drawing. */
const named = computed(() => Math.min(3, props.steps.length))
const told = computed(
  () =>
    `In this order: ${props.steps.map(({ name, after }) => `after ${name} ${percent(after)}`).join(', ')}. ` +
    `In the order of the song: ${props.songCurve.slice(1).map(percent).join(', ')}.`,
)
</script>

<template>
  <figure class="chart">
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="told" data-test="coverage-chart">
      <g v-for="tick in [0, 0.5, 1]" :key="tick">
        <line class="grid" :x1="LEFT" :x2="WIDTH - 12" :y1="y(tick)" :y2="y(tick)" />
        <text class="mono label" :x="LEFT - 6" :y="y(tick) + 4" text-anchor="end">
          {{ Math.round(100 * tick) }}
        </text>
      </g>
      <path class="other" :d="pathOf(songCurve)" />
      <path class="own" :d="pathOf(curve)" />
      <text v-if="named" class="mono own-words" :x="x(named) + 6" :y="y(curve[named] ?? 0) + 16">
        {{ named === 1 ? 'one figure' : `${named} figures` }}: {{ percent(curve[named] ?? 0) }}
      </text>
      <text class="mono label" :x="LEFT" :y="HEIGHT - 6">figures learned: {{ steps.length }} in all</text>
      <text class="mono other-words" :x="WIDTH - 12" :y="HEIGHT - 6" text-anchor="end">
        dashed: in song order
      </text>
    </svg>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
}
.grid {
  stroke: var(--rule);
}
.own,
.other {
  fill: none;
  stroke-width: 2.5;
}
.own {
  stroke: var(--action);
}
.other {
  stroke: var(--evidence);
  stroke-dasharray: 5 4;
  stroke-width: 1.8;
}
.label {
  font-size: 12px;
  fill: var(--quiet);
}
.own-words {
  font-size: 12.5px;
  fill: var(--action);
  paint-order: stroke;
  stroke: var(--page);
  stroke-width: 5px;
}
.other-words {
  font-size: 12px;
  fill: var(--evidence);
}
</style>
