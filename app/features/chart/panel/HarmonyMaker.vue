<script setup lang="ts">
import { MODES, pretty, spellPitchClass, transposeKey, type Key } from '#core/music/pitch'
import { chordsOver, derivedContent } from '#core/fretboard/lines/derive'
import {
  intervalWords as semitoneWords,
  type HarmonyLine,
  type HarmonyRule,
} from '#core/fretboard/lines/harmony-line'
import { EMPTY_CONTENT, type Content, type Figure, type LineDerivation } from '#core/document/schema'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { TONIC_ITEMS } from '~/composables/keyItems'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { INTERVALS, intervalWords } from './intervals'
import { placeWords } from './placeWords'

// A second line by rule: made beside the first, its clashes named, kept linked to the first.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  hear: [content: Content]
  beside: [what: { title: string; content: Content } | undefined]
}>()
const store = useSong()
const work = usePlayingWork()
const { part, content } = props.bench
const KINDS = [
  { title: 'in the key', value: 'diatonic' as const },
  { title: 'parallel', value: 'parallel' as const },
]
const place = (at: number): string => placeWords(props.figure, at)
/** A sounding pitch class as it is named on the page. */
const nameOf = (pitchClass: number): string =>
  spellPitchClass((((pitchClass + store.nameShift) % 12) + 12) % 12, store.shownKey)
const size = ref(3)
const side = ref<'above' | 'below'>('below')
const kind = ref<'diatonic' | 'parallel'>('diatonic')
const key = ref<Key>({ ...(store.song?.key ?? { tonic: 'C', mode: 'major' }) })
const target = ref(props.figure.partId)
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
const interval = computed(() => (side.value === 'below' && size.value > 1 ? -size.value : size.value))
const exceptions = ref<LineDerivation['exceptions']>([])
const made = shallowRef<HarmonyLine>()
const problem = ref('')
const rule = computed<HarmonyRule>(() => ({
  interval: interval.value,
  kind: kind.value,
  key: key.value,
  exceptions: exceptions.value,
}))
watch([() => props.figure.id, content], () => {
  made.value = undefined
  exceptions.value = []
  emit('beside', undefined)
})
async function make(): Promise<void> {
  problem.value = ''
  const to = store.song?.parts[target.value]
  if (!part.value || !store.song || !to) return
  const found = await work.ask({
    want: 'harmony',
    content: content.value,
    from: part.value,
    to,
    rule: rule.value,
    chords: chordsOver(store.song, props.figure),
  })
  if (found.ok) {
    made.value = found.value
    emit('beside', {
      title: `${intervalWords(interval.value)}, for ${to.name}`,
      content: { ...EMPTY_CONTENT, notes: found.value.notes },
    })
  } else if (found.refusal.code !== 'cancelled') {
    made.value = undefined
    problem.value = found.refusal.message
  }
}
watch([interval, kind, key, target], () => {
  if (made.value) {
    exceptions.value = []
    void make()
  }
})
/** Takes one note out of the rule so that it sits in the chord. */
function except(clash: HarmonyLine['clashes'][number]): void {
  if (clash.betterStep === undefined || !made.value) return
  exceptions.value = [
    ...exceptions.value.filter((one) => one.startTicks !== clash.startTicks),
    {
      startTicks: clash.startTicks,
      semitones: made.value.intervals[clash.index]! + clash.betterStep,
      why: clash.text,
    },
  ]
  void make()
}
function keep(): void {
  if (!made.value) return
  const id = randomId()
  const words = `${props.figure.name}, ${intervalWords(interval.value)}`
  const { lengthTicks, meter, feel } = props.figure
  if (
    store.run('addFigure', {
      figure: {
        id,
        partId: target.value,
        name: words.slice(0, 80),
        lengthTicks,
        meter,
        feel,
        content: derivedContent(content.value, made.value),
        derivedFrom: { figureId: props.figure.id, ...plain(rule.value) },
      },
    })
  ) {
    emit('beside', undefined)
    emit('choose', id)
  }
}
const parts = computed(() => store.parts.map((player) => ({ title: player.name, value: player.id })))
const shift = computed(() => store.nameShift)
const shownKey = computed(() => transposeKey(key.value, shift.value))
const setKey = (set: Partial<Key>): void => {
  key.value = transposeKey({ ...shownKey.value, ...set }, -shift.value)
}

onBeforeUnmount(() => emit('beside', undefined))
</script>

<template>
  <section>
    <h2 class="small-head">A second line</h2>
    <div class="other fields">
      <SelectField v-model="size" inline label="Interval" :items="INTERVALS" data-test="harmony-size" />
      <SelectField v-model="side" inline label="Above or below" :items="['above', 'below']" />
      <SelectField v-model="kind" inline label="In the key or parallel" :items="KINDS" />
    </div>
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
    <div class="other row">
      for
      <SelectField v-model="target" inline class="grow" label="Played by" :items="parts" />
      <ActButton class="small" data-test="make-harmony" @click="make">Show it</ActButton>
    </div>
    <p v-if="problem" class="attention other" role="alert">{{ problem }}</p>
    <template v-if="made">
      <p v-if="!made.clashes.length" class="other quiet">No clash with the chords.</p>
      <ul class="other" data-test="clashes">
        <li v-for="clash in made.clashes" :key="clash.startTicks" class="evidence">
          {{ place(clash.startTicks) }}: {{ pretty(nameOf(clash.pitchClass)) }} rubs against
          {{ pretty(nameOf(clash.against)) }} of {{ store.showSymbol(clash.symbol) }}
          <ActButton v-if="clash.betterStep !== undefined" class="small" @click="except(clash)">
            leave the rule here
          </ActButton>
        </li>
        <li v-for="remark in made.remarks" :key="`r${remark.startTicks}`" class="quiet">
          {{ place(remark.startTicks) }}: {{ remark.text }}
        </li>
        <li v-for="exception in exceptions" :key="`e${exception.startTicks}`" class="quiet">
          {{ place(exception.startTicks) }}: {{ semitoneWords(exception.semitones) }} on purpose
        </li>
      </ul>
      <p class="other row">
        <ActButton class="small" data-test="keep-harmony" @click="keep">Keep it, linked</ActButton
        ><ActButton class="small" @click="emit('hear', { ...content, notes: made.notes })"> Hear </ActButton>
      </p>
    </template>
  </section>
</template>
