<script setup lang="ts">
import { EMPTY_RIG, rigOf } from '#core/timeline/rig'
import { EFFECT_KINDS, STRIKES, type Effect, type Part, type Rig } from '#core/document/schema'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { useSong } from '~/stores/song'

// A rig as it is set up: pickup, gain, the striking hand, and the effects in the order the sound passes them.
const props = defineProps<{ part: Part; sectionId: string | undefined }>()
const store = useSong()
const own = computed(() =>
  props.sectionId === undefined
    ? props.part.rig
    : props.part.sectionRigs?.find(({ sectionId }) => sectionId === props.sectionId)?.rig,
)
const rig = computed<Rig>(() => rigOf(props.part, props.sectionId) ?? EMPTY_RIG)
const strikes = [
  { title: 'not said', value: '' as const },
  ...STRIKES.map((one) => ({ title: one, value: one })),
]
const kinds = EFFECT_KINDS.map((kind) => ({ title: kind, value: kind }))

function write(next: Rig | undefined): void {
  store.run('setRig', {
    partId: props.part.id,
    ...(props.sectionId === undefined ? {} : { sectionId: props.sectionId }),
    ...(next ? { rig: plain(next) } : {}),
  })
}
const set = (change: Partial<Rig>): void => write({ ...rig.value, ...change })
function setStrike(strike: '' | (typeof STRIKES)[number]): void {
  const { strike: _old, ...rest } = rig.value
  write(strike ? { ...rest, strike } : rest)
}
function setFeedback(feedback: boolean): void {
  const { feedback: _old, ...rest } = rig.value
  write(feedback ? { ...rest, feedback } : rest)
}
const DOTTED_EIGHTH_TICKS = 7560
const FRESH: Partial<Record<Effect['kind'], Partial<Effect>>> = {
  octave: { semitones: -12 },
  delay: { delayTicks: DOTTED_EIGHTH_TICKS, repeats: 3 },
  filter: { cutoffHz: 1200 },
}
function add(kind: Effect['kind']): void {
  set({ effects: [...rig.value.effects, { id: randomId(), kind, words: '', knobs: [], ...FRESH[kind] }] })
}
const replace = (effect: Effect): void =>
  set({ effects: rig.value.effects.map((one) => (one.id === effect.id ? effect : one)) })
const remove = (id: string): void => set({ effects: rig.value.effects.filter((one) => one.id !== id) })
function move(index: number, by: number): void {
  const moved = rig.value.effects[index]
  if (moved) set({ effects: rig.value.effects.toSpliced(index, 1).toSpliced(index + by, 0, moved) })
}
</script>

<template>
  <div class="rig-editor" data-test="rig">
    <p v-if="sectionId !== undefined" class="quiet">
      {{
        own ? 'This section has its own rig.' : 'As in the whole song. Change anything to make it its own.'
      }}
      <ActButton v-if="own" class="small" data-test="rig-as-everywhere" @click="write(undefined)">
        As in the whole song
      </ActButton>
    </p>
    <div class="fields">
      <TextField
        label="Pickup"
        :model-value="rig.pickup"
        :longest="200"
        may-be-empty
        data-test="rig-pickup"
        @take="set({ pickup: $event })"
      />
      <TextField
        label="Gain"
        :model-value="rig.gain"
        :longest="200"
        may-be-empty
        data-test="rig-gain"
        @take="set({ gain: $event })"
      />
      <SelectField
        label="Struck with"
        :items="strikes"
        :model-value="rig.strike ?? ''"
        @update:model-value="setStrike"
      />
      <CheckField
        label="let it feed back"
        :model-value="rig.feedback ?? false"
        @update:model-value="setFeedback"
      />
    </div>
    <p v-if="rig.feedback" class="evidence">
      Feedback needs loudness: protect your ears, keep a distance, stop when they ring.
    </p>
    <ol v-if="rig.effects.length" class="effects" aria-label="Effects in order">
      <li v-for="(effect, index) in rig.effects" :key="effect.id">
        <RigEffect
          :effect="effect"
          :section-id="sectionId"
          :first="index === 0"
          :last="index === rig.effects.length - 1"
          @change="replace"
          @remove="remove(effect.id)"
          @move="move(index, $event)"
        />
      </li>
    </ol>
    <MenuButton label="Add an effect" :items="kinds" @choose="add" />
  </div>
</template>

<style scoped>
.rig-editor {
  display: grid;
  gap: 12px;
  justify-items: start;
}
.fields {
  width: 100%;
  display: grid;
  grid-template-columns: repeat(4, minmax(120px, 1fr));
  gap: 14px 12px;
  align-items: center;
}
.effects {
  margin: 0;
  padding: 0;
  width: 100%;
  list-style: none;
  counter-reset: effect;
}
.effects li {
  border-top: 1px solid var(--rule);
  padding: 10px 0;
}
@media (max-width: 1000px) {
  .fields {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
