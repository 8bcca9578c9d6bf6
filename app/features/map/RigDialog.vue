<script setup lang="ts">
import type { MapWork } from './mapWork'

// What the part at the cursor is played through in the section at the cursor.
const props = defineProps<{ work: MapWork }>()
const open = defineModel<'passes' | 'rig'>()
const { section, part } = props.work
</script>

<template>
  <v-dialog
    :model-value="open === 'rig'"
    aria-label="The rig in this section"
    max-width="860"
    scrollable
    @update:model-value="open = undefined"
  >
    <v-card class="dialog" data-test="rig-dialog">
      <h2>Rig: {{ part?.name }} in {{ section?.name }}</h2>
      <RigEditor v-if="part && section" :part="part" :section-id="section.id" />
      <ActButton kind="main" class="close" @click="open = undefined">Close</ActButton>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 20px 24px;
  display: grid;
  gap: 14px;
}
.close {
  justify-self: start;
}
</style>
