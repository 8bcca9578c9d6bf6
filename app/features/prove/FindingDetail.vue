<script setup lang="ts">
import { clock } from '#core/time/beat-grid'
import type { ProveItem } from '#core/doubts/prove-list'
import { randomId } from '#platform/files'
import { placeWords } from '#core/check/finding'
import type { Prove } from './useProve'
import { useHearPlace } from './hearPlace'

// One finding: where it is, how it sounds there, what would mend it, or why it is wanted.
const props = defineProps<{ item: Extract<ProveItem, { kind: 'finding' }>; prove: Prove }>()
const { store } = props.prove
const { hearRecord, hearChart } = useHearPlace()
const why = ref('')
const whyField = ref<HTMLElement>()
const finding = computed(() => props.item.finding)
const where = computed(() => (store.song ? placeWords(store.song, finding.value.place) : ''))
const SEVERITY = {
  wrong: 'This cannot be so.',
  missing: 'This is not done yet.',
  look: 'This may be wanted: look at it.',
}
function mend(): void {
  const { fix } = finding.value
  if (fix) store.run(fix.name, fix.args)
  else store.notice = { text: 'Nothing mends this by itself: open its place with Enter.', kind: 'refusal' }
}
function excuse(): void {
  const text = why.value.trim()
  if (!text) {
    sayWhy()
    return
  }
  store.run('excuseFinding', { excuse: { id: randomId(), finding: finding.value.id, why: text } })
}
function takeUp(): void {
  const row = Object.values(store.song?.excuses ?? {}).find((one) => one.finding === finding.value.id)
  if (row) store.run('withdrawExcuse', { excuseId: row.id })
}
const sayWhy = (): void => whyField.value?.querySelector<HTMLElement>('input,textarea')?.focus()
function key(number: number): void {
  if (props.item.seconds === undefined) return
  if (number === 1) hearRecord(props.item.seconds)
  if (number === 2) hearChart(props.item.seconds)
}
defineExpose({ key, act: mend, why: sayWhy })
</script>

<template>
  <article class="finding" data-test="finding">
    <h2>{{ finding.kind }}</h2>
    <p class="where quiet">
      {{ where }}
      <span v-if="item.seconds !== undefined" class="mono">{{ clock(item.seconds, 1) }}</span>
    </p>
    <p class="words">{{ finding.words }}</p>
    <p class="quiet">
      {{ finding.excused === undefined ? SEVERITY[finding.severity] : `Excused: ${finding.excused}` }}
    </p>
    <div class="row">
      <ActButton kind="main" data-test="open-place" @click="prove.open(item)">Open its place</ActButton>
      <ActButton v-if="finding.fix" data-test="mend" :disabled="Boolean(store.readOnly)" @click="mend">
        {{ finding.fix.words }} <kbd>f</kbd>
      </ActButton>
      <template v-if="item.seconds !== undefined">
        <ActButton data-test="hear-record" @click="key(1)"><kbd>1</kbd> the record</ActButton>
        <ActButton data-test="hear-chart" @click="key(2)"><kbd>2</kbd> the chart</ActButton>
      </template>
    </div>
    <form v-if="finding.excused === undefined" class="row why" @submit.prevent="excuse">
      <div ref="whyField" class="field">
        <v-text-field
          v-model="why"
          label="It is wanted so, because"
          maxlength="2000"
          :disabled="Boolean(store.readOnly)"
          data-test="why"
        />
      </div>
      <ActButton type="submit" data-test="excuse" :disabled="!why.trim() || Boolean(store.readOnly)"
        >Excuse it</ActButton
      >
    </form>
    <ActButton v-else data-test="take-up" :disabled="Boolean(store.readOnly)" @click="takeUp">
      Take it up again
    </ActButton>
  </article>
</template>

<style scoped>
.finding {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.words {
  font-size: 18px;
  line-height: 1.4;
  max-width: 62ch;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.why {
  width: 100%;
}
.field {
  flex: 1 1 320px;
  max-width: 560px;
}
</style>
