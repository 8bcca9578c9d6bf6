<script setup lang="ts">
import type { MapWork } from './mapWork'

// What can be done to the cell at the cursor.
const props = defineProps<{ work: MapWork }>()
const emit = defineEmits<{ passes: []; rig: [] }>()
const { section, part, placementHere } = props.work
</script>

<template>
  <div class="tools">
    <b class="here">{{ section?.name }} · {{ part?.name }}</b>
    <ActButton data-test="place" @click="work.pick">Place a figure <kbd>P</kbd></ActButton>
    <ActButton once data-test="new-figure" @click="work.newFigure">New figure <kbd>N</kbd></ActButton>
    <ActButton data-test="rests" @click="work.rests">Rests <kbd>R</kbd></ActButton>
    <template v-if="placementHere?.kind === 'figure'">
      <span class="quiet">passes</span>
      <ActButton aria-label="One pass less" @click="work.passes(-1)">−</ActButton>
      <b class="mono">{{ placementHere.passes }}</b>
      <ActButton aria-label="One pass more" @click="work.passes(1)">+</ActButton>
      <span class="quiet">frets</span>
      <ActButton aria-label="One fret lower" @click="work.shiftFrets(-1)">−</ActButton>
      <b class="mono">{{ placementHere.shiftFrets > 0 ? '+' : '' }}{{ placementHere.shiftFrets }}</b>
      <ActButton aria-label="One fret higher" @click="work.shiftFrets(1)">+</ActButton>
    </template>
    <ActButton
      v-if="placementHere?.kind === 'figure' && placementHere.passes > 1"
      data-test="passes"
      @click="emit('passes')"
    >
      A pass differs <kbd>S</kbd>
    </ActButton>
    <ActButton data-test="rig-here" @click="emit('rig')">Rig here <kbd>E</kbd></ActButton>
    <ActButton v-if="placementHere" @click="work.remove">Remove</ActButton>
    <ActButton title="The whole row to every section that returns it (W)" @click="work.copyToReturns">
      Copy row to returns
    </ActButton>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 44px;
  flex-wrap: wrap;
  position: sticky;
  top: 0;
  background: var(--page);
  z-index: 3;
  padding-block: 4px;
  font-size: 14px;
}
.here {
  margin-right: 8px;
}
</style>
