<script setup lang="ts">
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import type { Compare } from './useCompare'

// A written chart as another source: its chords typed as they stand there.
const props = defineProps<{ compare: Compare }>()
const { store, charts, source, sourceId, written } = props.compare
const typed = ref('')
watch(
  source,
  (chart) => {
    typed.value = chart?.text ?? ''
  },
  { immediate: true },
)
const items = computed(() => charts.value.map(({ id, name }) => ({ title: name, value: id })))
const frozen = computed(() => Boolean(store.readOnly))

const work = usePlayingWork()
const input = ref<HTMLInputElement>()
const problem = ref('')
const MOST_CHARACTERS = 20_000
/** A chart out of MusicXML, a cue sheet or chords of another program, as one step. */
async function fromFile(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  problem.value = ''
  const bytes = new Uint8Array(await file.arrayBuffer())
  const read = await work.ask({ want: 'chart text', bytes, name: file.name })
  if (!read.ok) problem.value = read.refusal.message
  else add(read.value.slice(0, MOST_CHARACTERS), file.name.slice(0, 80))
}

function add(text = '', name?: string): void {
  const id = randomId()
  const number = charts.value.length + 1
  const made = store.run('addSource', {
    source: {
      id,
      kind: 'written chart',
      name: name ?? (number === 1 ? 'Written chart' : `Written chart ${number}`),
      rank: Math.min(99, Object.keys(store.song?.sources ?? {}).length + 1),
      // What is typed is called as the page calls things now.
      offsetSemitones: -store.nameShift,
      offsetCents: 0,
      offsetSeconds: 0,
      text,
    },
  })
  if (made) sourceId.value = id
}
function take(): void {
  if (!source.value || typed.value === (source.value.text ?? '')) return
  store.run('changeSource', { source: { ...source.value, text: typed.value } })
}
function rename(name: string): void {
  if (source.value) store.run('changeSource', { source: { ...source.value, name } })
}
const HINT = 'Verse 1:\nEm | G | Am C@4.5 | %\nChorus:\nC | G | D | D x2'
</script>

<template>
  <div class="written">
    <div class="top">
      <SelectField
        v-if="items.length > 1"
        v-model="sourceId"
        label="Which chart"
        :items="items"
        data-test="which-chart"
      />
      <TextField
        v-if="source"
        label="Its name"
        :model-value="source.name"
        :longest="80"
        data-test="chart-name"
        @take="rename"
      />
      <ActButton data-test="new-chart" :disabled="frozen" @click="add()">
        {{ source ? 'Another written chart' : 'Type a written chart' }}
      </ActButton>
      <ActButton :disabled="frozen" @click="input?.click()">From a file</ActButton>
      <input
        ref="input"
        type="file"
        accept=".musicxml,.xml,.mxl,.csv,.txt"
        hidden
        data-test="chart-file"
        @change="fromFile"
      />
    </div>
    <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
    <template v-if="source">
      <v-textarea
        v-model="typed"
        label="Its chords: a section’s name with a colon, bars with | between them, C@4.5: on the and of 4"
        :placeholder="HINT"
        rows="5"
        auto-grow
        maxlength="20000"
        :disabled="frozen"
        data-test="chart-text"
        @change="take"
        @blur="take"
      />
      <ul v-if="written.problems.length" class="problems" role="status">
        <li v-for="words in written.problems" :key="words">{{ words }}</li>
      </ul>
    </template>
    <p v-else class="quiet">
      Have a book or a sheet of this song? Type the chords it gives, and every bar in which it differs from
      yours is marked.
    </p>
  </div>
</template>

<style scoped>
.written {
  display: grid;
  gap: 10px;
  max-width: 720px;
}
.top {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
.top > :not(button) {
  flex: 0 1 240px;
}
.problems {
  margin: 0;
  padding-left: 18px;
  color: var(--attention);
}
</style>
