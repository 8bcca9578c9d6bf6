<script setup lang="ts">
import { barTicks } from '#core/time/meter'
import type { UnrolledBar } from '#core/compare/unrolled-part'

// One bar big enough for two metres: frets on their strings, chords above, the palm as a bar below.
const props = defineProps<{
  bar: UnrolledBar
  /** Of the drawing, the space between strings, and the height of the figures: pixels. */
  width: number
  gap: number
  size: number
  label: string
  showSymbol: (symbol: string) => string
}>()
const side = computed(() => props.size * 0.7)
const x = (tick: number): number =>
  side.value + (tick / barTicks(props.bar.meter)) * (props.width - 1.4 * side.value)
const top = computed(() => props.size)
const y = (string: number): number => top.value + (string - 1) * props.gap
const bottom = computed(() => y(props.bar.strings))
const height = computed(() => bottom.value + props.size * 0.55)
/** Runs of muted notes, from the first to the end of the last. */
const palms = computed(() => {
  const runs: { from: number; to: number }[] = []
  const step = barTicks(props.bar.meter) / 8
  for (const { tick, muted } of props.bar.notes) {
    const last = runs.at(-1)
    if (!muted) continue
    if (last && tick <= last.to) last.to = Math.max(last.to, tick + step)
    else runs.push({ from: tick, to: tick + step })
  }
  return runs
})
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" :width="width" :height="height" role="img" :aria-label="label">
    <line
      v-for="string in bar.strings"
      :key="string"
      class="string"
      x1="0"
      :x2="width"
      :y1="y(string)"
      :y2="y(string)"
    />
    <line class="line" x1="1" x2="1" :y1="top" :y2="bottom" />
    <line class="line" :x1="width - 1" :x2="width - 1" :y1="top" :y2="bottom" />
    <text
      v-for="chord in bar.chords"
      :key="`c${chord.tick}`"
      class="chord"
      :x="x(chord.tick) - side / 2"
      :y="size * 0.62"
      :font-size="size * 0.85"
    >
      {{ showSymbol(chord.symbol) }}
    </text>
    <text v-if="bar.idle" class="idle" :x="width / 2" :y="(top + bottom) / 2" :font-size="size * 0.7">
      {{ bar.idle }}
    </text>
    <text
      v-for="(note, index) in bar.notes"
      :key="`n${index}`"
      class="fret"
      :x="x(note.tick)"
      :y="y(note.string) + size * 0.35"
      :font-size="size"
    >
      {{ note.dead ? '×' : note.fret }}
    </text>
    <rect
      v-for="palm in palms"
      :key="`p${palm.from}`"
      class="palm"
      :x="x(palm.from) - side / 2"
      :width="Math.max(side, x(palm.to) - x(palm.from))"
      :y="bottom + size * 0.38"
      :height="size * 0.14"
    />
  </svg>
</template>

<style scoped>
.string {
  stroke: var(--rule);
  stroke-width: 1.5;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.chord,
.fret {
  font-family: var(--face-heading);
  font-weight: 700;
  fill: var(--ink);
}
.fret {
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--page);
  stroke-width: 8px;
}
.idle {
  text-anchor: middle;
  dominant-baseline: middle;
  fill: var(--quiet);
}
.palm {
  fill: var(--quiet);
}
</style>
