<script setup lang="ts">
import { INSTRUMENTS } from '#core/instrument/instruments'
import {
  cellPlacements,
  cellStretches,
  firstOpen,
  fitted,
  fittedToReturn,
  fittingPasses,
  lengthInBars,
} from '#core/timeline/cells'
import { coverage, percentOf } from '#core/timeline/coverage'
import { sectionTicks, allBars } from '#core/document/form'
import { clock, ticksToSeconds } from '#core/time/beat-grid'
import { barTicks, meterName } from '#core/time/meter'
import { EMPTY_CONTENT, type Placement, type Section } from '#core/document/schema'
import { keyName, transposeKey } from '#core/music/pitch'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useShortcuts } from '~/composables/shortcuts'

const store = useSong()
const transport = useTransport()
const row = ref(0)
const column = ref(0)
const chosenPlacement = ref<string>()
const copied = ref<{ partId: string; placements: Placement[] }>()
const picking = ref(false)
const table = ref<HTMLElement>()

const section = computed<Section | undefined>(
  () => store.sections[Math.min(row.value, store.sections.length - 1)],
)
const part = computed(() => store.parts[Math.min(column.value, store.parts.length - 1)])
const cells = computed(() =>
  store.song
    ? store.sections.map((entry) => store.parts.map((player) => cellStretches(store.song!, entry, player.id)))
    : [],
)
const sums = computed(() => (store.song ? coverage(store.song) : []))
const figuresHere = computed(() =>
  Object.values(store.song?.figures ?? {}).filter((figure) => figure.partId === part.value?.id),
)
const startOf = (index: number): number =>
  store.map ? ticksToSeconds(store.map, store.places[index]!.startTicks) : 0
const total = computed(() => store.source?.durationSeconds ?? 0)
const uncovered = computed(() => {
  const grid = store.source?.grid
  return grid ? total.value - (grid.endSeconds - grid.bars[0]!.beatSeconds[0]!) : 0
})
const placementHere = computed(() => {
  const list =
    store.song && section.value && part.value
      ? cellPlacements(store.song, section.value.id, part.value.id)
      : []
  return (
    list.find((placement) => placement.id === chosenPlacement.value) ??
    list.findLast((placement) => placement.kind === 'figure') ??
    list[0]
  )
})
const sectionWords = (entry: Section): string =>
  [
    `${entry.bars.length} ${entry.bars.length === 1 ? 'bar' : 'bars'}`,
    entry.bars.every((bar) => bar.free)
      ? 'free'
      : meterName(entry.bars[0]!.meter) === meterName(store.song!.meter)
        ? ''
        : meterName(entry.bars[0]!.meter),
    entry.passes > 1 ? `${entry.passes} passes` : '',
    entry.key ? `in ${keyName(transposeKey(entry.key, store.nameShift))}` : '',
    entry.returns ? `as ${store.song!.sections[entry.returns.sectionId]?.name}` : '',
  ]
    .filter(Boolean)
    .join(' · ')

