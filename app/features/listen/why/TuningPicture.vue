<script setup lang="ts">
import { max } from 'd3-array'
import type { Analysis } from '#core/hear/analysis'
import { HEIGHT, PAD, scaleX, scaleY, WIDTH } from './scales'

// How far the peaks of the spectrum lie from concert pitch.
const props = defineProps<{ analysis: Analysis }>()
const tuning = computed(() => {
  const values = props.analysis.tuningHistogram ?? []
  const [sx, sy] = [scaleX([-50, 50]), scaleY([0, max(values) || 1])]
  return {
    bars: values.map((value, index) => ({
      x: sx(index - 50),
      height: HEIGHT - PAD.bottom - sy(value),
      y: sy(value),
    })),
    width: (WIDTH - PAD.left - PAD.right) / 100,
    mark: props.analysis.tuningCents === undefined ? undefined : sx(props.analysis.tuningCents),
    ticks: [-50, -25, 0, 25, 50].map((value) => ({ x: sx(value), text: `${value > 0 ? '+' : ''}${value}` })),
  }
})
const words = computed(() => {
  const { tuningCents } = props.analysis
  const most = tuningCents === undefined ? '' : `: most at ${tuningCents.toFixed(0)}`
  return `How far the peaks of the spectrum lie from concert pitch, in cents${most}`
})
</script>

<template>
  <WhyFrame :words="words" :height="HEIGHT">
    <rect
      v-for="(column, index) in tuning.bars"
      :key="index"
      :x="column.x"
      :y="column.y"
      :width="tuning.width"
      :height="column.height"
      class="measured"
    />
    <line
      v-if="tuning.mark !== undefined"
      :x1="tuning.mark"
      :x2="tuning.mark"
      y1="2"
      :y2="HEIGHT - 18"
      class="mark"
    />
    <text v-for="tick in tuning.ticks" :key="tick.text" :x="tick.x" :y="HEIGHT - 4" text-anchor="middle">
      {{ tick.text }}
    </text>
  </WhyFrame>
</template>

<style scoped>
text {
  font: 11px var(--face-mono);
  fill: var(--quiet);
}
.measured {
  fill: var(--evidence);
}
.mark {
  stroke: var(--attention);
  stroke-width: 2;
}
</style>
