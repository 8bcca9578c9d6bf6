<script setup lang="ts">
import { partSchema, songSchema } from '#core/document/schema'
import { mdiArrowDown, mdiArrowUp, mdiDeleteOutline, mdiPlus } from '@mdi/js'
import { INSTRUMENT_KINDS, INSTRUMENTS, type InstrumentKind } from '#core/instrument/instruments'
import {
  describeTuning,
  openPitchProblem,
  tensionCaution,
  tuningLine,
  tuningsFor,
} from '#core/instrument/tunings'
import { MODES, midiOf, nameAtFifths, pitchClassOf, transposeKey, pretty, type Mode } from '#core/music/pitch'
import { retunedFigures, type Beyond, type Lost } from '#core/fretboard/lines/move-line'
import { newPart } from '#core/document/new-song'
import { SOUNDS, type Part } from '#core/document/schema'
import { meterName, SUBDIVISIONS, USUAL_METERS, type Subdivision } from '#core/time/meter'
import { randomId } from '#platform/files'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { usePreferences } from '~/stores/preferences'
import { useShortcuts } from '~/composables/shortcuts'

const store = useSong()
const hearing = useHearing()
/** What the recording says about the tuning, while the band stands otherwise. */
const heardTuning = computed(() => hearing.suggestions.find((suggestion) => suggestion.kind === 'tuning'))
onMounted(() => {
  void hearing.recall()
})
const preferences = usePreferences()
const chosenId = ref<string>()
const chosen = computed(() => store.parts.find((part) => part.id === chosenId.value) ?? store.parts[0])
const typed = reactive<Record<number, string>>({})
const typedProblem = ref('')
watch(chosen, () => {
  for (const key of Object.keys(typed)) Reflect.deleteProperty(typed, key)
  typedProblem.value = ''
})

const TONICS = Array.from({ length: 15 }, (_, index) => nameAtFifths(index - 6))
  .sort((a, b) => pitchClassOf(a) - pitchClassOf(b) || a.localeCompare(b))
  .map((name) => ({ title: pretty(name), value: name }))
const MODE_ITEMS = MODES.map((mode) => ({ title: mode, value: mode }))
const meterItems = USUAL_METERS.map(meterName)
const SWINGS = [0.5, 0.55, 0.6, 0.64, 0.667, 0.7].map((ratio) => ({
  title:
    ratio === 0.5
      ? 'straight'
      : ratio === 0.667
        ? 'triplet swing (67 : 33)'
        : `swung ${Math.round(ratio * 100)} : ${Math.round(100 - ratio * 100)}`,
  value: ratio,
}))
const kindItems = INSTRUMENT_KINDS.map((kind) => ({ title: INSTRUMENTS[kind].name, value: kind }))
const soundItems = SOUNDS.map((sound) => ({ title: sound, value: sound }))
const roleItems = (['rhythm', 'lead', 'bass', 'acoustic', 'adapted'] as const).map((role) => ({
  title: role,
  value: role,
}))

/** The key is entered under the names shown, and stored as sounding. */
function setKey(tonic: string, mode: Mode): void {
  store.run('setFacts', { key: transposeKey({ tonic, mode }, -store.nameShift) })
}
function setMeter(value: string): void {
  const [beats, unit] = value.split('/').map(Number) as [number, 4 | 8]
  store.run('setFacts', { meter: { beats, unit } })
}