function choose(rowIndex: number, columnIndex: number, placementId?: string): void {
  row.value = Math.max(0, Math.min(store.sections.length - 1, rowIndex))
  column.value = Math.max(0, Math.min(store.parts.length - 1, columnIndex))
  chosenPlacement.value = placementId
  if (!transport.playing && !placementId) transport.seek(startOf(row.value))
  void nextTick(() =>
    table.value?.querySelector<HTMLElement>('[data-here=true]')?.scrollIntoView({ block: 'nearest' }),
  )
}
function place(figureId: string): void {
  picking.value = false
  const open =
    store.song && section.value && part.value
      ? firstOpen(store.song, section.value, part.value.id)
      : undefined
  if (!section.value || !part.value) return
  if (!open) {
    store.notice = {
      text: `Everything in ${section.value.name} is charted for ${part.value.name}: remove something first.`,
      kind: 'refusal',
    }
    return
  }
  const figure = store.song!.figures[figureId]!
  const id = randomId()
  if (
    store.run('setPlacement', {
      placement: {
        kind: 'figure',
        id,
        partId: part.value.id,
        sectionId: section.value.id,
        startTicks: open.startTicks,
        figureId,
        passes: Math.max(1, fittingPasses(figure, open.lengthTicks)),
        shiftFrets: 0,
        form: 'exact',
      },
    })
  )
    chosenPlacement.value = id
}
function newFigure(): void {
  picking.value = false
  const player = part.value
  const open =
    store.song && section.value && player ? firstOpen(store.song, section.value, player.id) : undefined
  if (!player || !section.value) return
  const meter = section.value.bars[0]!.meter
  const bars = Math.max(
    1,
    Math.min(
      section.value.bars.length >= 4 ? 4 : section.value.bars.length,
      open ? Math.floor(open.lengthTicks / barTicks(meter)) : 4,
    ),
  )
  const id = randomId()
  const count = figuresHere.value.length + 1
  if (
    !store.run('addFigure', {
      figure: {
        id,
        partId: player.id,
        name: `${section.value.name.replace(/ \d+$/, '')} figure ${count}`,
        lengthTicks: bars * barTicks(meter),
        meter,
        feel: section.value.feel ?? store.song!.feel,
        content: EMPTY_CONTENT,
      },
    })
  )
    return
  if (open) place(id)
  void navigateTo(`/song/${store.song!.id}/chart?figure=${id}`)
}
function rests(): void {
  const open =
    store.song && section.value && part.value
      ? firstOpen(store.song, section.value, part.value.id)
      : undefined
  if (open)
    store.run('setPlacement', {
      placement: {
        kind: 'rests',
        id: randomId(),
        partId: part.value!.id,
        sectionId: section.value!.id,
        startTicks: open.startTicks,
        lengthTicks: open.lengthTicks,
      },
    })
}
function remove(): void {
  if (placementHere.value) store.run('removePlacement', { placementId: placementHere.value.id })
}
function passes(by: number): void {
  const placement = placementHere.value
  if (placement?.kind === 'figure')
    store.run('setPlacement', { placement: { ...placement, passes: Math.max(1, placement.passes + by) } })
}
function shift(by: number): void {
  const placement = placementHere.value
  if (placement?.kind === 'figure')
    store.run('setPlacement', { placement: { ...placement, shiftFrets: placement.shiftFrets + by } })
}
function moveBy(bars: number): void {
  const placement = placementHere.value
  if (placement && section.value)
    store.run('setPlacement', {
      placement: {
        ...placement,
        startTicks: placement.startTicks + bars * barTicks(section.value.bars[0]!.meter),
      },
    })
}
function copy(): void {
  if (store.song && section.value && part.value)
    copied.value = {
      partId: part.value.id,
      placements: [...cellPlacements(store.song, section.value.id, part.value.id)],
    }
}
function paste(): void {
  if (!copied.value || !section.value || !store.song) return
  if (copied.value.partId !== part.value?.id) {
    store.notice = { text: 'A figure belongs to its part: paste it in the same column.', kind: 'refusal' }
    return
  }
  store.run('replaceCell', {
    partId: copied.value.partId,
    sectionId: section.value.id,
    placements: fitted(store.song, copied.value.placements, section.value, randomId),
    what: 'paste',
  })
}
/** The whole row to every section that returns this one; where something is charted already, it is kept. */
function copyToReturns(): void {
  const song = store.song
  const from = section.value
  if (!song || !from) return
  const targets = store.sections.filter((entry) => entry.returns?.sectionId === from.id)
  const cellsToFill = targets.flatMap((target) =>
    store.parts.flatMap((player) => {
      const placements = fittedToReturn(
        song,
        cellPlacements(song, from.id, player.id),
        target,
        player.id,
        randomId,
      )
      return placements.length > cellPlacements(song, target.id, player.id).length
        ? [{ partId: player.id, sectionId: target.id, placements }]
        : []
    }),
  )
  if (cellsToFill.length === 0) {
    store.notice = {
      text: targets.length
        ? `What returns ${from.name} is charted already.`
        : `No section is marked as returning ${from.name}: mark it in Listen.`,
      kind: 'refusal',
    }
    return
  }
  store.run('replaceCells', { cells: cellsToFill, what: `copy ${from.name} to its returns` })
}
function open(): void {
  const placement = placementHere.value
  if (placement?.kind === 'figure')
    void navigateTo(`/song/${store.song!.id}/chart?figure=${placement.figureId}`)
  else picking.value = true
}
function playHere(): void {
  const start = startOf(row.value)
  void transport.play(start)
}

