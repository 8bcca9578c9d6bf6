<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { pretty, spellPitchClass } from '#core/music/pitch'
import { useSong } from '~/stores/song'

// What sounds at a place of the record: the pitch classes, the strongest first, and from where on one counts.
const props = defineProps<{ levels: readonly number[] }>()
const store = useSong()
const MOST = 8
const SOUNDS = 0.3
const width = scaleLinear([0, 1], [0, 150])
const rows = computed(() =>
  props.levels
    .map((level, tone) => ({
      level,
      name: pretty(spellPitchClass((tone + store.nameShift + 120) % 12, store.shownKey)),
    }))
    .sort((a, b) => b.level - a.level)
    .slice(0, MOST),
)
const told = computed(() => {
  const said = rows.value.map(({ name, level }) => `${name} ${Math.round(100 * level)} %`)
  return `What sounds there: ${said.join(', ')}`
})
</script>

<template>
  <figure class="sounds">
    <svg :viewBox="`0 0 240 ${rows.length * 22 + 4}`" role="img" :aria-label="told">
      <g v-for="(row, index) in rows" :key="row.name" :transform="`translate(0 ${index * 22 + 2})`">
        <text x="0" y="14" class="mono name">{{ row.name }}</text>
        <rect
          x="36"
          y="3"
          height="13"
          :width="width(row.level)"
          :class="row.level >= SOUNDS ? 'strong' : 'faint'"
        />
        <text :x="width(row.level) + 41" y="14" class="mono value">{{ Math.round(100 * row.level) }}</text>
      </g>
      <line :x1="36 + width(SOUNDS)" :x2="36 + width(SOUNDS)" y1="0" :y2="rows.length * 22" class="border" />
    </svg>
    <figcaption class="quiet">left of the dashes it does not sound for certain</figcaption>
  </figure>
</template>

<style scoped>
.sounds {
  margin: 0;
}
svg {
  width: 100%;
  max-width: 240px;
}
.name {
  font-size: 13px;
  font-weight: 700;
  fill: var(--ink);
}
.value {
  font-size: 11px;
  fill: var(--quiet);
}
.strong {
  fill: var(--evidence);
}
.faint {
  fill: none;
  stroke: var(--evidence);
  stroke-width: 1;
}
.border {
  stroke: var(--deep);
  stroke-dasharray: 3 3;
}
figcaption {
  font-size: 12.5px;
}
</style>
