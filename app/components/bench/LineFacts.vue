<script setup lang="ts">
import { readChordSymbol } from '#core/music/chord-name'
import { pitchClassOf, pretty, spellPitchClass, transposeKey } from '#core/music/pitch'
import { degreeAbove, fitScales, outsideNotes, scaleKind } from '#core/music/scale'
import { isBass } from '#core/instrument/instruments'
import { BASS_KINDS, type BassKind } from '#core/fretboard/lines/bass-line'
import { lineOf, onPath, pathNotes, pitched } from '#core/fretboard/lines/line'
import { lineProblems } from '#core/fretboard/lines/line-problems'
import { shiftFrets, shiftSemitones, toDegree } from '#core/fretboard/lines/move-line'
import { namingKey, pitchName, shapeShift, soundingMidi } from '#core/document/part-pitch'
import { pathWords, ratePath, type LinePath } from '#core/fretboard/lines/path'
import { withPicks } from '#core/fretboard/strokes'
import type { Result } from '#core/result'
import { barTicks, countWords } from '#core/time/meter'
import type { Content, Figure, Note } from '#core/document/schema'
import { randomId } from '#platform/files'
import type { Bench } from '~/composables/benchKeys'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

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
const work = usePlayingWork()
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
const place = (at: number): string =>
  `bar ${Math.floor(at / barTicks(props.figure.meter)) + 1}, ${countWords(props.figure.meter, at % barTicks(props.figure.meter))}`
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
    chord: chord && store.showSymbol(chord.symbol),
    chordDegree: root === undefined ? undefined : degreeAbove(midi, root),
    tick: tick.value,
  }
})
const problems = computed(() => (part.value ? lineProblems(content.value, part.value, preferences.hand) : []))

const paths = shallowRef<LinePath[]>([])
const pathsProblem = ref('')
const asked = ref(false)
const shown = ref<number>()
watch([() => props.figure.id, notes], () => {
  paths.value = []
  asked.value = false
  shown.value = undefined
  pathsProblem.value = ''
  emit('draft', [])
})
const own = computed(() =>
  asked.value && part.value
    ? ratePath(pathNotes(notes.value, part.value), notes.value, part.value, preferences.hand)
    : undefined,
)
async function findPaths(): Promise<void> {
  if (!part.value) return
  const found = await work.ask({
    want: 'paths',
    notes: pathNotes(notes.value, part.value),
    part: part.value,
    key: { ...key.value },
    wishes: { hand: { ...preferences.hand } },
  })
  asked.value = true
  if (found.ok)
    paths.value = found.value.filter((path) =>
      path.places.some((at, index) => at.string !== notes.value[index]!.string),
    )
  else if (found.refusal.code !== 'cancelled') pathsProblem.value = found.refusal.message
}
const laid = (index: number): Note[] => onPath(notes.value, paths.value[index]!, false)
function look(index: number): void {
  shown.value = shown.value === index ? undefined : index
  emit('draft', shown.value === undefined ? [] : laid(index))
}
const dead = computed(() => content.value.notes.filter((note) => !notes.value.includes(note)))
const withNotes = (next: readonly Note[]): Content => ({
  ...content.value,
  notes: [...dead.value, ...next].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string),
})
function take(index: number): void {
  if (props.bench.edit('the same line elsewhere', withNotes(laid(index)))) emit('draft', [])
}

