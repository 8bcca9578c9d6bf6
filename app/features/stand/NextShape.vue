<script setup lang="ts">
import { chordGrid } from '#core/engrave/chord-grid'
import { readGrip } from '#core/neck/grips/grip'
import { usePreferences } from '~/stores/preferences'

// What the hand holds next: in words low to high, and on the neck, strings upright, the low string left.
const props = defineProps<{ shape: string; strings: number }>()
const WIDTH = 82
const preferences = usePreferences()
const grid = computed(() => {
  const grip = readGrip(props.shape, props.strings)
  return grip && chordGrid(grip, WIDTH, preferences.values.leftHanded)
})
</script>

<template>
  <b class="mono">{{ shape }}</b>
  <MusicDrawing
    v-if="grid"
    data-test="stand-neck"
    :primitives="grid.primitives"
    :width="WIDTH"
    :height="grid.height"
    :label="`next shape ${shape}, low string ${preferences.values.leftHanded ? 'right' : 'left'}`"
  />
</template>
