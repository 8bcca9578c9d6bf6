<script setup lang="ts">
import type { Song } from '#core/document/schema'
import type { Imported } from '#core/exchange/formats'
import type { ImportAnswers } from '#core/exchange/import-questions'
import type { Dropped } from '#core/exchange/score/written-score'
import { createSong } from '#platform/song-store'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'

// A file from another program as a new song: what it makes and what it cannot hold is shown first.
const file = defineModel<File | undefined>({ required: true })
const work = usePlayingWork()
/** The song a file makes: made before it is asked about, so that all of what is lost is known. */
const read = shallowRef<{ file: Imported; song: Song; dropped: Dropped[] }>()
const title = ref('')
const problem = ref('')
const busy = ref(false)
const share = ref(0)
/** What the file leaves open, answered. */
const answers = ref<ImportAnswers>({})
watch(file, async (now) => {
  answers.value = {}
  read.value = undefined
  await readFile(now)
})
async function readFile(now: File | undefined): Promise<void> {
  problem.value = ''
  // Whatever is still read of the file before is not wanted any more.
  work.stop()
  busy.value = false
  if (!now) return
  busy.value = true
  share.value = 0
  const bytes = new Uint8Array(await now.arrayBuffer())
  const onProgress = (_stage: string, fraction: number): void => {
    share.value = fraction
  }
  const taken = { ...answers.value }
  const task = { want: 'import' as const, bytes, name: now.name, answers: taken }
  const answer = await work.ask(task, { onProgress })
  const facts = { id: randomId(), sourceName: now.name }
  const made = answer.ok
    ? await work.ask({ want: 'song of score', score: answer.value.score, facts })
    : answer
  if (file.value !== now) return
  if (!made.ok && made.refusal.code === 'cancelled') return
  busy.value = false
  if (answer.ok && made.ok) {
    const { song, dropped } = made.value
    if (!read.value) title.value = song.title
    read.value = { file: answer.value, song, dropped: [...answer.value.dropped, ...dropped] }
  } else if (!made.ok) {
    read.value = undefined
    problem.value = made.refusal.message
  }
}
function answered(now: ImportAnswers): void {
  answers.value = now
  void readFile(file.value)
}
async function make(): Promise<void> {
  if (!read.value || busy.value) return
  busy.value = true
  const { song } = read.value
  const stored = await createSong({ ...song, title: title.value.trim().slice(0, 200) || song.title })
  busy.value = false
  if (!stored.ok) {
    problem.value = stored.refusal.message
    return
  }
  file.value = undefined
  await navigateTo(`/song/${song.id}/map`)
}
function leave(open: boolean): void {
  if (!open) file.value = undefined
}
</script>

<template>
  <v-dialog
    :model-value="file !== undefined"
    aria-label="A file from another program"
    max-width="560"
    @update:model-value="leave"
  >
    <v-card class="dialog">
      <h2>{{ file?.name }}</h2>
      <div v-if="busy" role="status">
        <v-progress-linear
          :model-value="share * 100"
          :indeterminate="share === 0"
          color="primary"
          aria-label="Progress"
        />
        <span class="quiet">reading…</span>
      </div>
      <template v-if="read">
        <p>This makes a new song with</p>
        <FileReport :held="read.file.held" :dropped="read.dropped" />
        <ImportQuestions
          :questions="read.file.questions"
          :model-value="answers"
          @update:model-value="answered"
        />
        <v-text-field v-model="title" label="Title" maxlength="200" data-test="bring-title" />
        <p class="quiet">
          It has no recording: add one in Set up to hear and check it. A score can be under copyright.
        </p>
      </template>
      <p v-if="problem" class="attention" role="alert" data-test="bring-problem">{{ problem }}</p>
      <div class="acts">
        <ActButton v-if="read" kind="main" data-test="bring-make" :disabled="busy" @click="make">
          Make the song
        </ActButton>
        <ActButton @click="leave(false)">{{ read ? 'Leave it' : 'Close' }}</ActButton>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 24px;
  display: grid;
  gap: 14px;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
