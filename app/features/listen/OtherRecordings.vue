<script setup lang="ts">
import { recordingDifferences, gridThroughAlignment } from '#core/suggest/second-source'
import type { Alignment } from '#core/hear/alignment'
import { mainSource } from '#core/document/form'
import type { Source } from '#core/document/schema'
import { database } from '#platform/database'
import { decodeRecording, importRecording, type Imported } from '#platform/recording'
import { randomId } from '#platform/files'
import { runJob, type JobHandle } from '#platform/worker-job'
import type { Compared } from '~/workers/listening.worker'
import { storeRecording } from '~/composables/songFiles'
import { listeningWorker } from '~/session/workers'
import { useShortcuts } from '~/composables/shortcuts'
import { useSong } from '~/stores/song'

// Other recordings of the same song: laid beside the main one, told apart in words, listened to at the same
// place.
const store = useSong()
const chooser = ref<HTMLInputElement>()
const state = ref<{ words: string; fraction: number }>()
const problem = ref('')
const alignments = shallowRef<Record<string, Alignment>>({})
let job: JobHandle<Compared> | undefined
const RATE = 22_050

const main = computed(() => (store.song ? mainSource(store.song) : undefined))
const recordings = computed(() =>
  store.song
    ? store.song.sourceOrder.map((id) => store.song!.sources[id]!).filter((source) => source.audioHash)
    : [],
)
const others = computed(() => recordings.value.filter((source) => source.id !== main.value?.id))
const keyOf = (other: Source): string => `${main.value?.audioHash}/${other.audioHash}`
const differences = (other: Source): string[] =>
  store.song ? recordingDifferences(store.song, other, alignments.value[other.id]) : []
watch(
  others,
  async (list) => {
    for (const other of list) {
      const row = await database.alignments.get(keyOf(other)).catch(() => undefined)
      if (row) alignments.value = { ...alignments.value, [other.id]: row.alignment }
    }
  },
  { immediate: true },
)

async function channelsOf(
  hash: string,
): Promise<{ channels: Float32Array[]; sampleRate: number } | undefined> {
  const row = await database.audio.get(hash)
  if (!row) return undefined
  const recording = await decodeRecording(await row.blob.arrayBuffer(), RATE).catch(() => undefined)
  return (
    recording && {
      channels: recording.channels.map((channel) => channel.slice()),
      sampleRate: recording.sampleRate,
    }
  )
}
async function compare(firstHash: string, secondHash: string): Promise<Compared | undefined> {
  const [first, second] = [await channelsOf(firstHash), await channelsOf(secondHash)]
  if (!first || !second) {
    problem.value = 'One of the recordings is not on this machine.'
    return undefined
  }
  job = runJob<Compared>(
    listeningWorker,
    { want: 'alignment', first, second },
    {
      transfer: [...first.channels, ...second.channels].map((channel) => channel.buffer),
      onProgress: (stage, fraction) => {
        state.value = { words: stage === 'comparing' ? 'comparing the harmony' : 'hearing both', fraction }
      },
    },
  )
  const result = await job.result
  if (!result.ok) {
    if (result.refusal.code !== 'cancelled') problem.value = result.refusal.message
    return undefined
  }
  return result.value
}
const report = (words: string, fraction: number): void => {
  state.value = { words, fraction }
}
/** Reads a file and keeps it, unless it is here already; says why not. */
async function takeIn(file: File): Promise<Imported | undefined> {
  const imported = await importRecording(file, 44_100, report)
  const known = imported.ok && recordings.value.some((source) => source.audioHash === imported.value.hash)
  const taken = imported.ok && !known ? await storeRecording(imported.value, report) : imported
  if (known) problem.value = 'That recording is already here.'
  else if (!taken.ok) problem.value = taken.refusal.message
  return imported.ok && taken.ok && !known ? imported.value : undefined
}
/** Lays a recording beside the main one, bar by bar. */
async function layBeside(name: string, { hash, durationSeconds }: Imported): Promise<void> {
  const own = main.value
  const compared = own?.audioHash && (await compare(own.audioHash, hash))
  if (!compared || !own?.grid) return
  const { alignment, beats, tuningCents } = compared
  await database.alignments.put({ key: `${own.audioHash}/${hash}`, alignment }).catch(() => undefined)
  const id = randomId()
  alignments.value = { ...alignments.value, [id]: alignment }
  store.run('addSource', {
    source: {
      id,
      kind: 'live take',
      name: name.slice(0, 200),
      rank: recordings.value.length + 1,
      offsetSemitones: own.offsetSemitones + alignment.semitones,
      offsetCents: tuningCents,
      offsetSeconds: 0,
      audioHash: hash,
      durationSeconds,
      grid: gridThroughAlignment(own.grid, alignment, durationSeconds, beats),
    },
  })
}
async function add(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file || !main.value?.grid) return
  problem.value = ''
  report('reading the file', 0)
  try {
    const imported = await takeIn(file)
    if (imported) await layBeside(file.name, imported)
  } finally {
    state.value = undefined
  }
}
function stop(): void {
  job?.cancel()
  state.value = undefined
}
function listenTo(source: Source): void {
  store.heardSourceId = source.id === main.value?.id ? undefined : source.id
}
function next(): void {
  const at = recordings.value.findIndex((source) => source.id === store.source?.id)
  const following = recordings.value[(at + 1) % recordings.value.length]
  if (following) listenTo(following)
}
useShortcuts([
  { keys: ['o'], label: 'Switch to the other recording at the same place', run: next, group: 'Playing' },
])
</script>

<template>
  <section class="recordings" aria-label="Recordings of this song">
    <h3>Recordings</h3>
    <ul v-if="others.length">
      <li v-for="source in recordings" :key="source.id">
        <ActButton
          :aria-pressed="store.source?.id === source.id"
          :title="`Listen to ${source.name} (O switches)`"
          @click="listenTo(source)"
        >
          {{ source.name }}
        </ActButton>
        <span
          v-for="words in source.id === main?.id ? [] : differences(source)"
          :key="words"
          class="evidence words"
          >{{ words }}</span
        >
      </li>
    </ul>
    <p v-if="!store.onMainSource" class="quiet words">
      Bars and beats are corrected on “{{ main?.name }}”. <kbd>O</kbd> switches back.
    </p>
    <template v-if="state"
      ><v-progress-linear
        :model-value="state.fraction * 100"
        color="primary"
        aria-label="Comparing recordings"
      /><span class="quiet" role="status">{{ state.words }}…</span
      ><ActButton @click="stop">Stop</ActButton></template
    >
    <ActButton
      v-else
      :disabled="!main?.grid || Boolean(store.readOnly)"
      :title="main?.grid ? 'A live take, a demo: it is laid beside this one' : 'Accept the bars first'"
      data-test="add-recording"
      @click="chooser?.click()"
    >
      Compare another recording…
    </ActButton>
    <p v-if="problem" class="attention words" role="status">{{ problem }}</p>
    <input ref="chooser" type="file" accept="audio/*" hidden data-test="other-recording" @change="add" />
  </section>
</template>

<style scoped>
.recordings {
  display: grid;
  gap: 7px;
  justify-items: start;
  border-top: 1px solid var(--rule);
  padding-top: 10px;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: grid;
  gap: 2px;
  justify-items: start;
}
.chip-button {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.words {
  font-size: 13.5px;
  line-height: 1.3;
}
</style>
