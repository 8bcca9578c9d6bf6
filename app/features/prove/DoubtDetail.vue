<script setup lang="ts">
import type { ProveItem } from '#core/doubts/prove-list'
import { soundReading } from '#core/doubts/sound-reading'
import { clock } from '#core/time/beat-grid'
import type { Doubt, DoubtReading } from '#core/document/schema'
import { useTransport } from '~/stores/transport'
import { useHearPlace } from './hearPlace'
import { useProof } from './useProof'
import type { Prove } from './useProve'

// A doubt: its question, what the record says, its readings side by side, the decision and why.
const props = defineProps<{ item: Extract<ProveItem, { kind: 'doubt' }>; prove: Prove }>()
const { store } = props.prove
const transport = useTransport()
const doubt = computed(() => props.item.doubt)
const { proof, span, listening } = useProof(() => doubt.value)
const { hearRecord } = useHearPlace()
const why = ref(doubt.value.why ?? '')
const whyField = ref<HTMLElement>()
const settled = computed(() => doubt.value.status === 'settled')
const part = computed(() => store.song?.parts[doubt.value.place.partId ?? ''])

const change = (set: Partial<Doubt>): void =>
  void store.run('setDoubt', { doubt: { ...doubt.value, ...set } })
const evidenceOf = (reading: DoubtReading): DoubtReading['evidence'] =>
  proof.value?.readings.find(({ id }) => id === reading.id)?.evidence ?? reading.evidence
/** What was measured stays beside the decision. */
function decide(reading: DoubtReading): void {
  const readings = doubt.value.readings.map((one) => ({
    ...one,
    evidence: evidenceOf(one).map((heard) => ({ ...heard, measured: heard.measured.slice(0, 200) })),
  }))
  change({ readings, status: 'settled', decision: reading.id, why: why.value.trim() })
}
function reopen(): void {
  const { decision: _decision, ...open } = doubt.value
  void store.run('setDoubt', { doubt: { ...open, status: 'open' } })
}
const without = (reading: DoubtReading): void =>
  change({ readings: doubt.value.readings.filter(({ id }) => id !== reading.id) })

/** Where two readings stand that sound at once. */
const BESIDE = [-0.8, 0.8]
/** Readings round and round against the record; several stand left and right of it. */
function hear(readings: readonly DoubtReading[], name: string): void {
  const song = store.heardSong
  if (!span.value || !song) return
  const { start, end } = span.value
  transport.hearReadings({
    kind: 'readings',
    name,
    stems: readings.map((reading, index) => ({
      id: `reading-${index + 1}`,
      pan: readings.length === 1 ? 0 : BESIDE[index % 2]!,
      events: soundReading(song, doubt.value.place, reading, { start, end }),
    })),
    startSeconds: start,
    endSeconds: Math.max(end, start + 0.6),
  })
}
function key(number: number): void {
  const { readings } = doubt.value
  if (number === 1 && props.item.seconds !== undefined) hearRecord(props.item.seconds)
  const one = readings[number - 2]
  if (number === 4 && readings.length === 2) hear(readings, 'both readings')
  else if (one) hear([one], `${one.text} against the record`)
}
// A reading goes on round and round only while its doubt is looked at.
onBeforeUnmount(() => {
  if (transport.scope.kind === 'readings') transport.setScope({ kind: 'song' })
})
const sayWhy = (): void => whyField.value?.querySelector<HTMLElement>('input')?.focus()
function act(): void {
  store.notice = { text: 'A doubt is settled by taking one of its readings.', kind: 'refusal' }
}
defineExpose({ key, act, why: sayWhy })
</script>

<template>
  <article class="doubt" data-test="doubt">
    <v-textarea
      class="question"
      hide-details
      label="The question"
      rows="1"
      auto-grow
      maxlength="2000"
      :model-value="doubt.question"
      :readonly="Boolean(store.readOnly)"
      data-test="question"
      @change="change({ question: ($event.target as HTMLTextAreaElement).value.trim() })"
    />
    <p class="quiet">
      {{ item.where }}
      <span v-if="span" class="mono">{{ clock(span.start, 1) }}–{{ clock(span.end, 1) }}</span>
      <template v-if="part">&ensp;heard where {{ part.name }} sits</template>
    </p>
    <div class="columns">
      <section class="record">
        <header class="row">
          <ActButton data-test="hear-record" aria-label="Hear the record" @click="key(1)"
            ><kbd>1</kbd></ActButton
          >
          <h2 class="small-head">the record</h2>
        </header>
        <WhatSounds v-if="proof" :levels="proof.levels" />
        <p v-else-if="listening" class="quiet" role="status">listening…</p>
        <p v-else class="quiet">
          Nothing can be measured: the recording is not on this machine, or not laid out.
        </p>
      </section>
      <ReadingCard
        v-for="(reading, index) in doubt.readings"
        :key="reading.id"
        :reading="reading"
        :number="index + 2"
        :evidence="evidenceOf(reading)"
        :decided="doubt.decision === reading.id"
        :settled="settled"
        :listening="listening"
        @hear="key(index + 2)"
        @decide="decide(reading)"
        @remove="without(reading)"
      />
    </div>
    <ActButton v-if="doubt.readings.length === 2" class="both" data-test="hear-both" @click="key(4)">
      <kbd>4</kbd> both at once, left and right
    </ActButton>
    <DoubtElsewhere :place="doubt.place" />
    <NewReading v-if="!settled" :doubt="doubt" @add="change({ readings: [...doubt.readings, $event] })" />
    <div ref="whyField" class="row">
      <v-text-field
        v-if="!settled"
        v-model="why"
        label="Why"
        class="why"
        maxlength="2000"
        data-test="doubt-why"
        :disabled="Boolean(store.readOnly)"
      />
      <p v-else class="why"><b>Why:</b> {{ doubt.why || 'no reason given' }}</p>
      <ActButton v-if="settled" data-test="reopen" :disabled="Boolean(store.readOnly)" @click="reopen"
        >Open it again</ActButton
      >
    </div>
    <div class="row">
      <CheckField
        label="as a footnote on the sheet"
        :model-value="doubt.onSheet ?? false"
        :disabled="Boolean(store.readOnly)"
        data-test="doubt-on-sheet"
        @update:model-value="change({ onSheet: $event })"
      />
      <ActButton data-test="open-place" @click="prove.open(item)">Open its place</ActButton>
      <ActButton
        kind="link"
        :disabled="Boolean(store.readOnly)"
        data-test="remove-doubt"
        @click="store.run('removeDoubt', { doubtId: doubt.id })"
        >no doubt at all</ActButton
      >
    </div>
  </article>
</template>

<style scoped>
.doubt {
  display: grid;
  gap: 12px;
}
.question :deep(textarea) {
  font: 700 20px var(--face-heading);
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 18px;
}
.record {
  display: grid;
  gap: 6px;
  align-content: start;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.both {
  justify-self: start;
}
.why {
  flex: 1 1 320px;
  max-width: 620px;
}
</style>
