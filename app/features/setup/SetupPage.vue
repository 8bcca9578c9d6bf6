<script setup lang="ts">
import type { InstrumentKind } from '#core/instrument/instruments'
import { newPart, tuningForNewPart } from '#core/document/new-song'
import { randomId } from '#platform/files'
import { useShortcuts } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

const store = useSong()
const hearing = useHearing()
onMounted(() => {
  void hearing.recall()
})
const preferences = usePreferences()
const chosenId = ref<string>()
const chosen = computed(() => store.parts.find((part) => part.id === chosenId.value) ?? store.parts[0])

function addPart(): void {
  const guitars = store.parts.filter((part) => part.role !== 'bass').length
  const wantsBass = guitars > 0 && !store.parts.some((part) => part.role === 'bass')
  const kind: InstrumentKind = wantsBass ? 'bass-4' : 'guitar-6'
  const tuning = store.song && tuningForNewPart(store.song, kind)
  const id = randomId()
  if (
    store.run('addPart', {
      part: newPart({
        id,
        name: wantsBass ? 'Bass' : `Guitar ${guitars + 1}`,
        kind,
        ...(tuning ? { tuning } : {}),
      }),
    })
  )
    chosenId.value = id
}
/** What to do now, for somebody who sees this page for the first time; undefined once all of it is done. */
const next = computed(() => {
  if (store.parts.length === 0)
    return {
      words: 'say who plays. One part for each guitar and bass you hear; tune it as the band is.',
      key: 'A',
    }
  if (!store.source?.grid)
    return { words: 'the recording is laid out in bars and sections.', step: 'listen', link: 'Lay it out' }
  if (Object.keys(store.song?.placements ?? {}).length === 0)
    return { words: 'say what each part plays in each section.', step: 'map', link: 'Place figures' }
  return undefined
})
/** Chooses the part that stands `by` places further on. */
function step(by: number): void {
  const at = chosen.value ? store.parts.indexOf(chosen.value) : 0
  chosenId.value = store.parts[Math.max(0, Math.min(store.parts.length - 1, at + by))]?.id
}
useShortcuts([
  { keys: ['a'], label: 'Add a part', run: addPart },
  { keys: ['ArrowDown'], label: 'Next part', run: () => step(1) },
  { keys: ['ArrowUp'], label: 'Part before', run: () => step(-1) },
  {
    keys: ['b'],
    label: 'Names by shape or as sounding',
    run: () => preferences.set('naming', preferences.values.naming === 'shape' ? 'sounding' : 'shape'),
  },
  {
    keys: ['x'],
    label: 'Strings by number or by letter',
    run: () => preferences.set('strings', preferences.values.strings === 'letters' ? 'numbers' : 'letters'),
  },
])
</script>

<template>
  <div v-if="store.song" class="setup">
    <SongFacts :song="store.song" />
    <p v-if="hearing.progress" class="next" role="status" data-test="setup-listening">
      <b>Listening:</b> {{ hearing.progress.words }}, {{ Math.round(100 * hearing.progress.fraction) }} %.
      What is heard waits in <NuxtLink class="link" :to="`/song/${store.song.id}/listen`">Listen</NuxtLink>.
    </p>
    <p v-if="next" class="next" data-test="next-step">
      <b>Next:</b> {{ next.words }}
      <ActButton v-if="next.key" once data-test="next-add" @click="addPart"
        >Add a part <kbd>A</kbd></ActButton
      >
      <NuxtLink v-else class="link" :to="`/song/${store.song.id}/${next.step}`">{{ next.link }}</NuxtLink>
    </p>
    <div class="band">
      <BandList :chosen="chosen?.id" @choose="chosenId = $event" @add="addPart" />
      <PartDetail v-if="chosen" :part="chosen" />
    </div>
  </div>
</template>

<style scoped>
.setup {
  padding: 20px 30px 30px 20px;
  max-width: 1320px;
  display: grid;
  gap: 22px;
}
.next {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  border-left: 4px solid var(--action);
  background: var(--paper);
  padding: 9px 14px;
}
.band {
  display: grid;
  grid-template-columns: minmax(250px, 330px) 1fr;
  gap: 30px;
  border-top: 1px solid var(--rule);
  padding-top: 18px;
}
@media (max-width: 1000px) {
  .band {
    grid-template-columns: 1fr;
  }
}
</style>
