<script setup lang="ts">
import { counted } from '#core/words/words'
import { useShortcuts } from '~/composables/shortcuts'
import { useTeach } from './useTeach'

// What first, in which steps, how fast: the curve and the orders on the left, the plan on the right.
const teach = useTeach()
const { store, steps, minutes, chosen, plan, due, knownSections, transport } = teach
const detail = ref<{ practise: () => void; round: (clean: boolean) => void; stop: () => void }>()
const ORDER_WORDS = [
  { title: 'most used first', value: 'used', test: 'order-used' },
  { title: 'song order', value: 'song', test: 'order-song' },
  { title: 'rhythm before lead', value: 'rhythm', test: 'order-rhythm' },
  { title: 'easiest first', value: 'easy', test: 'order-easy' },
] as const
const order = computed(() => (typeof plan.value.order === 'string' ? plan.value.order : undefined))
const parts = computed(() => store.parts.map(({ id, name }) => ({ title: name, value: id })))
const lessons = computed(() => {
  const count = Math.max(1, Math.ceil(minutes.value / 45))
  return `${steps.value.length} steps, about ${counted(count, 'lesson')} of 45 minutes`
})
const dueWords = (inDays: number): string => {
  if (inDays <= 0)
    return inDays === 0 ? 'today' : 'since ' + (inDays === -1 ? 'yesterday' : `${-inDays} days`)
  return inDays === 1 ? 'tomorrow' : `in ${inDays} days`
}
const isSoFar = computed(() => transport.playing && transport.scope.kind === 'so far')
const stand = (): void => void navigateTo(`/song/${store.song?.id}/stand?part=${teach.partId.value}`)
useShortcuts([
  { keys: ['ArrowUp'], label: 'The step before', run: () => teach.step(-1) },
  { keys: ['ArrowDown'], label: 'The next step', run: () => teach.step(1) },
  {
    keys: ['Alt+ArrowUp'],
    label: 'Teach this step earlier',
    run: () => chosen.value && teach.move(chosen.value.figureId, -1),
  },
  {
    keys: ['Alt+ArrowDown'],
    label: 'Teach this step later',
    run: () => chosen.value && teach.move(chosen.value.figureId, 1),
  },
  { keys: ['p'], label: 'Practise this step, or stop', run: () => detail.value?.practise() },
  { keys: ['1'], label: 'That round was clean', run: () => detail.value?.round(true) },
  { keys: ['2'], label: 'That round was not clean', run: () => detail.value?.round(false) },
  { keys: ['s'], label: 'Hear everything learned so far', run: teach.hearSoFar },
  { keys: ['v'], label: 'The stand view', run: stand },
])
</script>

<template>
  <div v-if="store.song" class="teach">
    <section class="left">
      <StudentBar :teach="teach" />
      <SelectField
        :model-value="teach.partId.value"
        label="What is learned"
        :items="parts"
        data-test="teach-part"
        @update:model-value="teach.choosePart($event)"
      />
      <template v-if="steps.length">
        <h2 id="curve">What opens how much</h2>
        <CoverageChart :curve="teach.curve.value" :song-curve="teach.songCurve.value" :steps="steps" />
        <ToggleRow
          label="In which order"
          :items="ORDER_WORDS"
          :model-value="order"
          @update:model-value="teach.setOrder($event)"
        />
        <p v-if="!order" class="quiet">The order is your own. Choose another to leave it.</p>
        <section class="so-far">
          <h2>So far</h2>
          <p>
            {{ knownSections.length ? knownSections.join(', ') : 'no whole section yet' }}
          </p>
          <ActButton data-test="so-far" @click="teach.hearSoFar()"
            ><kbd>S</kbd> {{ isSoFar ? 'stop' : 'hear it all together' }}</ActButton
          >
        </section>
        <section v-if="due.length" data-test="due">
          <h2>Due again</h2>
          <ul class="due">
            <li v-for="one in due" :key="one.figureId">
              <ActButton kind="link" @click="teach.choose(one.figureId)">{{
                store.song.figures[one.figureId]?.name
              }}</ActButton>
              <span class="quiet">{{ one.last.reached }} of {{ one.last.goal }}</span>
              <b>{{ dueWords(one.inDays) }}</b>
            </li>
          </ul>
        </section>
        <DifficultyChart :teach="teach" />
        <LogChart :teach="teach" />
      </template>
    </section>
    <section class="right" aria-labelledby="the-plan">
      <header class="head">
        <h1 id="the-plan">The plan</h1>
        <span class="quiet" data-test="plan-sum">{{ lessons }}</span>
        <span class="grow" />
        <ActButton data-test="to-stand" @click="stand"><kbd>V</kbd> stand view</ActButton>
      </header>
      <p v-if="!steps.length" class="quiet">
        Nothing of this part is charted yet. Chart its figures and place them on the map; the plan follows.
      </p>
      <PlanList :teach="teach">
        <template #chosen="{ step }">
          <StepDetail :key="step.figureId" ref="detail" :teach="teach" :step="step" />
        </template>
      </PlanList>
    </section>
  </div>
</template>

<style scoped>
.teach {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(380px, 1.1fr);
  gap: 0 36px;
  padding: 18px 24px 28px 20px;
  align-items: start;
}
.left {
  display: grid;
  gap: 14px;
}
h2 {
  font-size: 17px;
}
.so-far {
  display: grid;
  justify-items: start;
  gap: 4px;
  border-top: 1px solid var(--rule);
  padding-top: 10px;
}
.due {
  list-style: none;
  margin: 0;
  padding: 0;
}
.due li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
.due b {
  margin-left: auto;
}
.head {
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 6px 14px;
}
.head h1 {
  font-size: 22px;
}
.grow {
  flex: 1;
}
@media (max-width: 980px) {
  .teach {
    grid-template-columns: minmax(0, 1fr);
    gap: 24px;
  }
  .right {
    order: -1;
  }
}
</style>