function dragStart(event: DragEvent, placement: Placement): void {
  event.dataTransfer?.setData('text/synchorda-placement', placement.id)
  if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copyMove'
}
function drop(event: DragEvent, rowIndex: number, columnIndex: number): void {
  const placement = store.song?.placements[event.dataTransfer?.getData('text/synchorda-placement') ?? '']
  const target = store.sections[rowIndex]
  const player = store.parts[columnIndex]
  if (!placement || !target || !player || !store.song) return
  if (placement.partId !== player.id) {
    store.notice = { text: 'A figure belongs to its part: drop it in the same column.', kind: 'refusal' }
    return
  }
  const room = firstOpen(store.song, target, player.id)
  if (!room) {
    store.notice = {
      text: `Everything in ${target.name} is charted for ${player.name}: remove something first.`,
      kind: 'refusal',
    }
    return
  }
  const copying = event.ctrlKey || event.altKey || event.metaKey
  const figure = placement.kind === 'figure' ? store.song.figures[placement.figureId] : undefined
  const fit =
    placement.kind === 'figure'
      ? {
          ...placement,
          passes: Math.max(
            1,
            Math.min(placement.passes, figure ? fittingPasses(figure, room.lengthTicks) : 1),
          ),
        }
      : { ...placement, lengthTicks: Math.min(placement.lengthTicks, room.lengthTicks) }
  if (
    store.run('setPlacement', {
      placement: {
        ...fit,
        id: copying ? randomId() : placement.id,
        sectionId: target.id,
        startTicks: room.startTicks,
      },
    })
  )
    choose(rowIndex, columnIndex)
}
onMounted(() => {
  if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
})
useShortcuts([
  { keys: ['ArrowUp'], label: 'Section above', run: () => choose(row.value - 1, column.value) },
  { keys: ['ArrowDown'], label: 'Section below', run: () => choose(row.value + 1, column.value) },
  { keys: ['ArrowLeft'], label: 'Part to the left', run: () => choose(row.value, column.value - 1) },
  { keys: ['ArrowRight'], label: 'Part to the right', run: () => choose(row.value, column.value + 1) },
  {
    keys: ['p'],
    label: 'Place a figure here',
    run: () => {
      picking.value = true
    },
  },
  { keys: ['n'], label: 'New figure here, and chart it', run: newFigure },
  { keys: ['r'], label: 'Rests: the part is silent here', run: rests },
  { keys: ['Enter'], label: 'Open the figure in Chart', run: open },
  { keys: ['Delete', 'Backspace'], label: 'Remove from this place', run: remove },
  { keys: ['mod+c', 'c'], label: 'Copy this cell', run: copy },
  { keys: ['mod+v', 'v'], label: 'Paste', run: paste },
  { keys: ['w'], label: 'Copy this whole row to its returns', run: copyToReturns },
  { keys: ['m'], label: 'One pass more', run: () => passes(1) },
  { keys: ['Shift+m'], label: 'One pass less', run: () => passes(-1) },
  { keys: ['Alt+ArrowLeft'], label: 'Move a bar earlier', run: () => moveBy(-1) },
  { keys: ['Alt+ArrowRight'], label: 'Move a bar later', run: () => moveBy(1) },
  { keys: ['g'], label: 'Play from this section', run: playHere },
])
</script>

