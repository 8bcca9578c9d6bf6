<script setup lang="ts">
import { chordGrid } from '#core/engrave/chord-grid'
import { inversionWords } from '#core/music/chord-name'
import { pretty } from '#core/music/pitch'
import { difficultyWord, fingeredGrip } from '#core/neck/grips/fingering'
import { movingGrip, type Plucked } from '#core/neck/grips/eased-grip'
import { readGrip, writeGrip } from '#core/neck/grips/grip'
import type { RankedGrip } from '#core/neck/grips/grip-search'
import { setGrip } from '#core/document/figure-edit'
import { barTicks, countWords } from '#core/time/meter'
import type { Figure, Grip } from '#core/document/schema'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// What is known of the grip at the cursor: names, degrees, fingers, reach; grips for the same chord; an
// easier way when it is too wide.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const emit = defineEmits<{ leave: [] }>()
const store = useSong()
const preferences = usePreferences()
const easedWork = usePlayingWork()
const { grip: span, part, tick } = props.bench
const facts = computed(() =>
  span.value && part.value ? store.factsOf(part.value, span.value.grip) : undefined,
)
const grid = computed(() =>
  span.value ? chordGrid(span.value.grip, 86, preferences.values.leftHanded) : undefined,
)
const gripText = ref('')
const problem = ref('')
const field = ref<{ focus: () => void; select: () => void }>()
watch(
  [span, tick],
  () => {
    gripText.value = span.value ? writeGrip(span.value.grip) : ''
    problem.value = ''
  },
  { immediate: true },
)

const eased = shallowRef<RankedGrip[]>([])
watch([() => facts.value?.caution, span], async () => {
  eased.value = []
  if (!facts.value?.caution || !span.value || !part.value || !store.song) return
  const found = await easedWork.ask({
    want: 'eased',
    grip: span.value.grip,
    part: part.value,
    key: { ...store.song.key },
    hand: { ...preferences.hand },
  })
  if (found.ok) eased.value = found.value
})
/** Strokes, and notes that are plucked by themselves. */
const plucked = computed((): Plucked[] => [
  ...props.bench.content.value.strokes,
  ...props.bench.content.value.notes.map(({ startTicks, string }) => ({
    startTicks,
    marks: [],
    strings: [string],
  })),
])
const moving = computed(() =>
  facts.value?.caution && span.value && part.value
    ? movingGrip(span.value, plucked.value, part.value, preferences.hand)
    : undefined,
)
/** "3 and of bar 2"; in a figure of one bar the count alone. */
function place(at: number): string {
  const bar = barTicks(props.figure.meter)
  const count = countWords(props.figure.meter, at % bar)
  return props.figure.lengthTicks > bar ? `${count} of bar ${Math.floor(at / bar) + 1}` : count
}
function put(grip: Grip, what = `grip ${writeGrip(grip)}`): void {
  if (
    props.bench.edit(
      what,
      setGrip(props.bench.content.value, {
        tick: span.value?.startTicks ?? tick.value,
        grip,
        id: randomId(),
        figureTicks: props.figure.lengthTicks,
      }),
    )
  )
    problem.value = ''
}
function enter(): void {
  const grip = readGrip(gripText.value, props.bench.strings.value)
  if (!grip) {
    const strings = props.bench.strings.value
    const like = strings === 4 ? '3x00' : 'x32010'
    problem.value =
      `Write ${strings} strings from low to high: x for muted, 0 for open, like ${like}; ` +
      'frets over 9 with dashes.'
    return
  }
  if (
    props.bench.edit(
      `grip ${gripText.value}`,
      setGrip(props.bench.content.value, {
        tick: tick.value,
        grip,
        id: randomId(),
        figureTicks: props.figure.lengthTicks,
      }),
    )
  )
    emit('leave')
}
function splitInTime(): void {
  if (!moving.value || !span.value) return
  const rest = props.bench.content.value.grips.filter((entry) => entry.id !== span.value!.id)
  props.bench.edit('one finger moves in time', {
    ...props.bench.content.value,
    grips: [...rest, ...moving.value.spans.map((entry) => ({ ...entry, id: randomId() }))].sort(
      (a, b) => a.startTicks - b.startTicks,
    ),
  })
}
function useFingers(): void {
  const { fingering } = facts.value ?? {}
  if (!fingering || !span.value) return
  put(fingeredGrip(span.value.grip, fingering), 'fingers')
}
const fingersText = computed(() =>
  facts.value?.fingering
    ? facts.value.fingering.fingers
        .map((finger) => finger ?? '·')
        .reverse()
        .join(' ')
    : '',
)
defineExpose({
  focus: () => {
    field.value?.focus()
    field.value?.select()
  },
})
</script>

