<script setup lang="ts">
import { figureOfPass, figuresForPass } from '#core/document/pass-figures'
import { useSong } from '~/stores/song'
import type { MapWork } from './mapWork'

// What each pass of the placement at the cursor plays.
const props = defineProps<{ work: MapWork }>()
const open = defineModel<'passes' | 'rig'>()
const store = useSong()
const { section, part, placementHere } = props.work
const placement = computed(() => (placementHere.value?.kind === 'figure' ? placementHere.value : undefined))
const figures = computed(() =>
  store.song && placement.value
    ? figuresForPass(store.song, placement.value).map(({ id, name }) => ({ title: name, value: id }))
    : [],
)
</script>

<template>
  <v-dialog
    :model-value="open === 'passes'"
    aria-label="What each pass plays"
    max-width="440"
    @update:model-value="open = undefined"
  >
    <v-card class="dialog" data-test="pass-dialog">
      <h2>{{ part?.name }} in {{ section?.name }}</h2>
      <p v-if="!placement" class="quiet">There is no figure at the cursor: place one first.</p>
      <p v-else-if="figures.length < 2" class="quiet">
        No other figure of {{ part?.name }} is as long as this one: make a variation of it in Chart.
      </p>
      <template v-else>
        <SelectField
          v-for="pass in placement.passes"
          :key="pass"
          :label="`Pass ${pass}`"
          :items="figures"
          :model-value="figureOfPass(placement, pass)"
          :data-test="`pass-${pass}`"
          @update:model-value="work.setPass(pass, $event)"
        />
      </template>
      <ActButton kind="main" class="close" @click="open = undefined">Close</ActButton>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 20px 24px;
  display: grid;
  gap: 12px;
}
.close {
  justify-self: start;
}
</style>
