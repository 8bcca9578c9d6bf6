<script setup lang="ts">
import { clock } from '#core/time/beat-grid'
import { useSong } from '~/stores/song'
import type { ChordWork } from './chordWork'

// The chosen chord: its rivals, its name, its ends.
const props = defineProps<{ work: ChordWork }>()
const store = useSong()
const { drawn, suggested, span, rivals } = props.work
const HEAR = ['Q', 'W', 'R']
const input = ref<HTMLInputElement>()
const shown = computed(() => store.showSymbol(drawn.value?.chord.symbol ?? ''))
function take(event: Event): void {
  const field = event.target as HTMLInputElement
  if (field.value.trim() === shown.value) return
  if (!props.work.nameTyped(field.value)) field.value = shown.value
}
defineExpose({ focus: () => input.value?.select() })
</script>

<template>
  <section v-if="drawn && span" class="chord" aria-label="The chosen chord" data-test="chord-in-hand">
    <div class="head">
      <input
        ref="input"
        class="name"
        :value="shown"
        maxlength="24"
        aria-label="Name of the chord"
        data-test="chord-name"
        spellcheck="false"
        @change="take"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
      />
      <span class="quiet small">{{ suggested ? 'only heard' : 'set' }}</span>
    </div>
    <p class="quiet mono small">{{ clock(span.from, 1) }}–{{ clock(span.to, 1) }}</p>
    <ul v-if="rivals.length" class="rivals" aria-label="What it may be">
      <li v-for="(rival, rank) in rivals" :key="rival.symbol">
        <ActButton :title="`Hear it against the record (${HEAR[rank]})`" @click="work.hearRival(rank)">
          Hear <kbd>{{ HEAR[rank] }}</kbd>
        </ActButton>
        <b>{{ store.showSymbol(rival.symbol) }}</b>
        <span class="mono quiet">{{ Math.round(rival.share * 100) }} %</span>
        <ActButton
          :title="`Take it (Shift ${HEAR[rank]})`"
          :data-test="`take-rival-${rank}`"
          @click="work.takeRival(rank)"
        >
          Take
        </ActButton>
      </li>
    </ul>
    <div class="acts">
      <ActButton title="Half a beat earlier (Alt ←)" @click="work.move(-1)">← earlier</ActButton>
      <ActButton title="Half a beat later (Alt →)" @click="work.move(1)">later →</ActButton>
      <ActButton title="Ends half a beat earlier (Alt Shift ←)" @click="work.stretchEnd(-1)"
        >shorter</ActButton
      >
      <ActButton title="Ends half a beat later (Alt Shift →)" @click="work.stretchEnd(1)">longer</ActButton>
      <ActButton title="Two of it (/)" @click="work.divide">Divide</ActButton>
      <ActButton title="The chord before it sounds on (X)" @click="work.remove">Remove</ActButton>
      <ActButton title="The chords of this section to all that returns it (Y)" @click="work.copyToReturns">
        To the returns
      </ActButton>
    </div>
  </section>
</template>

<style scoped>
.chord {
  display: grid;
  gap: 7px;
  border: 1.5px solid var(--action);
  border-radius: 4px;
  padding: 10px 11px;
}
.head {
  display: flex;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
}
.name {
  font: 700 20px var(--face-text);
  width: 7.5em;
  border: 0;
  border-bottom: 1.5px solid var(--rule);
  background: none;
  color: inherit;
}
.small {
  font-size: 13px;
  white-space: nowrap;
}
.rivals {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 4px;
}
.rivals li {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  gap: 8px;
  align-items: center;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
</style>
