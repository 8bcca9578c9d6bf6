<script setup lang="ts">
import { pretty } from '#core/music/pitch'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

// Which parts of the chart sound, and what is heard of it now.
const song = useSong()
const transport = useTransport()
const scopeWords = computed(() => {
  const { scope } = transport
  if (scope.kind === 'candidate') return `${pretty(scope.symbol)} against the record`
  if (scope.kind === 'readings') return scope.name
  if (scope.kind === 'figure') return `“${song.song?.figures[scope.figureId]?.name}” alone`
  if (scope.kind === 'part') return `${song.song?.parts[scope.partId]?.name} alone`
  return 'whole chart'
})
const countWords = computed(() => {
  const on = song.parts.filter((part) => !transport.silenced.has(part.id)).length
  if (transport.scope.kind !== 'song') return scopeWords.value
  return on === song.parts.length ? 'all parts' : `${on} of ${song.parts.length} parts`
})
/** One part alone; the same again, the whole chart. */
function alone(partId: string): void {
  const { scope } = transport
  const isAlone = scope.kind === 'part' && scope.partId === partId
  transport.setScope(isAlone ? { kind: 'song' } : { kind: 'part', partId })
}
</script>

<template>
  <BarMenu class="few" name="chart" :words="countWords" :hint="scopeWords" test="parts-menu">
    <span class="quiet">{{ scopeWords }}</span>
    <div v-for="part in song.parts" :key="part.id" class="line">
      <ActButton
        :aria-pressed="!transport.silenced.has(part.id)"
        class="part"
        :class="{ off: transport.silenced.has(part.id) }"
        @click="transport.togglePart(part.id)"
      >
        {{ part.name }}
      </ActButton>
      <ActButton kind="link" @click="alone(part.id)">alone</ActButton>
    </div>
  </BarMenu>
  <div class="parts all">
    <span class="quiet">{{ scopeWords }}</span>
    <div class="row">
      <ActButton
        v-for="part in song.parts"
        :key="part.id"
        kind="plain"
        class="part"
        :class="{ off: transport.silenced.has(part.id) }"
        :aria-pressed="!transport.silenced.has(part.id)"
        :title="`${part.name}: click on or off, double click alone`"
        @click="transport.togglePart(part.id)"
        @dblclick="alone(part.id)"
      >
        {{ part.name }}
      </ActButton>
      <span v-if="song.parts.length === 0" class="quiet">no parts yet</span>
    </div>
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  flex-direction: column;
  font-size: 13.5px;
  gap: 1px;
  white-space: nowrap;
  min-width: 0;
  flex: 1;
  overflow: hidden;
}
.block.few {
  display: none;
}
.line {
  display: flex;
  gap: 12px;
  align-items: center;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
  overflow-x: auto;
  scrollbar-width: thin;
}
.part.v-btn {
  font-size: 14px;
  border-bottom: 2px solid var(--ink);
  border-radius: 0;
  padding: 0;
}
.part.v-btn.off {
  color: var(--quiet);
  text-decoration: line-through;
  border-color: var(--rule);
}
@media (max-width: 1500px) {
  .block.few {
    display: flex;
  }
  .all {
    display: none;
  }
}
@media (max-width: 900px) {
  .parts {
    order: 9;
    flex-basis: 100%;
    flex-direction: row;
    gap: 14px;
  }
}
</style>
