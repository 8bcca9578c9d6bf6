<script setup lang="ts">
import { createFromRecording } from '~/composables/songFiles'

// A recording put on the shelf as a new song.
const open = defineModel<boolean>({ required: true })
/** A file that was dropped on the shelf. */
const props = defineProps<{ dropped?: File | undefined }>()
const title = ref('')
const artist = ref('')
const file = shallowRef<File>()
const problem = ref('')
/** A song on the shelf has this recording: another one is only made when it is asked for. */
const known = ref(false)
let stop: AbortController | undefined
const progress = ref<{ words: string; fraction: number }>()
const chooser = ref<HTMLInputElement>()
watch(open, (now) => {
  if (!now) return
  title.value = ''
  artist.value = ''
  file.value = undefined
  problem.value = ''
  known.value = false
  takeFile(props.dropped)
})
onScopeDispose(() => stop?.abort())

function takeFile(taken: File | undefined): void {
  if (!taken) return
  file.value = taken
  problem.value = ''
  known.value = false
  if (!title.value) title.value = taken.name.replace(/\.[^.]+$/, '').replace(/[_-]+/g, ' ')
}
async function create(): Promise<void> {
  if (!file.value || !title.value.trim() || progress.value) return
  problem.value = ''
  progress.value = { words: 'reading', fraction: 0 }
  stop = new AbortController()
  const result = await createFromRecording(
    { title: title.value.trim().slice(0, 200), artist: artist.value.trim().slice(0, 200) },
    file.value,
    {
      signal: stop.signal,
      again: known.value,
      onProgress: (words, fraction) => {
        progress.value = { words, fraction }
      },
    },
  )
  progress.value = undefined
  if (!result.ok) {
    known.value = result.refusal.code === 'known'
    problem.value = result.refusal.message
    return
  }
  open.value = false
  await navigateTo(`/song/${result.value}/setup`)
}
</script>

<template>
  <v-dialog v-model="open" aria-label="New song" max-width="560" :persistent="Boolean(progress)">
    <v-card class="dialog">
      <h2>New song</h2>
      <v-text-field v-model="title" label="Title" maxlength="200" autofocus data-test="new-title" />
      <v-text-field v-model="artist" label="Artist or band" maxlength="200" data-test="new-artist" />
      <button
        type="button"
        class="drop"
        :class="{ has: file }"
        @click="chooser?.click()"
        @dragover.prevent
        @drop.prevent="takeFile($event.dataTransfer?.files[0])"
      >
        <b>{{ file ? file.name : 'Drop the recording here, or choose a file' }}</b>
        <span class="quiet">WAV, MP3, Ogg, Opus, FLAC, M4A · up to 15 minutes</span>
      </button>
      <input
        ref="chooser"
        type="file"
        accept="audio/*,.wav,.mp3,.ogg,.opus,.flac,.m4a,.aac"
        hidden
        data-test="audio-file"
        @change="takeFile(($event.target as HTMLInputElement).files?.[0])"
      />
      <div v-if="progress" role="status">
        <v-progress-linear :model-value="progress.fraction * 100" color="primary" aria-label="Progress" />
        <span class="quiet">{{ progress.words }}…</span>
      </div>
      <p v-if="problem" class="attention" role="alert" data-test="new-problem">{{ problem }}</p>
      <div class="acts">
        <ActButton
          kind="main"
          :disabled="Boolean(progress) || !file || !title.trim()"
          data-test="create"
          @click="create"
        >
          {{ known ? 'Make another song of it' : 'Put it on the shelf' }}
        </ActButton>
        <ActButton v-if="progress" data-test="create-stop" @click="stop?.abort()">Stop</ActButton>
        <ActButton v-else @click="open = false">Cancel</ActButton>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 22px 26px;
  display: grid;
  gap: 14px;
}
.drop {
  border: 1.5px dashed var(--deep);
  border-radius: 5px;
  background: none;
  color: inherit;
  font: inherit;
  padding: 20px;
  display: grid;
  gap: 4px;
  text-align: center;
  cursor: pointer;
}
.drop.has {
  border-style: solid;
  background: var(--selection);
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
