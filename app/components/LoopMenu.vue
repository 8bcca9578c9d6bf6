<script setup lang="ts">
import { clock } from '#core/time/beat-grid'
import { useLooping } from '~/stores/looping'
import { useTransport } from '~/stores/transport'

// What is gone over again, longer or shorter, and how fast it climbs.
const transport = useTransport()
const looping = useLooping()
const words = computed(() => {
  if (transport.scope.kind === 'figure') return 'the figure'
  if (!transport.loop) return 'off'
  return `${clock(transport.loop.startSeconds, 1)}–${clock(transport.loop.endSeconds, 1)}`
})
const takes = [
  { words: 'This bar', key: 'Alt B', run: looping.loopBar },
  { words: 'Two bars from here', key: 'Alt H', run: looping.loopHere },
  { words: 'This section', key: 'Alt S', run: looping.loopSection },
  { words: 'This figure’s place', key: 'Alt I', run: looping.loopFigure },
]
const changes = [
  { words: '− bar', label: 'A bar less', key: 'Alt [', run: () => looping.grow(-1) },
  { words: '+ bar', label: 'A bar more', key: 'Alt ]', run: () => looping.grow(1) },
  { words: '← length', label: 'Back by its own length', key: 'Alt ,', run: () => looping.shift(-1) },
  { words: 'length →', label: 'On by its own length', key: 'Alt .', run: () => looping.shift(1) },
]
const start = ref(60)
const goal = ref(100)
const rounds = ref(2)
const climb = (): void =>
  looping.climb({ start: start.value / 100, goal: goal.value / 100, step: 0.05, rounds: rounds.value })
const number = (event: Event): number => Number((event.target as HTMLInputElement).value)
const within = (value: number, least: number, most: number): number =>
  Math.max(least, Math.min(most, Number.isFinite(value) ? Math.round(value) : least))
</script>

<template>
  <BarMenu name="loop" :words="words" hint="What is looped" test="loop-menu" card-test="loop-card">
    <div class="takes">
      <ActButton v-for="take in takes" :key="take.words" @click="take.run">
        {{ take.words }} <kbd>{{ take.key }}</kbd>
      </ActButton>
    </div>
    <div class="changes">
      <ActButton
        v-for="change in changes"
        :key="change.words"
        :aria-label="change.label"
        :title="`${change.label} (${change.key})`"
        :disabled="!transport.loop"
        @click="change.run"
      >
        {{ change.words }}
      </ActButton>
      <ActButton
        :disabled="!transport.loop"
        title="Loop off (Alt L)"
        data-test="loop-off"
        @click="looping.off()"
      >
        Off
      </ActButton>
    </div>
    <fieldset>
      <legend>Climb in speed</legend>
      <label
        >from
        <input
          type="number"
          min="25"
          max="110"
          step="5"
          :value="start"
          @change="start = within(number($event), 25, 110)"
        />
        %</label
      >
      <label
        >to
        <input
          type="number"
          min="25"
          max="110"
          step="5"
          :value="goal"
          @change="goal = within(number($event), 25, 110)"
        />
        %</label
      >
      <label
        >5 % after
        <input
          type="number"
          min="1"
          max="20"
          :value="rounds"
          @change="rounds = within(number($event), 1, 20)"
        />
        rounds</label
      >
      <ActButton v-if="!looping.ladder" data-test="climb" @click="climb">Climb</ActButton>
      <ActButton v-else @click="looping.climb(undefined)">Stay at this speed</ActButton>
    </fieldset>
    <p v-if="looping.ladder" class="quiet" role="status">
      {{ looping.speeds.map((speed) => `${Math.round(speed * 100)}`).join(' · ') }} %: round
      {{ looping.round + 1 }}
    </p>
  </BarMenu>
</template>

<style scoped>
.takes {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
.changes {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
fieldset {
  border: 0;
  border-top: 1px solid var(--rule);
  padding: 8px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
legend {
  font-weight: 700;
  padding: 0 6px 0 0;
}
input {
  width: 58px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 3px 5px;
  background: var(--page);
  color: var(--ink);
}
</style>
