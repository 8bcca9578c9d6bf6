<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { liveQuery } from 'dexie'
import { percentOf } from '#core/timeline/coverage'
import { clock } from '#core/time/beat-grid'
import { database, storageState, type SongRow } from '#platform/database'
import { removeSong } from '#platform/song-store'
import { createFromRecording, openSongFile, shelveDemos } from '~/composables/songFiles'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useShortcuts } from '~/composables/shortcuts'

const song = useSong()
const transport = useTransport()
const rows = ref<SongRow[]>()
const storage = ref<Awaited<ReturnType<typeof storageState>>>()
const problem = ref<string>()
const form = reactive({
  open: false,
  title: '',
  artist: '',
  file: undefined as File | undefined,
  busy: false,
  words: '',
  fraction: 0,
  problem: '',
})
const removing = ref<SongRow>()
const newDialog = ref(false)
const fileInput = ref<HTMLInputElement>()
const audioInput = ref<HTMLInputElement>()

let leaveShelf: () => void = () => undefined
onScopeDispose(() => leaveShelf())
onMounted(async () => {
  song.close()
  transport.reset()
  let left = false
  leaveShelf = () => {
    left = true
  }
  const shelved = await shelveDemos()
  if (!shelved.ok) problem.value = shelved.refusal.message
  if (left) return
  const query = liveQuery(() => database.songs.orderBy('updatedAt').reverse().toArray()).subscribe({
    next: (list) => {
      rows.value = list
      void storageState().then((state) => {
        storage.value = state
      })
    },
    error: () => {
      rows.value = []
      problem.value =
        'The browser refuses to keep data for this page (a private window?). ' +
        'Songs can be opened and saved as files, but not kept on the shelf.'
    },
  })
  leaveShelf = () => query.unsubscribe()
})

const progressWords = (row: SongRow): string => {
  const { bars, sections, parts, chartedShare, hasGrid } = row.summary
  if (!hasGrid) return 'recording only: nothing mapped yet'
  return `${bars} bars in ${sections} ${sections === 1 ? 'section' : 'sections'} · ${parts} ${parts === 1 ? 'part' : 'parts'} · ${percentOf(chartedShare)} % charted`
}
const nextStep = (row: SongRow): string =>
  row.summary.hasGrid
    ? row.summary.parts === 0
      ? 'setup'
      : row.summary.sections < 2
        ? 'listen'
        : 'map'
    : row.summary.parts === 0
      ? 'setup'
      : 'listen'
