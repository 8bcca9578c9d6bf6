<script setup lang="ts">
import { barTicks, meterName } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import type { MapWork } from './mapWork'

// Which figure goes into the cell at the cursor.
const props = defineProps<{ work: MapWork }>()
const { section, part, picking, figuresHere } = props.work
const lengthWords = (figure: Figure): string =>
  `${Math.round((10 * figure.lengthTicks) / barTicks(figure.meter)) / 10} bars of ${meterName(figure.meter)}`
</script>

<template>
  <v-dialog v-model="picking" aria-label="Place a figure" max-width="440">
    <v-card class="dialog">
      <h2>{{ part?.name }} in {{ section?.name }}</h2>
      <p v-if="figuresHere.length === 0" class="quiet">{{ part?.name }} has no figures yet.</p>
      <div class="pick">
        <ActButton v-for="figure in figuresHere" :key="figure.id" class="wide" @click="work.place(figure.id)">
          <b>{{ figure.name }}</b> <span class="quiet">{{ lengthWords(figure) }}</span>
        </ActButton>
      </div>
      <div class="acts">
        <ActButton kind="main" @click="work.newFigure">New figure</ActButton>
        <ActButton @click="work.rests">Rests</ActButton>
        <ActButton @click="picking = false">Cancel</ActButton>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 20px 24px;
  display: grid;
  gap: 12px;
}
.pick {
  display: grid;
  gap: 5px;
  max-height: 50vh;
  overflow: auto;
}
.wide {
  justify-content: start;
  padding: 7px 10px;
}
.acts {
  display: flex;
  gap: 10px;
  align-items: center;
}
</style>
