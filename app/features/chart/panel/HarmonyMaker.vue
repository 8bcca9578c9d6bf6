<script setup lang="ts">
import { z } from 'zod'
import { MODES, transposeKey, type Key } from '#core/music/pitch'
import { intervalWords as semitoneWords } from '#core/music/interval-words'
import type { Content, Figure } from '#core/document/schema'
import { TONIC_ITEMS } from '~/composables/keyItems'
import { useSong } from '~/stores/song'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'
import { useHarmony, type MadeVoice } from './harmonyWork'
import { INTERVALS, intervalWords } from './intervals'
import { placeWords } from './placeWords'

// A second line by rule, or two at once: made beside the first, clashes named, kept linked to the first.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  hear: [content: Content]
  beside: [what: Beside | undefined]
}>()
const store = useSong()
const harmony = useHarmony({
  bench: props.bench,
  figure: () => props.figure,
  show: (what) => emit('beside', what),
})
const { voices, kind, key, target, where, made, problem, freePlaces } = harmony
const KINDS = [
  { title: 'in the key', value: 'diatonic' as const },
  { title: 'parallel', value: 'parallel' as const },
]
const place = (at: number): string => placeWords(props.figure, at)
watch(
  () => props.figure.id,
  () => {
    target.value =
      store.parts.find(
        (player) =>
          player.id !== props.figure.partId && player.tuning.openMidi.length >= 6 && player.role === 'lead',
      )?.id ?? props.figure.partId
  },
  { immediate: true },
)
const sizeOf = (interval: number): number => Math.abs(interval)
const sideOf = (interval: number): 'above' | 'below' => (interval < 0 ? 'below' : 'above')
function setInterval(voice: number, size: number, side: 'above' | 'below'): void {
  voices.value[voice]!.interval = side === 'below' && size > 1 ? -size : size
}
/** Three voices: a fifth on the other side of nothing, a fifth beside a third. */
function addVoice(): void {
  const first = voices.value[0]!.interval
  voices.value = [...voices.value, { interval: first < 0 ? -5 : 5, exceptions: [] }]
}
function dropVoice(): void {
  voices.value = voices.value.slice(0, 1)
}
const parts = computed(() => store.parts.map((player) => ({ title: player.name, value: player.id })))
const shownKey = computed(() => transposeKey(key.value, store.nameShift))
const setKey = (set: Partial<Key>): void => {
  key.value = transposeKey({ ...shownKey.value, ...set }, -store.nameShift)
}
const targetPart = computed(() => store.song?.parts[target.value])

/** The note at the cursor in a made line, for an exception typed there. */
const lead = computed(
  () =>
    props.bench.note.value ??
    props.bench.content.value.notes.find(({ startTicks }) => startTicks === props.bench.tick.value),
)
const semitonesSchema = z.int().min(-24).max(24)
const atCursor = (voice: MadeVoice): number | undefined => {
  const index = voice.line.notes.findIndex(({ id }) => id === lead.value?.id)
  return index === -1 ? undefined : voice.line.intervals[index]
}
const voiceWords = (interval: number): string => (made.value.length > 1 ? `${intervalWords(interval)}: ` : '')
const placeIt = ref(true)
function keep(): void {
  const id = harmony.keep(placeIt.value)
  if (id) emit('choose', id)
}
onBeforeUnmount(() => emit('beside', undefined))
</script>

