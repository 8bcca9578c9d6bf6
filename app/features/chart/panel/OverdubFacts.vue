<script setup lang="ts">
import { counted } from '#core/words/words'
import { storeContent } from '#core/document/figure-layers'
import { placesLike } from '#core/document/places-like'
import { overdubIn } from '#core/neck/lines/overdub'
import { EMPTY_CONTENT, type Figure, type Placement } from '#core/document/schema'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { placeWords } from './placeWords'

// What one player cannot join was overdubbed: said so, and split off as a part of its own.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ choose: [figureId: string] }>()
const store = useSong()
const preferences = usePreferences()
const { part, content } = props.bench
const overdub = computed(() =>
  part.value ? overdubIn(content.value, part.value, preferences.hand) : undefined,
)
function split(): void {
  const { song } = store
  if (!overdub.value || !part.value || !song) return
  const { second } = overdub.value
  const own = content.value.notes.filter(({ id }) => !second.has(id))
  const moved = content.value.notes.filter(({ id }) => second.has(id))
  const { name, lengthTicks, meter, feel } = props.figure
  const player = { ...plain(part.value), id: randomId(), name: `${part.value.name.slice(0, 48)}, overdub` }
  const figure = {
    id: randomId(),
    partId: player.id,
    name: `${name.slice(0, 70)}, overdub`,
    lengthTicks,
    meter,
    feel,
    content: { ...EMPTY_CONTENT, notes: moved },
  }
  const placements = placesLike(song, props.figure.id, figure).map((place): Placement => ({
    ...place,
    id: randomId(),
  }))
  const set = storeContent(song, props.figure, { ...content.value, notes: own })
  const done = store.run('addPlacedFigures', {
    what: `split the overdub off “${name}”`.slice(0, 120),
    part: player,
    figures: [figure],
    placements,
    changes: [{ figureId: props.figure.id, set }],
  })
  if (done) emit('choose', figure.id)
}
</script>

<template>
  <section v-if="overdub" data-test="overdub">
    <h2 class="small-head attention">One player cannot join this</h2>
    <p class="other">
      <ActButton kind="link" @click="bench.go(bench.row.value, overdub.startTicks)">{{
        placeWords(figure, overdub.startTicks)
      }}</ActButton>{{ `: ${overdub.why}. It was overdubbed, or lies elsewhere on the neck.` }}
    </p>
    <ActButton class="small" data-test="split-overdub" @click="split">
      Split {{ counted(overdub.second.size, 'note') }} off as an overdub
    </ActButton>
  </section>
</template>
