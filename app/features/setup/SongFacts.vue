<script setup lang="ts">
import { songSchema, type Song } from '#core/document/schema'
import { MODES, transposeKey, type Mode } from '#core/music/pitch'
import { allBars } from '#core/document/form'
import { countIn } from '#core/time/correct-beats'
import { beatsFromGrid } from '#core/time/flat-beats'
import { meterName, SUBDIVISIONS, USUAL_METERS, type Meter } from '#core/time/meter'
import { randomId } from '#platform/files'
import { TONIC_ITEMS } from '~/composables/keyItems'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// What holds for the whole song, and how its names are shown.
const props = defineProps<{ song: Song }>()
const store = useSong()
const preferences = usePreferences()
const meterItems = USUAL_METERS.map(meterName)
function swingWords(ratio: number): string {
  if (ratio === 0.5) return 'straight'
  if (ratio === 0.667) return 'triplet swing (67 : 33)'
  return `swung ${Math.round(ratio * 100)} : ${Math.round(100 - ratio * 100)}`
}
const SWINGS = [0.5, 0.55, 0.6, 0.64, 0.667, 0.7].map((ratio) => ({ title: swingWords(ratio), value: ratio }))
const NAMINGS = [
  { title: 'by shape', value: 'shape' as const },
  { title: 'as sounding', value: 'sounding' as const, test: 'as-sounding' },
]
const HANDS = [
  { title: 'right-handed', value: 'right', test: 'right-handed' },
  { title: 'left-handed', value: 'left', test: 'left-handed' },
]
const STRINGS = [
  { title: 'letters', value: 'letters' as const },
  { title: 'numbers', value: 'numbers' as const, test: 'string-numbers' },
]
/** Nobody has said the key: then it is no C major either. */
const UNKNOWN = { title: 'not known yet', value: '' }
const tonics = computed(() => (props.song.keyUnknown ? [UNKNOWN, ...TONIC_ITEMS] : TONIC_ITEMS))
/** The key is entered under the names shown, and stored as sounding. */
function setKey(tonic: string, mode: Mode): void {
  if (tonic === UNKNOWN.value) return
  store.run('setFacts', { key: transposeKey({ tonic, mode }, -store.nameShift) })
}
function setMeter(value: string): void {
  const [beats, unit] = value.split('/').map(Number) as [number, 4 | 8]
  const meter = { beats, unit }
  // Bars that were laid out keep their count until somebody says otherwise.
  if (store.source?.grid?.bars.length) asked.value = meter
  else store.run('setFacts', { meter })
}
/** A meter that was chosen while there are bars: for which of them is asked. */
const asked = shallowRef<Meter>()
function meterForNew(): void {
  if (asked.value) store.run('setFacts', { meter: asked.value })
  asked.value = undefined
}
function meterForAll(): void {
  const [meter, grid] = [asked.value, store.source?.grid]
  asked.value = undefined
  if (!meter || !grid) return
  const flat = beatsFromGrid(allBars(props.song), grid)
  const beats = countIn(flat, 0, grid.endSeconds + 1, meter)
  const words = `all bars counted in ${meterName(meter)}`
  const laid = { beats, endSeconds: grid.endSeconds, what: words, newSectionId: randomId() }
  store.run('acceptHeard', { meter, beats: laid, words })
}
</script>

<template>
  <section class="facts" aria-label="Song facts">
    <h2>Song</h2>
    <div class="grid">
      <TextField
        label="Title"
        :model-value="song.title"
        :longest="200"
        @take="store.run('setFacts', { title: $event })"
      />
      <TextField
        label="Artist"
        may-be-empty
        :model-value="song.artist"
        :longest="200"
        @take="store.run('setFacts', { artist: $event })"
      />
      <SelectField
        label="Key"
        :items="tonics"
        :model-value="song.keyUnknown ? UNKNOWN.value : store.shownKey.tonic"
        data-test="key-tonic"
        @update:model-value="setKey($event, store.shownKey.mode)"
      />
      <SelectField
        v-if="!song.keyUnknown"
        label="Mode"
        :items="MODES"
        :model-value="store.shownKey.mode"
        @update:model-value="setKey(store.shownKey.tonic, $event)"
      />
      <NumberField
        label="Reference pitch, Hz"
        :schema="songSchema.shape.referenceHz"
        :model-value="song.referenceHz"
        @take="store.run('setFacts', { referenceHz: $event })"
      />
      <SelectField
        label="Meter"
        :items="meterItems"
        :model-value="`${song.meter.beats}/${song.meter.unit}`"
        @update:model-value="setMeter"
      />
      <SelectField
        label="Subdivision"
        :items="SUBDIVISIONS"
        :model-value="song.feel.subdivision"
        @update:model-value="store.run('setFacts', { feel: { ...song.feel, subdivision: $event } })"
      />
      <SelectField
        label="Swing"
        :items="SWINGS"
        :model-value="song.feel.swing.ratio"
        @update:model-value="
          store.run('setFacts', {
            feel: { ...song.feel, swing: { ...song.feel.swing, ratio: $event } },
          })
        "
      />
    </div>
    <p
      v-if="asked"
      class="asked"
      role="alertdialog"
      aria-label="What the meter is for"
      data-test="meter-asked"
    >
      <span>What is counted in {{ meterName(asked) }}?</span>
      <ActButton data-test="meter-all" @click="meterForAll">Every bar of the song</ActButton>
      <ActButton data-test="meter-new" @click="meterForNew">Only what is added from now on</ActButton>
      <ActButton kind="link" @click="asked = undefined">Cancel</ActButton>
    </p>
    <div class="switches">
      <span class="quiet">names</span>
      <ToggleRow
        label="Names of notes and chords"
        :items="NAMINGS"
        :model-value="preferences.values.naming"
        @update:model-value="preferences.set('naming', $event)"
      />
      <span class="quiet">strings</span>
      <ToggleRow
        label="Names of strings"
        :items="STRINGS"
        :model-value="preferences.values.strings"
        @update:model-value="preferences.set('strings', $event)"
      />
      <span class="quiet">drawn for</span>
      <ToggleRow
        label="Necks and shapes drawn for"
        :items="HANDS"
        :model-value="preferences.values.leftHanded ? 'left' : 'right'"
        @update:model-value="preferences.set('leftHanded', $event === 'left')"
      />
    </div>
  </section>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  border-left: 4px solid var(--action);
  background: var(--paper);
  padding: 8px 14px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(4, minmax(120px, 1fr));
  gap: 14px 12px;
  margin-top: 12px;
}
.switches {
  display: flex;
  gap: 8px 12px;
  align-items: center;
  margin-top: 14px;
  font-size: 14.5px;
  flex-wrap: wrap;
}
.switches .toggle-row {
  margin-right: 22px;
}
@media (max-width: 1000px) {
  .grid {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
