<script setup lang="ts">
import { extent } from 'd3-array'
import { curveMonotoneX, line } from 'd3-shape'
import type { Analysis } from '#core/hear/analysis'
import { clock } from '#core/time/beat-grid'
import { HEIGHT, PAD, scaleX, scaleY, WIDTH } from './scales'

// The tempo over the song.
const props = defineProps<{ analysis: Analysis }>()
const tempo = computed(() => {
  const { beats } = props.analysis
  // The mean of four gaps: a single late beat is no change of tempo.
  const points = beats
    .slice(4)
    .map((beat, index) => ({ at: beat, bpm: 240 / (beat - beats[index]!) }))
    .filter((point) => point.bpm < 400)
  const [low = 60, high = 120] = extent(points, (point) => point.bpm)
  const [sx, sy] = [scaleX([0, props.analysis.durationSeconds]), scaleY([low - 1, high + 1])]
  return {
    path:
      line<{ at: number; bpm: number }>()
        .x((point) => sx(point.at))
        .y((point) => sy(point.bpm))
        .curve(curveMonotoneX)(points) ?? '',
    ticks: sy.ticks(3).map((value) => ({ y: sy(value), text: String(value) })),
    times: sx.ticks(3).map((value) => ({ x: sx(value), text: clock(value) })),
    range: `between ${low.toFixed(0)} and ${high.toFixed(0)} beats a minute`,
  }
})
const words = computed(() => `Tempo over the song, ${tempo.value.range}`)
</script>

<template>
  <WhyFrame :words="words" :height="HEIGHT">
    <g v-for="tick in tempo.ticks" :key="tick.text">
      <line :x1="PAD.left" :x2="WIDTH - PAD.right" :y1="tick.y" :y2="tick.y" class="rule" />
      <text :x="26" :y="tick.y + 4" text-anchor="end">{{ tick.text }}</text>
    </g>
    <text
      v-for="tick in tempo.times"
      :key="tick.text"
      :x="tick.x"
      :y="HEIGHT - 4"
      :text-anchor="tick.x > WIDTH - 2 * PAD.right - 8 ? 'end' : 'middle'"
    >
      {{ tick.text }}
    </text>
    <path :d="tempo.path" class="curve" />
  </WhyFrame>
</template>

<style scoped>
text {
  font: 11px var(--face-mono);
  fill: var(--quiet);
}
.rule {
  stroke: var(--rule);
}
.curve {
  fill: none;
  stroke: var(--evidence);
  stroke-width: 1.6;
}
</style>