<template>
  <div v-if="store.song" class="map">
    <div v-if="store.parts.length === 0 || !store.source?.grid" class="empty">
      <h2>The map needs {{ store.parts.length === 0 ? 'a band' : 'bars' }}</h2>
      <p v-if="store.parts.length === 0">
        Add the guitars and basses you hear in
        <NuxtLink class="link" :to="`/song/${store.song.id}/setup`">Set up</NuxtLink>.
      </p>
      <p v-else>
        Lay the recording out in bars and sections in
        <NuxtLink class="link" :to="`/song/${store.song.id}/listen`">Listen</NuxtLink>.
      </p>
    </div>
    <template v-else>
      <div class="tools">
        <b class="here">{{ section?.name }} · {{ part?.name }}</b>
        <ActButton data-test="place" @click="picking = true"> Place a figure <kbd>P</kbd></ActButton
        ><ActButton data-test="new-figure" @click="newFigure">New figure <kbd>N</kbd></ActButton
        ><ActButton data-test="rests" @click="rests">Rests <kbd>R</kbd></ActButton>
        <template v-if="placementHere?.kind === 'figure'">
          <span class="quiet">passes</span
          ><ActButton aria-label="One pass less" @click="passes(-1)">−</ActButton
          ><b class="mono">{{ placementHere.passes }}</b
          ><ActButton aria-label="One pass more" @click="passes(1)">+</ActButton>
          <span class="quiet">frets</span
          ><ActButton aria-label="One fret lower" @click="shift(-1)">−</ActButton
          ><b class="mono">{{ placementHere.shiftFrets > 0 ? '+' : '' }}{{ placementHere.shiftFrets }}</b
          ><ActButton aria-label="One fret higher" @click="shift(1)">+</ActButton>
        </template>
        <ActButton v-if="placementHere" @click="remove">Remove</ActButton>
        <ActButton title="The whole row to every section that returns it (W)" @click="copyToReturns">
          Copy row to returns
        </ActButton>
      </div>
      <table ref="table" class="grid" role="grid" aria-label="What each part plays in each section">
        <thead>
          <tr role="row">
            <th role="columnheader" class="form-head"><span class="visually-hidden">Section</span></th>
            <th v-for="player in store.parts" :key="player.id" role="columnheader" scope="col">
              <h2 class="small-head">{{ player.name }}</h2>
              <span class="quiet"
                >{{ player.sound
                }}{{
                  player.instrument.kind === 'guitar-6' || player.role === 'bass'
                    ? ''
                    : `, ${INSTRUMENTS[player.instrument.kind].name.toLowerCase()}`
                }}{{ player.pan < -0.2 ? ', left' : player.pan > 0.2 ? ', right' : '' }}</span
              >
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(entry, rowIndex) in store.sections"
            :key="entry.id"
            role="row"
            :class="{ chosen: rowIndex === row }"
          >
            <th role="rowheader" scope="row" class="form-cell">
              <button class="plain section" @click="choose(rowIndex, column)">
                <b>{{ entry.name }}</b><span class="mono quiet">{{ clock(startOf(rowIndex)) }}</span
                ><span class="quiet words">{{ sectionWords(entry) }}</span>
              </button>
            </th>
            <td
              v-for="(player, columnIndex) in store.parts"
              :key="player.id"
              role="gridcell"
              :aria-selected="rowIndex === row && columnIndex === column"
              :data-here="rowIndex === row && columnIndex === column"
              :data-test="`cell-${entry.id}-${player.id}`"
              :class="{ here: rowIndex === row && columnIndex === column }"
              @click="choose(rowIndex, columnIndex)"
              @dblclick="open"
              @dragover.prevent
              @drop.prevent="drop($event, rowIndex, columnIndex)"
            >
              <div
                v-for="stretch in cells[rowIndex]![columnIndex]"
                :key="stretch.startTicks + stretch.kind"
                class="stretch"
                :class="[
                  stretch.kind,
                  {
                    on:
                      stretch.kind !== 'open' &&
                      stretch.placement.id === placementHere?.id &&
                      rowIndex === row &&
                      columnIndex === column,
                  },
                ]"
                :draggable="stretch.kind !== 'open'"
                @dragstart="stretch.kind !== 'open' && dragStart($event, stretch.placement)"
                @click.stop="
                  choose(rowIndex, columnIndex, stretch.kind === 'open' ? undefined : stretch.placement.id)
                "
              >
                <template v-if="stretch.kind === 'figure'"
                  ><b
                    >{{ stretch.figure.name
                    }}<template v-if="stretch.placement.passes > 1">
                      ×{{ stretch.placement.passes }}</template
                    ></b
                  ><span
                    v-for="other in stretch.placement.passFigures ?? []"
                    :key="other.pass"
                    class="evidence"
                    >{{ other.pass }}: {{ store.song?.figures[other.figureId]?.name }}</span
                  ><span
                    v-if="
                      stretch.placement.shiftFrets ||
                      stretch.startTicks < 0 ||
                      stretch.placement.form === 'eased'
                    "
                    class="evidence"
                    >{{
                      [
                        stretch.startTicks < 0 ? 'pickup' : '',
                        stretch.placement.shiftFrets
                          ? `${stretch.placement.shiftFrets > 0 ? '+' : ''}${stretch.placement.shiftFrets} frets`
                          : '',
                        stretch.placement.form === 'eased' ? 'eased' : '',
                      ]
                        .filter(Boolean)
                        .join(', ')
                    }}</span
                  ></template
                >
                <template v-else-if="stretch.kind === 'rests'"
                  ><i class="thin" aria-hidden="true" />rests<template
                    v-if="stretch.lengthTicks < sectionTicks(entry)"
                    >, {{ lengthInBars(entry, stretch.lengthTicks) }}</template
                  ></template
                >
                <template v-else
                  >not charted<template v-if="stretch.lengthTicks < sectionTicks(entry)"
                    >, {{ lengthInBars(entry, stretch.lengthTicks) }}</template
                  ></template
                >
              </div>
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr role="row">
            <th role="rowheader" scope="row" class="form-cell">
              <b>{{ allBars(store.song).length }} bars · {{ clock(total - uncovered) }}</b
              ><span class="quiet words"
                >record {{ clock(total, 1) }}, {{ uncovered.toFixed(1) }} s before and after</span
              >
            </th>
            <td v-for="sum in sums" :key="sum.partId" role="gridcell">
              <span class="mono"
                >{{ percentOf(sum.chartedTicks / Math.max(1, sum.totalTicks)) }} % · {{ sum.figures }}
                {{ sum.figures === 1 ? 'figure' : 'figures' }}</span
              ><span class="meter"
                ><span :style="{ width: `${(100 * sum.chartedTicks) / Math.max(1, sum.totalTicks)}%` }"
              /></span>
            </td>
          </tr>
        </tfoot>
      </table>
    </template>
    <v-dialog v-model="picking" aria-label="Place a figure" max-width="440">
      <v-card class="dialog"
        ><h2>{{ part?.name }} in {{ section?.name }}</h2>
        <p v-if="figuresHere.length === 0" class="quiet">{{ part?.name }} has no figures yet.</p>
        <div class="pick">
          <ActButton v-for="figure in figuresHere" :key="figure.id" class="wide" @click="place(figure.id)">
            <b>{{ figure.name }}</b>
            <span class="quiet"
              >{{ Math.round((10 * figure.lengthTicks) / barTicks(figure.meter)) / 10 }} bars of
              {{ meterName(figure.meter) }}</span
            >
          </ActButton>
        </div>
        <div class="acts">
          <ActButton kind="main" @click="newFigure">New figure</ActButton
          ><ActButton
            @click="
              () => {
                rests()
                picking = false
              }
            "
          >
            Rests</ActButton
          ><ActButton @click="picking = false">Cancel</ActButton>
        </div>
      </v-card>
    </v-dialog>
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
.tools {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 44px;
  flex-wrap: wrap;
  position: sticky;
  top: 0;
  background: var(--page);
  z-index: 3;
  padding-block: 4px;
  font-size: 14px;
}
.here {
  margin-right: 8px;
}
.grid {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  font-size: 14.5px;
}
.grid th,
.grid td {
  text-align: left;
  vertical-align: top;
  font-weight: 400;
}
thead th {
  padding: 4px 9px;
}
thead th .quiet {
  font-size: 13px;
  font-weight: 400;
}
.form-head,
.form-cell {
  width: 208px;
}
tbody tr {
  border-top: 1px solid var(--rule);
}
tbody tr.chosen {
  background: var(--selection);
}
tbody tr.chosen .quiet {
  color: var(--ink);
}
.section {
  width: 100%;
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 5px 12px 5px 0;
  gap: 0 8px;
}
.section b {
  font: 700 16px/1.3 var(--face-heading);
}
.words {
  grid-column: 1 / -1;
  font-size: 13px;
  display: block;
}
td[role='gridcell'] {
  padding: 4px 6px 4px 3px;
  cursor: pointer;
}
td.here {
  outline: 2px solid var(--action);
  outline-offset: -2px;
}
.stretch {
  padding: 3px 9px;
  min-height: 28px;
  display: flex;
  gap: 0 9px;
  align-items: baseline;
  flex-wrap: wrap;
  line-height: 1.3;
  border: 1px solid transparent;
}
.stretch + .stretch {
  margin-top: 3px;
}
.stretch.figure {
  background: var(--paper);
  border-color: var(--deep);
  cursor: grab;
}
.stretch.figure.on {
  border-color: var(--action);
  box-shadow: inset 3px 0 0 var(--action);
}
.stretch.figure .evidence {
  font-size: 13px;
}
.stretch.open {
  color: var(--attention);
  background-image: repeating-linear-gradient(-45deg, transparent 0 6px, var(--rule) 6px 7px);
  text-shadow:
    0 0 3px var(--page),
    0 0 3px var(--page),
    0 0 3px var(--page),
    0 0 3px var(--page);
}
tr.chosen .stretch.open {
  text-shadow:
    0 0 3px var(--selection),
    0 0 3px var(--selection);
}
.thin {
  width: 36px;
  border-top: 2px solid var(--deep);
  align-self: center;
}
tfoot tr {
  border-top: 2px solid var(--deep);
}
tfoot {
  position: sticky;
  bottom: 0;
  background: var(--page);
  z-index: 2;
  box-shadow: 0 -2px 0 var(--deep);
}
thead {
  position: sticky;
  top: 44px;
  background: var(--page);
  z-index: 2;
}
tfoot th,
tfoot td {
  padding: 8px 9px 8px 0;
}
tfoot td {
  padding-left: 9px !important;
  cursor: default !important;
}
.meter {
  display: block;
  height: 5px;
  background: var(--wood);
  margin-top: 5px;
}
.meter span {
  display: block;
  height: 100%;
  background: var(--action);
}
.dialog {
  padding: 20px 24px;
  display: grid;
  gap: 12px;
}
.pick {
  display: grid;
  gap: 5px;
  max-height: 50vh;
  overflow: auto;
}
.wide {
  text-align: left;
  padding: 7px 10px;
}
.acts {
  display: flex;
  gap: 10px;
  align-items: center;
}
@media (max-width: 1000px) {
  .form-head,
  .form-cell {
    width: 128px;
  }
  .grid {
    font-size: 13px;
  }
}
</style>
