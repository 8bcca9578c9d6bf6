<script setup lang="ts">
import { SECTION_KINDS, sectionSchema, type SectionKind } from '#core/document/schema'
import { z } from 'zod'
import { isUnnamed } from '#core/document/form'
import { clock, ticksToSeconds } from '#core/time/beat-grid'
import { beatTicks, meterName, USUAL_METERS, usualMeterName } from '#core/time/meter'
import { useSong } from '~/stores/song'
import type { BeatWork } from './beatWork'

// One section: its name, what kind it is, what it brings back, how it is counted, where it begins.
const props = defineProps<{ sectionId: string | undefined; beats: BeatWork }>()
const emit = defineEmits<{ done: [] }>()
const store = useSong()
const place = computed(() => store.places.find((entry) => entry.section.id === props.sectionId))
const section = computed(() => place.value?.section)
const earlier = computed(() =>
  store.sections.slice(
    0,
    store.sections.findIndex((entry) => entry.id === props.sectionId),
  ),
)
const returnItems = computed(() => [
  { title: 'nothing: it is new', value: '' },
  ...earlier.value.map((entry) => ({ title: entry.name, value: entry.id })),
])
const kinds = SECTION_KINDS.map((kind) => ({ title: kind, value: kind }))
const startSeconds = computed(() => {
  const { map } = store
  if (!map || !place.value) return 0
  return ticksToSeconds(map, place.value.startTicks - place.value.section.pickupTicks)
})
const leadIn = computed(() => {
  const { value } = section
  const beat = value?.bars[0] && beatTicks(value.bars[0].meter)
  return beat && value.pickupTicks
    ? ` · lead-in of ${Math.round((value.pickupTicks / beat) * 4) / 4} beats`
    : ''
})

const change = (set: { name?: string; kind?: SectionKind; ownKind?: string; passes?: number }): void => {
  store.run('changeSection', { sectionId: props.sectionId!, set })
}
/** Kinds of which there are usually several, so that the first is numbered too. */
const NUMBERED: readonly SectionKind[] = ['verse', 'chorus', 'pre-chorus']
function kindTo(kind: SectionKind): void {
  if (!section.value) return
  const { id, name } = section.value
  const unnamed = /^(Section \d+|Whole song)$/.test(name)
  if (!unnamed || kind === 'other') {
    change({ kind })
    return
  }
  const title = kind[0]!.toUpperCase() + kind.slice(1)
  const count = store.sections.filter((other) => other.kind === kind && other.id !== id).length
  change({ kind, name: count || NUMBERED.includes(kind) ? `${title} ${count + 1}` : title })
}
const returned = computed(
  () => section.value?.returns && store.song?.sections[section.value.returns.sectionId],
)
function setReturn(id: string): void {
  store.run('setReturn', {
    sectionId: props.sectionId!,
    returns: id ? { sectionId: id, shiftSemitones: 0, withDifferences: true } : null,
  })
}
/** Which of its bars return: all, the first half, the second, or any. */
const RANGES = ['all of it', 'its first half', 'its second half', 'other bars'] as const
type Range = (typeof RANGES)[number]
const choosingBars = ref(false)
const range = computed<Range>(() => {
  const { firstBar, barCount } = section.value?.returns ?? {}
  const total = returned.value?.bars.length ?? 0
  if (firstBar === undefined && barCount === undefined) return choosingBars.value ? 'other bars' : 'all of it'
  const half = Math.floor(total / 2)
  if ((firstBar ?? 0) === 0 && barCount === half) return 'its first half'
  return firstBar === half && barCount === total - half ? 'its second half' : 'other bars'
})
function setBars(firstBar: number | undefined, barCount: number | undefined): void {
  const { returns } = section.value ?? {}
  if (!returns) return
  const { firstBar: _first, barCount: _count, ...whole } = returns
  const bars = firstBar === undefined || barCount === undefined ? {} : { firstBar, barCount }
  store.run('setReturn', { sectionId: props.sectionId!, returns: { ...whole, ...bars } })
}
function setRange(wanted: Range): void {
  const total = returned.value?.bars.length ?? 0
  const half = Math.floor(total / 2)
  choosingBars.value = wanted === 'other bars'
  if (wanted === 'all of it') setBars(undefined, undefined)
  else if (wanted === 'its first half') setBars(0, Math.max(1, half))
  else if (wanted === 'its second half') setBars(half, total - half)
  else setBars(0, total)
}
const fromBar = computed(() => (section.value?.returns?.firstBar ?? 0) + 1)
const toBar = computed(
  () => fromBar.value - 1 + (section.value?.returns?.barCount ?? returned.value?.bars.length ?? 1),
)
const barSchema = computed(() =>
  z
    .int()
    .min(1)
    .max(returned.value?.bars.length ?? 1),
)
const setFrom = (bar: number): void => setBars(bar - 1, Math.max(1, toBar.value - bar + 1))
const setTo = (bar: number): void =>
  setBars(Math.min(fromBar.value, bar) - 1, bar - Math.min(fromBar.value, bar) + 1)
