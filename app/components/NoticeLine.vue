<script setup lang="ts">
import { useSong } from '~/stores/song'
import { saveSongFile } from '~/composables/songFiles'

const song = useSong()
const route = useRoute()
const text = computed(() => song.notice?.text)
/** What is not stored can be saved as a file. */
const atRisk = computed(() => song.notice?.kind === 'storage' || song.notice?.kind === 'removed')
// What was said of a page is not said of the next one.
watch(
  () => route.path,
  () => {
    if (!atRisk.value) song.notice = undefined
  },
)
</script>

<template>
  <v-snackbar
    :model-value="Boolean(text)"
    class="notice"
    location="bottom"
    :timeout="-1"
    role="alert"
    data-test="notice"
    @update:model-value="song.notice = undefined"
  >
    {{ text }}
    <template #actions>
      <ActButton v-if="atRisk" @click="saveSongFile(false)"> Save the song as a file </ActButton>
      <ActButton v-if="song.notice?.kind === 'storage'" @click="song.retrySave()">Try again</ActButton>
      <ActButton v-if="song.notice?.kind === 'removed'" @click="song.putBack()">
        Put it back on the shelf
      </ActButton>
      <ActButton @click="song.notice = undefined">OK</ActButton>
    </template>
  </v-snackbar>
</template>

<style>
.notice .v-snackbar__wrapper {
  background: var(--paper);
  color: var(--ink);
  border: 1.5px solid var(--attention);
  border-radius: 5px;
  margin-bottom: 76px;
}
.notice .v-snackbar__content {
  font-size: 15px;
}
.notice .v-snackbar__actions {
  gap: 8px;
  padding: 8px;
}
</style>
