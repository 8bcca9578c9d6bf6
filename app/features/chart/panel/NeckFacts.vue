<script setup lang="ts">
import type { MovableShape } from '#core/neck/movable-shapes'
import { degreesOnString, scalePlaces, scaleZones, zoneWords } from '#core/neck/zones'
import { lineOf, pitched } from '#core/neck/lines/line'
import { pitchClassOf, pretty, spellPitchClass } from '#core/music/pitch'
import { fitScales, SCALE_KINDS } from '#core/music/scale'
import { writeGrip } from '#core/neck/grips/grip'
import { degreeDots, type NeckDot } from '#core/engrave/neck'
import type { Figure, Grip } from '#core/document/schema'
import { TONIC_ITEMS } from '~/composables/keyItems'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { useNeckShown } from '../neckShown'

// Thinking on the neck: a scale over all of it or in one zone, degrees along a string, the movable shapes
// of the chord at the cursor.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const store = useSong()
const preferences = usePreferences()
const neck = useNeckShown()
const { part, content, tick } = props.bench
const tonic = ref('E')
const scaleName = ref('minor pentatonic')
const scale = computed(() => ({ tonic: tonic.value, name: scaleName.value }))
/** As the page names it: by shape where the names are. */
const shownTonic = computed({
  get: () =>
    spellPitchClass((((pitchClassOf(tonic.value) + store.nameShift) % 12) + 12) % 12, store.shownKey),
  set: (name) => {
    tonic.value = spellPitchClass(sounding(name), store.song?.key ?? { tonic: 'C', mode: 'major' })
  },
})
const sounding = (shown: string): number => (((pitchClassOf(shown) - store.nameShift) % 12) + 12) % 12
const scaleItems = SCALE_KINDS.map(({ name }) => name)
/** Begins with the scale the figure is in. */
watch(
  () => props.figure.id,
  () => {
    const line = part.value ? lineOf(pitched(content.value), part.value) : []
    const [fit] = store.song ? fitScales(line, store.song.key, 1) : []
    tonic.value = fit?.tonic ?? store.song?.key.tonic ?? 'E'
    if (fit) scaleName.value = fit.name
  },
  { immediate: true },
)
const zones = computed(() => (part.value ? scaleZones(part.value, scale.value) : []))
/** What is shown: "all", a zone by its index, a string, a shape. */
const looked = ref('')
watch([scale, () => props.figure.id], () => show('', []))
function show(what: string, dots: readonly NeckDot[]): void {
  looked.value = what && looked.value !== what ? what : ''
  neck.value = looked.value ? dots : []
}
const strings = computed(() => part.value?.tuning.openMidi.map((_, index) => index + 1) ?? [])
const onString = ref(6)
const along = computed(() =>
  part.value && strings.value.includes(onString.value)
    ? degreesOnString(part.value, scale.value, onString.value)
    : [],
)
const symbol = computed(
  () =>
    props.chords.find(
      ({ startTicks, lengthTicks }) => startTicks <= tick.value && tick.value < startTicks + lengthTicks,
    )?.symbol ?? props.chords[0]?.symbol,
)
const work = usePlayingWork()
const shapes = shallowRef<MovableShape[]>([])
watch(
  [symbol, part],
  async () => {
    if (!part.value || !symbol.value) return
    const found = await work.ask({ want: 'shapes', symbol: symbol.value, part: part.value })
    if (found.ok) shapes.value = found.value
    else if (found.refusal.code !== 'cancelled') shapes.value = []
  },
  { immediate: true },
)
const gripDots = (grip: Grip, rootString: number): NeckDot[] =>
  grip.strings.flatMap(({ fret }, index): NeckDot[] =>
    fret === null
      ? []
      : [{ string: index + 1, fret, label: index + 1 === rootString ? 'R' : '', role: 'action' }],
  )
</script>

<template>
  <div v-if="part" class="panel" data-test="neck-panel">
    <section>
      <h2 class="small-head">Scale on the neck</h2>
      <div class="other fields">
        <SelectField v-model="shownTonic" inline label="Tonic" :items="TONIC_ITEMS" data-test="zone-tonic" />
        <SelectField v-model="scaleName" inline label="Scale" :items="scaleItems" data-test="zone-scale" />
      </div>
      <p class="other row">
        <ActButton
          class="small"
          :aria-pressed="looked === 'all'"
          data-test="whole-neck"
          @click="show('all', degreeDots(scalePlaces(part, scale)))"
        >
          the whole neck
        </ActButton>
      </p>
      <ul class="other" data-test="zones">
        <li v-for="zone in zones" :key="zone.position">
          <ActButton
            kind="plain"
            class="fit"
            :aria-pressed="looked === `zone ${zone.position}`"
            @click="show(`zone ${zone.position}`, degreeDots(zone.places))"
          >
            {{ zoneWords(zone) }}
          </ActButton>
        </li>
      </ul>
    </section>
    <section>
      <h2 class="small-head">From the root on a string</h2>
      <div class="other row">
        <ActButton
          v-for="string in strings"
          :key="string"
          class="small"
          :aria-pressed="onString === string"
          :aria-label="`string ${string}`"
          @click="onString = string"
        >
          {{ store.stringLabel(part, string) }}
        </ActButton>
      </div>
      <p class="along" data-test="along">
        <span v-for="place in along" :key="place.fret"
          ><b>{{ place.degree === '1' ? 'R' : pretty(place.degree) }}</b
          ><span class="mono quiet">{{ place.fret }}</span></span
        >
        <ActButton
          v-if="along.length"
          class="small"
          :aria-pressed="looked === `string ${onString}`"
          @click="show(`string ${onString}`, degreeDots(along))"
        >
          show
        </ActButton>
        <span v-else class="quiet">The root does not lie on this string.</span>
      </p>
    </section>
    <section v-if="symbol">
      <h2 class="small-head">Movable shapes of {{ store.showSymbol(symbol) }}</h2>
      <ul class="other" data-test="movable">
        <li v-for="shape in shapes" :key="writeGrip(shape.grip)">
          <ActButton
            kind="plain"
            class="fit"
            :aria-pressed="looked === writeGrip(shape.grip)"
            @click="show(writeGrip(shape.grip), gripDots(shape.grip, shape.rootString))"
          >
            <span
              ><span class="mono">{{ writeGrip(shape.grip) }}</span
              >{{ ` ${shape.words}` }}</span
            >
          </ActButton>
        </li>
      </ul>
      <p v-if="!shapes.length" class="other quiet">None without an open string within twelve frets.</p>
    </section>
    <CheckField
      label="degrees beside chord names (C ♭VI)"
      :model-value="preferences.values.numerals"
      data-test="numerals"
      @update:model-value="preferences.set('numerals', $event)"
    />
    <ImproviseFacts :figure="figure" />
    <RiffScales :figure="figure" />
  </div>
</template>

<style scoped>
.along {
  display: flex;
  font-size: 13.5px;
  margin: 4px 0 0;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.along span > span {
  margin-left: 3px;
}
.fit.v-btn {
  justify-content: start;
  text-align: left;
  padding: 1px 4px;
  border-radius: 3px;
}
[aria-pressed='true'].v-btn {
  background: var(--selection);
  font-weight: 700;
}
</style>
