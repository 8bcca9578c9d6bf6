<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiDeleteOutline } from '@mdi/js'
import { z } from 'zod'
import { clockWords, DELAY_VALUES, millisecondsIn } from '#core/timeline/rig'
import { effectSchema, type Effect } from '#core/document/schema'
import { useSong } from '~/stores/song'

// One effect of a rig: what it is in words, its knobs by the clock, and what is computed and played of it.
const props = defineProps<{
  effect: Effect
  sectionId: string | undefined
  first: boolean
  last: boolean
}>()
const emit = defineEmits<{ change: [effect: Effect]; remove: []; move: [by: number] }>()
const store = useSong()
const set = (change: Partial<Effect>): void => emit('change', { ...props.effect, ...change })
const OCTAVES = [
  { title: 'an octave below', value: -12 },
  { title: 'two octaves below', value: -24 },
  { title: 'a fifth above', value: 7 },
  { title: 'an octave above', value: 12 },
  { title: 'two octaves above', value: 24 },
]
const delays = computed(() =>
  DELAY_VALUES.map(({ title, ticks }) => ({
    title: `${title}, ${store.song ? millisecondsIn(store.song, props.sectionId, ticks) : 0} ms`,
    value: ticks,
  })),
)
/** Half hours from seven o’clock to five. */
const CLOCKS = Array.from({ length: 21 }, (_, index) => 7 + index / 2).map((clock) => ({
  title: clockWords(clock),
  value: clock,
}))
const repeatsSchema = z.int().min(1).max(12)
const cutoffSchema = effectSchema.shape.cutoffHz.unwrap()
const knobName = ref('')
const MIDDLE = 12
function addKnob(): void {
  const name = knobName.value.trim()
  if (!name) return
  set({ knobs: [...props.effect.knobs, { name, clock: MIDDLE }] })
  knobName.value = ''
}
const setKnob = (index: number, clock: number): void =>
  set({ knobs: props.effect.knobs.map((knob, at) => (at === index ? { ...knob, clock } : knob)) })
</script>

<template>
  <div class="effect" :data-test="`effect-${effect.kind}`">
    <b>{{ effect.kind }}</b>
    <TextField
      class="words"
      label="In words"
      :model-value="effect.words"
      :longest="200"
      may-be-empty
      @take="set({ words: $event })"
    />
    <SelectField
      v-if="effect.kind === 'octave'"
      class="value"
      label="Added voice"
      :items="OCTAVES"
      :model-value="effect.semitones ?? -12"
      @update:model-value="set({ semitones: $event })"
    />
    <SelectField
      v-if="effect.kind === 'delay'"
      class="value"
      label="Delay"
      :items="delays"
      :model-value="effect.delayTicks ?? delays[0]!.value"
      data-test="delay-value"
      @update:model-value="set({ delayTicks: $event })"
    />
    <NumberField
      v-if="effect.kind === 'delay'"
      class="count"
      label="Repeats"
      :schema="repeatsSchema"
      :model-value="effect.repeats ?? 3"
      @take="set({ repeats: $event })"
    />
    <NumberField
      v-if="effect.kind === 'filter'"
      class="count"
      label="Dull above, Hz"
      :schema="cutoffSchema"
      :model-value="effect.cutoffHz ?? 1200"
      @take="set({ cutoffHz: $event })"
    />
    <span class="acts">
      <ActButton
        kind="plain"
        :disabled="first"
        :aria-label="`${effect.kind} earlier`"
        @click="emit('move', -1)"
      >
        <v-icon :icon="mdiArrowUp" size="18" />
      </ActButton>
      <ActButton kind="plain" :disabled="last" :aria-label="`${effect.kind} later`" @click="emit('move', 1)">
        <v-icon :icon="mdiArrowDown" size="18" />
      </ActButton>
      <ActButton kind="plain" :aria-label="`Remove ${effect.kind}`" @click="emit('remove')">
        <v-icon :icon="mdiDeleteOutline" size="18" />
      </ActButton>
    </span>
    <div class="knobs">
      <span v-for="(knob, index) in effect.knobs" :key="`${knob.name}${index}`" class="knob">
        {{ knob.name }}
        <SelectField
          inline
          :label="`${knob.name} by the clock`"
          :items="CLOCKS"
          :model-value="knob.clock"
          @update:model-value="setKnob(index, $event)"
        />
        <ActButton
          kind="plain"
          :aria-label="`Remove ${knob.name}`"
          @click="set({ knobs: effect.knobs.filter((_, at) => at !== index) })"
        >
          <v-icon :icon="mdiDeleteOutline" size="16" />
        </ActButton>
      </span>
      <v-text-field
        v-model="knobName"
        class="knob-name"
        label="Knob"
        :maxlength="30"
        @keydown.enter="addKnob"
      />
      <ActButton class="small" :disabled="!knobName.trim()" @click="addKnob">Add the knob</ActButton>
    </div>
  </div>
</template>

<style scoped>
.effect {
  display: grid;
  grid-template-columns: 96px minmax(140px, 1fr) auto auto auto;
  gap: 8px 12px;
  align-items: center;
}
.value {
  width: 240px;
}
.count {
  width: 124px;
}
.acts {
  display: flex;
  grid-column: 5;
}
.knobs {
  grid-column: 2 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.knob {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.knob-name {
  max-width: 150px;
}
@media (max-width: 1000px) {
  .effect {
    grid-template-columns: 1fr 1fr;
  }
  .acts,
  .knobs {
    grid-column: 1 / -1;
  }
}
</style>
