<script setup lang="ts">
import { database } from '#platform/database'
import { saveSongFile } from '~/composables/songFiles'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'

// The whole song as a file, with or without its recording.
const withRecording = defineModel<boolean>({ required: true })
const store = useSong()
const recording = useRecording()
const recordingBytes = ref(0)
watch(
  [() => store.source?.audioHash, () => recording.state],
  async ([hash]) => {
    recordingBytes.value = hash ? ((await database.audio.get(hash))?.bytes ?? 0) : 0
  },
  { immediate: true },
)
const recordingLabel = computed(() =>
  recordingBytes.value
    ? `with the recording inside (${(recordingBytes.value / 1e6).toFixed(1)} MB)`
    : 'with the recording inside (it is not on this machine)',
)
</script>

<template>
  <section>
    <p class="quiet">A zip with the whole song as readable JSON. It opens here again, on any machine.</p>
    <CheckField
      v-model="withRecording"
      :label="recordingLabel"
      :disabled="!recordingBytes"
      data-test="with-recording"
    />
    <p class="inside">
      Contains: the song document<template v-if="withRecording">
        and the recording “{{ store.source?.name }}”. Share it only if you may.</template
      ><template v-else>, no recording.</template>
    </p>
    <ActButton kind="main" data-test="save-file" @click="saveSongFile(withRecording)">
      Save the song file
    </ActButton>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
}
p {
  font-size: 14px;
}
.main-button {
  justify-self: start;
}
</style>