const shiftSchema = z.int().min(-12).max(12)
function setShift(shiftSemitones: number): void {
  const { returns } = section.value ?? {}
  if (returns)
    store.run('setReturn', { sectionId: props.sectionId!, returns: { ...returns, shiftSemitones } })
}
/** The meter most of its bars have. */
const usualMeter = computed(() => usualMeterName(section.value?.bars ?? []) || meterName(store.song!.meter))
const countIn = (name: string): void => {
  props.beats.countSection(
    props.sectionId!,
    USUAL_METERS.find((meter) => meterName(meter) === name)!,
  )
}
const moveStart = (byBars: number, byBeats = 0): void => {
  store.run('moveSectionStart', { sectionId: props.sectionId!, byBars, byBeats })
}
/** A kind of one's own also names a section nobody has named. */
function takeOwnKind(words: string): void {
  const ownKind = words.trim()
  if (!ownKind || !section.value) return
  const unnamed = isUnnamed(section.value)
  const title = ownKind.charAt(0).toUpperCase() + ownKind.slice(1)
  change({ kind: 'other', ownKind, ...(unnamed ? { name: title } : {}) })
}
function merge(): void {
  if (store.run('mergeSection', { sectionId: props.sectionId! })) emit('done')
}
</script>

<template>
  <v-dialog
    aria-label="Section"
    :model-value="Boolean(section)"
    max-width="520"
    @update:model-value="emit('done')"
  >
    <v-card v-if="section" class="dialog">
      <h2>{{ section.name }}</h2>
      <p class="quiet mono">{{ clock(startSeconds, 1) }} · {{ section.bars.length }} bars{{ leadIn }}</p>
      <TextField
        label="Name"
        :model-value="section.name"
        :longest="80"
        autofocus
        data-test="section-name"
        @take="change({ name: $event })"
        @keyup.enter="emit('done')"
      />
      <ToggleRow label="Type" :items="kinds" :model-value="section.kind" @update:model-value="kindTo" />
      <TextField
        v-if="section.kind === 'other'"
        label="A kind of your own"
        :model-value="section.ownKind ?? ''"
        :longest="40"
        data-test="own-kind"
        @take="takeOwnKind"
      />
      <SelectField
        v-if="earlier.length"
        label="Returns"
        :items="returnItems"
        :model-value="section.returns?.sectionId ?? ''"
        @update:model-value="setReturn"
      />
      <div v-if="returned" class="return" data-test="return-range">
        <SelectField
          label="What of it"
          :items="RANGES.map((value) => ({ title: value, value }))"
          :model-value="range"
          @update:model-value="setRange($event as Range)"
        />
        <template v-if="range === 'other bars'">
          <NumberField label="from bar" :schema="barSchema" :model-value="fromBar" @take="setFrom" />
          <NumberField label="to bar" :schema="barSchema" :model-value="toBar" @take="setTo" />
        </template>
        <NumberField
          label="semitones higher"
          :schema="shiftSchema"
          :model-value="section.returns?.shiftSemitones ?? 0"
          @take="setShift"
        />
      </div>
      <SelectField
        label="Meter"
        :items="USUAL_METERS.map(meterName)"
        :model-value="usualMeter"
        @update:model-value="countIn"
      />
      <NumberField
        label="Passes (times through)"
        :schema="sectionSchema.shape.passes"
        :model-value="section.passes"
        @take="change({ passes: $event })"
      />
      <div v-if="earlier.length" class="acts">
        <ActButton @click="moveStart(-1)">Start a bar earlier</ActButton>
        <ActButton @click="moveStart(1)">A bar later</ActButton>
        <ActButton data-test="beat-earlier" @click="moveStart(0, -1)">A beat earlier</ActButton>
        <ActButton @click="moveStart(0, 1)">A beat later</ActButton>
        <ActButton @click="merge">Merge into the one before</ActButton>
      </div>
      <ActButton kind="main" @click="emit('done')">Done</ActButton>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 22px 26px;
  display: grid;
  gap: 14px;
}
.return {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
  gap: 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.main-button {
  justify-self: start;
}
</style>
