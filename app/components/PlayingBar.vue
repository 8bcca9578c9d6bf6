<script setup lang="ts">
import { useSoundProblem, warmSound } from '~/composables/soundPort'
import { clock } from '#core/time/beat-grid'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { usePreferences } from '~/stores/preferences'
import { useShortcuts } from '~/composables/shortcuts'

const song = useSong()
const transport = useTransport()
const preferences = usePreferences()
let frame = 0
let last = 0
const tick = (now: number): void => {
  if (now - last > 90) {
    last = now
    transport.describe()
  }
  frame = requestAnimationFrame(tick)
}
onMounted(() => {
  frame = requestAnimationFrame(tick)
})
onBeforeUnmount(() => cancelAnimationFrame(frame))
const cycleCountIn = (): void =>
  preferences.set('countInBars', ((preferences.values.countInBars + 1) % 3) as 0 | 1 | 2)
const loopWords = computed(() => {
  if (transport.scope.kind === 'figure') return 'the figure'
  if (!transport.loop) return 'off'
  return `${clock(transport.loop.startSeconds, 1)}–${clock(transport.loop.endSeconds, 1)}`
})
const figureName = computed(() =>
  transport.scope.kind === 'figure' ? song.song?.figures[transport.scope.figureId]?.name : undefined,
)
const soundProblem = useSoundProblem()
useShortcuts([
  { keys: ['Space'], label: 'Play or stop', run: () => transport.toggle(), group: 'Playing' },
  {
    keys: ['-'],
    label: 'Slower by 5 %',
    run: () => transport.setSpeed(transport.speed - 0.05),
    group: 'Playing',
  },
  {
    keys: ['=', '+'],
    label: 'Faster by 5 %',
    run: () => transport.setSpeed(transport.speed + 0.05),
    group: 'Playing',
  },
  { keys: ['0', 'Alt+0'], label: 'Full speed', run: () => transport.setSpeed(1), group: 'Playing' },
  { keys: ['l', 'Alt+l'], label: 'Loop off', run: () => transport.setLoop(undefined), group: 'Playing' },
  { keys: ['k'], label: 'Count-in: none, one bar, two', run: cycleCountIn, group: 'Playing' },
  {
    keys: ['9', 'Alt+9'],
    label: 'Balance towards the record',
    run: () => transport.setBalance(transport.balance - 0.1),
    group: 'Playing',
  },
  {
    keys: ['8', 'Alt+8'],
    label: 'Balance towards the chart',
    run: () => transport.setBalance(transport.balance + 0.1),
    group: 'Playing',
  },
])
</script>

<template>
  <footer class="bar" aria-label="Playing">
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
    <div class="block">
      <span class="quiet">loop</span
      ><ActButton
        kind="plain"
        class="mono strong"
        :disabled="!transport.loop"
        :title="transport.loop ? 'Loop off (L)' : 'Drag over bars in Listen to loop them'"
        @click="transport.setLoop(undefined)"
      >
        {{ loopWords }}
      </ActButton>
    </div>
    <div class="block">
      <span class="quiet">count-in</span
      ><ActButton
        kind="plain"
        class="mono strong"
        title="Count-in: none, one bar, two (K)"
        @click="cycleCountIn"
      >
        {{ ['none', '1 bar', '2 bars'][preferences.values.countInBars] }}
      </ActButton>
    </div>
    <PartSwitches />
    <label class="balance"
      ><span>record</span
      ><input
        :value="Math.round(transport.balance * 100)"
        type="range"
        min="0"
        max="100"
        aria-label="Balance between record and chart"
        data-test="balance"
        @input="transport.setBalance(Number(($event.target as HTMLInputElement).value) / 100)"
      /><span>chart</span></label
    >
    <div
      v-if="transport.recordingState === 'loading' || transport.recordingState === 'missing'"
      class="state"
      :class="transport.recordingState === 'missing' ? 'attention' : 'quiet'"
      role="status"
    >
      {{
        transport.recordingState === 'loading' ? 'loading the recording…' : 'recording not on this machine'
      }}
    </div>
  </footer>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 22px;
  padding: 9px 20px 9px 24px;
  background: var(--paper);
  border-top: 1px solid var(--rule);
  min-height: 66px;
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
  width: 270px;
  min-width: 150px;
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
  width: 120px;
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
