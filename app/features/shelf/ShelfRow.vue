<script setup lang="ts">
import { counted } from '#core/words/words'
import { mdiDeleteOutline } from '@mdi/js'
import { percentOf } from '#core/timeline/coverage'
import { clock } from '#core/time/beat-grid'
import type { SongRow } from '#platform/database'

// A song on the shelf: its form drawn small, how far it is, and where work goes on.
const props = defineProps<{ row: SongRow; heard: boolean }>()
const emit = defineEmits<{ remove: [] }>()
const progressWords = computed(() => {
  const { bars, sections, parts, chartedShare, hasGrid } = props.row.summary
  if (!hasGrid)
    return props.heard
      ? 'listened to: take over what was heard in Listen'
      : 'recording only: nothing mapped yet'
  const form = `${counted(bars, 'bar')} in ${counted(sections, 'section')}`
  return `${form} · ${counted(parts, 'part')} · ${percentOf(chartedShare)} % charted`
})
/** The first step that is not done yet. */
const nextStep = computed(() => {
  const { hasGrid, parts, sections } = props.row.summary
  if (parts === 0) return 'setup'
  return hasGrid && sections >= 2 ? 'map' : 'listen'
})
</script>

<template>
  <li class="song" data-test="song">
    <NuxtLink class="open" :to="`/song/${row.id}/${nextStep}`">
      <span class="names">
        <b class="name">{{ row.title }}</b>
        <span class="quiet">{{ row.artist }}</span>
        <span v-if="row.demo" class="tag">demo</span>
        <span v-if="row.readOnly" class="tag">read-only</span>
      </span>
      <span class="mono quiet time">{{ clock(row.summary.durationSeconds) }}</span>
      <span class="form" aria-hidden="true">
        <template v-if="row.summary.hasGrid">
          <span
            v-for="(section, index) in row.summary.form"
            :key="index"
            class="piece"
            :class="section.kind.replace(/[^a-z]/g, '')"
            :style="{ flexGrow: section.bars }"
          />
        </template>
        <span v-else class="piece hatched" :style="{ flexGrow: 1 }" />
      </span>
      <span class="words">{{ progressWords }}</span>
    </NuxtLink>
    <ActButton kind="plain" class="quiet remove" :aria-label="`Remove ${row.title}`" @click="emit('remove')">
      <v-icon :icon="mdiDeleteOutline" size="20" />
    </ActButton>
  </li>
</template>

<style scoped>
.song {
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
.open {
  flex: 1;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 9px 16px;
  padding: 16px 8px;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
.open:hover {
  background: var(--selection);
}
.names {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.name {
  font: 700 19px var(--face-heading);
}
.tag {
  border: 1px solid var(--deep);
  border-radius: 3px;
  font-size: 12px;
  padding: 0 6px;
  color: var(--quiet);
}
.form {
  display: flex;
  gap: 2px;
  height: 20px;
  grid-column: 1;
}
.words {
  grid-column: 1 / -1;
  font-size: 14.5px;
}
.time {
  font-size: 15px;
}
.remove.v-btn {
  padding: 12px;
}
@media (max-width: 600px) {
  .names {
    flex-wrap: wrap;
    gap: 0 10px;
  }
}
</style>
