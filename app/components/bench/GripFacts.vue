<script setup lang="ts">
import { z } from 'zod'
import { chordGrid } from '#core/engrave/chord-grid'
import { inversionWords } from '#core/music/chord-name'
import { pretty } from '#core/music/pitch'
import { difficultyWord, fingeredGrip } from '#core/fretboard/grips/fingering'
import { movingGrip } from '#core/fretboard/grips/eased-grip'
import { readGrip, writeGrip } from '#core/fretboard/grips/grip'
import { gripSpans, symbolOf, type RankedGrip } from '#core/fretboard/grips/grip-search'
import { HANDS } from '#core/fretboard/hand'
import { setGrip } from '#core/document/figure-edit'
import { barTicks, countWords } from '#core/time/meter'
import type { Figure, Grip } from '#core/document/schema'
import { randomId } from '#platform/files'
import type { Bench } from '~/composables/benchKeys'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

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
const work = usePlayingWork()
const easedWork = usePlayingWork()
const { grip: span, part, tick } = props.bench
const facts = computed(() =>
  span.value && part.value ? store.factsOf(part.value, span.value.grip) : undefined,
)
const grid = computed(() => (span.value ? chordGrid(span.value.grip, 86) : undefined))
const gripText = ref('')
const problem = ref('')
const field = ref<HTMLInputElement>()
watch(
  [span, tick],
  () => {
    gripText.value = span.value ? writeGrip(span.value.grip) : ''
    problem.value = ''
  },
  { immediate: true },
)

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
  others.value.map((one) => ({ ...one, text: writeGrip(one.grip), drawing: chordGrid(one.grip, 50) })),
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
const moving = computed(() =>
  facts.value?.caution && span.value && part.value
    ? movingGrip(span.value, props.bench.content.value.strokes, part.value, preferences.hand)
    : undefined,
)
const place = (at: number): string =>
  `${countWords(props.figure.meter, at % barTicks(props.figure.meter))}${props.figure.lengthTicks > barTicks(props.figure.meter) ? ` of bar ${Math.floor(at / barTicks(props.figure.meter)) + 1}` : ''}`

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
    problem.value = `Write ${props.bench.strings.value} strings from low to high: x for muted, 0 for open, like ${props.bench.strings.value === 4 ? '3x00' : 'x32010'}; frets over 9 with dashes.`
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
/** Grips for the song's chords over the whole figure, chosen together. */
async function layProgression(): Promise<void> {
  if (!part.value) return
  const here = props.chords.filter((chord) => chord.startTicks < props.figure.lengthTicks)
  const found = await easedWork.ask({
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
const fingersText = computed(() =>
  facts.value?.fingering
    ? facts.value.fingering.fingers
        .map((finger) => finger ?? '·')
        .reverse()
        .join(' ')
    : '',
)
function setHand(name: string): void {
  const hand = HANDS.find((entry) => entry.name === name)
  if (hand) {
    preferences.set('handName', hand.name)
    preferences.set('handCautionMm', hand.cautionMm)
  }
}
/** A span measured on the student: from then on it is their own hand. */
/** The hands there are, and this person's own when it is none of them. */
const handItems = computed(() => {
  const names = HANDS.map((hand) => hand.name)
  const own = preferences.values.handName
  return names.includes(own) ? names : [...names, own]
})
/** Spans that hands have. */
const spanSchema = z.int().min(50).max(160)
function setSpan(mm: number): void {
  if (mm >= 50 && mm <= 160) {
    preferences.set('handName', HANDS.find((hand) => hand.cautionMm === mm)?.name ?? 'Own hand')
    preferences.set('handCautionMm', mm)
  }
}
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
      <p v-if="facts?.fingering" class="other" :title="facts.fingering.reasons.join('; ')">
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
        <label
          >grip, low to high
          <input
            ref="field"
            v-model="gripText"
            class="mono"
            size="9"
            autocomplete="off"
            data-test="grip-text"
            @keydown.esc="emit('leave')" /></label
        ><ActButton type="submit">Set</ActButton>
      </form>
      <p v-if="problem" class="attention other" role="alert">{{ problem }}</p>
    </section>
    <section>
      <h2 class="small-head">
        Grips for
        <input
          v-model="wanted"
          class="chord"
          :placeholder="shownSymbol"
          aria-label="Chord to find grips for"
          size="8"
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
      <label class="other check"><input v-model="easier" type="checkbox" /> easier ones first</label>
      <label v-if="span" class="other check"
        ><input v-model="keepTop" type="checkbox" /> with the top note of this one</label
      >
      <ActButton v-if="chords.length" class="small" data-test="lay-progression" @click="layProgression">
        Lay grips for the song’s chords
      </ActButton>
    </section>
    <div class="hand">
      <v-select
        label="Hand"
        :items="handItems"
        :model-value="preferences.values.handName"
        data-test="hand"
        @update:model-value="setHand"
      />
      <NumberField
        label="Comfortable span, mm"
        :schema="spanSchema"
        :model-value="preferences.values.handCautionMm"
        @take="setSpan"
      />
    </div>
  </div>
</template>

<style scoped>
.hand {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin: 14px 0 6px;
}
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
.grip-form {
  display: flex;
  gap: 6px;
  align-items: end;
  margin-top: 6px;
}
.grip-form label {
  display: grid;
  font-size: 13px;
  color: var(--quiet);
}
.grip-form input {
  width: 128px;
  color: var(--ink);
}
.chord {
  width: 86px;
  font: 700 15px var(--face-heading);
  border-width: 0 0 1px;
  border-radius: 0;
  padding: 0 2px;
  min-height: 24px;
}
.chord::placeholder {
  color: var(--ink);
  opacity: 1;
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
