<script setup lang="ts">
import { extent, max } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { curveMonotoneX, line } from 'd3-shape'
import type { Analysis } from '#core/listen/analysis'
import { readLabel, TONES } from '#core/listen/decode/chord-labels'
import { clock } from '#core/time/beat-grid'
import { pretty, spellPitchClass } from '#core/music/pitch'
import { useSong } from '~/stores/song'

// The small picture behind a "why?": what was measured, drawn. Scales and paths by D3; the numbers are the
// analysis' own.
const props = defineProps<{
  analysis: Analysis
  kind: 'tempo' | 'tuning' | 'form' | 'chord'
  bar?: number | undefined
  label?: string | undefined
  until?: number | undefined
}>()
const song = useSong()
const WIDTH = 244
const HEIGHT = 112
const PAD = { left: 30, right: 6, top: 8, bottom: 18 }
const x = (domain: [number, number]) =>
  scaleLinear()
    .domain(domain)
    .range([PAD.left, WIDTH - PAD.right])
const y = (domain: [number, number]) =>
  scaleLinear()
    .domain(domain)
    .range([HEIGHT - PAD.bottom, PAD.top])

const tempo = computed(() => {
  const { beats } = props.analysis
  // The mean of four gaps: a single late beat is no change of tempo.
  const points = beats
    .slice(4)
    .map((beat, index) => ({ at: beat, bpm: 240 / (beat - beats[index]!) }))
    .filter((point) => point.bpm < 400)
  const [low = 60, high = 120] = extent(points, (point) => point.bpm)
  const [sx, sy] = [x([0, props.analysis.durationSeconds]), y([low - 1, high + 1])]
  return {
    path:
      line<{ at: number; bpm: number }>()
        .x((point) => sx(point.at))
        .y((point) => sy(point.bpm))
        .curve(curveMonotoneX)(points) ?? '',
    ticks: sy.ticks(3).map((value) => ({ y: sy(value), text: String(value) })),
    times: sx.ticks(3).map((value) => ({ x: sx(value), text: clock(value) })),
    words: `between ${low.toFixed(0)} and ${high.toFixed(0)} beats a minute`,
  }
})
const tuning = computed(() => {
  const values = props.analysis.tuningHistogram ?? []
  const [sx, sy] = [x([-50, 50]), y([0, max(values) || 1])]
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
const chord = computed(() => {
  const values = (props.bar === undefined ? undefined : props.analysis.chroma?.[props.bar]) ?? []
  const heard = props.label ? readLabel(props.label) : undefined
  const tones = new Set(heard ? TONES[heard.quality].map((tone) => (heard.root + tone) % 12) : [])
  const width = (WIDTH - 8) / 12
  const sy = y([0, 100])
  return values.map((value, pitchClass) => {
    const shown = (pitchClass + 120) % 12
    return {
      x: 4 + pitchClass * width,
      width: width - 3,
      y: sy(value),
      height: HEIGHT - PAD.bottom - sy(value),
      name: pretty(spellPitchClass((shown + song.nameShift + 120) % 12, song.shownKey)),
      tone: tones.has(pitchClass),
    }
  })
})
const words = computed(
  () =>
    ({
      tempo: `Tempo over the song, ${tempo.value.words}`,
      tuning: `How far the peaks of the spectrum lie from concert pitch, in cents${props.analysis.tuningCents === undefined ? '' : `: most at ${props.analysis.tuningCents.toFixed(0)}`}`,
      form: 'Likeness of the harmony of every bar with every other: strong stripes beside the diagonal are returns',
      chord: `Strength of the twelve pitch classes in the bar${props.label ? `; filled: tones of the chord` : ''}`,
    })[props.kind],
)
</script>

<template>
  <figure class="why">
    <svg
      :viewBox="`0 0 ${WIDTH} ${kind === 'form' ? form.side + 4 : HEIGHT}`"
      :width="WIDTH"
      role="img"
      :aria-label="words"
    >
      <template v-if="kind === 'tempo'">
        <g v-for="tick in tempo.ticks" :key="tick.text">
          <line :x1="30" :x2="WIDTH - 6" :y1="tick.y" :y2="tick.y" class="rule" />
          <text :x="26" :y="tick.y + 4" text-anchor="end">{{ tick.text }}</text>
        </g>
        <text v-for="tick in tempo.times" :key="tick.text" :x="tick.x" :y="HEIGHT - 4" text-anchor="middle">
          {{ tick.text }}
        </text>
        <path :d="tempo.path" class="curve" />
      </template>
      <template v-else-if="kind === 'tuning'">
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
      </template>
      <template v-else-if="kind === 'form'">
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
      </template>
      <template v-else>
        <template v-for="column in chord" :key="column.name">
          <rect
            :x="column.x"
            :y="column.y"
            :width="column.width"
            :height="column.height"
            :class="column.tone ? 'measured' : 'hollow'"
          />
          <text
            :x="column.x + column.width / 2"
            :y="HEIGHT - 4"
            text-anchor="middle"
            :class="{ strong: column.tone }"
          >
            {{ column.name }}
          </text>
        </template>
      </template>
    </svg>
    <figcaption class="quiet">{{ words }}</figcaption>
  </figure>
</template>

<style scoped>
.why {
  margin: 0;
}
.why svg {
  display: block;
  max-width: 100%;
  height: auto;
}
text {
  font: 11px var(--face-mono);
  fill: var(--quiet);
}
text.strong {
  fill: var(--ink);
  font-weight: 700;
}
.rule {
  stroke: var(--rule);
}
.curve {
  fill: none;
  stroke: var(--evidence);
  stroke-width: 1.6;
}
.measured {
  fill: var(--evidence);
}
.hollow {
  fill: none;
  stroke: var(--evidence);
}
.mark {
  stroke: var(--attention);
  stroke-width: 2;
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
figcaption {
  font-size: 13px;
  line-height: 1.3;
  margin-top: 4px;
}
</style>
