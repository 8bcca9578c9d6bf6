<script setup lang="ts">
import { turnedTo, upstrokesOnUpper, wrongPicks, wrongWays } from '#core/neck/strokes'
import { gripAt } from '#core/document/figure-edit'
import { patternPeriod, patternStrokes, soundingStrings } from '#core/document/pattern'
import { PICK_SCHOOLS, type Figure, type PickSchool } from '#core/document/schema'
import { barTicks } from '#core/time/meter'
import { randomId } from '#platform/files'
import type { Bench } from '~/features/chart/benchKeys'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// The striking hand: which school it plays by and what goes against it; the pattern it follows, learned
// here and used elsewhere.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const store = useSong()
const preferences = usePreferences()
const { content } = props.bench
const feel = computed(() => ({ meter: props.figure.meter, subdivision: props.figure.feel.subdivision }))
const school = computed<PickSchool>(() => props.figure.school ?? 'pendulum')
const wrong = computed(
  () =>
    wrongWays(content.value.strokes, school.value, feel.value).size +
    wrongPicks(content.value.notes, school.value, feel.value).size,
)
const SCHOOL_WORDS: Record<PickSchool, string> = {
  pendulum: 'pendulum: down on the beat, up between',
  'all down': 'all down',
  alternate: 'strictly alternating',
  economy: 'economy: on in the same direction',
}
const setSchool = (value: PickSchool): boolean =>
  store.run('changeFigure', { figureId: props.figure.id, what: `picked ${value}`, set: { school: value } })
const setRight = (): boolean =>
  props.bench.edit(`strokes ${school.value}`, {
    ...content.value,
    strokes: turnedTo(content.value.strokes, school.value, feel.value),
  })
const upper = (): boolean =>
  props.bench.edit('upstrokes on the upper strings', {
    ...content.value,
    strokes: upstrokesOnUpper(content.value.strokes, (tick) => {
      const span = gripAt(content.value, tick)
      return span ? soundingStrings(span.grip) : []
    }),
  })

const patterns = computed(() =>
  Object.values(store.song?.patterns ?? {}).sort((a, b) => a.name.localeCompare(b.name)),
)
const patternItems = computed(() => [
  { title: 'none', value: '' },
  ...patterns.value.map((pattern) => ({ title: pattern.name, value: pattern.id })),
])
const followed = computed(() =>
  props.figure.pattern ? store.song?.patterns[props.figure.pattern.patternId] : undefined,
)
const users = computed(() =>
  Object.values(store.song?.figures ?? {}).filter((other) => other.pattern?.patternId === followed.value?.id),
)
const period = computed(() =>
  patternPeriod(content.value, props.figure.lengthTicks, barTicks(props.figure.meter)),
)
const name = ref('')
/** The strokes of this figure as a pattern, and the figure following it from now on. */
function learn(): void {
  const id = randomId()
  const lengthTicks = period.value * barTicks(props.figure.meter)
  const strokes = patternStrokes(content.value, { from: 0, to: lengthTicks })
  if (
    !store.run('setPattern', {
      pattern: {
        id,
        name: name.value.trim() || `${props.figure.name}: hand`,
        lengthTicks,
        meter: props.figure.meter,
        strokes,
      },
    })
  )
    return
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: 'follow the hand pattern',
    set: { pattern: { patternId: id, ownBars: [] }, content: { ...content.value, strokes: [] } },
  })
  name.value = ''
}
function follow(id: string): void {
  if (!id) {
    if (followed.value) store.run('releaseFigure', { figureId: props.figure.id, from: 'pattern' })
    return
  }
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: `follow “${store.song!.patterns[id]!.name}”`,
    set: { pattern: { patternId: id, ownBars: [] }, content: { ...content.value, strokes: [] } },
  })
}
/** What is played here now becomes the pattern: everything that follows it changes along. */
function teach(): void {
  const pattern = followed.value
  if (!pattern) return
  const own = props.figure.pattern!.ownBars[0] ?? 0
  const from = Math.floor((own * barTicks(props.figure.meter)) / pattern.lengthTicks) * pattern.lengthTicks
  if (
    store.run('setPattern', {
      pattern: {
        ...pattern,
        strokes: patternStrokes(content.value, { from, to: from + pattern.lengthTicks }),
      },
    })
  )
    store.run('changeFigure', {
      figureId: props.figure.id,
      what: 'follow the pattern again',
      set: { pattern: { patternId: pattern.id, ownBars: [] }, content: { ...content.value, strokes: [] } },
    })
}
const rename = (value: string): boolean =>
  Boolean(
    followed.value &&
    value.trim() &&
    store.run('setPattern', { pattern: { ...followed.value, name: value.trim() } }),
  )