<template>
  <section>
    <h2 class="small-head">A second line</h2>
    <div v-for="(voice, index) in voices" :key="index" class="other fields">
      <SelectField
        inline
        :label="`Interval of line ${index + 1}`"
        :items="INTERVALS"
        :model-value="sizeOf(voice.interval)"
        :data-test="index === 0 ? 'harmony-size' : 'harmony-size-2'"
        @update:model-value="setInterval(index, $event, sideOf(voice.interval))"
      />
      <SelectField
        inline
        :label="`Line ${index + 1} above or below`"
        :items="['above', 'below']"
        :model-value="sideOf(voice.interval)"
        @update:model-value="setInterval(index, sizeOf(voice.interval), $event as 'above' | 'below')"
      />
      <SelectField v-if="index === 0" v-model="kind" inline label="In the key or parallel" :items="KINDS" />
    </div>
    <p class="other row">
      <ActButton v-if="voices.length === 1" class="small" data-test="third-voice" @click="addVoice">
        and another line
      </ActButton>
      <ActButton v-else class="small" @click="dropVoice">only one line</ActButton>
    </p>
    <div v-if="kind === 'diatonic'" class="other fields">
      <SelectField
        inline
        label="Tonic"
        :items="TONIC_ITEMS"
        :model-value="shownKey.tonic"
        @update:model-value="setKey({ tonic: $event })"
      />
      <SelectField
        inline
        label="Mode"
        :items="MODES"
        :model-value="key.mode"
        @update:model-value="setKey({ mode: $event })"
      />
    </div>
    <NeckWishFields v-if="targetPart" v-model="where" :part="targetPart" />
    <div class="other row">
      for
      <SelectField v-model="target" inline class="grow" label="Played by" :items="parts" />
      <ActButton class="small" data-test="make-harmony" @click="harmony.make">Show it</ActButton>
    </div>
    <p v-if="problem" class="attention other" role="alert">{{ problem }}</p>
    <template v-if="made.length">
      <p v-if="made.every(({ line }) => !line.clashes.length)" class="other quiet">
        No clash with the chords.
      </p>
      <ul class="other" data-test="clashes">
        <template v-for="(voice, index) in made" :key="index">
          <li v-for="clash in voice.line.clashes" :key="clash.startTicks" class="evidence">
            {{ voiceWords(voice.interval) }}{{ place(clash.startTicks) }}:
            {{ store.toneName(clash.pitchClass) }}
            {{
              clash.against === undefined
                ? 'is no tone of'
                : `rubs against ${store.toneName(clash.against)} of`
            }}
            {{ store.showSymbol(clash.symbol) }}
            <ActButton
              v-if="clash.betterStep !== undefined"
              class="small"
              @click="
                harmony.except(
                  index,
                  clash.startTicks,
                  voice.line.intervals[clash.index]! + clash.betterStep,
                  clash.text,
                )
              "
            >
              leave the rule here
            </ActButton>
          </li>
          <li v-for="remark in voice.line.remarks" :key="`r${remark.startTicks}`" class="quiet">
            {{ voiceWords(voice.interval) }}{{ place(remark.startTicks) }}: {{ remark.text }}
          </li>
          <li
            v-for="exception in voices[index]?.exceptions ?? []"
            :key="`e${exception.startTicks}`"
            class="quiet"
          >
            {{ place(exception.startTicks) }}: {{ semitoneWords(exception.semitones) }} on purpose
            <ActButton class="small" @click="harmony.backToRule(index, exception.startTicks)">
              by the rule
            </ActButton>
          </li>
        </template>
      </ul>
      <template v-for="(voice, index) in made" :key="`c${index}`">
        <NumberField
          v-if="lead && atCursor(voice) !== undefined"
          class="cursor-exception"
          :label="`Half steps at ${place(lead.startTicks)}, ${intervalWords(voice.interval)}`"
          :schema="semitonesSchema"
          :model-value="atCursor(voice)!"
          :data-test="`exception-${index}`"
          @take="harmony.except(index, lead.startTicks, $event, 'as he plays it')"
        />
      </template>
      <CheckField
        v-if="freePlaces.length"
        v-model="placeIt"
        :label="`place it where “${figure.name}” plays (${freePlaces.length} free)`"
        data-test="place-line"
      />
      <p class="other row">
        <ActButton class="small" data-test="keep-harmony" @click="keep">
          {{ made.length > 1 ? 'Keep both, linked' : 'Keep it, linked' }}
        </ActButton>
        <ActButton class="small" @click="emit('hear', harmony.together(made))">Hear</ActButton>
      </p>
    </template>
  </section>
</template>

<style scoped>
.cursor-exception {
  margin-top: 10px;
}
</style>
