<script setup lang="ts">
import { counted } from '#core/words/words'
import { cellStretches, type Stretch } from '#core/timeline/cells'
import { landmarksIn } from '#core/timeline/landmarks'
import { clock } from '#core/time/beat-grid'
import { meterName, usualMeterName } from '#core/time/meter'
import { keyName, transposeKey } from '#core/music/pitch'
import type { Section } from '#core/document/schema'
import { useSeen } from '~/composables/seen'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { MapWork } from './mapWork'

// A section of the song, with what each part plays in it. Its cells are filled once it comes near the window.
const props = defineProps<{ work: MapWork; section: Section; index: number }>()
const store = useSong()
const transport = useTransport()
const { row, column, placementHere } = props.work
const here = computed(() => props.index === row.value)
/** The music is in this section; how far, 0 to 1. */
const sounding = computed(() => {
  const { here: now } = transport
  const place = now?.sectionId === props.section.id && store.places[props.index]
  return now && place ? (now.tick - place.startTicks) / place.lengthTicks : undefined
})
const soundsNow = (stretch: Stretch): boolean => {
  const { here: now } = transport
  const place = store.places[props.index]
  if (sounding.value === undefined || !now || !place) return false
  const inside = now.tick - place.startTicks
  return inside >= stretch.startTicks && inside < stretch.startTicks + stretch.lengthTicks
}
watch(
  () => sounding.value !== undefined,
  (now) => {
    if (now) root.value?.scrollIntoView({ block: 'nearest' })
  },
)
const root = ref<HTMLElement>()
const seen = useSeen(root)
const cells = computed<Stretch[][]>(() =>
  store.song && seen.value
    ? store.parts.map((part) => cellStretches(store.song!, props.section, part.id))
    : store.parts.map(() => []),
)
const placementOf = (stretch: Stretch): string | undefined =>
  stretch.kind === 'open' ? undefined : stretch.placement.id
const isChosen = (stretch: Stretch, columnIndex: number): boolean =>
  here.value &&
  columnIndex === column.value &&
  stretch.kind !== 'open' &&
  placementOf(stretch) === placementHere.value?.id

const meterWords = computed(() => {
  const { bars } = props.section
  if (bars.every((bar) => bar.free)) return 'free'
  const own = usualMeterName(bars)
  return own === meterName(store.song!.meter) ? '' : own
})
/** "as Verse 1", "as bars 5–8 of Verse 1, +2". */
function returnWords({
  sectionId,
  firstBar,
  barCount,
  shiftSemitones,
}: NonNullable<Section['returns']>): string {
  const target = store.song?.sections[sectionId]
  const first = firstBar ?? 0
  const last = first + (barCount ?? (target?.bars.length ?? 0) - first)
  const all = first === 0 && last === target?.bars.length
  const shift = shiftSemitones ? `, ${shiftSemitones > 0 ? '+' : ''}${shiftSemitones}` : ''
  return `as ${all ? '' : `bars ${first + 1}–${last} of `}${target?.name}${shift}`
}
const words = computed(() => {
  const { bars, passes, key, returns } = props.section
  const list = [
    counted(bars.length, 'bar'),
    meterWords.value,
    passes > 1 ? `${passes} passes` : '',
    key ? `in ${keyName(transposeKey(key, store.nameShift))}` : '',
    returns ? returnWords(returns) : '',
  ]
  return list.filter(Boolean).join(' · ')
})
const landmarks = computed(() => (store.song ? landmarksIn(store.song, props.section) : []))
</script>

<template>
  <tr ref="root" role="row" :class="{ chosen: here, sounding: sounding !== undefined }">
    <th role="rowheader" scope="row" class="form-cell">
      <button class="plain section" @click="work.goTo(index)">
        <b>{{ section.name }}</b><span class="mono quiet">{{ clock(work.startOf(index)) }}</span
        ><span class="quiet words">{{ words }}</span>
        <span v-for="one in landmarks" :key="one.spot.id" class="words landmark">{{ one.words }}</span>
        <span
          v-if="sounding !== undefined"
          class="progress"
          data-test="map-playing"
          :style="{ transform: `scaleX(${sounding})` }"
        />
      </button>
    </th>
    <td
      v-for="(player, columnIndex) in store.parts"
      :key="player.id"
      role="gridcell"
      :aria-selected="here && columnIndex === column"
      :data-here="here && columnIndex === column"
      :data-test="`cell-${section.id}-${player.id}`"
      :data-row="index"
      :data-column="columnIndex"
      :class="{ here: here && columnIndex === column }"
      @click="work.choose(index, columnIndex)"
      @dblclick="work.open"
    >
      <MapStretch
        v-for="stretch in cells[columnIndex]"
        :key="stretch.startTicks + stretch.kind"
        :stretch="stretch"
        :section="section"
        :chosen="isChosen(stretch, columnIndex)"
        :sounding="soundsNow(stretch)"
        :data-placement="placementOf(stretch)"
        @click.stop="work.goTo(index, columnIndex, stretch)"
      />
    </td>
  </tr>
</template>

<style scoped>
tr {
  border-top: 1px solid var(--rule);
}
tr {
  scroll-margin-block: 130px 130px;
}
tr.sounding .section b {
  color: var(--attention);
}
.section {
  position: relative;
}
.progress {
  position: absolute;
  left: 0;
  right: 12px;
  bottom: 2px;
  height: 3px;
  background: var(--attention);
  transform-origin: left;
}
tr.chosen {
  background: var(--selection);
}
tr.chosen .quiet {
  color: var(--ink);
}
th,
td {
  text-align: left;
  vertical-align: top;
  font-weight: 400;
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
.landmark {
  border-left: 3px solid var(--evidence);
  padding-left: 5px;
}
.words {
  grid-column: 1 / -1;
  font-size: 13px;
  display: block;
}
td {
  padding: 4px 6px 4px 3px;
  cursor: pointer;
  height: 54px;
}
td.here {
  outline: 2px solid var(--action);
  outline-offset: -2px;
}
td.drop-here {
  outline: 2px dashed var(--action);
  outline-offset: -2px;
}
</style>
