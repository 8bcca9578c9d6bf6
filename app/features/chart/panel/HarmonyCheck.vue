<script setup lang="ts">
import { keyName, pretty, transposeKey } from '#core/music/pitch'
import { checkHarmony, usualInterval } from '#core/neck/lines/harmony-check'
import { figureContent } from '#core/document/figure-content'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { figureTitle } from './figureTitle'
import { intervalWords } from './intervals'
import { placeWords } from './placeWords'

// A second line held against a first one: which interval it keeps, and where it does not.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const store = useSong()
const { part, content } = props.bench
const place = (at: number): string => placeWords(props.figure, at)
/** Lines as long as this one. */
const others = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) =>
      other.id !== props.figure.id &&
      figureContent(store.song!, other).notes.length > 0 &&
      other.lengthTicks === props.figure.lengthTicks,
  ),
)
const firsts = computed(() => [
  { title: 'a first line …', value: '' },
  ...others.value.map((other) => ({ title: figureTitle(store.song!, other), value: other.id })),
])
const against = ref('')
watch(
  () => props.figure.id,
  () => {
    against.value = props.figure.derivedFrom?.figureId ?? ''
  },
  { immediate: true },
)
const checked = computed(() => {
  const first = against.value && store.song?.figures[against.value]
  if (!first || !part.value || !store.song) return undefined
  const parts = { first: store.song.parts[first.partId]!, second: part.value }
  const lead = figureContent(store.song, first)
  const own = props.figure.derivedFrom?.figureId === first.id ? props.figure.derivedFrom : undefined
  const usual = own ?? {
    interval: usualInterval(lead, content.value, parts, store.song.key) ?? 0,
    kind: 'diatonic' as const,
    key: store.song.key,
    exceptions: [],
  }
  if (usual.interval === 0) return { words: 'They never sound together.', list: [] }
  const list = checkHarmony({ first: lead, second: content.value }, parts, usual, store.toneName)
  const way = usual.kind === 'parallel' ? 'Parallel' : 'Diatonic'
  const key = keyName(transposeKey(usual.key, store.nameShift))
  const kept = list.filter((one) => one.fits).length
  return {
    words: `${way} ${intervalWords(usual.interval)} in ${key}: ${kept} of ${list.length} notes keep to it.`,
    list: list.filter((one) => !one.fits),
    exceptions: own?.exceptions ?? [],
  }
})
</script>

<template>
  <section v-if="others.length">
    <h2 class="small-head">Check against</h2>
    <SelectField
      v-model="against"
      inline
      label="Check this line against"
      :items="firsts"
      data-test="check-against"
    />
    <template v-if="checked"
      ><p class="other" data-test="harmony-check">{{ checked.words }}</p>
      <ul class="other">
        <li v-for="one in checked.list.slice(0, 8)" :key="one.startTicks" class="evidence">
          <ActButton kind="link" @click="bench.go(bench.row.value, one.startTicks)">
            {{ place(one.startTicks) }}</ActButton>: {{ pretty(one.text) }}
        </li>
        <li v-for="exception in checked.exceptions" :key="`e${exception.startTicks}`" class="quiet">
          {{ place(exception.startTicks) }} on purpose: {{ exception.why }}
        </li>
      </ul></template
    >
  </section>
</template>
