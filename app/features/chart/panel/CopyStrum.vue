<script setup lang="ts">
import { copyStrum } from '#core/document/copy-strum'
import { barTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import type { Bench } from '../benchKeys'

// The strum of the bar at the cursor given to other bars of the figure.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const { content, tick } = props.bench
const bar = computed(() => barTicks(props.figure.meter))
const from = computed(() => Math.floor(tick.value / bar.value))
const bars = computed(() => Math.ceil(props.figure.lengthTicks / bar.value))
const strokes = computed(
  () =>
    content.value.strokes.filter(({ startTicks }) => Math.floor(startTicks / bar.value) === from.value)
      .length,
)
const others = computed(() =>
  Array.from({ length: bars.value }, (_, index) => index).filter((index) => index !== from.value),
)
function copy(to: readonly number[]): void {
  const facts = { from: from.value, to, barTicks: bar.value, lengthTicks: props.figure.lengthTicks }
  const where = to.length > 1 ? 'every bar' : `bar ${(to[0] ?? 0) + 1}`
  props.bench.edit(`strum of bar ${from.value + 1} to ${where}`, copyStrum(content.value, facts, randomId))
}
const items = computed(() => others.value.map((index) => ({ title: `bar ${index + 1}`, value: index })))
</script>

<template>
  <section v-if="strokes && others.length" data-test="copy-strum">
    <h2 class="small-head">Strum of bar {{ from + 1 }}</h2>
    <p class="other row">
      <ActButton class="small" @click="copy(others)">to every bar</ActButton>
      <MenuButton label="to" :items="items" @choose="copy([$event])" />
    </p>
  </section>
</template>
