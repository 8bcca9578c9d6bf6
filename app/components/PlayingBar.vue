<script setup lang="ts">
import { mdiRewind, mdiSkipNext, mdiSkipPrevious } from '@mdi/js'
import { useSoundProblem, warmSound } from '~/composables/soundPort'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'
import { usePreferences } from '~/stores/preferences'
import { useEachFrame } from '~/composables/eachFrame'
import { useShortcuts } from '~/composables/shortcuts'
import { useLooping } from '~/stores/looping'
import { playingShortcuts } from './playingShortcuts'

const song = useSong()
const transport = useTransport()
const recording = useRecording()
const preferences = usePreferences()
const looping = useLooping()
/** Words are told anew so often, in milliseconds: faster nobody reads. */
const TOLD_EVERY = 90
let last = 0
useEachFrame((now) => {
  if (transport.playing && now - last < TOLD_EVERY) return
  last = now
  transport.describe()
  looping.watchPlace()
})
const cycleCountIn = (): void =>
  preferences.set('countInBars', ((preferences.values.countInBars + 1) % 3) as 0 | 1 | 2)
const figureName = computed(() =>
  transport.scope.kind === 'figure' ? song.song?.figures[transport.scope.figureId]?.name : undefined,
)
const soundProblem = useSoundProblem()
useShortcuts([
  ...playingShortcuts(),
  { keys: ['k'], label: 'Count-in: none, one bar, two', run: cycleCountIn, group: 'Playing' },
])
/** How loud each is, in percent: where both are full, the one that was louder is turned down to the other. */
const shares = computed(() => {
  const { balance } = transport
  const { record, chart } = transport.levels
  const share = (value: number, level: number): number => Math.round(100 * level * Math.min(1, 2 * value))
  return { record: share(1 - balance, record), chart: share(balance, chart) }
})
</script>

<template>
  <footer class="bar" aria-label="Playing">
    <div class="steps">
      <ActButton
        kind="plain"
        aria-label="Section before"
        title="Section before (Alt ↑)"
        @click="looping.toSection(-1)"
      >
        <v-icon :icon="mdiSkipPrevious" />
      </ActButton>
      <ActButton
        kind="plain"
        aria-label="The last two seconds again"
        title="The last two seconds again (Alt R)"
        data-test="again"
        @click="looping.again()"
      >
        <v-icon :icon="mdiRewind" />
      </ActButton>
    </div>
    <ActButton
      kind="plain"
      class="play"
      :aria-label="transport.playing ? 'Stop' : 'Play'"
      data-test="play"
      @click="transport.toggle()"
    >
      <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
        <rect v-if="transport.playing" x="6" y="6" width="12" height="12" fill="currentColor" />
        <path v-else d="M8 5v14l11-7z" fill="currentColor" />
      </svg>
    </ActButton>
    <ActButton
      kind="plain"
      class="next"
      aria-label="Next section"
      title="Next section (Alt ↓)"
      @click="looping.toSection(1)"
    >
      <v-icon :icon="mdiSkipNext" />
    </ActButton>
    <div class="where">
      <div class="place" data-test="place">{{ figureName ?? transport.words.place }}</div>
      <div class="mono quiet detail">{{ figureName ? 'looping alone' : transport.words.detail }}</div>
      <div v-if="soundProblem" class="attention" role="alert" data-test="sound-problem">
        {{ soundProblem }}
        <v-btn size="x-small" variant="outlined" @click="warmSound()">Try again</v-btn>
      </div>
    </div>
    <label class="block speed"
      ><span class="quiet">speed</span
      ><span class="row"
        ><input
          :value="Math.round(transport.speed * 100)"
          type="range"
          min="25"
          max="110"
          step="5"
          aria-label="Speed in percent"
          data-test="speed"
          @change="transport.setSpeed(Number(($event.target as HTMLInputElement).value) / 100)"
        /><b class="mono">{{ Math.round(transport.speed * 100) }} %</b></span
      ></label
    >
    <LoopMenu />
    <EarsMenu />
    <ClickMenu />
    <PartSwitches />
    <label class="balance"
      ><span class="side"
        >record<b class="mono">{{ shares.record }}</b></span
      ><input
        :value="Math.round(transport.balance * 100)"
        type="range"
        min="0"
        max="100"
        aria-label="Balance between record and chart"
        :aria-valuetext="`record ${shares.record} %, chart ${shares.chart} %`"
        data-test="balance"
        @input="transport.setBalance(Number(($event.target as HTMLInputElement).value) / 100)"
      /><span class="side"
        >chart<b class="mono">{{ shares.chart }}</b></span
      ></label
    >
    <div
      v-if="recording.state === 'loading' || recording.state === 'missing'"
      class="state"
      :class="recording.state === 'missing' ? 'attention' : 'quiet'"
      role="status"
    >
      {{ recording.state === 'loading' ? 'loading the recording…' : 'recording not on this machine' }}
    </div>
  </footer>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 9px 18px 9px 14px;
  background: var(--paper);
  border-top: 1px solid var(--rule);
  min-height: 66px;
  min-width: 0;
  max-width: 100vw;
  position: relative;
}
.play.v-btn {
  width: 46px;
  height: 46px;
  border-radius: 50%;
  border: 0;
  background: var(--action);
  color: rgb(var(--v-theme-on-primary));
  display: grid;
  place-items: center;
  cursor: pointer;
  flex: none;
}
.where {
  width: 250px;
  min-width: 130px;
  flex: 0 1 auto;
}
.place {
  font-weight: 700;
  font-size: 16px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.detail {
  font-size: 13.5px;
  white-space: nowrap;
}
.steps {
  display: flex;
  flex: none;
}
.steps .v-btn,
.next.v-btn {
  min-width: 30px;
  padding: 0 3px;
}
.side {
  display: grid;
  justify-items: center;
  line-height: 1.15;
}
.side b {
  font-size: 12.5px;
  font-weight: 400;
  color: var(--quiet);
  min-width: 3ch;
  text-align: center;
}
.block {
  display: flex;
  flex-direction: column;
  font-size: 13.5px;
  gap: 1px;
  white-space: nowrap;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
}
.strong.v-btn,
.speed b {
  font-size: 15px;
  font-weight: 700;
}
.strong:disabled {
  cursor: default;
}
.speed input {
  width: 92px;
}
.balance {
  display: flex;
  align-items: center;
  gap: 9px;
  font-size: 14px;
}
.balance input {
  width: 96px;
}
input[type='range'] {
  accent-color: var(--action);
  height: 24px;
}
.state {
  position: absolute;
  top: -24px;
  right: 18px;
  font-size: 13px;
  background: var(--paper);
  padding: 1px 8px;
  border: 1px solid var(--rule);
  border-radius: 3px;
}
@media (max-width: 1100px) {
  .bar {
    gap: 13px;
    padding-inline: 12px;
  }
  .speed input {
    width: 60px;
  }
  .balance input {
    width: 76px;
  }
  .where {
    width: 180px;
  }
}
@media (max-width: 900px) {
  .bar {
    flex-wrap: wrap;
    row-gap: 4px;
  }
}
</style>
