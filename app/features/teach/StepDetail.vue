<script setup lang="ts">
import { figureContent } from '#core/document/figure-content'
import type { PlanStep } from '#core/teach/plan'
import { stepTicks } from '#core/time/meter'
import { sayFigure } from '~/session/say-figure'
import { usePreferences } from '~/stores/preferences'
import { useTrainer, type With } from './useTrainer'
import type { Teach } from './useTeach'

// One step: why here, what to say, what to take care of, and the ladder to practise it on.
const props = defineProps<{ teach: Teach; step: PlanStep }>()
const { store, transport } = props.teach
const preferences = usePreferences()
const trainer = useTrainer(props.teach, () => props.step)
const { ladder, climb, rounds, going, minutes, restDue, tempo, shown, playWith } = trainer
const figure = computed(() => store.song?.figures[props.step.figureId])
const said = computed(() => {
  const part = store.song?.parts[figure.value?.partId ?? '']
  if (!store.song || !figure.value || !part) return []
  const content = figureContent(store.song, figure.value, props.step.form)
  const { meter, feel } = figure.value
  const step = stepTicks(meter, feel.subdivision)
  return sayFigure(
    store.song,
    { figure: figure.value, part, content, stepTicks: step },
    preferences.values,
  ).map(({ text }) => text)
})
const voice = 'speechSynthesis' in globalThis
function aloud(): void {
  speechSynthesis.cancel()
  for (const text of said.value) speechSynthesis.speak(new SpeechSynthesisUtterance(text))
}
onBeforeUnmount(() => voice && speechSynthesis.cancel())
const WITH: { title: string; value: With; test: string }[] = [
  { title: 'with the chart', value: 'chart', test: 'with-chart' },
  { title: 'band without this part', value: 'band', test: 'with-band' },
]
const practise = (): void => (going.value ? trainer.finish() : trainer.start())
const shownWords = computed(() => {
  const good = shown.value.filter(({ clean }) => clean).length
  const last = shown.value.at(-1)
  return (
    last &&
    `The simulated student played ${shown.value.length} rounds, ${good} clean, the last at ${last.tempo}.`
  )
})
function hear(): void {
  if (transport.playing) trainer.quiet()
  else trainer.hear()
}
defineExpose({ practise, round: trainer.round, stop: trainer.finish })
</script>

<template>
  <div class="detail" data-test="step">
    <p>{{ step.reason }}.</p>
    <p v-if="step.difficulty.reasons.length" class="quiet">
      {{ step.difficulty.points.toFixed(1) }} of 10:
      {{ step.difficulty.reasons.map(({ words }) => words).join('; ') }}.
    </p>
    <p v-for="words in step.cautions" :key="words" class="caution" role="note">{{ words }}</p>
    <details v-if="said.length" open>
      <summary>Say</summary>
      <p v-for="(words, index) in said" :key="index" class="say">“{{ words }}”</p>
    </details>
    <div class="row">
      <ActButton kind="main" data-test="practise" @click="practise">
        {{ going ? 'Finish' : 'Practise' }}
      </ActButton>
      <ActButton data-test="hear-step" @click="hear">{{ transport.playing ? 'stop' : 'hear' }}</ActButton>
      <ActButton v-if="voice && said.length" data-test="aloud" @click="aloud">read aloud</ActButton>
      <ActButton v-if="!going" data-test="simulate" @click="trainer.simulate()">simulated student</ActButton>
    </div>
    <ToggleRow
      label="Played with"
      :items="WITH"
      :model-value="playWith"
      @update:model-value="playWith = $event"
    />
    <ToggleRow
      v-if="figure?.eased"
      label="Form"
      :items="[
        { title: 'exact', value: 'exact' },
        { title: 'eased', value: 'eased' },
      ]"
      :model-value="step.form"
      @update:model-value="teach.setForm(step.figureId, $event as 'exact' | 'eased')"
    />
    <ol class="ladder mono" aria-label="Tempos, slowest first" data-test="ladder">
      <li
        v-for="(rung, index) in ladder.rungs"
        :key="rung"
        :class="{ done: index < climb.rung || climb.done, here: index === climb.rung }"
        :aria-current="index === climb.rung ? 'step' : undefined"
      >
        {{ rung }}
      </li>
    </ol>
    <p class="quiet" role="status" data-test="trained">
      <template v-if="going">
        at <b class="mono">{{ tempo }}</b>: {{ climb.clean }} of {{ ladder.clean }} clean in a row,
        {{ rounds.clean }} of {{ rounds.all }} rounds clean, {{ Math.floor(minutes) }} minutes
      </template>
      <template v-else>up after {{ ladder.clean }} clean rounds, down after two that were not</template>
    </p>
    <div v-if="going" class="row">
      <ActButton data-test="clean" @click="trainer.round(true)"><kbd>1</kbd> clean</ActButton>
      <ActButton data-test="missed" @click="trainer.round(false)"><kbd>2</kbd> not clean</ActButton>
    </div>
    <p v-if="restDue" class="caution" role="alert">
      Rest a minute: let the arms hang, shake the hands out. Stop at pain, and ask a qualified person if it
      stays.
    </p>
    <p v-if="shownWords" role="status" data-test="simulated">{{ shownWords }}</p>
  </div>
</template>

<style scoped>
.detail {
  display: grid;
  gap: 8px;
  margin: 6px 0 4px 32px;
  font-size: 15px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.say {
  line-height: 1.45;
}
.caution {
  color: var(--attention);
}
.ladder {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.ladder li {
  padding: 2px 4px;
  border-bottom: 3px solid transparent;
}
.ladder .done {
  border-bottom: 3px double var(--action);
}
.ladder .here {
  font-weight: 700;
  border-bottom: 3px solid var(--action);
}
</style>
