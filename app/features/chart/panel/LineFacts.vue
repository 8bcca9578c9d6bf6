<script setup lang="ts">
import { readChordSymbol } from '#core/music/chord-name'
import { pitchClassOf, pretty, spellPitchClass, transposeKey } from '#core/music/pitch'
import { degreeAbove, fitScales, outsideNotes, scaleKind } from '#core/music/scale'
import { isBass } from '#core/instrument/instruments'
import { lineOf, pitched } from '#core/neck/lines/line'
import { lineProblems } from '#core/neck/lines/line-problems'
import { namingKey, pitchName, shapeShift, soundingMidi } from '#core/document/part-pitch'
import type { Content, Figure, NeckWish, Note } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { placeWords } from './placeWords'

// What is known of the figure's notes as a line: scale, degrees, what lies outside; the same line elsewhere
// on the neck; the line moved.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const emit = defineEmits<{ draft: [notes: Note[]]; hear: [content: Content] }>()
const store = useSong()
const preferences = usePreferences()
const { part, content, tick } = props.bench
const key = computed(() => namingKey(store.song!, part.value!, preferences.values.naming))
const shift = computed(() =>
  preferences.values.naming === 'shape' && part.value ? shapeShift(part.value) : 0,
)
const notes = computed(() => pitched(content.value))
const line = computed(() =>
  part.value
    ? lineOf(notes.value, part.value).map((note) => ({ ...note, midi: note.midi + shift.value }))
    : [],
)
/** Where the line is wanted when it is looked for elsewhere or moved. */
const wish = ref<NeckWish>({})
const fits = computed(() => fitScales(line.value, key.value, 4))
const chosenFit = ref(0)
watch(
  () => props.figure.id,
  () => {
    chosenFit.value = 0
  },
)
const fit = computed(() => fits.value[chosenFit.value] ?? fits.value[0])
const outside = computed(() => (fit.value ? outsideNotes(line.value, fit.value, key.value) : []))
const place = (at: number): string => placeWords(props.figure, at)
const here = computed(() => {
  const note = props.bench.note.value
  if (!note || !part.value || !fit.value) return undefined
  const midi = soundingMidi(part.value, note.string, note.fret)
  const chord = props.chords.find(
    (one) => one.startTicks <= note.startTicks && note.startTicks < one.startTicks + one.lengthTicks,
  )
  const root = chord && readChordSymbol(chord.symbol)?.root
  return {
    name: pretty(pitchName(store.song!, part.value, midi, preferences.values.naming)),
    sounds: pretty(pitchName(store.song!, part.value, midi, 'sounding')),
    degree: degreeAbove(midi + shift.value, pitchClassOf(fit.value.tonic), scaleKind(fit.value.name)),
    chord: chord && store.chordWords(chord.symbol),
    chordDegree: root === undefined ? undefined : degreeAbove(midi, root),
    tick: tick.value,
  }
})
const problems = computed(() => (part.value ? lineProblems(content.value, part.value, preferences.hand) : []))

/** What the line sounds in, where it is named by its shape. */
const keyWords = computed(() => {
  if (preferences.values.naming !== 'shape' || shift.value === 0 || !fit.value) return ''
  const sounding = (pitchClassOf(fit.value.tonic) - shift.value + 12) % 12
  return `by shape; sounds ${pretty(spellPitchClass(sounding, transposeKey(key.value, -shift.value)))}`
})
</script>

<template>
  <div class="panel">
    <section v-if="here">
      <h2 class="small-head">
        {{ here.name }} <span class="quiet">degree {{ here.degree }}</span>
      </h2>
      <p class="other quiet">
        {{ here.sounds === here.name ? '' : `sounds ${here.sounds}. `
        }}{{ here.chord ? `${here.chordDegree === '1' ? 'Root' : here.chordDegree} of ${here.chord}.` : '' }}
      </p>
    </section>
    <section v-if="problems.length">
      <h2 class="small-head attention">Cannot be played so</h2>
      <ul class="other" data-test="line-problems">
        <li v-for="problem in problems" :key="`${problem.id}${problem.text}`">
          <ActButton kind="link" @click="bench.go(bench.row.value, problem.startTicks)">
            {{ place(problem.startTicks) }}</ActButton>: {{ problem.text }}
        </li>
      </ul>
    </section>
    <template v-if="notes.length">
      <section>
        <h2 class="small-head">Scale</h2>
        <ul class="other" data-test="scales">
          <li v-for="(one, index) in fits" :key="`${one.tonic}${one.name}`">
            <ActButton
              kind="plain"
              class="fit"
              :aria-pressed="one === fit"
              :title="one.reason"
              @click="chosenFit = index"
            >
              {{ pretty(one.tonic) }} {{ one.name }}
            </ActButton>
            <span class="quiet">{{
              one === fit ? one.reason : one.outside ? `${one.outside} outside` : 'all in'
            }}</span>
          </li>
        </ul>
        <p v-if="keyWords" class="other quiet">{{ keyWords }}</p>
        <p v-for="note in outside.slice(0, 4)" :key="note.index" class="other evidence">
          <ActButton kind="link" @click="bench.go(notes[note.index]!.string, notes[note.index]!.startTicks)">
            {{ pretty(note.name) }}, {{ place(line[note.index]!.startTicks) }}</ActButton
          >: {{ pretty(note.resolves) }}
        </p>
      </section>
      <section v-if="part">
        <h2 class="small-head">Where on the neck</h2>
        <NeckWishFields v-model="wish" :part="part" />
      </section>
      <ElsewhereOnNeck
        :bench="bench"
        :figure="figure"
        :wish="wish"
        @draft="emit('draft', $event)"
        @hear="emit('hear', $event)"
      />
      <MoveLine :bench="bench" :figure="figure" :wish="wish" />
    </template>
    <p v-else class="other quiet">
      No notes in this figure yet: type a line in the call line, or put the cursor on a string and type frets.
    </p>
    <BassFromChords
      v-if="part && isBass(part.instrument.kind) && chords.length"
      :bench="bench"
      :figure="figure"
      :chords="chords"
    />
  </div>
</template>

<style scoped>
.fit.v-btn {
  padding: 1px 4px;
  border-radius: 3px;
}
.fit.v-btn[aria-pressed='true'] {
  background: var(--selection);
  font-weight: 700;
}
</style>
