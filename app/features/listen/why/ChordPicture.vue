<script setup lang="ts">
import type { Analysis } from '#core/hear/analysis'
import { readLabel, TONES } from '#core/hear/decode/chord-labels'
import { pretty, spellPitchClass } from '#core/music/pitch'
import { useSong } from '~/stores/song'
import { HEIGHT, PAD, scaleY, WIDTH } from './scales'

// How strong the twelve pitch classes are in a bar.
const props = defineProps<{ analysis: Analysis; bar?: number | undefined; label?: string | undefined }>()
const song = useSong()
const chord = computed(() => {
  const values = (props.bar === undefined ? undefined : props.analysis.chroma?.[props.bar]) ?? []
  const heard = props.label ? readLabel(props.label) : undefined
  const tones = new Set(heard ? TONES[heard.quality].map((tone) => (heard.root + tone) % 12) : [])
  const width = (WIDTH - 8) / 12
  const sy = scaleY([0, 100])
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
  () => `Strength of the twelve pitch classes in the bar${props.label ? '; filled: tones of the chord' : ''}`,
)
</script>

<template>
  <WhyFrame :words="words" :height="HEIGHT">
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
  </WhyFrame>
</template>

<style scoped>
text {
  font: 11px var(--face-mono);
  fill: var(--quiet);
}
text.strong {
  fill: var(--ink);
  font-weight: 700;
}
.measured {
  fill: var(--evidence);
}
.hollow {
  fill: none;
  stroke: var(--evidence);
}
</style>
