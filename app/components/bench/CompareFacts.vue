<script setup lang="ts">
import { comparable, sameBarElsewhere, type Comparable } from '#core/timeline/compare'
import { contentDifferences } from '#core/document/differences'
import { variationOf } from '#core/document/figure-layers'
import { sectionPlaces } from '#core/document/form'
import { figureContent } from '#core/document/figure-content'
import { playsOfPart } from '#core/timeline/timeline'
import { barTicks } from '#core/time/meter'
import type { Content, Figure, Placement } from '#core/document/schema'
import { randomId } from '#platform/files'
import type { Bench } from '~/composables/benchKeys'
import { useSong } from '~/stores/song'

// Where the figure is played, what each pass plays, what differs: from its base, between two halves, from
// its eased form, in the other verses.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  marks: [ids: string[]]
  beside: [what: { title: string; content: Content } | undefined]
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
const ownPlacements = computed(() =>
  Object.values(store.song?.placements ?? {})
    .flatMap((placement) =>
      placement.kind === 'figure' &&
      (placement.figureId === props.figure.id ||
        placement.passFigures?.some((entry) => entry.figureId === props.figure.id))
        ? [placement]
        : [],
    )
    .sort(
      (a, b) => store.song!.sectionOrder.indexOf(a.sectionId) - store.song!.sectionOrder.indexOf(b.sectionId),
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
const release = (from: 'variationOf' | 'eased'): boolean =>
  store.run('releaseFigure', { figureId: props.figure.id, from })
function ease(): void {
  if (
    store.run('changeFigure', {
      figureId: props.figure.id,
      what: 'an eased form',
      set: { eased: content.value },
    })
  )
    props.bench.showForm('eased')
}

/** Figures that can stand in for a pass: as long as the placed one. */
const fits = (placement: Extract<Placement, { kind: 'figure' }>): Figure[] =>
  siblings.value
    .concat(props.figure)
    .filter((other) => other.lengthTicks === store.song!.figures[placement.figureId]!.lengthTicks)
function setPass(placement: Extract<Placement, { kind: 'figure' }>, pass: number, figureId: string): void {
  const rest = (placement.passFigures ?? []).filter((entry) => entry.pass !== pass)
  const next =
    figureId === placement.figureId ? rest : [...rest, { pass, figureId }].sort((a, b) => a.pass - b.pass)
  const { passFigures: _old, ...plain } = placement
  store.run('setPlacement', { placement: next.length ? { ...plain, passFigures: next } : plain })
}
const passFigure = (placement: Extract<Placement, { kind: 'figure' }>, pass: number): string =>
  placement.passFigures?.find((entry) => entry.pass === pass)?.figureId ?? placement.figureId

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
const offset = computed(() => (right.value === 'second half' ? props.figure.lengthTicks / 2 : 0))
const onBench = computed(
  () => ['whole', 'second half', 'first half'].includes(right.value) || right.value === 'eased',
)
/** Events of the bench's content where the comparison differs. */
watch(
  [compared, fromBase, offset, content],
  () => {
    const ticks = new Set(
      base.value && fromBase.value.length
        ? fromBase.value.map((difference) => difference.startTicks)
        : onBench.value
          ? (compared.value ?? []).map((difference) => difference.startTicks + offset.value)
          : [],
    )
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

const sources = computed(() => store.song?.sourceOrder.map((id) => store.song!.sources[id]!) ?? [])
const setSource = (sourceId: string): void => {
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: 'read from',
    set: { sourceId: sourceId || undefined },
  })
}

const elsewhere = computed(() => {
  const first =
    store.song &&
    playsOfPart(store.song, props.figure.partId).find((play) => play.figure?.id === props.figure.id)
  const section =
    first &&
    sectionPlaces(store.song!).findLast(
      (entry) => entry.startTicks <= first.startTicks + Math.max(0, props.bench.tick.value),
    )
  if (!first || !section) return undefined
  let at = section.startTicks
  const target = first.startTicks + props.bench.tick.value
  const bar = section.section.bars.findIndex((entry) => {
    const start = at
    at += barTicks(entry.meter)
    return target >= start && target < at
  })
  return bar < 0
    ? undefined
    : {
        name: section.section.name,
        bar,
        list: sameBarElsewhere(store.song!, props.figure.partId, section.section.id, bar),
      }
})
const sectionName = (id: string): string => store.song?.sections[id]?.name ?? ''
</script>

<template>
  <div class="panel">
    <section>
      <h2 class="small-head">Forms</h2>
      <p v-if="figure.eased" class="other row">
        <ActButton
          class="small"
          :aria-pressed="bench.form.value === 'exact'"
          @click="bench.showForm('exact')"
        >
          exact</ActButton
        ><ActButton
          class="small"
          :aria-pressed="bench.form.value === 'eased'"
          data-test="eased"
          @click="bench.showForm('eased')"
        >
          eased</ActButton
        ><ActButton class="small" @click="release('eased')">no eased form</ActButton>
      </p>
      <ActButton v-else class="small" data-test="ease" @click="ease">Make an eased form</ActButton>
      <label v-if="sources.length > 1" class="other"
        >read from
        <select
          :value="figure.sourceId ?? ''"
          data-test="read-from"
          @change="setSource(($event.target as HTMLSelectElement).value)"
        >
          <option value="">no one source</option>
          <option v-for="source in sources" :key="source.id" :value="source.id">{{ source.name }}</option>
        </select></label
      >
    </section>
    <section>
      <h2 class="small-head">{{ base ? `Varies “${base.name}”` : 'Variations' }}</h2>
      <template v-if="base">
        <ul class="other" data-test="from-base">
          <li v-for="difference in fromBase.slice(0, 12)" :key="difference.text">
            <button class="plain link" @click="bench.go(bench.row.value, difference.startTicks)">
              {{ difference.text.split(':')[0] }}</button>:{{ difference.text.split(':').slice(1).join(':') }}
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
          ><ActButton class="small" @click="release('variationOf')">Stand alone</ActButton>
        </p>
      </template>
      <template v-else>
        <ul class="other">
          <li v-for="other in variations" :key="other.id">
            <button class="plain link" @click="emit('choose', other.id)">{{ other.name }}</button>
            <span class="quiet"
              >bar {{ other.variationOf!.replacedBars.map((bar) => bar + 1).join(', ') || 'none' }}</span
            >
          </li>
        </ul>
        <ActButton class="small" data-test="new-variation" @click="newVariation"> New variation </ActButton>
      </template>
    </section>
    <section>
      <h2 class="small-head">Passes</h2>
      <div v-for="placement in ownPlacements" :key="placement.id" class="other place">
        <b>{{ sectionName(placement.sectionId) }}</b><template
          v-if="placement.passes > 1 && fits(placement).length > 1"
          ><label v-for="pass in Math.min(placement.passes, 12)" :key="pass" class="pass"
            >{{ pass }}
            <select
              :value="passFigure(placement, pass)"
              :aria-label="`Pass ${pass} in ${sectionName(placement.sectionId)}`"
              @change="setPass(placement, pass, ($event.target as HTMLSelectElement).value)"
            >
              <option v-for="other in fits(placement)" :key="other.id" :value="other.id">
                {{ other.name }}
              </option>
            </select></label
          ></template
        ><span v-else class="quiet">
          {{ placement.passes > 1 ? `×${placement.passes}` : ''
          }}{{
            placement.shiftFrets
              ? ` ${placement.shiftFrets > 0 ? '+' : '−'}${Math.abs(placement.shiftFrets)} frets`
              : ''
          }}</span
        >
      </div>
      <p v-if="!ownPlacements.length" class="other quiet">
        Not placed yet.
        <NuxtLink class="link" :to="`/song/${store.song?.id}/map`">Place it in the map</NuxtLink>
      </p>
    </section>
    <section>
      <h2 class="small-head">Any two</h2>
      <p class="other pair">
        <select v-model="left" aria-label="Compare">
          <option v-for="side in sides" :key="side.value" :value="side.value">{{ side.title }}</option>
        </select>
        with
        <select v-model="right" aria-label="with" data-test="compare-with">
          <option value="">…</option>
          <option v-for="side in sides" :key="side.value" :value="side.value">{{ side.title }}</option>
        </select>
      </p>
      <ul v-if="compared" class="other" data-test="differences">
        <li v-for="difference in compared.slice(0, 10)" :key="difference.text">{{ difference.text }}</li>
      </ul>
      <p class="other quiet">
        {{
          compared === undefined
            ? ''
            : compared.length === 0
              ? 'They play the same.'
              : compared.length > 10
                ? `and ${compared.length - 10} more`
                : ''
        }}
      </p>
    </section>
    <section v-if="elsewhere && elsewhere.list.length">
      <h2 class="small-head">Bar {{ elsewhere.bar + 1 }} of {{ elsewhere.name }}, elsewhere</h2>
      <ul class="other" data-test="same-bar">
        <li v-for="one in elsewhere.list" :key="one.sectionId">
          <b>{{ one.sectionName }}</b>
          <button
            v-if="one.figureId && one.figureId !== figure.id"
            class="plain link"
            @click="emit('choose', one.figureId)"
          >
            {{ one.figureName }}</button><template v-else>{{ one.figureName }}</template
          >:
          <span class="quiet">{{
            one.differences.length === 0
              ? 'the same'
              : one.differences
                  .slice(0, 2)
                  .map((difference) => difference.text)
                  .join('; ') + (one.differences.length > 2 ? ` and ${one.differences.length - 2} more` : '')
          }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.place {
  margin-bottom: 5px;
}
.pass {
  display: flex;
  gap: 5px;
  align-items: center;
  padding-left: 8px;
}
.pass select {
  flex: 1;
  min-width: 0;
}
.pair {
  display: grid;
  grid-template-columns: 1fr;
  gap: 3px;
}
</style>
