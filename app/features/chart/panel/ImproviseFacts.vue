<script setup lang="ts">
import { firstPlayOf } from '#core/timeline/timeline'
import { pitchClassOf } from '#core/music/pitch'
import { improviseOver } from '#core/explore/improvise'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'

// What to improvise with over the section the figure is played in, and why.
const props = defineProps<{ figure: Figure }>()
const store = useSong()
const section = computed(() => {
  const { song } = store
  const first = song && firstPlayOf(song, props.figure.id)
  return first && song.sections[first.placement.sectionId]
})
const names = { tone: store.toneName, chord: store.showSymbol }
const scales = computed(() =>
  store.song && section.value ? improviseOver(store.song, section.value, names) : [],
)
</script>

<template>
  <section v-if="section && scales.length">
    <h2 class="small-head">To improvise over {{ section.name }}</h2>
    <ul class="other" data-test="improvise">
      <li v-for="scale in scales" :key="scale.name">
        <b>{{ store.toneName(pitchClassOf(scale.tonic)) }} {{ scale.name }}</b
        ><span class="quiet">{{ `, ${scale.why}` }}</span
        ><span v-for="words in scale.mind.slice(0, 2)" :key="words" class="evidence">{{ `; ${words}` }}</span>
      </li>
    </ul>
  </section>
</template>