const schools = PICK_SCHOOLS.map((entry) => ({ title: SCHOOL_WORDS[entry], value: entry }))
const ownWords = computed(() => {
  const own = props.figure.pattern?.ownBars ?? []
  if (!own.length) return 'Every bar follows it.'
  const bars = own.map((bar) => bar + 1).join(', ')
  return `Bar ${bars} ${own.length === 1 ? 'goes its own way' : 'go their own way'}.`
})
</script>

<template>
  <div class="panel">
    <section>
      <h2 class="small-head">Picked</h2>
      <SelectField
        inline
        label="School of picking"
        :items="schools"
        :model-value="school"
        data-test="school"
        @update:model-value="setSchool"
      />
      <p v-if="wrong" class="other attention" data-test="wrong-ways">
        {{ wrong === 1 ? 'One stroke goes' : `${wrong} strokes go` }} against it, underlined in the hand row.
      </p>
      <p v-else-if="content.strokes.length" class="other quiet">All strokes go with it.</p>
      <p class="other row">
        <ActButton v-if="wrong" class="small" @click="setRight">Turn them</ActButton
        ><ActButton
          v-if="content.strokes.some((stroke) => stroke.direction === 'up')"
          class="small"
          @click="upper"
        >
          Up: upper strings only
        </ActButton>
      </p>
    </section>
    <LeftHand :bench="bench" :figure="figure" />
    <CopyStrum :bench="bench" :figure="figure" />
    <CheckField
      label="heard a little uneven, as a hand is"
      :model-value="preferences.values.humanFeel"
      data-test="human"
      @update:model-value="preferences.set('humanFeel', $event)"
    />
    <section>
      <h2 class="small-head">Hand pattern</h2>
      <template v-if="followed">
        <TextField
          label="Name of the hand pattern"
          :model-value="followed.name"
          :longest="80"
          @take="rename"
        />
        <p class="other quiet">
          {{ ownWords }}
          {{
            users.length > 1
              ? `${users.length} figures follow it: ${users.map((figure) => figure.name).join(', ')}.`
              : 'Only this figure follows it.'
          }}
        </p>
        <p class="other row">
          <ActButton
            v-if="figure.pattern!.ownBars.length"
            class="small"
            data-test="teach-pattern"
            @click="teach"
          >
            Make my bars the pattern
          </ActButton>
        </p>
      </template>
      <p v-else class="other quiet">
        {{
          content.strokes.length
            ? `Repeats every ${period === 1 ? 'bar' : `${period} bars`}.`
            : 'No strokes yet.'
        }}
      </p>
      <SelectField
        v-if="patterns.length"
        class="follow"
        label="follow"
        :items="patternItems"
        :model-value="followed?.id ?? ''"
        data-test="follow-pattern"
        @update:model-value="follow"
      />
      <form v-if="!followed && content.strokes.length" class="other row" @submit.prevent="learn">
        <v-text-field
          v-model="name"
          class="inline-field grow"
          maxlength="80"
          placeholder="its name"
          aria-label="Name for a hand pattern"
        /><ActButton class="small" type="submit" data-test="learn-pattern">Keep as pattern</ActButton>
      </form>
    </section>
  </div>
</template>
