<script setup lang="ts">
import { sameBarElsewhere } from '#core/timeline/compare'
import { firstPlayOf } from '#core/timeline/timeline'
import { differencesInShort } from '#core/document/differences'
import { sectionPlaces } from '#core/document/form'
import { barTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// The bar at the cursor in the other sections of its kind.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ choose: [figureId: string] }>()
const store = useSong()
const elsewhere = computed(() => {
  const first = store.song && firstPlayOf(store.song, props.figure.id)
  const section =
    first &&
    sectionPlaces(store.song!).findLast(
      (entry) => entry.startTicks <= first.startTicks + Math.max(0, props.bench.tick.value),
    )
  if (!first || !section) return undefined
  let at = section.startTicks
  const target = first.startTicks + props.bench.tick.value
  const bar = section.section.bars.findIndex((entry) => {
    const start = at
    at += barTicks(entry.meter)
    return target >= start && target < at
  })
  return bar < 0
    ? undefined
    : {
        name: section.section.name,
        bar,
        list: sameBarElsewhere(store.song!, props.figure.partId, section.section.id, bar),
      }
})
</script>

<template>
  <section v-if="elsewhere?.list.length">
    <h2 class="small-head">Bar {{ elsewhere.bar + 1 }} of {{ elsewhere.name }}, elsewhere</h2>
    <ul class="other" data-test="same-bar">
      <li v-for="one in elsewhere.list" :key="one.sectionId">
        <b>{{ one.sectionName }}: </b>
        <ActButton
          v-if="one.figureId && one.figureId !== figure.id"
          kind="link"
          @click="emit('choose', one.figureId)"
        >
          {{ one.figureName }}</ActButton><template v-else>{{ one.figureName }}</template
        >:
        <span class="quiet">{{ differencesInShort(one.differences) }}</span>
      </li>
    </ul>
  </section>
</template>
