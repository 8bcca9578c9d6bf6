<script setup lang="ts">
import { SECTION_KINDS, sectionSchema, type SectionKind } from '#core/document/schema'
import { clock } from '#core/time/beat-grid'
import { meterName, USUAL_METERS } from '#core/time/meter'
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
  return (map && place.value && map.seconds[map.ticks.indexOf(place.value.startTicks)]) ?? 0
})

const change = (set: { name?: string; kind?: SectionKind; passes?: number }): void => {
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
function setReturn(id: string): void {
  store.run('setReturn', {
    sectionId: props.sectionId!,
    returns: id ? { sectionId: id, shiftSemitones: 0, withDifferences: true } : null,
  })
}
const countIn = (name: string): void => {
  props.beats.countSection(
    props.sectionId!,
    USUAL_METERS.find((meter) => meterName(meter) === name)!,
  )
}
const moveStart = (byBars: number): void => {
  store.run('moveSectionStart', { sectionId: props.sectionId!, byBars })
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
      <p class="quiet mono">{{ clock(startSeconds, 1) }} · {{ section.bars.length }} bars</p>
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
      <SelectField
        v-if="earlier.length"
        label="Returns"
        :items="returnItems"
        :model-value="section.returns?.sectionId ?? ''"
        @update:model-value="setReturn"
      />
      <SelectField
        label="Counted in"
        :items="USUAL_METERS.map(meterName)"
        :model-value="meterName(section.bars.find((bar) => !bar.free)?.meter ?? store.song!.meter)"
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
        <ActButton @click="moveStart(1)">Start a bar later</ActButton>
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.main-button {
  justify-self: start;
}
</style>