function apply(what: string, result: Result<Note[]> | Result<Content>): void {
  if (!result.ok) {
    store.notice = { text: result.refusal.message, kind: 'refusal' }
    return
  }
  props.bench.edit(what, Array.isArray(result.value) ? withNotes(result.value) : result.value)
}
const moveFrets = (by: number): void => {
  if (part.value) apply(`${by > 0 ? 'up' : 'down'} a fret`, shiftFrets(content.value, part.value, by))
}
const moveSemitones = (by: number): void => {
  if (part.value && store.song)
    apply(
      `${by > 0 ? 'up' : 'down'} a half step`,
      shiftSemitones(notes.value, part.value, store.song.key, by),
    )
}
function moveDegree(degree: number): void {
  if (part.value && store.song && degree)
    apply(`start on degree ${degree}`, toDegree(notes.value, part.value, store.song.key, degree))
}
function fingers(): void {
  if (!part.value) return
  const path = ratePath(pathNotes(notes.value, part.value), notes.value, part.value, preferences.hand)
  if (path)
    props.bench.edit(
      'fingers: shortest hand travel',
      withNotes(onPath(notes.value, { ...path, brokenSlurs: [] }, true)),
    )
}
function picks(): void {
  const school = props.figure.school ?? 'pendulum'
  props.bench.edit(`pick directions, ${school}`, {
    ...content.value,
    notes: withPicks(content.value.notes, school, {
      meter: props.figure.meter,
      subdivision: props.figure.feel.subdivision,
    }),
  })
}
const bassKind = ref<BassKind>('root')
async function layBass(): Promise<void> {
  if (!part.value || !store.song) return
  const found = await work.ask({
    want: 'bass',
    chords: [...props.chords],
    part: part.value,
    key: { ...store.song.key },
    options: {
      kind: bassKind.value,
      stepTicks: props.bench.step.value,
      lengthTicks: props.figure.lengthTicks,
    },
  })
  if (found.ok)
    props.bench.edit(`${bassKind.value} bass from the chords`, {
      ...content.value,
      notes: found.value.map((note) => ({ ...note, id: randomId() })),
    })
  else store.notice = { text: found.refusal.message, kind: 'refusal' }
}
const tonicName = (name: string): string => pretty(name)
const keyWords = computed(() =>
  preferences.values.naming === 'shape' && shift.value !== 0 && fit.value
    ? `by shape; sounds ${pretty(spellPitchClass((((pitchClassOf(fit.value.tonic) - shift.value) % 12) + 12) % 12, transposeKey(key.value, -shift.value)))}`
    : '',
)
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
          <button class="plain link" @click="bench.go(bench.row.value, problem.startTicks)">
            {{ place(problem.startTicks) }}</button>: {{ problem.text }}
        </li>
      </ul>
    </section>
    <template v-if="notes.length">
      <section>
        <h2 class="small-head">Scale</h2>
        <ul class="other" data-test="scales">
          <li v-for="(one, index) in fits" :key="`${one.tonic}${one.name}`">
            <button
              class="plain fit"
              :aria-pressed="one === fit"
              :title="one.reason"
              @click="chosenFit = index"
            >
              {{ tonicName(one.tonic) }} {{ one.name }}
            </button>
            <span class="quiet">{{
              one === fit ? one.reason : one.outside ? `${one.outside} outside` : 'all in'
            }}</span>
          </li>
        </ul>
        <p v-if="keyWords" class="other quiet">{{ keyWords }}</p>
        <p v-for="note in outside.slice(0, 4)" :key="note.index" class="other evidence">
          <button
            class="plain link"
            @click="bench.go(notes[note.index]!.string, notes[note.index]!.startTicks)"
          >
            {{ pretty(note.name) }}, {{ place(line[note.index]!.startTicks) }}</button
          >: {{ pretty(note.resolves) }}
        </p>
      </section>
      <section>
        <h2 class="small-head">Elsewhere on the neck</h2>
        <ActButton v-if="!asked" class="small" data-test="find-paths" @click="findPaths">
          Find other places
        </ActButton>
        <p v-if="own" class="other quiet">as charted: {{ pathWords(own) }}</p>
        <p v-if="pathsProblem" class="attention other" role="alert">{{ pathsProblem }}</p>
        <ul class="other paths" data-test="paths">
          <li v-for="(path, index) in paths" :key="index">
            <button class="plain fit" :aria-pressed="shown === index" @click="look(index)">
              {{ pathWords(path) }}</button><span v-if="shown === index" class="acts"
              ><ActButton class="small" data-test="take-path" @click="take(index)">Take it</ActButton
              ><ActButton class="small" @click="emit('hear', withNotes(laid(index)))"> Hear </ActButton></span
            >
          </li>
        </ul>
        <p v-if="asked && !paths.length && !pathsProblem" class="other quiet">Nowhere else on this neck.</p>
      </section>
      <section>
        <h2 class="small-head">Move the line</h2>
        <p class="other row">
          <ActButton class="small" @click="moveFrets(-1)">− fret</ActButton
          ><ActButton class="small" @click="moveFrets(1)">+ fret</ActButton
          ><ActButton class="small" @click="moveSemitones(-1)">− ½ step</ActButton
          ><ActButton class="small" @click="moveSemitones(1)">+ ½ step</ActButton>
        </p>
        <label class="other"
          >start on degree
          <select
            @change="
              (event: Event) => {
                moveDegree(Number((event.target as HTMLSelectElement).value))
                ;(event.target as HTMLSelectElement).value = ''
              }
            "
          >
            <option value="">…</option>
            <option v-for="degree in 7" :key="degree">{{ degree }}</option>
          </select></label
        >
      </section>
      <section>
        <h2 class="small-head">Hands</h2>
        <p class="other row">
          <ActButton class="small" @click="fingers">Propose fingers</ActButton
          ><ActButton class="small" @click="picks">Propose picking</ActButton>
        </p>
      </section>
    </template>
    <p v-else class="other quiet">
      No notes in this figure yet: type a line in the call line, or put the cursor on a string and type frets.
    </p>
    <section v-if="part && isBass(part.instrument.kind) && chords.length">
      <h2 class="small-head">From the chords</h2>
      <p class="other row">
        <select v-model="bassKind" aria-label="Kind of bass line">
          <option v-for="kind in BASS_KINDS" :key="kind" :value="kind">
            {{
              { root: 'roots', fifth: 'root and fifth', octave: 'root and octave', walking: 'walking' }[kind]
            }}
          </option></select
        ><ActButton class="small" data-test="lay-bass" @click="layBass">Lay it</ActButton>
      </p>
    </section>
  </div>
</template>

<style scoped>
.fit {
  padding: 1px 4px;
  border-radius: 3px;
}
.fit[aria-pressed='true'] {
  background: var(--selection);
  font-weight: 700;
}
.acts {
  display: inline-flex;
  gap: 4px;
  margin-left: 4px;
}
.paths li {
  margin-bottom: 3px;
}
</style>
