<script setup lang="ts">
import type { FingeredStep } from '#core/neck/grips/finger-progression'
import { fingeredGrip } from '#core/neck/grips/fingering'
import { handAdvice, type HandAdvice } from '#core/neck/hand-advice'
import type { Figure, Grip } from '#core/document/schema'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import type { Bench } from '../benchKeys'
import { placeWords } from './placeWords'

// The fretting hand: what to say to it about the line, and fingers chosen for each other.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const preferences = usePreferences()
const { content, part } = props.bench
const place = (at: number): string => placeWords(props.figure, at)
/** The same advice at several places is said once. */
const advice = computed(() => {
  const all = part.value ? handAdvice(content.value, part.value, preferences.hand) : []
  const said = new Map<string, HandAdvice[]>()
  for (const one of all) said.set(one.words, [...(said.get(one.words) ?? []), one])
  return [...said].map(([words, places]) => ({ words, places, kind: places[0]!.kind }))
})
const work = usePlayingWork()
const steps = shallowRef<(FingeredStep | undefined)[]>([])
const fingered = shallowRef<readonly Grip[]>()
const grips = computed(() => content.value.grips.map(({ grip }) => grip))
watch(
  [grips, part, () => preferences.hand],
  async () => {
    if (!part.value || grips.value.length < 2) return
    const asked = grips.value
    const found = await work.ask({
      want: 'fingers',
      grips: asked,
      part: part.value,
      hand: { ...preferences.hand },
    })
    if (!found.ok) return
    steps.value = found.value
    fingered.value = asked
  },
  { immediate: true },
)
/** The fingers are for the grips that are there now. */
const isFingered = computed(() => fingered.value === grips.value)
const reasons = computed(() =>
  content.value.grips.flatMap(({ id, startTicks }, index) => {
    const because = steps.value[index]?.because
    return because ? [{ id, startTicks, because }] : []
  }),
)
function finger(): void {
  props.bench.edit('fingers chosen for the next shapes', {
    ...content.value,
    grips: content.value.grips.map((span, index) => {
      const step = steps.value[index]
      return step ? { ...span, grip: fingeredGrip(span.grip, step.fingering) } : span
    }),
  })
}
const SHOWN = 8
</script>

<template>
  <section data-test="left-hand">
    <h2 class="small-head">Fretting hand</h2>
    <ul class="other">
      <li
        v-for="one in advice.slice(0, SHOWN)"
        :key="one.words"
        :class="{ attention: one.kind === 'stretch' }"
      >
        <template v-for="(at, index) in one.places" :key="at.noteId"
          >{{ index ? '; ' : ''
          }}<ActButton kind="link" @click="bench.go(bench.row.value, at.startTicks)">{{
            place(at.startTicks)
          }}</ActButton></template
        >{{ `: ${one.words}` }}
      </li>
    </ul>
    <p v-if="advice.length > SHOWN" class="other quiet">and {{ advice.length - SHOWN }} more places</p>
    <template v-if="content.grips.length > 1">
      <ul class="other">
        <li v-for="one in reasons.slice(0, SHOWN)" :key="one.id">
          <ActButton kind="link" @click="bench.go('grips', one.startTicks)">{{
            place(one.startTicks)
          }}</ActButton>{{ `: ${one.because}` }}
        </li>
      </ul>
      <ActButton class="small" data-test="finger-grips" :disabled="!isFingered" @click="finger">
        Finger the grips for each other
      </ActButton>
    </template>
    <p v-if="!advice.length && content.grips.length < 2" class="other quiet">
      Nothing to say to the fretting hand here.
    </p>
  </section>
</template>
