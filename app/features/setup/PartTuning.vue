<script setup lang="ts">
import { openPitchProblem, tensionCaution, tuningLine, tuningsFor } from '#core/instrument/tunings'
import { midiOf, pretty } from '#core/music/pitch'
import { retunedFigures, type Beyond, type Lost } from '#core/neck/lines/move-line'
import type { Part } from '#core/document/schema'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'

// How a part is tuned, string by string, and what a new tuning does to what is charted.
const props = defineProps<{ part: Part }>()
const store = useSong()
const hearing = useHearing()
const KEEPS = [
  { title: 'their shapes', value: 'shape' as const },
  { title: 'their sound', value: 'sound' as const, test: 'keep-sound' },
]
/** What the recording says about the tuning, while the band stands otherwise. */
const heardTuning = computed(() => hearing.suggestions.find((suggestion) => suggestion.kind === 'tuning'))
onMounted(() => {
  void hearing.recall()
})
const typed = reactive<Record<number, string>>({})
const typedProblem = ref('')
watch(
  () => props.part,
  () => {
    for (const key of Object.keys(typed)) Reflect.deleteProperty(typed, key)
    typedProblem.value = ''
  },
)

const tunings = computed(() => tuningsFor(props.part.instrument.kind))
const tuningItems = computed(() => {
  const names = tunings.value.map((tuning) => tuning.name)
  return !names.includes(props.part.tuning.name) ? [...names, props.part.tuning.name] : names
})
/** What stays when a part with charted figures is retuned: the shapes, or the sound. */
const keep = ref<'shape' | 'sound'>('shape')
const charted = computed(() =>
  Object.values(store.song?.figures ?? {}).some((figure) => figure.partId === props.part.id),
)
/** A retuning that would lose notes waits here until it is confirmed. */
const waiting = shallowRef<{ tuning: Part['tuning']; lost: Lost[] }>()
const lostCount = computed(() => waiting.value?.lost.reduce((sum, one) => sum + one.times, 0) ?? 0)
watch([() => props.part, keep], () => {
  waiting.value = undefined
})
function retune(tuning: Part['tuning'], confirmed?: Beyond): boolean {
  const { part } = props
  if (!store.song) return false
  if (keep.value === 'shape' || !charted.value) return store.run('retunePart', { partId: part.id, tuning })
  const { changes, lost } = retunedFigures(store.song, part.id, tuning, confirmed)
  if (lost.length && !confirmed) {
    waiting.value = { tuning, lost }
    return false
  }
  waiting.value = undefined
  return store.run('retuneKeepingSound', { partId: part.id, tuning, changes })
}
function chooseTuning(name: string): void {
  const tuning = tunings.value.find((entry) => entry.name === name)
  if (tuning) retune(tuning)
}
function typePitch(stringNumber: number, text: string): void {
  const { part } = props
  typedProblem.value = ''
  const midi = midiOf(text)
  const problem =
    midi === undefined
      ? `“${text}” is no pitch: write a letter, a sign and the octave, like D2 or E♭2.`
      : openPitchProblem(midi)
  if (problem || midi === undefined) {
    typedProblem.value = problem ?? ''
    return
  }
  const openMidi = part.tuning.openMidi.map((value, index) => (index + 1 === stringNumber ? midi : value))
  const known = tunings.value.find((tuning) => tuning.openMidi.join() === openMidi.join())
  if (retune(known ?? { name: 'String by string', openMidi, shapeOffset: part.tuning.shapeOffset }))
    Reflect.deleteProperty(typed, stringNumber)
}
const caution = computed(() => tensionCaution(props.part.instrument.kind, props.part.tuning.openMidi))
</script>

<template>
  <div>
    <div class="tuning-head">
      <h3>Strings: {{ tuningLine(part.tuning.openMidi, store.song!.key) }}</h3>
      <SelectField
        class="tuning"
        label="Tuning"
        :items="tuningItems"
        :model-value="part.tuning.name"
        data-test="tuning"
        @update:model-value="chooseTuning"
      />
    </div>
    <div v-if="charted" class="keep">
      When it is retuned, the charted figures keep
      <ToggleRow v-model="keep" label="What figures keep" :items="KEEPS" />
    </div>
    <div v-if="waiting" class="lost" role="alert" data-test="lost">
      <p>
        <b>{{ waiting.tuning.name }}</b> cannot sound
        {{ lostCount === 1 ? 'one thing' : `${lostCount} things` }} that are charted:
      </p>
      <ul>
        <li v-for="one in waiting.lost.slice(0, 5)" :key="one.figureName + one.text">
          {{ one.figureName }}{{ one.times > 1 ? `, ${one.times} times` : '' }}: {{ pretty(one.text) }}
        </li>
      </ul>
      <p v-if="waiting.lost.length > 5" class="quiet">and {{ waiting.lost.length - 5 }} more</p>
      <ActButton data-test="octave-nearer" @click="retune(waiting!.tuning, 'octave')">
        Retune, and play these an octave nearer
      </ActButton>
      <ActButton @click="retune(waiting!.tuning, 'leave out')"> Retune and leave these out </ActButton>
      <ActButton @click="waiting = undefined">Leave the tuning</ActButton>
    </div>
    <p v-if="heardTuning" class="evidence" data-test="heard-tuning">
      The recording sounds {{ heardTuning.text }}.
      <ActButton :disabled="Boolean(store.readOnly)" @click="hearing.accept(['tuning'])">
        Tune the band so
      </ActButton>
    </p>
    <StringTable :part="part" :typed="typed" @type="typePitch" />
    <p v-if="typedProblem" class="attention" role="alert">{{ typedProblem }}</p>
    <p v-if="caution" class="evidence">{{ caution }}</p>
  </div>
</template>

<style scoped>
.keep {
  display: flex;
  gap: 6px;
  align-items: center;
  margin: 4px 0 8px;
  font-size: 14.5px;
}
.lost {
  border-left: 3px solid var(--attention);
  padding: 6px 12px;
  margin: 6px 0 10px;
}
.lost ul {
  margin: 4px 0 8px;
  padding-left: 18px;
}
.tuning-head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 20px;
  margin: 18px 0 6px;
}
.tuning {
  max-width: 330px;
}
</style>
