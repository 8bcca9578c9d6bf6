<script setup lang="ts">
import { droppedByReason, octaveWords, type Merged } from '#core/neck/lines/merge-parts'
import { figureContent } from '#core/document/figure-content'
import type { Content, Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'
import { figureTitle } from './figureTitle'
import { placeWords } from './placeWords'

// Two parts for one player: what of another part fits under the same hand, and what is left out and why.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  hear: [content: Content]
  beside: [what: Beside | undefined]
}>()
const store = useSong()
const preferences = usePreferences()
const { part, content } = props.bench
const place = (at: number): string => placeWords(props.figure, at)
const second = ref('')
const mergeable = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) =>
      other.id !== props.figure.id &&
      other.lengthTicks === props.figure.lengthTicks &&
      other.partId !== props.figure.partId,
  ),
)
const seconds = computed(() => [
  { title: 'take in another part …', value: '' },
  ...mergeable.value.map((other) => ({ title: figureTitle(store.song!, other), value: other.id })),
])
const work = usePlayingWork()
const merged = shallowRef<Merged>()
const mergeProblem = ref('')
watch(
  () => props.figure.id,
  () => {
    second.value = ''
  },
)
watch([second, content, () => preferences.hand], async () => {
  const other = second.value ? store.song?.figures[second.value] : undefined
  if (!other || !part.value || !store.song) {
    if (merged.value) emit('beside', undefined)
    merged.value = undefined
    mergeProblem.value = ''
    return
  }
  const from = store.song.parts[other.partId]!
  const found = await work.ask({
    want: 'merge',
    first: content.value,
    second: figureContent(store.song, other),
    parts: { first: part.value, second: from },
    hand: { ...preferences.hand },
  })
  // Chosen anew, or another figure opened, while it was being fitted.
  if (second.value !== other.id) return
  if (!found.ok) {
    if (found.refusal.code !== 'cancelled') {
      merged.value = undefined
      mergeProblem.value = found.refusal.message
    }
    return
  }
  merged.value = found.value
  mergeProblem.value = ''
  emit('beside', {
    title: `with ${from.name}: ${other.name}, for ${part.value.name}`,
    content: found.value.content,
  })
})
/** "bar 1, 1; bar 1, 3; and 6 more". */
function placesOf(notes: readonly { startTicks: number }[]): string {
  const places = [...new Set(notes.map((note) => place(note.startTicks)))]
  return [...places.slice(0, 4), ...(places.length > 4 ? [`and ${places.length - 4} more`] : [])].join('; ')
}
const mergedWords = computed(() => {
  if (!merged.value) return ''
  const { kept, shared, dropped, octaves } = merged.value
  const fitting = kept + shared
  const both = shared ? `; ${shared} of them both parts play` : ''
  return `${fitting} of ${fitting + dropped.length} notes fit, ${octaveWords(octaves)}${both}.`
})
function keepMerged(): void {
  if (!merged.value) return
  const id = randomId()
  const { lengthTicks, meter, feel } = props.figure
  if (
    store.run('addFigure', {
      figure: {
        id,
        partId: props.figure.partId,
        name: `${props.figure.name} and ${store.song!.figures[second.value]!.name}`.slice(0, 80),
        lengthTicks,
        meter,
        feel,
        content: merged.value.content,
        note: merged.value.dropped.length
          ? `Left out: ${droppedByReason(merged.value.dropped)
              .map((group) => `${placesOf(group.notes)} (${group.why})`)
              .join('; ')}.`.slice(0, 2000)
          : 'Everything of both parts fits.',
      },
    })
  ) {
    second.value = ''
    emit('choose', id)
  }
}
</script>

<template>
  <section v-if="mergeable.length">
    <h2 class="small-head">Two into one</h2>
    <SelectField
      v-model="second"
      inline
      label="Take in another part"
      :items="seconds"
      data-test="merge-with"
    />
    <p v-if="mergeProblem" class="other attention">{{ mergeProblem }}</p>
    <template v-if="merged"
      ><p class="other" data-test="merged">{{ mergedWords }}</p>
      <ul v-if="merged.dropped.length" class="other quiet">
        <li v-for="group in droppedByReason(merged.dropped).slice(0, 5)" :key="group.why">
          {{ group.notes.length }} left out, {{ group.why }}: {{ placesOf(group.notes) }}
        </li>
      </ul>
      <p class="other row">
        <ActButton class="small" data-test="keep-merged" @click="keepMerged"> Keep as a figure</ActButton
        ><ActButton class="small" @click="emit('hear', merged.content)">Hear</ActButton>
      </p></template
    >
  </section>
</template>
