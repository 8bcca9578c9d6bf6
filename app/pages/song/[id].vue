<script setup lang="ts">
import { outlineOf, attachRecording } from '~/composables/songFiles'
import { sendSong } from '~/composables/soundPort'
import { useOutline } from '~/composables/outline'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'

const route = useRoute()
const song = useSong()
const transport = useTransport()
const recording = useRecording()
const outline = useOutline()
const hearing = useHearing()
const id = computed(() => String(route.params.id))
const attach = ref<HTMLInputElement>()
const attaching = ref('')

async function openRecording(): Promise<void> {
  const hash = song.source?.audioHash
  const openId = song.song?.id
  if (!hash || !openId) {
    recording.state = 'none'
    return
  }
  recording.state = 'loading'
  outline.value = await outlineOf(hash)
  try {
    const opened = await recording.open(hash)
    if (song.song?.id !== openId || song.source?.audioHash !== hash) return
    if (!opened) {
      recording.state = 'missing'
      return
    }
    outline.value ??= await outlineOf(hash, opened)
    await transport.setRecording(opened.channels)
  } catch {
    recording.state = 'missing'
  }
}
async function open(): Promise<void> {
  const wanted = id.value
  if (song.song?.id === wanted) return
  outline.value = undefined
  transport.reset()
  hearing.close()
  // Another song was asked for before this one was there.
  if (!(await song.open(wanted)) || id.value !== wanted) return
  const { song: opened } = song
  recording.state = song.source?.audioHash ? 'loading' : 'none'
  transport.recallPlace()
  // The page is painted first; sound and recording follow.
  requestAnimationFrame(() =>
    setTimeout(() => {
      if (!opened || song.song?.id !== opened.id) return
      sendSong(opened)
      void openRecording()
    }),
  )
}
async function takeRecording(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const result = await attachRecording(file, (words) => {
    attaching.value = `${words}…`
  })
  attaching.value = result.ok ? '' : result.refusal.message
  if (result.ok) {
    outline.value = undefined
    await openRecording()
  }
}
watch(id, open, { immediate: true })
// A recording nobody has heard yet is listened to as soon as it is on the shelf, whatever page is open; one
// that is laid out, only when asked.
watch(
  () => recording.state,
  async (state) => {
    if (state !== 'ready' || song.readOnly || song.source?.grid || (await hearing.recall())) return
    await hearing.listen()
  },
  { immediate: true },
)
// Another recording of the same song is listened to: it takes the place of the first where the music is.
watch(
  () => song.heardSourceId,
  async () => {
    const { playing } = transport
    const tick = transport.takePlace()
    await openRecording()
    transport.resumeAt(tick, playing)
  },
)
</script>

<template>
  <div class="song-page">
    <SongTrouble v-if="song.trouble" />
    <template v-if="song.song">
      <p v-if="song.readOnly && !song.trouble" class="banner" role="status">
        {{ song.readOnly }}
        <v-btn
          v-if="song.following"
          size="small"
          variant="outlined"
          data-test="write-here"
          @click="song.writeHere()"
        >
          Write here instead
        </v-btn>
      </p>
      <p v-if="recording.state === 'missing'" class="banner">
        <span>The recording of this song is not on this machine. </span
        ><ActButton @click="attach?.click()">Choose its file</ActButton>
        <span class="attention" role="status">{{ attaching }}</span><input
          ref="attach"
          type="file"
          accept="audio/*"
          hidden
          @change="takeRecording"
        />
      </p>
      <NuxtPage />
    </template>
    <p v-else-if="!song.trouble" class="quiet problem">Opening…</p>
  </div>
</template>

<style scoped>
.song-page {
  min-height: 100%;
  display: flex;
  flex-direction: column;
}
.problem {
  padding: 30px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
.banner {
  margin: 0;
  padding: 7px 20px;
  border-bottom: 1px solid var(--rule);
  background: var(--paper);
  font-size: 14.5px;
}
</style>