const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`

function takeFile(file: File | undefined): void {
  if (!file) return
  form.file = file
  form.problem = ''
  if (!form.title) form.title = file.name.replace(/\.[^.]+$/, '').replace(/[_-]+/g, ' ')
}
async function create(): Promise<void> {
  if (!form.file || !form.title.trim()) return
  form.busy = true
  form.problem = ''
  const result = await createFromRecording(
    { title: form.title.trim().slice(0, 200), artist: form.artist.trim().slice(0, 200) },
    form.file,
    (words, fraction) => {
      form.words = words
      form.fraction = fraction
    },
  )
  form.busy = false
  if (!result.ok) {
    form.problem = result.refusal.message
    return
  }
  newDialog.value = false
  await navigateTo(`/song/${result.value}/setup`)
}
async function openFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = undefined
  const opened = await openSongFile(file)
  if (opened.ok) await navigateTo(`/song/${opened.value}/map`)
  else problem.value = opened.refusal.message
}
function startNew(): void {
  Object.assign(form, { title: '', artist: '', file: undefined, problem: '' })
  newDialog.value = true
}
async function remove(): Promise<void> {
  const row = removing.value
  removing.value = undefined
  if (!row) return
  try {
    await removeSong(row.id)
  } catch {
    problem.value = `“${row.title}” could not be removed: the browser’s storage did not answer. Reload and try again.`
  }
}
useShortcuts([
  { keys: ['n'], label: 'New song', run: startNew },
  { keys: ['o'], label: 'Open a song file', run: () => fileInput.value?.click() },
])
</script>

<template>
  <div class="shelf">
    <div class="head">
      <h1>Shelf</h1>
      <span class="quiet"
        >One recorded song at a time: lay out its form, chart every guitar and bass, teach it.</span
      >
    </div>
    <div class="acts">
      <ActButton kind="main" data-test="new-song" @click="startNew">New song from a recording</ActButton>
      <ActButton @click="fileInput?.click()">Open a song file</ActButton>
      <input
        ref="fileInput"
        type="file"
        accept=".zip,application/zip"
        hidden
        data-test="song-file"
        @change="openFile"
      />
      <span v-if="storage" class="quiet used"
        >{{ megabytes(storage.usedBytes) }} used{{ storage.persisted ? ', kept by the browser' : '' }}</span
      >
    </div>
    <p v-if="problem" class="attention problem" role="alert" data-test="shelf-problem">{{ problem }}</p>
    <p v-if="rows && rows.length === 0" class="quiet empty">
      The shelf is empty. Start with <b>New song from a recording</b>, or open a song file someone gave you.
    </p>
    <ul v-if="rows" class="songs">
      <li v-for="row in rows" :key="row.id" class="song" data-test="song">
        <NuxtLink class="open" :to="`/song/${row.id}/${nextStep(row)}`">
          <span class="names"
            ><b class="name">{{ row.title }}</b
            ><span class="quiet">{{ row.artist }}</span
            ><span v-if="row.demo" class="tag">demo</span
            ><span v-if="row.readOnly" class="tag">read-only</span></span
          >
          <span class="mono quiet time">{{ clock(row.summary.durationSeconds) }}</span>
          <span class="form" aria-hidden="true">
            <template v-if="row.summary.hasGrid"
              ><span
                v-for="(section, index) in row.summary.form"
                :key="index"
                class="piece"
                :class="section.kind.replace(/[^a-z]/g, '')"
                :style="{ flexGrow: section.bars }"
            /></template>
            <span v-else class="piece hatched" :style="{ flexGrow: 1 }" />
          </span>
          <span class="words">{{ progressWords(row) }}</span>
        </NuxtLink>
        <button class="plain quiet remove" :aria-label="`Remove ${row.title}`" @click="removing = row">
          <v-icon :icon="mdiDeleteOutline" size="20" />
        </button>
      </li>
    </ul>
    <p class="quiet law">
      Recordings stay on this machine; nothing is uploaded. A recording and a transcription can be under
      copyright: check the licence and local law before you hand sheets out. Start with the volume low.
    </p>

    <v-dialog v-model="newDialog" aria-label="New song" max-width="560" :persistent="form.busy">
      <v-card class="dialog">
        <h2>New song</h2>
        <v-text-field v-model="form.title" label="Title" maxlength="200" autofocus data-test="new-title" />
        <v-text-field v-model="form.artist" label="Artist or band" maxlength="200" data-test="new-artist" />
        <button
          type="button"
          class="drop"
          :class="{ has: form.file }"
          @click="audioInput?.click()"
          @dragover.prevent
          @drop.prevent="takeFile($event.dataTransfer?.files[0])"
        >
          <b>{{ form.file ? form.file.name : 'Drop the recording here, or choose a file' }}</b>
          <span class="quiet">WAV, MP3, Ogg, Opus, FLAC, M4A · up to 15 minutes</span>
        </button>
        <input
          ref="audioInput"
          type="file"
          accept="audio/*,.wav,.mp3,.ogg,.opus,.flac,.m4a,.aac"
          hidden
          data-test="audio-file"
          @change="takeFile(($event.target as HTMLInputElement).files?.[0])"
        />
        <div v-if="form.busy" role="status">
          <v-progress-linear :model-value="form.fraction * 100" color="primary" aria-label="Progress" /><span
            class="quiet"
            >{{ form.words }}…</span
          >
        </div>
        <p v-if="form.problem" class="attention" role="alert" data-test="new-problem">{{ form.problem }}</p>
        <div class="dialog-acts">
          <ActButton
            kind="main"
            :disabled="form.busy || !form.file || !form.title.trim()"
            data-test="create"
            @click="create"
          >
            Put it on the shelf</ActButton
          ><ActButton :disabled="form.busy" @click="newDialog = false">Cancel</ActButton>
        </div>
      </v-card>
    </v-dialog>
    <v-dialog
      aria-label="Remove a song"
      :model-value="Boolean(removing)"
      max-width="460"
      @update:model-value="removing = undefined"
    >
      <v-card class="dialog"
        ><h2>Remove “{{ removing?.title }}”?</h2>
        <p>
          The song, its charts and its recording are deleted from this browser. Save it as a file first if you
          may want it again: this cannot be undone.
        </p>
        <div class="dialog-acts">
          <ActButton kind="main" class="danger" @click="remove">Remove it</ActButton
          ><ActButton @click="removing = undefined">Keep it</ActButton>
        </div></v-card
      >
    </v-dialog>
  </div>
</template>

<style scoped>
.shelf {
  padding: 24px 34px 40px 20px;
  max-width: 1180px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 18px;
  flex-wrap: wrap;
}
.acts {
  display: flex;
  align-items: center;
  gap: 14px;
  margin: 18px 0 10px;
}
.used {
  margin-left: auto;
}
.songs {
  list-style: none;
  padding: 0;
  border-top: 1px solid var(--rule);
  margin-top: 16px;
}
.song {
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
.open {
  flex: 1;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 9px 16px;
  padding: 16px 8px;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
.open:hover {
  background: var(--selection);
}
.names {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.name {
  font: 700 19px var(--face-heading);
}
.tag {
  border: 1px solid var(--deep);
  border-radius: 3px;
  font-size: 12px;
  padding: 0 6px;
  color: var(--quiet);
}
.form {
  display: flex;
  gap: 2px;
  height: 20px;
  grid-column: 1;
}
.piece {
  background: var(--wood);
  border-bottom: 3px solid var(--deep);
  min-width: 3px;
}
.piece.chorus {
  border-bottom-width: 11px;
  border-bottom-color: var(--action);
}
.piece.verse {
  border-bottom-width: 7px;
}
.piece.solo,
.piece.bridge {
  border-bottom-color: var(--evidence);
  border-bottom-width: 9px;
}
.piece.hatched {
  border-bottom-width: 1px;
  background: repeating-linear-gradient(-45deg, transparent 0 6px, var(--deep) 6px 7px);
}
.words {
  grid-column: 1 / -1;
  font-size: 14.5px;
}
.time {
  font-size: 15px;
}
.remove {
  padding: 12px;
}
.law {
  max-width: 760px;
  margin-top: 26px;
  font-size: 13.5px;
}
.problem {
  max-width: 760px;
}
.empty {
  padding: 30px 0;
}
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
.dialog-acts {
  display: flex;
  gap: 12px;
  align-items: center;
}
.danger {
  background: var(--attention);
  color: rgb(var(--v-theme-on-error));
}
</style>
