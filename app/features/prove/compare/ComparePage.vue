<script setup lang="ts">
import { barTicks } from '#core/time/meter'
import type { BarPair, SideBar } from '#core/compare/compare-sides'
import { randomId } from '#platform/files'
import { useShortcuts } from '~/composables/shortcuts'
import { useMarkPlace } from '~/stores/marking'
import { useHearPlace } from '../hearPlace'
import { sectionBarPlace, secondsOfBar } from './barSeconds'
import { useCompare, type Comparison } from './useCompare'

// Two stretches one under the other, bar by bar, what differs marked and in words.
const compare = useCompare()
const { store, kind, pairs, differing, sides } = compare
const { hearRecord, hearChart } = useHearPlace()
const KINDS: { title: string; value: Comparison; test: string }[] = [
  { title: 'Sections', value: 'sections', test: 'compare-sections' },
  { title: 'Passes', value: 'passes', test: 'compare-passes' },
  { title: 'Parts', value: 'parts', test: 'compare-parts' },
  { title: 'A written chart', value: 'written', test: 'compare-written' },
]
const chosen = ref(1)
watch(
  pairs,
  (list) => {
    chosen.value = differing.value[0]?.number ?? Math.min(chosen.value, Math.max(1, list.length))
  },
  { immediate: true },
)
const rows = ref<HTMLElement>()
/** The next bar that differs, or the next of all where none does. */
function step(by: 1 | -1): void {
  const list = differing.value.length ? differing.value : pairs.value
  const beyond = list.filter(({ number }) => (by > 0 ? number > chosen.value : number < chosen.value))
  const next = by > 0 ? beyond[0] : beyond.at(-1)
  if (!next) return
  chosen.value = next.number
  void nextTick(() => rows.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }))
}
const lowerSection = computed(() =>
  kind.value === 'sections' ? compare.otherSectionId.value : compare.sectionId.value,
)
const upperSeconds = computed(() =>
  kind.value === 'passes' ? undefined : secondsOfBar(store.heardSong, compare.sectionId.value, chosen.value),
)
const lowerSeconds = computed(() =>
  kind.value === 'passes' ? undefined : secondsOfBar(store.heardSong, lowerSection.value, chosen.value),
)
function hear(seconds: number | undefined, what: 'record' | 'chart'): void {
  if (seconds === undefined) return
  if (what === 'record') hearRecord(seconds)
  else hearChart(seconds)
}
// F2 here means the bar that is chosen.
useMarkPlace(() =>
  kind.value === 'passes'
    ? undefined
    : sectionBarPlace(store.heardSong, compare.sectionId.value, chosen.value, compare.partId.value),
)
const back = (): void => void navigateTo(`/song/${store.song?.id}/prove`)
useShortcuts([
  { keys: ['ArrowUp'], label: 'The difference before', run: () => step(-1) },
  { keys: ['ArrowDown'], label: 'The next difference', run: () => step(1) },
  { keys: ['1'], label: 'Hear the record at the upper bar', run: () => hear(upperSeconds.value, 'record') },
  { keys: ['2'], label: 'Hear the record at the lower bar', run: () => hear(lowerSeconds.value, 'record') },
  { keys: ['3'], label: 'Hear the chart at the upper bar', run: () => hear(upperSeconds.value, 'chart') },
  { keys: ['4'], label: 'Hear the chart at the lower bar', run: () => hear(lowerSeconds.value, 'chart') },
  { keys: ['Escape'], label: 'Back to what is to prove', run: back },
])
/** What is charted and what is written of a bar, as two readings of a doubt. */
function doubt(pair: BarPair): void {
  const { source, sectionId } = compare
  const place = sectionBarPlace(store.heardSong, sectionId.value, pair.number)
  const [tick = 0] = pair.difference.ticks
  const chordAt = (bar: SideBar | undefined): string | undefined =>
    bar?.chords.findLast((chord) => chord.tick <= tick)?.symbol
  const [own, written] = [chordAt(pair.upper), chordAt(pair.lower)]
  if (!place || !own || !written || !source.value) return
  const reading = (symbol: string) => ({
    id: randomId(),
    text: store.showSymbol(symbol),
    claim: { kind: 'chord' as const, symbol },
    evidence: [],
  })
  const id = randomId()
  const made = store.run('setDoubt', {
    doubt: {
      id,
      place: { ...place, startTicks: place.startTicks + tick },
      question: `${store.showSymbol(own)}, or ${store.showSymbol(written)} as ${source.value.name} has it?`,
      readings: [reading(own), { ...reading(written), sourceId: source.value.id }],
      status: 'open',
    },
  })
  if (made) void navigateTo(`/song/${store.song?.id}/prove?show=doubt/${id}`)
}
const print = (): void => window.print()
const summary = computed(() => {
  const [all, other] = [pairs.value.length, differing.value.length]
  if (!all) return ''
  if (!other) return all === 1 ? 'The one bar is the same.' : `All ${all} bars are the same.`
  return `${other} of ${all} ${all === 1 ? 'bar differs' : 'bars differ'}.`
})
</script>