function addPart(): void {
  const guitars = store.parts.filter((part) => part.role !== 'bass').length
  const wantsBass = guitars > 0 && !store.parts.some((part) => part.role === 'bass')
  const kind: InstrumentKind = wantsBass ? 'bass-4' : 'guitar-6'
  // A band tunes together: a new part takes the shift of the first.
  const shift = store.parts[0]?.tuning.shapeOffset ?? 0
  const tuning =
    tuningsFor(kind).find((entry) => entry.shapeOffset === shift && !entry.name.startsWith('Dropped')) ??
    tuningsFor(kind)[0]!
  const id = randomId()
  if (
    store.run('addPart', {
      part: newPart({ id, name: wantsBass ? 'Bass' : `Guitar ${guitars + 1}`, kind, tuning }),
    })
  )
    chosenId.value = id
}
function change(set: Partial<Omit<Part, 'id'>>): void {
  if (chosen.value) store.run('changePart', { partId: chosen.value.id, set })
}
function setKind(kind: InstrumentKind): void {
  const fresh = newPart({ id: 'x', name: 'x', kind })
  change({
    instrument: { ...fresh.instrument, capo: 0 },
    tuning: fresh.tuning,
    ...(fresh.role === 'bass' ? { role: 'bass' as const, sound: fresh.sound } : {}),
  })
}
const tunings = computed(() => (chosen.value ? tuningsFor(chosen.value.instrument.kind) : []))
const tuningItems = computed(() => {
  const names = tunings.value.map((tuning) => tuning.name)
  return chosen.value && !names.includes(chosen.value.tuning.name)
    ? [...names, chosen.value.tuning.name]
    : names
})
/** What stays when a part with charted figures is retuned: the shapes, or the sound. */
const keep = ref<'shape' | 'sound'>('shape')
const charted = computed(() =>
  Object.values(store.song?.figures ?? {}).some((figure) => figure.partId === chosen.value?.id),
)
/** A retuning that would lose notes waits here until it is confirmed. */
const waiting = shallowRef<{ tuning: Part['tuning']; lost: Lost[] }>()
const lostCount = computed(() => waiting.value?.lost.reduce((sum, one) => sum + one.times, 0) ?? 0)
watch([chosen, keep], () => {
  waiting.value = undefined
})
function retune(tuning: Part['tuning'], confirmed?: Beyond): boolean {
  const part = chosen.value
  if (!part || !store.song) return false
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
  const part = chosen.value
  if (!part) return
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
const strings = computed(() =>
  chosen.value
    ? describeTuning(chosen.value.instrument.kind, chosen.value.tuning.openMidi, (stringNumber) =>
        preferences.values.strings === 'numbers'
          ? `string ${stringNumber}`
          : `the ${store.stringLabel(chosen.value!, stringNumber)} string`,
      )
    : [],
)
const caution = computed(() =>
  chosen.value ? tensionCaution(chosen.value.instrument.kind, chosen.value.tuning.openMidi) : undefined,
)
const moveBy = (part: Part, by: number): void => {
  store.run('movePart', { partId: part.id, to: Math.max(0, store.parts.indexOf(part) + by) })
}
useShortcuts([
  { keys: ['a'], label: 'Add a part', run: addPart },
  {
    keys: ['ArrowDown'],
    label: 'Next part',
    run: () => {
      chosenId.value =
        store.parts[Math.min(store.parts.length - 1, store.parts.indexOf(chosen.value!) + 1)]?.id
    },
  },
  {
    keys: ['ArrowUp'],
    label: 'Part before',
    run: () => {
      chosenId.value = store.parts[Math.max(0, store.parts.indexOf(chosen.value!) - 1)]?.id
    },
  },
  {
    keys: ['b'],
    label: 'Names by shape or as sounding',
    run: () => preferences.set('naming', preferences.values.naming === 'shape' ? 'sounding' : 'shape'),
  },
  {
    keys: ['x'],
    label: 'Strings by number or by letter',
    run: () => preferences.set('strings', preferences.values.strings === 'letters' ? 'numbers' : 'letters'),
  },
])
</script>

<template>
  <div v-if="store.song" class="setup">
    <section class="facts" aria-label="Song facts">
      <h2>Song</h2>
      <div class="grid">
        <v-text-field
          label="Title"
          :model-value="store.song.title"
          maxlength="200"
          @change="
            store.run('setFacts', {
              title: ($event.target as HTMLInputElement).value.trim() || store.song!.title,
            })
          "
        />
        <v-text-field
          label="Artist"
          :model-value="store.song.artist"
          maxlength="200"
          @change="store.run('setFacts', { artist: ($event.target as HTMLInputElement).value.trim() })"
        />
        <v-select
          label="Key"
          :items="TONICS"
          :model-value="store.shownKey.tonic"
          data-test="key-tonic"
          @update:model-value="setKey($event, store.shownKey.mode)"
        />
        <v-select
          label="Mode"
          :items="MODE_ITEMS"
          :model-value="store.shownKey.mode"
          @update:model-value="setKey(store.shownKey.tonic, $event)"
        />
        <NumberField
          label="Reference pitch, Hz"
          :schema="songSchema.shape.referenceHz"
          :model-value="store.song.referenceHz"
          @take="store.run('setFacts', { referenceHz: $event })"
        />
        <v-select
          label="Meter"
          :items="meterItems"
          :model-value="`${store.song.meter.beats}/${store.song.meter.unit}`"
          @update:model-value="setMeter"
        />
        <v-select
          label="Counted in"
          :items="[...SUBDIVISIONS]"
          :model-value="store.song.feel.subdivision"
          @update:model-value="
            store.run('setFacts', { feel: { ...store.song!.feel, subdivision: $event as Subdivision } })
          "
        />
        <v-select
          label="Swing"
          :items="SWINGS"
          :model-value="store.song.feel.swing.ratio"
          @update:model-value="
            store.run('setFacts', {
              feel: { ...store.song!.feel, swing: { ...store.song!.feel.swing, ratio: $event } },
            })
          "
        />
      </div>
      <div class="switches">
        <div role="group" aria-label="Names of notes and chords">
          <span class="quiet">names</span>
          <ActButton
            :aria-pressed="preferences.values.naming === 'shape'"
            @click="preferences.set('naming', 'shape')"
          >
            by shape</ActButton
          ><ActButton
            :aria-pressed="preferences.values.naming === 'sounding'"
            data-test="as-sounding"
            @click="preferences.set('naming', 'sounding')"
          >
            as sounding
          </ActButton>
        </div>
        <div role="group" aria-label="Names of strings">
          <span class="quiet">strings</span>
          <ActButton
            :aria-pressed="preferences.values.strings === 'letters'"
            @click="preferences.set('strings', 'letters')"
          >
            letters</ActButton
          ><ActButton
            :aria-pressed="preferences.values.strings === 'numbers'"
            data-test="string-numbers"
            @click="preferences.set('strings', 'numbers')"
          >
            numbers
          </ActButton>
        </div>
      </div>
    </section>

    <div class="band">
      <section aria-label="The band">
        <h2>The band</h2>
        <p v-if="store.parts.length === 0" class="quiet">
          No parts yet. Add what you hear: one part for each guitar and bass.
        </p>
        <ul class="parts">
          <li
            v-for="(part, index) in store.parts"
            :key="part.id"
            class="part"
            :class="{ chosen: part.id === chosen?.id }"
          >
            <button class="plain choose" :aria-pressed="part.id === chosen?.id" @click="chosenId = part.id">
              <b>{{ part.name }}</b><span class="quiet"
                >{{ INSTRUMENTS[part.instrument.kind].name.toLowerCase() }},
                {{ part.tuning.name.toLowerCase() }}</span
              >
            </button>
            <button
              class="plain quiet"
              :disabled="index === 0"
              :aria-label="`Move ${part.name} up`"
              @click="moveBy(part, -1)"
            >
              <v-icon :icon="mdiArrowUp" size="18" />
            </button>
            <button
              class="plain quiet"
              :disabled="index === store.parts.length - 1"
              :aria-label="`Move ${part.name} down`"
              @click="moveBy(part, 1)"
            >
              <v-icon :icon="mdiArrowDown" size="18" />
            </button>
            <button
              class="plain quiet"
              :aria-label="`Remove ${part.name}`"
              @click="store.run('removePart', { partId: part.id })"
            >
              <v-icon :icon="mdiDeleteOutline" size="18" />
            </button>
          </li>
        </ul>
        <ActButton kind="main" data-test="add-part" @click="addPart">
          <v-icon :icon="mdiPlus" size="18" /> Add a part
        </ActButton>
      </section>

      <section v-if="chosen" class="detail" :aria-label="chosen.name">
        <div class="grid">
          <v-text-field
            label="Part"
            :model-value="chosen.name"
            maxlength="60"
            data-test="part-name"
            @change="change({ name: ($event.target as HTMLInputElement).value.trim() || chosen!.name })"
          />
          <v-select
            label="Role"
            :items="roleItems"
            :model-value="chosen.role"
            @update:model-value="change({ role: $event })"
          />
          <v-select
            label="Instrument"
            :items="kindItems"
            :model-value="chosen.instrument.kind"
            data-test="instrument"
            @update:model-value="setKind($event)"
          />
          <v-select
            label="Sound"
            :items="soundItems"
            :model-value="chosen.sound"
            @update:model-value="change({ sound: $event })"
          />
          <NumberField
            label="Frets"
            :schema="partSchema.shape.instrument.shape.fretCount"
            :model-value="chosen.instrument.fretCount"
            @take="change({ instrument: { ...chosen!.instrument, fretCount: $event } })"
          />
          <NumberField
            label="Scale length, mm"
            :schema="partSchema.shape.instrument.shape.scaleLengthMm"
            :model-value="chosen.instrument.scaleLengthMm"
            @take="change({ instrument: { ...chosen!.instrument, scaleLengthMm: $event } })"
          />
          <NumberField
            label="Capo at fret"
            :schema="partSchema.shape.instrument.shape.capo"
            :model-value="chosen.instrument.capo"
            @take="change({ instrument: { ...chosen!.instrument, capo: $event } })"
          />
          <NumberField
            label="Left −1 … right 1"
            :schema="partSchema.shape.pan"
            :model-value="chosen.pan"
            :step="0.1"
            @take="change({ pan: $event })"
          />
        </div>
        <div class="tuning-head">
          <h3>Strings: {{ tuningLine(chosen.instrument.kind, chosen.tuning.openMidi) }}</h3>
          <v-select
            class="tuning"
            label="Tuning"
            :items="tuningItems"
            :model-value="chosen.tuning.name"
            data-test="tuning"
            @update:model-value="chooseTuning"
          />
        </div>
        <p v-if="charted" class="keep">
          When it is retuned, the charted figures keep
          <ActButton :aria-pressed="keep === 'shape'" @click="keep = 'shape'"> their shapes</ActButton
          ><ActButton :aria-pressed="keep === 'sound'" data-test="keep-sound" @click="keep = 'sound'">
            their sound
          </ActButton>
        </p>
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
        <table class="strings">
          <thead>
            <tr>
              <th>string</th>
              <th>sounds</th>
              <th>from standard</th>
              <th>the way there</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="string in strings" :key="string.stringNumber">
              <td class="mono">{{ store.stringLabel(chosen, string.stringNumber) }}</td>
              <td>
                <input
                  class="pitch mono"
                  :value="typed[string.stringNumber] ?? string.name"
                  :aria-label="`Pitch of string ${string.stringNumber}`"
                  size="5"
                  @input="typed[string.stringNumber] = ($event.target as HTMLInputElement).value"
                  @change="typePitch(string.stringNumber, ($event.target as HTMLInputElement).value)"
                />
              </td>
              <td class="mono">
                {{
                  string.fromStandard === 0
                    ? 'as standard'
                    : `${string.fromStandard > 0 ? '+' : '−'}${Math.abs(string.fromStandard)}`
                }}
              </td>
              <td>{{ string.way }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="typedProblem" class="attention" role="alert">{{ typedProblem }}</p>
        <p v-if="caution" class="evidence">{{ caution }}</p>
      </section>
    </div>
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
.setup {
  padding: 20px 30px 30px 20px;
  max-width: 1320px;
  display: grid;
  gap: 22px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(4, minmax(120px, 1fr));
  gap: 14px 12px;
  margin-top: 12px;
}
.switches {
  display: flex;
  gap: 34px;
  margin-top: 14px;
  font-size: 14.5px;
  flex-wrap: wrap;
}
.switches > div {
  display: flex;
  gap: 7px;
  align-items: center;
}
.band {
  display: grid;
  grid-template-columns: minmax(250px, 330px) 1fr;
  gap: 30px;
  border-top: 1px solid var(--rule);
  padding-top: 18px;
}
.parts {
  list-style: none;
  padding: 0;
  margin: 8px 0 14px;
  border-top: 1px solid var(--rule);
}
.part {
  display: flex;
  align-items: center;
  gap: 4px;
  border-bottom: 1px solid var(--rule);
  padding: 3px 4px;
}
.part.chosen {
  background: var(--selection);
}
.part button:not(.choose) {
  min-width: 26px;
  min-height: 26px;
  display: grid;
  place-items: center;
}
.part button:disabled {
  opacity: 0.4;
  cursor: default;
}
.choose {
  flex: 1;
  display: grid;
  padding: 5px 4px;
}
.choose span {
  font-size: 13.5px;
}
.part.chosen .quiet {
  color: var(--ink);
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
.strings {
  width: 100%;
  border-collapse: collapse;
  font-size: 14.5px;
}
.strings th {
  text-align: left;
  font-weight: 400;
  color: var(--quiet);
  font-size: 13.5px;
  padding: 3px 8px;
}
.strings td {
  border-top: 1px solid var(--rule);
  padding: 3px 8px;
}
.pitch {
  border: 1px solid transparent;
  border-bottom-color: var(--deep);
  background: none;
  color: inherit;
  padding: 2px 4px;
  font-weight: 700;
  width: 64px;
}
.main-button {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
@media (max-width: 1000px) {
  .band {
    grid-template-columns: 1fr;
  }
  .grid {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
