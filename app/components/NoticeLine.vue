<script setup lang="ts">
import { useSong } from '~/stores/song'
import { saveSongFile } from '~/composables/songFiles'

const song = useSong()
const text = computed(() => song.notice?.text)
</script>

<template>
  <div v-if="text" class="notice" role="alert" data-test="notice">
    <span>{{ text }}</span>
    <ActButton v-if="song.notice?.kind !== 'refusal'" @click="saveSongFile(false)">
      Save the song as a file
    </ActButton>
    <ActButton v-if="song.notice?.kind === 'storage'" @click="song.retrySave()"> Try again </ActButton>
    <ActButton v-if="song.notice?.kind === 'removed'" @click="song.putBack()">
      Put it back on the shelf
    </ActButton>
    <ActButton @click="song.notice = undefined">OK</ActButton>
  </div>
</template>

<style scoped>
.notice {
  position: fixed;
  left: 50%;
  bottom: 84px;
  transform: translateX(-50%);
  max-width: min(720px, 92vw);
  background: var(--paper);
  color: var(--ink);
  border: 1.5px solid var(--attention);
  border-radius: 5px;
  padding: 10px 14px;
  display: flex;
  gap: 12px;
  align-items: center;
  z-index: 2000;
  font-size: 15px;
}
</style>
