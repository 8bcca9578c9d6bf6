<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import type { Analysis } from '#core/hear/analysis'
import { WIDTH } from './scales'

// The likeness of every bar with every other.
const props = defineProps<{ analysis: Analysis; bar?: number | undefined; until?: number | undefined }>()
/** The likeness matrix as square cells, at most 60 a side: neighbouring bars are joined in long songs. */
const form = computed(() => {
  const matrix = props.analysis.likeness ?? []
  const join = Math.max(1, Math.ceil(matrix.length / 60))
  const count = Math.ceil(matrix.length / join)
  const side = Math.min(WIDTH - 30, 190)
  const cell = side / Math.max(1, count)
  const shade = scaleLinear().domain([55, 96]).range([0, 1]).clamp(true)
  const cells = Array.from({ length: count * count }, (_, index) => {
    const [row, column] = [Math.floor(index / count), index % count]
    return { x: 15 + column * cell, y: row * cell, shade: shade(matrix[row * join]?.[column * join] ?? 0) }
  }).filter((entry) => entry.shade > 0.08)
  const at = (bar: number): number => (bar / join) * cell
  return {
    cells,
    cell: cell + 0.3,
    side,
    selection:
      props.bar === undefined
        ? undefined
        : { from: at(props.bar), width: Math.max(cell, at(props.until ?? props.bar + 1) - at(props.bar)) },
  }
})
const words =
  'Likeness of the harmony of every bar with every other: strong stripes beside the diagonal are returns'
</script>

<template>
  <WhyFrame :words="words" :height="form.side + 4">
    <rect
      v-for="(cell, index) in form.cells"
      :key="index"
      :x="cell.x"
      :y="cell.y"
      :width="form.cell"
      :height="form.cell"
      class="measured"
      :style="{ opacity: cell.shade }"
    />
    <rect x="15" y="0.5" :width="form.side" :height="form.side" class="frame" />
    <template v-if="form.selection">
      <rect
        :x="15"
        :y="form.selection.from"
        :width="form.side"
        :height="form.selection.width"
        class="chosen"
      />
      <rect
        :x="15 + form.selection.from"
        y="0"
        :width="form.selection.width"
        :height="form.side"
        class="chosen"
      />
    </template>
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
.frame {
  fill: none;
  stroke: var(--rule);
}
.chosen {
  fill: none;
  stroke: var(--action);
  stroke-width: 1.6;
}
</style>
