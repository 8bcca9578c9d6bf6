<script setup lang="ts">
import { differencesInShort } from '#core/document/differences'
import { barStarts } from '#core/document/form'
import type { Place } from '#core/document/schema'
import { sameBarElsewhere } from '#core/timeline/compare'
import { useSong } from '~/stores/song'

// The bar in doubt in the other sections of its kind: what is charted there often answers.
const props = defineProps<{ place: Place }>()
const store = useSong()
const bar = computed(() => {
  const section = store.song?.sections[props.place.sectionId]
  return section ? barStarts(section).findLastIndex((start) => start <= props.place.startTicks) : -1
})
const elsewhere = computed(() => {
  const { partId, sectionId } = props.place
  if (!store.song || partId === undefined || bar.value < 0) return []
  return sameBarElsewhere(store.song, partId, sectionId, bar.value)
})
</script>

<template>
  <section v-if="elsewhere.length" data-test="doubt-elsewhere">
    <h2 class="small-head">The same bar elsewhere</h2>
    <ul>
      <li v-for="one in elsewhere" :key="one.sectionId">
        <b>{{ one.sectionName }}, bar {{ one.barInSection + 1 }}:</b> {{ one.figureName }},
        {{ differencesInShort(one.differences) }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
  font-size: 14.5px;
  line-height: 1.5;
}
</style>
