<script setup lang="ts">
import { outlinePolygon, OUTLINE_HEIGHT, type ListenLine } from '#core/engrave/listen-lines'
import type { Outline } from '#core/listen/features/waveform'
import { useSeen } from '~/composables/seen'
import { useSong } from '~/stores/song'

// One ruled line: painted once it comes near the window, repainted only when its own bars, the outline or the
// width change.
const props = defineProps<{
  line: ListenLine
  outline: Outline | undefined
  left: number
  width: number
  hoveredBar: number | undefined
}>()
const emit = defineEmits<{ edit: [] }>()
const song = useSong()
const BASE = 48
const root = ref<HTMLElement>()
const seen = useSeen(root)
const shapes = computed(() => {
  const { outline } = props
  if (!outline || !seen.value) return []
  return props.line.bars.map((bar) => {
    const span = {
      fromSeconds: bar.startSeconds,
      toSeconds: bar.endSeconds,
      x: bar.x,
      width: bar.width,
      baseY: BASE,
    }
    const text = (points: number[]): string => points.map((value) => Math.round(value * 10) / 10).join(' ')
    return {
      peaks: text(outlinePolygon(outline, 'peaks', { ...span, height: OUTLINE_HEIGHT })),
      lows: text(outlinePolygon(outline, 'lows', { ...span, height: OUTLINE_HEIGHT * 0.62 })),
    }
  })
})
</script>

<template>
  <div
    ref="root"
    class="line"
    :class="{ suggested: line.suggested }"
    :style="{ transform: `translateY(${line.top}px)`, width: `${width}px` }"
  >
    <div class="margin" :style="{ width: `${left - 14}px` }">
      <template v-if="line.heading">
        <button
          class="plain name"
          :class="{ open: line.heading.suggested }"
          :title="`${line.heading.name}: name, type, return`"
          data-test="section-heading"
          @pointerdown.stop
          @click="emit('edit')"
        >
          {{ line.heading.name }}
        </button>
        <div class="mono quiet times">{{ line.heading.time }} {{ line.heading.bars }}</div>
        <div v-if="line.heading.returns" class="evidence returns">{{ line.heading.returns }}</div>
      </template>
      <div v-else class="mono quiet times more">{{ line.continued }}</div>
    </div>
    <svg v-if="seen" :width="width" height="80" class="bars" aria-hidden="true">
      <template v-for="(bar, index) in line.bars" :key="bar.barIndex">
        <polygon v-if="shapes[index]" :points="shapes[index].peaks" class="peaks" />
        <polygon v-if="shapes[index]" :points="shapes[index].lows" class="lows" />
        <line :x1="bar.x" :x2="bar.x + bar.width" :y1="BASE" :y2="BASE" class="base" />
        <line
          :x1="bar.x + 0.75"
          :x2="bar.x + 0.75"
          :y1="BASE - 1"
          :y2="BASE + 13"
          class="one"
          :class="{ hovered: hoveredBar === bar.barIndex }"
        />
        <line
          v-for="(x, beat) in bar.beatXs.slice(1)"
          :key="beat"
          :x1="x"
          :x2="x"
          :y1="BASE"
          :y2="BASE + 7"
          class="beat"
        />
        <text v-if="bar.meterChange" :x="bar.x + 4" :y="11" class="meter">
          {{ bar.meterChange === 'free' ? 'free time' : bar.meterChange }}
        </text>
        <text
          v-for="chord in bar.chords"
          :key="chord.x"
          :x="chord.x + 5"
          :y="BASE + 24"
          class="chord"
          :class="chord.sure"
        >
          {{ song.showSymbol(chord.symbol) }}{{ chord.sure === 'unsure' ? ' ?' : '' }}
        </text>
        <polygon
          v-if="bar.differs"
          :points="`${bar.x + bar.width - 13},3 ${bar.x + bar.width - 3},3 ${bar.x + bar.width - 3},13`"
          class="differs"
        />
        <text v-if="bar.chords.length === 0 && index % 4 === 0" :x="bar.x + 5" :y="BASE + 23" class="number">
          {{ bar.barIndex + 1 }}
        </text>
      </template>
    </svg>
  </div>
</template>

<style scoped>
.line {
  position: absolute;
  left: 0;
  top: 0;
  height: 80px;
  contain: layout paint style;
}
.margin {
  position: absolute;
  left: 0;
  top: 0;
  padding-top: 2px;
  z-index: 2;
}
.name {
  font: 700 16.5px/1.15 var(--face-heading);
  display: block;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
  padding-right: 5px;
}
.name:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.times {
  font-size: 13.5px;
  white-space: nowrap;
}
.more {
  padding-top: 26px;
}
.returns {
  font-size: 13px;
  line-height: 1.2;
}
.bars {
  position: absolute;
  inset: 0;
}
.peaks {
  fill: var(--deep);
  opacity: 0.38;
}
.lows {
  fill: var(--deep);
  opacity: 0.75;
}
.base {
  stroke: var(--ink);
  stroke-width: 1.4;
  opacity: 0.75;
}
.one {
  stroke: var(--ink);
  stroke-width: 1.8;
}
.one.hovered {
  stroke: var(--action);
  stroke-width: 4;
}
.beat {
  stroke: var(--ink);
  stroke-width: 1;
  opacity: 0.7;
}
.meter {
  font: 12px var(--face-mono);
  fill: var(--quiet);
}
.chord {
  font: 700 14px var(--face-text);
  fill: var(--ink);
}
.chord.firm,
.chord.likely,
.chord.unsure {
  fill: var(--evidence);
}
.chord.likely {
  font-style: italic;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.chord.unsure {
  font-style: italic;
  font-weight: 400;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.differs {
  fill: var(--evidence);
}
.suggested .base,
.suggested .one {
  stroke-dasharray: 2 3;
}
.suggested .beat {
  opacity: 0.4;
}
.name.open {
  color: var(--evidence);
  font-style: italic;
  text-decoration: underline dotted;
  text-underline-offset: 4px;
}
.number {
  font: 12px var(--face-mono);
  fill: var(--quiet);
}
</style>
