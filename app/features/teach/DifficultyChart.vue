<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { sectionPlaces } from '#core/document/form'
import { playsOfPart } from '#core/timeline/timeline'
import type { Teach } from './useTeach'

// How hard the song is as it goes: for each section the hardest thing that is played in it.
const props = defineProps<{ teach: Teach }>()
const [WIDTH, HEIGHT] = [520, 84]
const bars = computed(() => {
  const { song } = props.teach.store
  if (!song) return []
  const points = new Map(props.teach.steps.value.map(({ figureId, difficulty }) => [figureId, difficulty]))
  const plays = playsOfPart(song, props.teach.partId.value)
  return sectionPlaces(song).map(({ section, startTicks, lengthTicks }) => {
    const own = plays.flatMap(({ placement, figure }) => {
      const difficulty = placement.sectionId === section.id && figure ? points.get(figure.id) : undefined
      return difficulty ? [difficulty] : []
    })
    const hardest = own.reduce((most, one) => (one.points > (most?.points ?? -1) ? one : most), own[0])
    return {
      name: section.name,
      startTicks,
      lengthTicks,
      points: hardest?.points ?? 0,
      word: hardest?.word ?? 'rests',
    }
  })
})
const end = computed(() => bars.value.reduce((sum, { lengthTicks }) => sum + lengthTicks, 0))
const x = computed(() => scaleLinear([bars.value[0]?.startTicks ?? 0, Math.max(1, end.value)], [0, WIDTH]))
const y = scaleLinear([0, 10], [0, HEIGHT - 22])
const told = computed(() =>
  bars.value.map(({ name, word, points }) => `${name} ${word}, ${points.toFixed(1)}`).join('; '),
)
</script>

<template>
  <figure class="chart">
    <figcaption><h2>How hard the song is</h2></figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`Of ten, by section: ${told}`">
      <g v-for="bar in bars" :key="bar.startTicks">
        <title>{{ bar.name }}: {{ bar.word }}, {{ bar.points.toFixed(1) }} of 10</title>
        <rect
          :class="bar.word"
          :x="x(bar.startTicks) + 1"
          :width="Math.max(1, x(bar.startTicks + bar.lengthTicks) - x(bar.startTicks) - 2)"
          :y="HEIGHT - 18 - y(bar.points)"
          :height="y(bar.points)"
        />
        <text v-if="x(bar.lengthTicks) - x(0) > 26" class="mono" :x="x(bar.startTicks) + 3" :y="HEIGHT - 4">
          {{ bar.points.toFixed(1) }}
        </text>
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
rect {
  fill: var(--selection);
  stroke: var(--action);
}
rect.medium {
  fill: var(--action);
}
rect.hard {
  fill: var(--attention);
  stroke: var(--attention);
}
text {
  font-size: 12px;
  fill: var(--quiet);
}
</style>