<template>
  <div v-if="store.song" class="compare">
    <header class="head">
      <h1>Compare</h1>
      <p class="quiet" role="status" data-test="compare-sum">{{ summary }}</p>
      <span class="grow" />
      <ActButton class="no-print" data-test="print-compare" :disabled="!pairs.length" @click="print"
        >Print it</ActButton
      >
      <ActButton class="no-print" data-test="back-to-prove" @click="back">Back to Prove</ActButton>
    </header>
    <ToggleRow
      class="no-print"
      label="What is compared"
      :items="KINDS"
      :model-value="kind"
      @update:model-value="kind = $event as Comparison"
    />
    <CompareChoice class="no-print" :compare="compare" />
    <WrittenChart v-if="kind === 'written'" class="no-print" :compare="compare" />
    <p v-if="pairs.length" class="titles">
      <b>above</b> {{ sides[0]?.title }} <b>below</b> {{ sides[1]?.title }}
    </p>
    <p v-else-if="kind === 'passes'" class="quiet">
      Choose a section in which this part plays more than one pass.
    </p>
    <p v-else-if="kind === 'written' && compare.source.value" class="quiet">
      The written chart has nothing under the name of this section.
    </p>
    <ol ref="rows" class="rows" data-test="compare-rows">
      <li
        v-for="pair in pairs"
        :key="pair.number"
        class="row"
        :class="{ differs: pair.difference.words.length }"
        :aria-current="pair.number === chosen"
        @click="chosen = pair.number"
      >
        <b class="number mono">{{ pair.number }}</b>
        <div class="two">
          <BarDrawing
            v-if="pair.upper"
            :bar="pair.upper"
            :marked="[]"
            :name="`above, bar ${pair.number}`"
            :show-symbol="store.showSymbol"
          />
          <BarDrawing
            v-if="pair.lower"
            :bar="pair.lower"
            :marked="pair.difference.ticks.filter((tick) => tick < barTicks(pair.lower!.meter))"
            :name="`below, bar ${pair.number}`"
            :show-symbol="store.showSymbol"
          />
        </div>
        <div v-if="pair.difference.words.length" class="words">
          <p v-for="words in pair.difference.words" :key="words">{{ words }}</p>
          <ActButton
            v-if="kind === 'written' && pair.upper && pair.lower"
            class="no-print"
            data-test="doubt-bar"
            :disabled="Boolean(store.readOnly)"
            @click.stop="doubt(pair)"
            >Which is it? Measure both</ActButton
          >
        </div>
        <p v-else class="quiet words">the same</p>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.compare {
  display: grid;
  gap: 14px;
  padding: 18px 24px 28px 20px;
  align-content: start;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 14px;
}
.head h1 {
  font-size: 22px;
}
.grow {
  flex: 1;
}
.titles b {
  font-weight: 600;
  color: var(--quiet);
  margin-left: 8px;
}
.titles b:first-child {
  margin-left: 0;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
.row {
  display: grid;
  grid-template-columns: 28px minmax(260px, 440px) minmax(180px, 1fr);
  gap: 16px;
  padding: 8px 8px 8px 10px;
  border-bottom: 1px solid var(--rule);
  border-left: 4px solid transparent;
  break-inside: avoid;
}
.row.differs {
  border-left: 4px solid var(--attention);
}
.row[aria-current='true'] {
  background: var(--selection);
}
.number {
  padding-top: 2px;
}
.two {
  display: grid;
  gap: 2px;
}
.words {
  margin: 0;
  padding: 0;
  font-size: 14.5px;
  line-height: 1.4;
}
.row[aria-current='true'] :deep(.halo) {
  fill: var(--selection);
}
@media (max-width: 900px) {
  .row {
    grid-template-columns: 28px minmax(0, 1fr);
  }
  .words {
    grid-column: 2;
  }
}
</style>
