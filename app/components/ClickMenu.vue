<script setup lang="ts">
import { usePreferences } from '~/stores/preferences'
import { useTransport } from '~/stores/transport'

// Counting in, the click over the music, and how loud both are.
const preferences = usePreferences()
const transport = useTransport()
const COUNT_INS = [
  { title: 'none', value: 0 },
  { title: '1 bar', value: 1 },
  { title: '2 bars', value: 2 },
] as const
const words = computed(() => {
  const { countInBars, click } = preferences.values
  return `${COUNT_INS[countInBars].title}${click ? ' · click' : ''}`
})
function toggleClick(): void {
  preferences.set('click', !preferences.values.click)
  transport.replay()
}
</script>

<template>
  <BarMenu name="count-in" :words="words" hint="Count-in and click" test="click-menu">
    <div class="row" role="group" aria-label="Count-in">
      <span class="quiet">Count-in (K)</span>
      <ActButton
        v-for="{ title, value } in COUNT_INS"
        :key="value"
        :aria-pressed="preferences.values.countInBars === value"
        :class="{ on: preferences.values.countInBars === value }"
        @click="preferences.set('countInBars', value)"
      >
        {{ title }}
      </ActButton>
    </div>
    <div class="row">
      <ActButton
        :aria-pressed="preferences.values.click"
        :class="{ on: preferences.values.click }"
        @click="toggleClick"
      >
        Click on every beat <kbd>Alt C</kbd>
      </ActButton>
    </div>
    <label class="row"
      ><span class="quiet">Loudness</span
      ><input
        type="range"
        min="0"
        max="200"
        step="10"
        :value="preferences.values.clickLoudness"
        aria-label="Loudness of click and count-in in percent"
        @input="preferences.set('clickLoudness', Number(($event.target as HTMLInputElement).value))"
      /><b class="mono">{{ preferences.values.clickLoudness }} %</b></label
    >
  </BarMenu>
</template>

<style scoped>
input {
  accent-color: var(--action);
}
</style>
