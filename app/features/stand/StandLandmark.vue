<script setup lang="ts">
import { landmarksIn, landmarkWords } from '#core/timeline/landmarks'
import { useSong } from '~/stores/song'

// The landmarks of the bar that is played, to be seen from where one stands.
const props = defineProps<{ sectionId: string; bar: number; partId: string }>()
const store = useSong()
const words = computed(() => {
  const section = store.song?.sections[props.sectionId]
  if (!store.song || !section) return []
  return landmarksIn(store.song, section, props.partId)
    .filter(({ bar }) => bar === props.bar - 1)
    .map(({ spot }) => landmarkWords(spot))
})
</script>

<template>
  <b v-for="one in words" :key="one" class="landmark" data-test="stand-landmark">{{ one }}</b>
</template>

<style scoped>
.landmark {
  color: var(--evidence);
}
</style>
