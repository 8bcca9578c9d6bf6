<script setup lang="ts">
import { comparable, type Comparable } from '#core/timeline/compare'
import { contentDifferences } from '#core/document/differences'
import { mainSource } from '#core/document/form'
import { variationOf } from '#core/document/figure-layers'
import { figureContent } from '#core/document/figure-content'
import type { Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'

// Where the figure is played, what each pass plays, what differs: from its base, between two halves, from
// its eased form, in the other verses.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  marks: [ids: string[]]
  beside: [what: Beside | undefined]
}>()
const store = useSong()
const { content } = props.bench
const base = computed(() =>
  props.figure.variationOf ? store.song?.figures[props.figure.variationOf.figureId] : undefined,
)
const variations = computed(() =>
  Object.values(store.song?.figures ?? {}).filter((other) => other.variationOf?.figureId === props.figure.id),
)
const siblings = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) => other.partId === props.figure.partId && other.id !== props.figure.id,
  ),
)
const fromBase = computed(() =>
  base.value
    ? contentDifferences(figureContent(store.song!, base.value), content.value, props.figure.meter)
    : [],
)
function newVariation(): void {
  const id = randomId()
  if (
    store.run('addFigure', {
      figure: variationOf(props.figure, { id, name: `${props.figure.name}, changed` }),
    })
  )
    emit('choose', id)
}
/** Other recordings of the song: how one of them has the figure is kept as its version. */
const takes = computed(() =>
  Object.values(store.song?.sources ?? {})
    .filter(({ id, audioHash }) => audioHash !== undefined && id !== mainId.value)
    .map(({ id, name }) => ({ title: `as “${name}” has it`, value: id })),
)
const mainId = computed(() => (store.song ? mainSource(store.song)?.id : undefined))
function newVersion(sourceId: string): void {
  const source = store.song?.sources[sourceId]
  if (!source) return
  const id = randomId()
  const name = `${props.figure.name.slice(0, 50)}, ${source.name}`.slice(0, 80)
  const figure = { ...variationOf(props.figure, { id, name }), sourceId }
  if (store.run('addFigure', { figure })) emit('choose', id)
}
const versionWords = computed(() => {
  const source = props.figure.sourceId ? store.song?.sources[props.figure.sourceId] : undefined
  return base.value && source
    ? `The version of “${source.name}”: played instead of “${base.value.name}” while that is listened to.`
    : ''
})
const release = (): boolean => store.run('releaseFigure', { figureId: props.figure.id, from: 'variationOf' })

// Any two side by side.
const SIDES: { value: string; title: string }[] = [
  { value: 'whole', title: 'this figure' },
  { value: 'first half', title: 'its first half' },
  { value: 'second half', title: 'its second half' },
]
const left = ref('whole')
const right = ref('')
const sides = computed(() => [
  ...SIDES,
  ...(props.figure.eased ? [{ value: 'eased', title: 'its eased form' }] : []),
  ...siblings.value.map((other) => ({ value: `figure:${other.id}`, title: other.name })),
])
watch(
  () => props.figure.id,
  () => {
    left.value = 'whole'
    right.value = ''
  },
  { immediate: true },
)
const sideOf = (value: string): Comparable =>
  value.startsWith('figure:') ? { kind: 'figure', figureId: value.slice(7) } : { kind: value as 'whole' }
