<script setup lang="ts">
import { outlinePolygon, OUTLINE_HEIGHT, SECOND_ROW, type ListenLine } from '#core/engrave/listen-lines'
import { chordWidth, type DrawnChord } from '#core/engrave/listen-chords'
import type { Outline } from '#core/hear/features/waveform'
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
  chosenTick: number | undefined
  /** The beginnings of sections can be dragged. */
  movable: boolean
}>()
const emit = defineEmits<{ edit: [] }>()
const song = useSong()
const BASE = 48
const widthOf = (chord: DrawnChord): number => chordWidth(song.chordWords(chord.symbol), chord)
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
    :style="{ transform: `translateY(${line.top}px)`, width: `${width}px`, height: `${line.height}px` }"
  >
    <ListenMargin :line="line" :width="left - 14" @edit="emit('edit')" />
    <span
      v-if="line.heading && movable"
      class="handle"
      title="Drag: this section begins earlier or later, by bars and beats"
      :style="{ transform: `translateX(${left - 11}px)` }"
    />
    <svg v-if="seen" :width="width" :height="line.height" class="bars" aria-hidden="true">
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
        <g v-for="chord in bar.chords" :key="chord.tick">
          <rect
            v-if="chord.tick === chosenTick"
            class="chosen"
            :x="chord.x - 3"
            :y="BASE + 11 + chord.row * SECOND_ROW"
            :width="(chord.squeezed ?? widthOf(chord)) + 4"
            height="17"
            rx="3"
          />
          <text
            :x="chord.x"
            :y="BASE + 24 + chord.row * SECOND_ROW"
            :textLength="chord.squeezed"
            lengthAdjust="spacingAndGlyphs"
            class="chord"
            :class="chord.sure"
          >
            {{ song.chordWords(chord.symbol) }}{{ chord.sure === 'unsure' ? ' ?' : '' }}
          </text>
        </g>
        <polygon
          v-if="bar.differs"
          :points="`${bar.x + bar.width - 13},3 ${bar.x + bar.width - 3},3 ${bar.x + bar.width - 3},13`"
          class="differs"
        />
        <text
          v-if="bar.number && bar.chords.length === 0 && index % 4 === 0"
          :x="bar.x + 5"
          :y="BASE + 23"
          class="number"
        >
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
  contain: layout paint style;
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
.handle {
  position: absolute;
  left: 0;
  top: 2px;
  width: 10px;
  height: 15px;
  background: var(--deep);
  clip-path: polygon(100% 0, 100% 100%, 0 50%);
  cursor: ew-resize;
  z-index: 3;
}
.chosen {
  fill: var(--selection);
  stroke: var(--action);
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
.number {
  font: 12px var(--face-mono);
  fill: var(--quiet);
}
</style>
