<script setup lang="ts">
import { INSTRUMENT_KINDS, INSTRUMENTS, type InstrumentKind } from '#core/instrument/instruments'
import { switchedInstrument } from '#core/document/switch-instrument'
import { partSchema, SOUNDS, type Part } from '#core/document/schema'
import { useSong } from '~/stores/song'

// One part: who plays it, on what, tuned how.
const props = defineProps<{ part: Part }>()
const store = useSong()
const kindItems = INSTRUMENT_KINDS.map((kind) => ({ title: INSTRUMENTS[kind].name, value: kind }))
const ROLES = ['rhythm', 'lead', 'bass', 'acoustic', 'adapted'] as const

function change(set: Partial<Omit<Part, 'id'>>): void {
  store.run('changePart', { partId: props.part.id, set })
}
const setKind = (kind: InstrumentKind): void => change(switchedInstrument(props.part, kind))
</script>

<template>
  <section class="detail" :aria-label="part.name">
    <div class="grid">
      <TextField
        label="Part"
        :model-value="part.name"
        :longest="60"
        data-test="part-name"
        @take="change({ name: $event })"
      />
      <SelectField
        label="Role"
        :items="ROLES"
        :model-value="part.role"
        @update:model-value="change({ role: $event })"
      />
      <SelectField
        label="Instrument"
        :items="kindItems"
        :model-value="part.instrument.kind"
        data-test="instrument"
        @update:model-value="setKind($event)"
      />
      <SelectField
        label="Sound"
        :items="SOUNDS"
        :model-value="part.sound"
        @update:model-value="change({ sound: $event })"
      />
      <NumberField
        label="Frets"
        :schema="partSchema.shape.instrument.shape.fretCount"
        :model-value="part.instrument.fretCount"
        @take="change({ instrument: { ...part.instrument, fretCount: $event } })"
      />
      <NumberField
        label="Scale length, mm"
        :schema="partSchema.shape.instrument.shape.scaleLengthMm"
        :model-value="part.instrument.scaleLengthMm"
        @take="change({ instrument: { ...part.instrument, scaleLengthMm: $event } })"
      />
      <NumberField
        label="Capo at fret"
        :schema="partSchema.shape.instrument.shape.capo"
        :model-value="part.instrument.capo"
        @take="change({ instrument: { ...part.instrument, capo: $event } })"
      />
      <NumberField
        label="Left −1 … right 1"
        :schema="partSchema.shape.pan"
        :model-value="part.pan"
        :step="0.1"
        @take="change({ pan: $event })"
      />
    </div>
    <PartTuning :part="part" />
    <PartRig :part="part" />
  </section>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(4, minmax(120px, 1fr));
  gap: 14px 12px;
  margin-top: 12px;
}
@media (max-width: 1000px) {
  .grid {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
