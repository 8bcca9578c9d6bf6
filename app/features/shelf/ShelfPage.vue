<script setup lang="ts">
import { liveQuery } from 'dexie'
import { formatOfName } from '#core/exchange/format-names'
import { database, storageState, type SongRow } from '#platform/database'
import { freeRecordings, removeSong } from '#platform/song-store'
import { openSongFile, shelveDemos } from '~/composables/songFiles'
import { useShortcuts } from '~/composables/shortcuts'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useDropFile } from './dropFile'
import { useWalk, WALK_SONG } from '~/stores/walk'

const song = useSong()
const transport = useTransport()
const preferences = usePreferences()
const walk = useWalk()
const rows = ref<SongRow[]>()
/** Hashes of recordings that were listened to. */
const heard = shallowRef<ReadonlySet<string>>(new Set())
const storage = ref<Awaited<ReturnType<typeof storageState>>>()
const problem = ref<string>()
const removing = ref<SongRow>()
const newDialog = ref(false)
const backupDialog = ref(false)
const bringing = shallowRef<File>()
const fileInput = ref<HTMLInputElement>()

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
  void freeRecordings().catch(() => undefined)
  const query = liveQuery(async () => ({
    list: await database.songs.orderBy('updatedAt').reverse().toArray(),
    hashes: (await database.analyses.toCollection().primaryKeys()).map((key) => key.split('/')[0] ?? ''),
  })).subscribe({
    next: ({ list, hashes }) => {
      rows.value = list
      heard.value = new Set(hashes)
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

/** The walk goes through a song that is there. */
const canWalk = computed(() => !preferences.values.walkSeen && rows.value?.some(({ id }) => id === WALK_SONG))
const usedWords = computed(() => {
  if (!storage.value) return ''
  const megabytes = storage.value.usedBytes / 1e6
  const kept = storage.value.persisted ? ', kept by the browser' : ''
  return `${megabytes.toFixed(megabytes < 10 ? 1 : 0)} MB used${kept}`
})
async function openFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) await take(file)
}
const { dropping, dropped, over, left, drop } = useDropFile(newDialog, (file) => void take(file))
async function take(file: File): Promise<void> {
  problem.value = undefined
  if (formatOfName(file.name)) {
    bringing.value = file
    return
  }
  if (file.name.endsWith('.synchorda-shelf.zip')) {
    problem.value = 'This is a backup of a whole shelf: bring it back with “Backup”.'
    return
  }
  const opened = await openSongFile(file)
  if (opened.ok) await navigateTo(`/song/${opened.value}/map`)
  else problem.value = opened.refusal.message
}
async function remove(): Promise<void> {
  const row = removing.value
  removing.value = undefined
  if (!row) return
  try {
    await removeSong(row.id)
  } catch {
    problem.value =
      `“${row.title}” could not be removed: the browser’s storage did not answer. ` + 'Reload and try again.'
  }
}
useShortcuts([
  {
    keys: ['n'],
    label: 'New song',
    run: () => {
      newDialog.value = true
    },
  },
  { keys: ['o'], label: 'Open a file', run: () => fileInput.value?.click() },
  {
    keys: ['b'],
    label: 'Backup: save the shelf, bring one back',
    run: () => {
      backupDialog.value = true
    },
  },
])
</script>

<template>
  <div
    class="shelf"
    :class="{ dropping }"
    data-test="shelf"
    @dragover="over"
    @dragleave="left"
    @drop.prevent="drop"
  >
    <p v-if="dropping" class="drop-here" role="status">
      Drop it: a recording begins a new song, other files are opened.
    </p>
    <div class="head">
      <h1>Shelf</h1>
      <span class="quiet">
        One recorded song at a time: lay out its form, chart every guitar and bass, teach it.
      </span>
    </div>
    <div class="acts">
      <ActButton kind="main" data-test="new-song" @click="newDialog = true">
        New song from a recording
      </ActButton>
      <ActButton @click="fileInput?.click()">Open a file</ActButton>
      <ActButton data-test="backup" @click="backupDialog = true">Backup</ActButton>
      <input
        ref="fileInput"
        type="file"
        accept=".zip,.musicxml,.xml,.mxl,.mid,.midi,.csv,.txt"
        hidden
        data-test="song-file"
        @change="openFile"
      />
      <span class="quiet used">{{ usedWords }}</span>
    </div>
    <p v-if="canWalk" class="walk" data-test="walk-offer">
      <span>First time here? Two minutes through one charted song show what is where.</span>
      <ActButton kind="main" data-test="walk-start" @click="walk.start()">Show me</ActButton>
      <ActButton kind="link" @click="walk.stop()">Not now</ActButton>
    </p>
    <p v-if="problem" class="attention problem" role="alert" data-test="shelf-problem">{{ problem }}</p>
    <p v-if="rows && rows.length === 0" class="quiet empty">
      The shelf is empty. Start with <b>New song from a recording</b>, or open a file: a song someone gave
      you, MusicXML, MIDI, a cue sheet, chords.
    </p>
    <ShelfLegend v-if="rows?.length" />
    <ul v-if="rows" class="songs">
      <ShelfRow
        v-for="row in rows"
        :key="row.id"
        :row="row"
        :heard="row.recordings.some((hash) => heard.has(hash))"
        @remove="removing = row"
      />
    </ul>
    <p class="quiet law">
      Recordings stay on this machine; nothing is uploaded. A recording and a transcription can be under
      copyright: check the licence and local law before you hand sheets out. Start with the volume low.
    </p>
    <NewSongDialog v-model="newDialog" :dropped="dropped" />
    <BackupDialog v-model="backupDialog" />
    <BringInDialog v-model="bringing" />
    <RemoveSongDialog :row="removing" @remove="remove" @keep="removing = undefined" />
  </div>
</template>

<style scoped>
.shelf {
  padding: clamp(16px, 3vw, 24px) clamp(16px, 3vw, 34px) 40px clamp(16px, 2vw, 20px);
  max-width: 1180px;
  min-height: 100%;
}
.shelf.dropping {
  outline: 3px dashed var(--action);
  outline-offset: -8px;
}
.drop-here {
  position: sticky;
  top: 0;
  z-index: 3;
  padding: 10px 14px;
  background: var(--selection);
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
  flex-wrap: wrap;
  margin: 18px 0 10px;
}
.walk {
  display: flex;
  align-items: center;
  gap: 14px;
  flex-wrap: wrap;
  border-left: 4px solid var(--action);
  background: var(--paper);
  padding: 10px 16px;
  margin: 14px 0 4px;
}
.used {
  margin-left: auto;
}
.songs {
  list-style: none;
  padding: 0;
  border-top: 1px solid var(--rule);
  margin-top: 6px;
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
</style>
