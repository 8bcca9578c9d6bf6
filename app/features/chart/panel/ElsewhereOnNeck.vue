<script setup lang="ts">
import { onPath, pathNotes, pitched } from '#core/neck/lines/line'
import { pathWords, ratePath, type LinePath } from '#core/neck/lines/path'
import { namingKey } from '#core/document/part-pitch'
import { neckWishWords, wishesFrom } from '#core/neck/lines/neck-wish'
import type { Content, Figure, NeckWish, Note } from '#core/document/schema'
import { plain } from '#platform/plain'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { withLine } from './withLine'

// The same line elsewhere on the neck: found, looked at, heard, taken.
const props = defineProps<{ bench: Bench; figure: Figure; wish: NeckWish }>()
const emit = defineEmits<{ draft: [notes: Note[]]; hear: [content: Content] }>()
const store = useSong()
const preferences = usePreferences()
const work = usePlayingWork()
const { part, content } = props.bench
const notes = computed(() => pitched(content.value))
const key = computed(() => namingKey(store.song!, part.value!, preferences.values.naming))
const withNotes = (next: readonly Note[]): Content => withLine(content.value, next)
const paths = shallowRef<LinePath[]>([])
const pathsProblem = ref('')
const asked = ref(false)
const shown = ref<number>()
watch([() => props.figure.id, notes, () => props.wish], () => {
  paths.value = []
  asked.value = false
  shown.value = undefined
  pathsProblem.value = ''
  emit('draft', [])
})
const own = computed(() =>
  asked.value && part.value
    ? ratePath(pathNotes(notes.value, part.value), notes.value, part.value, preferences.hand)
    : undefined,
)
async function findPaths(): Promise<void> {
  if (!part.value) return
  const found = await work.ask({
    want: 'paths',
    notes: pathNotes(notes.value, part.value),
    part: part.value,
    key: { ...key.value },
    wishes: { hand: { ...preferences.hand }, ...plain(wishesFrom(props.wish)) },
  })
  asked.value = true
  if (found.ok)
    paths.value = found.value.filter((path) =>
      path.places.some((at, index) => at.string !== notes.value[index]!.string),
    )
  else if (found.refusal.code !== 'cancelled') pathsProblem.value = found.refusal.message
}
const wishWords = computed(() => neckWishWords(props.wish))
const laid = (index: number): Note[] => onPath(notes.value, paths.value[index]!, false)
function look(index: number): void {
  shown.value = shown.value === index ? undefined : index
  emit('draft', shown.value === undefined ? [] : laid(index))
}
function take(index: number): void {
  if (props.bench.edit('the same line elsewhere', withNotes(laid(index)))) emit('draft', [])
}
</script>

<template>
  <section>
    <h2 class="small-head">Elsewhere on the neck</h2>
    <ActButton v-if="!asked" class="small" data-test="find-paths" @click="findPaths">
      Find other places
    </ActButton>
    <p v-if="own" class="other quiet">as charted: {{ pathWords(own) }}</p>
    <p v-if="pathsProblem" class="attention other" role="alert">{{ pathsProblem }}</p>
    <ul class="other paths" data-test="paths">
      <li v-for="(path, index) in paths" :key="index">
        <ActButton kind="plain" class="fit" :aria-pressed="shown === index" @click="look(index)">
          {{ pathWords(path) }}</ActButton><span v-if="shown === index" class="acts"
          ><ActButton class="small" data-test="take-path" @click="take(index)">Take it</ActButton
          ><ActButton class="small" @click="emit('hear', withNotes(laid(index)))"> Hear </ActButton></span
        >
      </li>
    </ul>
    <p v-if="asked && !paths.length && !pathsProblem" class="other quiet">
      Nowhere else{{ wishWords ? ` ${wishWords}` : ' on this neck' }}.
    </p>
  </section>
</template>

<style scoped>
.fit.v-btn {
  padding: 1px 4px;
  border-radius: 3px;
}
.fit.v-btn[aria-pressed='true'] {
  background: var(--selection);
  font-weight: 700;
}
.acts {
  display: inline-flex;
  gap: 4px;
  margin-left: 4px;
}
.paths li {
  margin-bottom: 3px;
}
</style>
