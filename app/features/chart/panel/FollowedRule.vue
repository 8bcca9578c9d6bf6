<script setup lang="ts">
import { z } from 'zod'
import { intervalWords as semitoneWords } from '#core/music/interval-words'
import type { Figure, LineDerivation, NeckWish } from '#core/document/schema'
import { plain } from '#platform/plain'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { intervalWords } from './intervals'
import { placeWords } from './placeWords'

// A line that follows another: its rule, where on the neck it is wanted, and the notes that leave the rule,
// typed at the note.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const store = useSong()
const { part, content, tick } = props.bench
/** The note at the cursor, on whatever string the cursor is. */
const note = computed(
  () => props.bench.note.value ?? content.value.notes.find(({ startTicks }) => startTicks === tick.value),
)
const rule = computed(() => props.figure.derivedFrom!)
const semitonesSchema = z.int().min(-24).max(24)
const place = (at: number): string => placeWords(props.figure, at)

function setRule(what: string, set: Partial<LineDerivation>): void {
  store.run('changeFigure', {
    figureId: props.figure.id,
    what,
    set: { derivedFrom: { ...plain(rule.value), ...set } },
  })
}
const others = (startTicks: number): LineDerivation['exceptions'] =>
  rule.value.exceptions.filter((one) => one.startTicks !== startTicks)
function except(startTicks: number, semitones: number): void {
  const exception = { startTicks, semitones, why: 'as he plays it' }
  setRule(`an exception at ${place(startTicks)}`, {
    exceptions: [...others(startTicks), exception].sort((a, b) => a.startTicks - b.startTicks),
  })
}
const exceptionHere = computed(() =>
  rule.value.exceptions.find(({ startTicks }) => startTicks === note.value?.startTicks),
)
</script>

<template>
  <section data-test="followed-rule">
    <p class="other quiet">
      {{ intervalWords(rule.interval) }}, {{ rule.kind === 'diatonic' ? 'in the key' : 'parallel' }}
    </p>
    <NeckWishFields
      v-if="part"
      :model-value="rule.where ?? {}"
      :part="part"
      @update:model-value="(where: NeckWish) => setRule('where on the neck', { where: plain(where) })"
    />
    <NumberField
      v-if="note"
      class="here"
      :label="`Half steps from the first line at ${place(note.startTicks)}`"
      :schema="semitonesSchema"
      :model-value="exceptionHere?.semitones ?? 0"
      data-test="exception-here"
      @take="except(note.startTicks, $event)"
    />
    <ul class="other">
      <li v-for="one in rule.exceptions" :key="one.startTicks">
        {{ place(one.startTicks) }}: {{ semitoneWords(one.semitones) }}
        <span class="quiet">{{ one.why }}</span>
        <ActButton
          class="small"
          @click="
            setRule(`by the rule at ${place(one.startTicks)}`, { exceptions: plain(others(one.startTicks)) })
          "
        >
          by the rule
        </ActButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.here {
  margin-top: 10px;
}
</style>
