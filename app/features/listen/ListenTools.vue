<script setup lang="ts">
import { counted } from '#core/words/words'
import { allBars } from '#core/document/form'
import { isSteady, medianTempo } from '#core/time/beat-grid'
import { meterName } from '#core/time/meter'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'
import type { ListenWork } from './listenWork'

// Listening itself, and the corrections used most.
defineProps<{ work: ListenWork; beats: BeatWork; hearAgain: () => Promise<void>; laidOut: boolean }>()
const store = useSong()
const transport = useTransport()
const recording = useRecording()
const hearing = useHearing()
const ready = computed(() => recording.state === 'ready' && !store.readOnly)
/** Sections that begin before their first bar. */
const ledIn = computed(() => store.sections.filter((section) => section.pickupTicks > 0).length)
const facts = computed(() => {
  if (!store.song || !store.source?.grid) return ''
  const bars = allBars(store.song)
  const tempo = medianTempo(bars, store.source.grid)
  if (!tempo) return ''
  const steadiness = isSteady(bars, store.source.grid) ? 'to a steady click' : 'drifts with the band'
  const { ratio } = store.song.feel.swing
  const feel = ratio === 0.5 ? 'straight' : `swung ${Math.round(ratio * 100)} %`
  return `♩ = ${tempo.toFixed(1)}, ${steadiness} · ${meterName(store.song.meter)} · ${feel}`
})
</script>

<template>
  <div class="tools">
    <template v-if="hearing.progress">
      <v-progress-linear
        class="progress"
        :model-value="hearing.progress.fraction * 100"
        color="primary"
        aria-label="Listening"
      />
      <span role="status">{{ hearing.progress.words }}…</span>
      <ActButton @click="hearing.cancel()">Stop</ActButton>
    </template>
    <template v-else>
      <ActButton
        v-if="!hearing.analysis"
        kind="main"
        data-test="listen"
        :disabled="!ready"
        @click="hearing.listen()"
      >
        Listen
      </ActButton>
      <ActButton
        v-else
        data-test="hear-again"
        title="G: on the beats and sections as they are now"
        :disabled="!ready"
        @click="hearAgain()"
      >
        Hear again
      </ActButton>
      <template v-if="laidOut && store.onMainSource">
        <ActButton title="1: this beat is the one" @click="work.theOne(false)">This is the one</ActButton>
        <ActButton @click="work.halve">Halve</ActButton>
        <ActButton @click="work.double">Double</ActButton>
        <ActButton :disabled="!transport.loop" title="The looped span has no pulse (F)" @click="work.free">
          Free time
        </ActButton>
        <ActButton
          title="S: at the bar under the pointer or the playhead"
          data-test="mark-section"
          @click="work.markSection"
        >
          Section starts here
        </ActButton>
      </template>
      <ActButton
        v-if="ledIn"
        title="After the one was shifted: sections begin with their first bar"
        data-test="start-on-ones"
        @click="work.startOnOnes"
      >
        Start {{ counted(ledIn, 'section') }} on the one
      </ActButton>
      <ActButton v-if="transport.playing" @click="beats.tap()">Tap (T)</ActButton>
      <ActButton v-if="beats.taps.value.length" kind="main" @click="beats.keepTaps()">
        Keep {{ beats.taps.value.length }} taps
      </ActButton>
      <span class="facts quiet">{{ facts }}</span>
    </template>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  flex-wrap: wrap;
  position: sticky;
  top: 0;
  background: var(--page);
  z-index: 4;
  padding-block: 4px;
}
.progress {
  max-width: 260px;
}
.facts {
  margin-left: auto;
  font-size: 14.5px;
}
</style>
