<script setup lang="ts">
import { FORMATS, type Format } from '#core/exchange/format-names'
import type { Exported, Imported } from '#core/exchange/formats'
import type { ImportAnswers } from '#core/exchange/import-questions'
import { cellsOf, type TakenIn } from '#core/exchange/score/into-song'
import { download, fileName, randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'

// The song in open formats for other programs, and a part brought in from one.
const store = useSong()
const work = usePlayingWork()
/** What comes in is asked apart: a file that is read does not stop one that is written. */
const reading = usePlayingWork()
const ALL = ''
const NEW = ''
const format = ref<Format>('musicxml')
const partId = ref(ALL)
const sectionId = ref(ALL)
const problem = ref('')
const busy = ref(false)
const written = shallowRef<Exported>()
const formats = Object.entries(FORMATS).map(([value, { words }]) => ({
  title: words,
  value: value as Format,
}))
const parts = computed(() => [
  { title: 'all parts', value: ALL },
  ...store.parts.map(({ id, name }) => ({ title: name, value: id })),
])
const sections = computed(() => [
  { title: 'the whole song', value: ALL },
  ...(store.song?.sectionOrder.map((id) => ({ title: store.song!.sections[id]!.name, value: id })) ?? []),
])
const ofForm = computed(() => format.value === 'csv' || format.value === 'chords')
watch([format, partId, sectionId, () => store.song], () => (written.value = undefined))

async function save(): Promise<void> {
  const { song } = store
  if (!song || busy.value) return
  busy.value = true
  problem.value = ''
  const scope = {
    ...(partId.value && !ofForm.value ? { partIds: [partId.value] } : {}),
    ...(sectionId.value && format.value !== 'csv' ? { sectionId: sectionId.value } : {}),
  }
  const made = await work.ask({ want: 'export', song, format: format.value, scope })
  busy.value = false
  if (!made.ok) {
    problem.value = made.refusal.message
    return
  }
  const { extension, type } = FORMATS[format.value]
  download(made.value.bytes, `${fileName(song.title)}.${extension}`, type)
  written.value = made.value
}

const input = ref<HTMLInputElement>()
const read = shallowRef<{ name: string; bytes: Uint8Array; file: Imported }>()
const answers = ref<ImportAnswers>({})
const fromPart = ref(0)
const ontoId = ref(NEW)
const fromParts = computed(() =>
  (read.value?.file.score.parts ?? []).map(({ name }, index) => ({ title: name, value: index })),
)
const ontoParts = computed(() => [
  { title: 'a new part', value: NEW },
  ...store.parts.map(({ id, name }) => ({ title: name, value: id })),
])
async function choose(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  read.value = undefined
  answers.value = {}
  await readFile(file.name, new Uint8Array(await file.arrayBuffer()))
  fromPart.value = 0
  const named = store.parts.find(({ name }) => name === read.value?.file.score.parts[0]?.name)
  ontoId.value = named?.id ?? NEW
}
/** The bytes are kept: another answer reads them again. */
async function readFile(name: string, bytes: Uint8Array): Promise<void> {
  problem.value = ''
  const answer = await reading.ask({ want: 'import', bytes, name, answers: { ...answers.value } })
  if (!answer.ok) {
    if (answer.refusal.code !== 'cancelled') problem.value = answer.refusal.message
  } else if (!answer.value.score.parts.length)
    problem.value =
      'There is no part with notes in this file. A form alone makes a new song: open it on the Shelf.'
  else read.value = { name, bytes, file: answer.value }
}
function answered(now: ImportAnswers): void {
  answers.value = now
  if (read.value) void readFile(read.value.name, read.value.bytes)
}
const taken = computed(() =>
  ontoId.value
    ? `Everything ${store.song?.parts[ontoId.value]?.name ?? ''} plays in those sections is replaced.`
    : '',
)
/** What the chosen part makes there: worked out before it is asked about. */
const fit = shallowRef<TakenIn>()
watch([read, fromPart, ontoId, () => store.song], async () => {
  fit.value = undefined
  const { song } = store
  const score = read.value?.file.score
  const from = score?.parts[fromPart.value]
  if (!song || !score || !from) return
  const wish = { from, partId: ontoId.value || randomId(), prefix: randomId() }
  const made = await reading.ask({ want: 'part of score', song, score, wish })
  if (made.ok) fit.value = made.value
  else if (made.refusal.code !== 'cancelled') problem.value = made.refusal.message
})
const lost = computed(() => [...(read.value?.file.dropped ?? []), ...(fit.value?.dropped ?? [])])
function bringIn(): void {
  if (!fit.value) return
  const { part, figures } = fit.value
  if (store.run('bringInPart', { part, figures, cells: cellsOf(fit.value) })) read.value = undefined
}
</script>

<template>
  <section>
    <h3>Out</h3>
    <SelectField v-model="format" label="Format" :items="formats" data-test="format" />
    <SelectField v-if="!ofForm" v-model="partId" label="Parts" :items="parts" />
    <SelectField v-if="format !== 'csv'" v-model="sectionId" label="Stretch" :items="sections" />
    <ActButton kind="main" data-test="export" :disabled="busy" @click="save">
      {{ busy ? 'Writing…' : 'Save the file' }}
    </ActButton>
    <FileReport v-if="written" :held="written.held" :dropped="written.dropped" />
    <h3>In</h3>
    <p class="quiet">A part from MusicXML or MIDI, laid over the form bar by bar from the first.</p>
    <div class="row">
      <ActButton data-test="choose-file" @click="input?.click()">Choose a file</ActButton>
    </div>
    <input
      ref="input"
      type="file"
      accept=".musicxml,.xml,.mxl,.mid,.midi"
      hidden
      data-test="part-file"
      @change="choose"
    />
    <template v-if="read">
      <p>
        <b>{{ read.name }}</b>
      </p>
      <SelectField v-model="fromPart" label="Which part of it" :items="fromParts" />
      <SelectField v-model="ontoId" label="Onto" :items="ontoParts" data-test="onto" />
      <FileReport :held="read.file.held" :dropped="lost" />
      <ImportQuestions
        :questions="read.file.questions"
        :model-value="answers"
        @update:model-value="answered"
      />
      <p v-if="fit">
        {{ fit.notes }} notes in {{ fit.figures.length }}
        {{ fit.figures.length === 1 ? 'figure' : 'figures' }} for {{ fit.part.name }}.
      </p>
      <p v-if="taken">{{ taken }}</p>
      <div class="row">
        <ActButton kind="main" data-test="bring-in" :disabled="!fit" @click="bringIn">Bring it in</ActButton>
        <ActButton @click="read = undefined">Leave it</ActButton>
      </div>
    </template>
    <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
}
h3 {
  font-size: 16px;
  margin: 0;
}
h3:not(:first-child) {
  margin-top: 14px;
}
p {
  font-size: 14px;
}
.row {
  display: flex;
  gap: 6px;
}
.main-button {
  justify-self: start;
}
</style>
