<script setup lang="ts">
import type { Imported } from '#core/exchange/formats'
import { createSong } from '#platform/song-store'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'

// A file from another program as a new song: what it makes and what it cannot hold is shown first.
const file = defineModel<File | undefined>({ required: true })
const work = usePlayingWork()
const read = shallowRef<Imported>()
const title = ref('')
const problem = ref('')
const busy = ref(false)
watch(file, async (now) => {
  read.value = undefined
  problem.value = ''
  if (!now) return
  busy.value = true
  const bytes = new Uint8Array(await now.arrayBuffer())
  const answer = await work.ask({ want: 'import', bytes, name: now.name })
  busy.value = false
  if (!answer.ok) {
    problem.value = answer.refusal.message
    return
  }
  read.value = answer.value
  title.value = answer.value.score.title
})
async function make(): Promise<void> {
  if (!read.value || busy.value) return
  busy.value = true
  const id = randomId()
  const score = { ...read.value.score, title: title.value.trim().slice(0, 200) || read.value.score.title }
  const facts = { id, sourceName: file.value?.name ?? '' }
  const made = await work.ask({ want: 'song of score', score, facts })
  const stored = made.ok ? await createSong(made.value.song) : made
  busy.value = false
  if (!stored.ok) {
    problem.value = stored.refusal.message
    return
  }
  file.value = undefined
  await navigateTo(`/song/${id}/map`)
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
      <p v-if="busy" class="quiet" role="status">reading…</p>
      <template v-if="read">
        <p>This makes a new song with</p>
        <FileReport :held="read.held" :dropped="read.dropped" />
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
