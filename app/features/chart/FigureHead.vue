<script setup lang="ts">
import { counted } from '#core/words/words'
import { playsOfPart } from '#core/timeline/timeline'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import { figureTitle } from './panel/figureTitle'

// Which figure is on the bench: its name, where it is placed, and the way to another.
const props = defineProps<{ figure: Figure; figures: readonly Figure[] }>()
const emit = defineEmits<{ choose: [figureId: string]; new: [partId: string] }>()
const store = useSong()
const part = computed(() => store.song?.parts[props.figure.partId])
const source = computed(() =>
  props.figure.sourceId ? store.song?.sources[props.figure.sourceId] : undefined,
)
const items = computed(() =>
  props.figures.map((figure) => ({ title: figureTitle(store.song!, figure), value: figure.id })),
)
const otherParts = computed(() =>
  store.parts
    .filter(({ id }) => id !== props.figure.partId)
    .map(({ id, name }) => ({ title: `New figure for ${name}`, value: id })),
)
const placed = computed(() =>
  store.song
    ? playsOfPart(store.song, props.figure.partId).filter((play) => play.figure?.id === props.figure.id)
    : [],
)
const placeWords = computed(() => {
  const sections = new Set(placed.value.map((play) => play.placement.sectionId)).size
  if (!placed.value.length) return 'not placed in the form yet'
  return `placed ${counted(placed.value.length, 'time')} in ${counted(sections, 'section')}`
})
function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: 'name',
    set: { name: name || props.figure.name },
  })
}
</script>

<template>
  <div class="head">
    <input
      class="name"
      :value="figure.name"
      maxlength="80"
      aria-label="Name of the figure"
      @change="rename"
    />
    <span v-if="source" class="flag" :title="`Read from ${source.name}`">{{ source.name[0] }}</span><span
      class="quiet meta"
      >{{ part?.name }} · {{ placeWords }}</span
    >
    <SelectField
      inline
      class="pick"
      label="Figure"
      :items="items"
      :model-value="figure.id"
      data-test="figure-select"
      @update:model-value="emit('choose', $event)"
    />
    <ActButton once data-test="new-figure" @click="emit('new', figure.partId)">New figure</ActButton>
    <MenuButton
      v-if="otherParts.length"
      label="for"
      aria-label="New figure for another part"
      :items="otherParts"
      @choose="emit('new', $event)"
    />
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.name {
  font: 700 22px var(--face-heading);
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  min-width: 120px;
  field-sizing: content;
  max-width: 460px;
  text-overflow: ellipsis;
  padding: 0;
}
.name:hover {
  border-color: var(--deep);
}
.flag {
  border: 1.5px solid var(--evidence);
  color: var(--evidence);
  font: 700 12px var(--face-mono);
  padding: 0 5px;
  border-radius: 0 6px 6px 0;
  align-self: center;
}
.meta {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.pick {
  margin-left: auto;
  max-width: 220px;
}
</style>