<template>
  <div class="panel">
    <section>
      <h2 class="small-head">
        {{ facts?.names[0] ? pretty(facts.names[0].symbol) : span ? 'Unnamed grip' : 'No grip here' }}
      </h2>
      <div v-if="span && facts" class="grip">
        <MusicDrawing
          v-if="grid"
          :primitives="grid.primitives"
          :width="86"
          :height="grid.height"
          :label="`Chord grid ${writeGrip(span.grip)}`"
        />
        <div class="lines">
          <span v-if="facts.names[0]" class="mono">{{
            facts.degrees
              .flatMap((degree) => degree ?? [])
              .reverse()
              .join(' ')
          }}</span><span v-if="facts.names[0] && inversionWords(facts.names[0])">{{
            pretty(inversionWords(facts.names[0]))
          }}</span
          ><span v-if="facts.names[0]?.omitted.length" class="quiet"
            >without {{ facts.names[0].omitted.join(', ') }}</span
          ><span v-if="facts.doubled.length" class="quiet">{{ facts.doubled.join(', ') }} doubled</span
          ><span class="quiet">{{ facts.family }}</span>
        </div>
      </div>
      <ul v-if="facts && facts.names.length > 1" class="other quiet">
        <li v-for="name in facts.names.slice(1, 4)" :key="name.symbol">
          <b>{{ pretty(name.symbol) }}</b> {{ pretty(name.reason) }}
        </li>
      </ul>
      <p v-if="facts?.fingering" class="other row" :title="facts.fingering.reasons.join('; ')">
        <span class="mono">{{ fingersText }}</span>
        <span class="quiet"
          >{{ Math.round(facts.reachMm) }} mm, {{ difficultyWord(facts.fingering.difficulty) }}</span
        >
        <ActButton v-if="facts.reachMm > 0" class="small" @click="useFingers">write fingers</ActButton>
      </p>
      <p v-if="facts?.fingering?.reasons.length" class="other quiet">
        {{ facts.fingering.reasons.slice(0, 2).join('; ')
        }}<template v-if="facts.fingering.reasons.length > 2"
          >;
          <abbr :title="facts.fingering.reasons.slice(2).join('; ')" tabindex="0"
            >and {{ facts.fingering.reasons.length - 2 }} more</abbr
          ></template
        >
      </p>
      <p v-if="facts?.caution" class="attention other" data-test="caution">{{ facts.caution }}</p>
      <p v-if="moving" class="other">
        <ActButton class="small" data-test="move-in-time" @click="splitInTime">
          move one finger in time
        </ActButton>
        <span class="quiet">{{
          moving.moves
            .map((move) => `to string ${move.toString} fret ${move.fret} on ${place(move.tick)}`)
            .join(', ')
        }}</span>
      </p>
      <p v-if="eased.length" class="other row">
        easier:
        <ActButton
          v-for="one in eased"
          :key="writeGrip(one.grip)"
          class="small mono"
          :title="one.reasons.join(', ')"
          @click="put({ strings: one.grip.strings.map(({ fret }) => ({ fret })) })"
        >
          {{ writeGrip(one.grip) }}
        </ActButton>
      </p>
      <form class="grip-form" @submit.prevent="enter">
        <v-text-field
          ref="field"
          v-model="gripText"
          class="written"
          label="Grip, low to high"
          autocomplete="off"
          data-test="grip-text"
          @keydown.esc="emit('leave')"
        /><ActButton type="submit">Set</ActButton>
      </form>
      <p v-if="problem" class="attention other" role="alert">{{ problem }}</p>
    </section>
    <OtherGrips :bench="bench" :figure="figure" :chords="chords" />
    <HandSpan />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
}
.grip {
  display: flex;
  gap: 10px;
}
.lines {
  display: grid;
  align-content: start;
  font-size: 13.5px;
}
.written :deep(input) {
  font-family: var(--face-mono);
}
.grip-form {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 10px;
}
</style>
