<script setup lang="ts">
import type { SideBar } from '#core/compare/compare-sides'
import { barTicks } from '#core/time/meter'
import { pretty } from '#core/music/pitch'

// One bar of a side: chords above, frets on their strings, a sign under each place that differs.
const props = defineProps<{
  bar: SideBar
  marked: readonly number[]
  name: string
  showSymbol: (symbol: string) => string
}>()
const WIDTH = 420
const LEFT = 14
const CHORD_HEIGHT = 20
const STRING_GAP = 11
const MARK_HEIGHT = 14
const length = computed(() => barTicks(props.bar.meter))
const x = (tick: number): number => LEFT + (tick / length.value) * (WIDTH - 2 * LEFT)
const y = (string: number): number => CHORD_HEIGHT + 6 + (string - 1) * STRING_GAP
const bottom = computed(() => (props.bar.strings ? y(props.bar.strings) + 6 : CHORD_HEIGHT + 8))
const beats = computed(() =>
  Array.from(
    { length: props.bar.meter.beats + 1 },
    (_, beat) => (beat * length.value) / props.bar.meter.beats,
  ),
)
const label = computed(() => {
  const chords = props.bar.chords.map(({ symbol }) => pretty(props.showSymbol(symbol))).join(', ')
  const notes = props.bar.idle || (props.bar.strings ? `${props.bar.notes.length} notes` : '')
  return [props.name, chords, notes].filter(Boolean).join(': ')
})
</script>

<template>
  <svg
    class="bar"
    :viewBox="`0 0 ${WIDTH} ${bottom + MARK_HEIGHT}`"
    role="img"
    :aria-label="label"
    preserveAspectRatio="xMinYMin meet"
  >
    <line
      v-for="string in bar.strings"
      :key="`s${string}`"
      class="string"
      :x1="LEFT - 8"
      :x2="WIDTH - LEFT + 8"
      :y1="y(string)"
      :y2="y(string)"
    />
    <line
      v-for="beat in beats"
      :key="`b${beat}`"
      class="beat"
      :x1="x(beat)"
      :x2="x(beat)"
      :y1="CHORD_HEIGHT + 2"
      :y2="bottom - 2"
    />
    <text v-for="chord in bar.chords" :key="`c${chord.tick}`" class="chord" :x="x(chord.tick)" y="14">
      {{ showSymbol(chord.symbol) }}
    </text>
    <text v-if="bar.idle" class="idle" :x="WIDTH / 2" :y="(CHORD_HEIGHT + bottom) / 2 + 4">
      {{ bar.idle }}
    </text>
    <template v-for="(note, index) in bar.notes" :key="`n${index}`">
      <rect class="halo" :x="x(note.tick) - 6" :y="y(note.string) - 5" width="13" height="10" />
      <text class="fret" :x="x(note.tick)" :y="y(note.string) + 4">{{ note.dead ? '×' : note.fret }}</text>
    </template>
    <path
      v-for="tick in marked"
      :key="`m${tick}`"
      class="mark"
      :d="`M ${x(tick) - 5} ${bottom + 11} L ${x(tick)} ${bottom + 2} L ${x(tick) + 5} ${bottom + 11} Z`"
    />
  </svg>
</template>

<style scoped>
.bar {
  display: block;
  width: 100%;
  max-width: 440px;
}
.string {
  stroke: var(--rule);
}
.beat {
  stroke: var(--rule);
  stroke-dasharray: 2 3;
}
.chord {
  font: 600 13px var(--face-text);
  fill: var(--ink);
}
.idle {
  font: 13px var(--face-text);
  fill: var(--quiet);
  text-anchor: middle;
}
.fret {
  font: 600 11px var(--face-mono);
  fill: var(--ink);
  text-anchor: middle;
}
.halo {
  fill: var(--page);
}
.mark {
  fill: var(--attention);
}
</style>
