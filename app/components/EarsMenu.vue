<script setup lang="ts">
import { DRUMS, PLACES, REGISTERS } from '#core/hear/ears/presets'
import { useEars } from '~/stores/ears'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'

// What of the recording is heard: a place, a register, without drums or drums only, or where a part sits.
const ears = useEars()
const store = useSong()
const recording = useRecording()
const ready = computed(() => recording.state === 'ready')
const sideOf = (pan: number): string => {
  if (Math.abs(pan) < 0.1) return 'middle'
  return pan < 0 ? 'left' : 'right'
}
const wordsFor = (value: string): string => ({ without: 'without drums', only: 'drums only' })[value] ?? value
const rows = [
  { kind: 'place', label: 'Place', values: PLACES },
  { kind: 'register', label: 'Register', values: REGISTERS },
  { kind: 'drums', label: 'Drums', values: DRUMS },
] as const
</script>

<template>
  <BarMenu
    name="ears"
    :words="ears.words"
    hint="What of the recording is heard"
    test="ears-menu"
    card-test="ears-card"
    :disabled="!ready"
  >
    <div v-for="row in rows" :key="row.kind" class="row" role="group" :aria-label="row.label">
      <span class="quiet">{{ row.label }}</span>
      <ActButton
        v-for="value in row.values"
        :key="value"
        :aria-pressed="ears.choice[row.kind] === value"
        :class="{ on: ears.choice[row.kind] === value }"
        @click="ears.toggle(row.kind, value as never)"
      >
        {{ wordsFor(value) }}
      </ActButton>
    </div>
    <div v-if="store.parts.length" class="row parts" role="group" aria-label="A part">
      <span class="quiet">A part</span>
      <ActButton
        v-for="part in store.parts"
        :key="part.id"
        :aria-pressed="ears.partId === part.id"
        :class="{ on: ears.partId === part.id }"
        @click="ears.hearPart(part.id)"
      >
        {{ part.name }}: {{ part.role === 'bass' ? 'low' : sideOf(part.pan) }}
      </ActButton>
    </div>
    <div class="row">
      <ActButton :disabled="!ears.active" @click="ears.choose({})"
        >Hear everything <kbd>Alt A</kbd></ActButton
      >
      <span v-if="ears.progress !== undefined" class="quiet" role="status">
        listening… {{ Math.round(ears.progress * 100) }} %
      </span>
    </div>
    <p class="quiet hint">
      The rest is turned down, not gone: what sounds in the same place at the same pitch stays. Start low with
      headphones.
    </p>
  </BarMenu>
</template>

<style scoped>
.hint {
  font-size: 13px;
  line-height: 1.3;
  white-space: normal;
}
</style>
