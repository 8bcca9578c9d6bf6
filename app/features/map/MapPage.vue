<script setup lang="ts">
import { INSTRUMENTS } from '#core/instrument/instruments'
import type { Part } from '#core/document/schema'
import { useShortcuts } from '~/composables/shortcuts'
import { useMarkPlace } from '~/stores/marking'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useDragPlacements } from './dragPlacements'
import { useMapWork } from './mapWork'

const store = useSong()
const transport = useTransport()
const table = ref<HTMLElement>()
const callLine = ref<{ focus: () => void }>()
const work = useMapWork()
const { row, column, picking } = work
const dialog = ref<'passes' | 'rig'>()
useMarkPlace(() => {
  const [section, part] = [work.section.value, work.part.value]
  return section && part ? { sectionId: section.id, partId: part.id, startTicks: 0 } : undefined
})

watch(
  [row, column],
  () => table.value?.querySelector<HTMLElement>('[data-here=true]')?.scrollIntoView({ block: 'nearest' }),
  { flush: 'post' },
)
useDragPlacements(table, ({ placementId, row: onRow, column: onColumn, copying }) =>
  work.drop(placementId, onRow, onColumn, copying),
)
onMounted(() => {
  if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
})

/** Where a part stands in the sound field, when it is not in the middle. */
function sideWords(pan: number): string {
  if (pan < -0.2) return ', left'
  return pan > 0.2 ? ', right' : ''
}
function partWords(part: Part): string {
  const usual = part.instrument.kind === 'guitar-6' || part.role === 'bass'
  const instrument = usual ? '' : `, ${INSTRUMENTS[part.instrument.kind].name.toLowerCase()}`
  return `${part.sound}${instrument}${sideWords(part.pan)}`
}
const step = (rows: number, columns: number) => (): void =>
  work.choose(row.value + rows, column.value + columns)
useShortcuts([
  { keys: ['ArrowUp'], label: 'Section above', run: step(-1, 0) },
  { keys: ['ArrowDown'], label: 'Section below', run: step(1, 0) },
  { keys: ['ArrowLeft'], label: 'Part to the left', run: step(0, -1) },
  { keys: ['ArrowRight'], label: 'Part to the right', run: step(0, 1) },
  {
    keys: ['p'],
    label: 'Place a figure here',
    run: () => {
      picking.value = true
    },
  },
  { keys: ['l'], label: 'The call line', run: () => callLine.value?.focus() },
  { keys: ['n'], label: 'New figure here, and chart it', run: work.newFigure },
  { keys: ['r'], label: 'Rests: the part is silent here', run: work.rests },
  { keys: ['Enter'], label: 'Open the figure in Chart', run: work.open },
  { keys: ['Delete', 'Backspace'], label: 'Remove from this place', run: work.remove },
  { keys: ['mod+c', 'c'], label: 'Copy this cell', run: work.copy },
  { keys: ['mod+v', 'v'], label: 'Paste', run: work.paste },
  { keys: ['w'], label: 'Copy this whole row to its returns', run: work.copyToReturns },
  { keys: ['m'], label: 'One pass more', run: () => work.passes(1) },
  { keys: ['Shift+m'], label: 'One pass less', run: () => work.passes(-1) },
  { keys: ['Alt+ArrowLeft'], label: 'Move a bar earlier', run: () => work.moveBy(-1) },
  { keys: ['Alt+ArrowRight'], label: 'Move a bar later', run: () => work.moveBy(1) },
  { keys: ['Alt+Shift+ArrowLeft'], label: 'Move a beat earlier', run: () => work.moveByBeats(-1) },
  { keys: ['Alt+Shift+ArrowRight'], label: 'Move a beat later', run: () => work.moveByBeats(1) },
  { keys: ['s'], label: 'One pass plays another figure', run: () => (dialog.value = 'passes') },
  { keys: ['e'], label: 'The rig in this section', run: () => (dialog.value = 'rig') },
  { keys: ['g'], label: 'Play from this section', run: () => void transport.play(work.startOf(row.value)) },
])
</script>

<template>
  <div v-if="store.song" class="map">
    <div v-if="store.parts.length === 0" class="empty">
      <h2>The map needs a band</h2>
      <p>
        Add the guitars and basses you hear in
        <NuxtLink class="link" :to="`/song/${store.song.id}/setup`">Set up</NuxtLink>.
      </p>
    </div>
    <div v-else-if="!store.source?.grid" class="empty">
      <h2>The map needs bars</h2>
      <p>
        Lay the recording out in bars and sections in
        <NuxtLink class="link" :to="`/song/${store.song.id}/listen`">Listen</NuxtLink>.
      </p>
    </div>
    <template v-else>
      <MapTools :work="work" @passes="dialog = 'passes'" @rig="dialog = 'rig'" />
      <FormCallLine
        ref="callLine"
        :section-id="work.section.value?.id"
        :part-id="work.part.value?.id"
        hint="verse 2 as verse 1 but the last bar"
      />
      <table ref="table" class="grid" role="grid" aria-label="What each part plays in each section">
        <thead>
          <tr role="row">
            <th role="columnheader" class="form-head"><span class="visually-hidden">Section</span></th>
            <th v-for="player in store.parts" :key="player.id" role="columnheader" scope="col">
              <h2 class="small-head">{{ player.name }}</h2>
              <span class="quiet">{{ partWords(player) }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <MapRow
            v-for="(entry, index) in store.sections"
            :key="entry.id"
            :work="work"
            :section="entry"
            :index="index"
          />
        </tbody>
        <tfoot>
          <MapSums />
        </tfoot>
      </table>
    </template>
    <PlaceDialog :work="work" />
    <PassDialog v-model="dialog" :work="work" />
    <RigDialog v-model="dialog" :work="work" />
  </div>
</template>

<style scoped>
.map {
  padding: 8px 22px 24px 20px;
}
.empty {
  padding: 60px 0 0 20px;
  display: grid;
  gap: 10px;
}
.grid {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  font-size: 14.5px;
}
thead th {
  padding: 4px 9px;
  text-align: left;
  vertical-align: top;
}
thead th .quiet {
  font-size: 13px;
  font-weight: 400;
}
.form-head {
  width: 208px;
}
thead {
  position: sticky;
  top: 44px;
  background: var(--page);
  z-index: 2;
}
tfoot {
  position: sticky;
  bottom: 0;
  background: var(--page);
  z-index: 2;
  box-shadow: 0 -2px 0 var(--deep);
}
@media (max-width: 1000px) {
  .form-head {
    width: 128px;
  }
  .grid {
    font-size: 13px;
  }
}
</style>
