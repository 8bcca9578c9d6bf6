<script setup lang="ts">
import type { Song } from '#core/document/schema'
import type { Imported } from '#core/exchange/formats'
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
watch(file, async (now) => {
  read.value = undefined
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
  const answer = await work.ask({ want: 'import', bytes, name: now.name }, { onProgress })
  const facts = { id: randomId(), sourceName: now.name }
  const made = answer.ok
    ? await work.ask({ want: 'song of score', score: answer.value.score, facts })
    : answer
  if (file.value !== now) return
  busy.value = false
  if (answer.ok && made.ok) {
    const { song, dropped } = made.value
    read.value = { file: answer.value, song, dropped: [...answer.value.dropped, ...dropped] }
    title.value = song.title
  } else if (!made.ok && made.refusal.code !== 'cancelled') problem.value = made.refusal.message
})
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
