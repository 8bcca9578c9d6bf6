<script setup lang="ts">
import { chordGrid } from '#core/engrave/chord-grid'
import { pretty } from '#core/music/pitch'
import { writeGrip } from '#core/neck/grips/grip'
import { gripSpans, symbolOf, type RankedGrip } from '#core/neck/grips/grip-search'
import { setGrip } from '#core/document/figure-edit'
import type { Figure, Grip } from '#core/document/schema'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// Grips for a chord: the one at the cursor, the one the song's harmony says, or one that is typed.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const store = useSong()
const preferences = usePreferences()
const work = usePlayingWork()
const progressionWork = usePlayingWork()
const { grip: span, part, tick } = props.bench
const facts = computed(() =>
  span.value && part.value ? store.factsOf(part.value, span.value.grip) : undefined,
)

function put(grip: Grip): void {
  props.bench.edit(
    `grip ${writeGrip(grip)}`,
    setGrip(props.bench.content.value, {
      tick: span.value?.startTicks ?? tick.value,
      grip,
      id: randomId(),
      figureTicks: props.figure.lengthTicks,
    }),
  )
}
/** The chord other grips are looked for: typed, the grip's own name, or what the song's harmony says here. */
const wanted = ref('')
const harmonyHere = computed(
  () =>
    props.chords.findLast(
      (chord) => chord.startTicks <= tick.value && tick.value < chord.startTicks + chord.lengthTicks,
    )?.symbol,
)
const symbol = computed(
  () =>
    (part.value && span.value && store.song
      ? symbolOf(span.value.grip, part.value, store.song.key)
      : undefined) ?? harmonyHere.value,
)
const easier = ref(false)
/** Keep the note that rings on top here. */
const keepTop = ref(false)
const topClass = computed(() => {
  const midis = facts.value?.midis.flatMap((midi) => midi ?? []) ?? []
  return keepTop.value && midis.length ? Math.max(...midis) % 12 : undefined
})
const others = shallowRef<RankedGrip[]>([])
const drawn = computed(() =>
  others.value.map((one) => ({
    ...one,
    text: writeGrip(one.grip),
    drawing: chordGrid(one.grip, 50, preferences.values.leftHanded),
  })),
)
const othersProblem = ref('')
const before = computed(
  () =>
    props.bench.content.value.grips.findLast(
      (entry) => entry.startTicks < (span.value?.startTicks ?? tick.value) && entry.id !== span.value?.id,
    )?.grip,
)
const after = computed(
  () =>
    props.bench.content.value.grips.find((entry) => entry.startTicks > (span.value?.startTicks ?? tick.value))
      ?.grip,
)
const sought = computed(() =>
  wanted.value.trim() && part.value ? store.soundingChord(part.value, wanted.value.trim()) : symbol.value,
)
const shownSymbol = computed(() =>
  symbol.value && part.value ? pretty(store.shownChord(part.value, symbol.value)) : 'a chord',
)
watch(
  [sought, part, easier, topClass, before, () => preferences.hand],
  async () => {
    othersProblem.value = ''
    if (!sought.value || !part.value) {
      others.value = []
      return
    }
    const found = await work.ask({
      want: 'grips',
      symbol: sought.value,
      part: part.value,
      wishes: {
        hand: { ...preferences.hand },
        count: 8,
        easierFirst: easier.value,
        ...(topClass.value === undefined ? {} : { topClass: topClass.value }),
        ...(before.value ? { after: before.value } : {}),
        ...(after.value ? { before: after.value } : {}),
      },
    })
    if (found.ok) others.value = found.value
    else if (found.refusal.code !== 'cancelled') {
      others.value = []
      othersProblem.value = found.refusal.message
    }
  },
  { immediate: true },
)

/** Grips for the song's chords over the whole figure, chosen together. */
async function layProgression(): Promise<void> {
  if (!part.value) return
  const here = props.chords.filter((chord) => chord.startTicks < props.figure.lengthTicks)
  const found = await progressionWork.ask({
    want: 'progression',
    symbols: here.map((chord) => chord.symbol),
    part: part.value,
    wishes: { hand: { ...preferences.hand }, easierFirst: easier.value },
  })
  if (!found.ok) {
    store.notice = { text: found.refusal.message, kind: 'refusal' }
    return
  }
  props.bench.edit('grips for the song’s chords', {
    ...props.bench.content.value,
    grips: gripSpans(
      here,
      found.value.map((one) => one.grip),
      props.figure.lengthTicks,
      randomId,
    ),
  })
}
</script>

<template>
  <section>
    <h2 class="small-head">
      Grips for
      <v-text-field
        v-model="wanted"
        class="inline-field chord"
        :placeholder="shownSymbol"
        aria-label="Chord to find grips for"
        persistent-placeholder
        autocomplete="off"
        data-test="grip-chord"
      />
    </h2>
    <p v-if="othersProblem" class="attention other" role="alert">{{ othersProblem }}</p>
    <div class="others" data-test="other-grips">
      <button
        v-for="one in drawn"
        :key="one.text"
        class="one plain"
        :title="[...one.reasons, ...one.fingering.reasons].join(', ')"
        :aria-label="`Grip ${one.text}: ${one.reasons.join(', ')}`"
        :aria-pressed="span !== undefined && writeGrip(span.grip) === one.text"
        @click="put({ strings: one.grip.strings.map(({ fret }) => ({ fret })) })"
      >
        <MusicDrawing
          :primitives="one.drawing.primitives"
          :width="50"
          :height="one.drawing.height"
          :label="one.text"
        /><span class="mono">{{ one.text }}</span>
      </button>
    </div>
    <CheckField v-model="easier" label="easier ones first" />
    <CheckField v-if="span" v-model="keepTop" label="with the top note of this one" />
    <ActButton v-if="chords.length" class="small" data-test="lay-progression" @click="layProgression">
      Lay grips for the song’s chords
    </ActButton>
  </section>
</template>

<style scoped>
.chord :deep(input) {
  font: 700 15px var(--face-heading);
}
.others {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 4px 2px;
  margin: 4px 0;
}
.one {
  display: grid;
  justify-items: center;
  padding: 2px 0;
  border-radius: 4px;
}
.one:hover,
.one[aria-pressed='true'] {
  background: var(--selection);
}
.one span {
  font-size: 10.5px;
  letter-spacing: -0.03em;
}
</style>