const compared = computed(() => {
  if (!store.song || !right.value) return undefined
  const a = comparable(store.song, props.figure, sideOf(left.value))
  const b = comparable(store.song, props.figure, sideOf(right.value))
  return a && b ? contentDifferences(a, b, props.figure.meter) : undefined
})
const rights = computed(() => [{ title: '…', value: '' }, ...sides.value])
const comparedWords = computed(() => {
  if (compared.value === undefined) return ''
  if (compared.value.length === 0) return 'They play the same.'
  return compared.value.length > 10 ? `and ${compared.value.length - 10} more` : ''
})
const offset = computed(() => (right.value === 'second half' ? props.figure.lengthTicks / 2 : 0))
const onBench = computed(
  () => ['whole', 'second half', 'first half'].includes(right.value) || right.value === 'eased',
)
/** Where what is on the bench differs: from its base, or else from what it is compared with. */
const differingTicks = computed(() => {
  if (base.value && fromBase.value.length) return fromBase.value.map((difference) => difference.startTicks)
  if (!onBench.value) return []
  return (compared.value ?? []).map((difference) => difference.startTicks + offset.value)
})
/** Events of the bench's content where the comparison differs. */
watch(
  [differingTicks, content],
  () => {
    const ticks = new Set(differingTicks.value)
    emit(
      'marks',
      [...content.value.notes, ...content.value.strokes]
        .filter((event) => ticks.has(event.startTicks))
        .map((event) => event.id),
    )
  },
  { immediate: true },
)
/** The other reading, drawn beside the bench's. */
watch(
  [right, content, () => props.figure.id],
  () => {
    const other =
      store.song && right.value && right.value !== 'whole'
        ? comparable(store.song, props.figure, sideOf(right.value))
        : undefined
    emit(
      'beside',
      other && { title: sides.value.find((side) => side.value === right.value)?.title ?? '', content: other },
    )
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  emit('marks', [])
  emit('beside', undefined)
})
</script>

<template>
  <div class="panel">
    <FormFacts :bench="bench" :figure="figure" />
    <section>
      <h2 class="small-head">{{ base ? `Varies “${base.name}”` : 'Variations' }}</h2>
      <template v-if="base">
        <p v-if="versionWords" class="other evidence" data-test="version">{{ versionWords }}</p>
        <ul class="other" data-test="from-base">
          <li v-for="difference in fromBase.slice(0, 12)" :key="difference.text">
            <ActButton kind="link" @click="bench.go(bench.row.value, difference.startTicks)">
              {{ difference.text.split(':')[0] }}</ActButton>:{{
              difference.text.split(':').slice(1).join(':')
            }}
          </li>
        </ul>
        <p class="other quiet">
          {{
            fromBase.length
              ? (fromBase.length > 12 ? `and ${fromBase.length - 12} more. ` : '') +
                'The rest follows its base.'
              : 'Plays the same as its base so far: change a note here.'
          }}
        </p>
        <p class="other row">
          <ActButton class="small" @click="emit('choose', base.id)">Go to the base</ActButton
          ><ActButton class="small" @click="release()">Stand alone</ActButton>
        </p>
      </template>
      <template v-else>
        <ul class="other">
          <li v-for="other in variations" :key="other.id">
            <ActButton kind="link" @click="emit('choose', other.id)">{{ other.name }}</ActButton>
            <span class="quiet"
              >, bar {{ other.variationOf!.replacedBars.map((bar) => bar + 1).join(', ') || 'none' }}</span
            >
          </li>
        </ul>
        <p class="other row">
          <ActButton class="small" data-test="new-variation" @click="newVariation">New variation</ActButton>
          <MenuButton
            v-if="takes.length"
            label="New version"
            :items="takes"
            data-test="new-version"
            @choose="newVersion"
          />
        </p>
      </template>
    </section>
    <PassFacts :figure="figure" />
    <AccentFacts :bench="bench" :figure="figure" @beside="emit('beside', $event)" />
    <LickFacts v-if="content.notes.length" :bench="bench" :figure="figure" @choose="emit('choose', $event)" />
    <section>
      <h2 class="small-head">Any two</h2>
      <div class="other pair">
        <SelectField v-model="left" inline label="Compare" :items="sides" />
        with
        <SelectField v-model="right" inline label="with" :items="rights" data-test="compare-with" />
      </div>
      <ul v-if="compared" class="other" data-test="differences">
        <li v-for="difference in compared.slice(0, 10)" :key="difference.text">{{ difference.text }}</li>
      </ul>
      <p class="other quiet">{{ comparedWords }}</p>
    </section>
    <SameBar :bench="bench" :figure="figure" @choose="emit('choose', $event)" />
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr;
  gap: 3px;
}
</style>
