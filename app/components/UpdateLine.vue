<script setup lang="ts">
import { useSong } from '~/stores/song'

/** A new version has arrived: offered while somebody works, taken by itself only when nothing is open. */
const song = useSong()
const { $pwa } = useNuxtApp()
const later = ref(false)
const ready = computed(() => Boolean($pwa?.needRefresh))
watch(
  [ready, () => song.song === undefined],
  ([isReady, nothingOpen]) => {
    if (isReady && nothingOpen) void $pwa?.updateServiceWorker(true)
  },
  { immediate: true },
)
/** Everything is stored first; the page is loaded anew once the new version has taken over. */
async function take(): Promise<void> {
  if (!(await song.settled())) return
  navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true })
  await $pwa?.updateServiceWorker(false)
}
</script>

<template>
  <div v-if="ready && song.song && !later" class="update" role="status" data-test="update">
    <span>A new version of Synchorda is ready. What you typed and what undo reaches stay.</span>
    <ActButton kind="main" @click="take">Use it now</ActButton>
    <ActButton @click="later = true">Later</ActButton>
  </div>
</template>

<style scoped>
.update {
  position: fixed;
  right: 20px;
  bottom: 84px;
  max-width: min(560px, 92vw);
  background: var(--paper);
  color: var(--ink);
  border: 1.5px solid var(--action);
  border-radius: 5px;
  padding: 10px 14px;
  display: flex;
  gap: 12px;
  align-items: center;
  z-index: 1900;
  font-size: 15px;
}
</style>
