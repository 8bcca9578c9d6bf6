<script setup lang="ts">
import { writeSongFile } from '#core/exchange/song-file'
import type { Song } from '#core/document/schema'
import { download } from '#platform/files'
import { useSong } from '~/stores/song'

/** A song that cannot be opened as it is: what is wrong, and every way on. */
const song = useSong()
const damaged = computed(() => song.trouble?.damaged)
const lost = computed(() => damaged.value?.lastGood?.lost ?? [])
const saveAsItIs = (): void =>
  download(writeSongFile(damaged.value!.data as Song), 'damaged-song.synchorda.zip', 'application/zip')
</script>

<template>
  <section class="trouble" aria-label="What is wrong with this song" data-test="trouble">
    <h1>{{ damaged ? 'This song is damaged' : 'This song cannot be opened' }}</h1>
    <p class="attention" role="alert">{{ song.trouble!.message }}</p>
    <template v-if="damaged">
      <p v-if="song.trouble!.leftOut">
        What can be read of it is shown below, for looking only. Left out:
        {{ song.trouble!.leftOut.slice(0, 4).join('; ') || 'nothing' }}.
      </p>
      <p v-if="damaged.lastGood">
        The last state that was sound is still here{{
          lost.length ? `; it is without ${lost.length === 1 ? 'the change' : 'the changes'}: ` : '.'
        }}{{ lost.slice(-4).join('; ') }}
      </p>
    </template>
    <div class="acts">
      <v-btn
        v-if="damaged?.lastGood"
        variant="flat"
        color="primary"
        data-test="last-good"
        @click="song.takeLastGood()"
      >
        Go back to the last good state
      </v-btn>
      <v-btn v-if="damaged" variant="outlined" data-test="save-damaged" @click="saveAsItIs">
        Save the file as it is
      </v-btn>
      <NuxtLink class="link" to="/">Back to the shelf</NuxtLink>
    </div>
  </section>
</template>

<style scoped>
.trouble {
  padding: 24px 30px;
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 900px;
}
.acts {
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
