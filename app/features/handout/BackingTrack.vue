<script setup lang="ts">
import { z } from 'zod'
import type { BackingWish, RecordSound } from '#core/sound/backing-track'
import { download, fileName } from '#platform/files'
import { loadRecording } from '~/composables/songFiles'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'
import { clock } from '#core/time/beat-grid'
import { backingSeconds, backingSpan } from '#core/sound/backing-track'

// A track to play along to, as a WAV file.
const store = useSong()
const work = usePlayingWork()
const SAMPLE_RATE = 44_100
const silent = ref(new Set<string>())
const speed = ref(100)
const countIn = ref(1)
const withClick = ref(false)
const from = ref('')
const to = ref('')
const times = ref(1)
const withRecord = ref(false)
const rendering = ref<number>()
const problem = ref('')
const done = ref('')
const sections = computed(
  () => store.song?.sectionOrder.map((id) => ({ title: store.song!.sections[id]!.name, value: id })) ?? [],
)
watch(
  sections,
  (list) => {
    if (!list.some(({ value }) => value === from.value)) from.value = list[0]?.value ?? ''
    if (!list.some(({ value }) => value === to.value)) to.value = list.at(-1)?.value ?? ''
  },
  { immediate: true },
)
const COUNT_INS = [0, 1, 2].map((bars) => ({
  title: bars ? `${bars} ${bars > 1 ? 'bars' : 'bar'}` : 'none',
  value: bars,
}))
const speedSchema = z.int().min(25).max(200)
const timesSchema = z.int().min(1).max(50)
const canHaveRecord = computed(() => Boolean(store.source?.audioHash))
const wish = computed((): BackingWish => ({
  partIds: store.parts.filter(({ id }) => !silent.value.has(id)).map(({ id }) => id),
  speed: speed.value / 100,
  countInBars: countIn.value,
  click: withClick.value,
  fromSectionId: from.value,
  toSectionId: to.value,
  times: times.value,
  sampleRate: SAMPLE_RATE,
}))
const seconds = computed(() => (store.song ? backingSeconds(store.song, wish.value) : 0))
const MOST_SECONDS = 20 * 60
function toggle(id: string): void {
  const next = new Set(silent.value)
  if (!next.delete(id)) next.add(id)
  silent.value = next
}
const RECORD_GAIN = 0.7
async function recordSound(): Promise<RecordSound | undefined> {
  const hash = store.source?.audioHash
  if (!withRecord.value || !canHaveRecord.value || !hash) return undefined
  const [loaded, { stretchedRecording }] = await Promise.all([
    loadRecording(hash, SAMPLE_RATE),
    import('#platform/stretched-recording'),
  ])
  if (!loaded || !store.song) return undefined
  const span = { ...backingSpan(store.song, wish.value), speed: wish.value.speed, sampleRate: SAMPLE_RATE }
  return { channels: await stretchedRecording(loaded.channels, span), gain: RECORD_GAIN }
}
async function make(): Promise<void> {
  const { song } = store
  if (!song || rendering.value !== undefined) return
  problem.value = ''
  done.value = ''
  if (seconds.value > MOST_SECONDS) {
    problem.value = 'That is longer than 20 minutes: fewer times, or a shorter stretch.'
    return
  }
  rendering.value = 0
  const record = await recordSound()
  const made = await work.ask(
    { want: 'backing', song, wish: wish.value, record },
    { onProgress: (_stage, share) => (rendering.value = share) },
  )
  rendering.value = undefined
  if (made.ok) {
    download(made.value.bytes, `${fileName(song.title)}-play-along.wav`, 'audio/wav')
    done.value = `${clock(made.value.seconds)}, ${(made.value.bytes.length / 1e6).toFixed(1)} MB`
  } else if (made.refusal.code !== 'cancelled') problem.value = made.refusal.message
}
function stop(): void {
  work.stop()
  rendering.value = undefined
}
</script>

<template>
  <section>
    <div role="group" aria-label="Parts that are heard" class="group">
      <ActButton
        v-for="part in store.parts"
        :key="part.id"
        :aria-pressed="!silent.has(part.id)"
        @click="toggle(part.id)"
      >
        {{ part.name }}
      </ActButton>
    </div>
    <div class="pair">
      <SelectField v-model="from" label="From" :items="sections" data-test="backing-from" />
      <SelectField v-model="to" label="To the end of" :items="sections" data-test="backing-to" />
    </div>
    <div class="pair">
      <NumberField label="Speed, %" :model-value="speed" :schema="speedSchema" @take="speed = $event" />
      <NumberField label="Times" :model-value="times" :schema="timesSchema" @take="times = $event" />
    </div>
    <SelectField v-model="countIn" label="Count-in" :items="COUNT_INS" />
    <CheckField v-model="withClick" label="a click on every beat" />
    <CheckField
      v-model="withRecord"
      label="with the record itself"
      :disabled="!canHaveRecord"
      data-test="backing-record"
    />
    <p v-if="withRecord && canHaveRecord" class="attention" role="note">
      A copy of the record is under copyright: make it only for yourself, or where the licence and local law
      allow it.
    </p>
    <div class="group">
      <ActButton kind="main" data-test="backing" :disabled="rendering !== undefined" @click="make">
        Save as WAV
      </ActButton>
      <span class="quiet mono">{{ clock(seconds) }}</span>
    </div>
    <p v-if="rendering !== undefined" class="quiet" role="status" data-test="rendering">
      rendering, {{ Math.round(100 * rendering) }} %
      <v-btn size="x-small" variant="outlined" @click="stop">Stop</v-btn>
    </p>
    <p v-if="done" role="status" data-test="backing-done">Saved: {{ done }}</p>
    <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
    <p class="quiet">Start with the volume low, above all with headphones.</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
}
.group {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
p {
  font-size: 14px;
}
</style>
