<script setup lang="ts">
import { z } from 'zod'
import type { Adapted } from '#core/neck/lines/adapt-line'
import { octaveWords } from '#core/neck/lines/merge-parts'
import { barTicks } from '#core/time/meter'
import { EMPTY_CONTENT, type Figure, type Note } from '#core/document/schema'
import type { MidiTrack } from '#core/exchange/midi-notes'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// Another instrument's line, from a MIDI file, on these strings.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ draft: [notes: Note[]] }>()
const store = useSong()
const work = usePlayingWork()
const { part, content } = props.bench
const chooser = ref<HTMLInputElement>()
const tracks = shallowRef<MidiTrack[]>([])
const track = ref(0)
const trackItems = computed(() =>
  tracks.value.map((one, index) => ({ title: `${one.name} (${one.notes.length})`, value: index })),
)
const fromBar = ref(1)
const adapted = shallowRef<Adapted>()
const midiProblem = ref('')
async function openMidi(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  tracks.value = []
  adapted.value = undefined
  midiProblem.value = ''
  if (!file) return
  const { readMidiNotes } = await import('#core/exchange/midi-notes')
  const read = readMidiNotes(new Uint8Array(await file.arrayBuffer()))
  input.value = ''
  if (!read.ok) {
    midiProblem.value = read.refusal.message
    return
  }
  tracks.value = read.value
  track.value = 0
  await adapt()
}
const barNumberSchema = z.int().min(1).max(5000)
function adaptFrom(bar: number): void {
  fromBar.value = bar
  void adapt()
}
function adaptTrack(index: number): void {
  track.value = index
  void adapt()
}
async function adapt(): Promise<void> {
  const chosen = tracks.value[track.value]
  if (!chosen || !part.value || !store.song) return
  const from = (fromBar.value - 1) * barTicks(props.figure.meter)
  const notes = chosen.notes
    .map((note) => ({ ...note, startTicks: note.startTicks - from }))
    .filter((note) => note.startTicks >= 0 && note.startTicks < props.figure.lengthTicks)
  const found = await work.ask({
    want: 'adapt',
    notes,
    part: part.value,
    key: { ...store.song.key },
    options: { stepTicks: props.bench.step.value, lengthTicks: props.figure.lengthTicks },
  })
  if (found.ok) {
    adapted.value = found.value
    midiProblem.value = ''
    emit('draft', found.value.notes)
  } else if (found.refusal.code !== 'cancelled') {
    adapted.value = undefined
    midiProblem.value = found.refusal.message
  }
}
function keepAdapted(): void {
  if (
    adapted.value &&
    props.bench.edit('take over a line', {
      ...EMPTY_CONTENT,
      grips: content.value.grips,
      strokes: content.value.strokes,
      mutes: content.value.mutes,
      notes: adapted.value.notes.map((note) => ({ ...note, id: randomId() })),
    })
  ) {
    adapted.value = undefined
    tracks.value = []
    emit('draft', [])
  }
}
onBeforeUnmount(() => emit('draft', []))
</script>

<template>
  <section>
    <h2 class="small-head">Take over a line</h2>
    <ActButton class="small" @click="chooser?.click()">Choose a MIDI file</ActButton
    ><input
      ref="chooser"
      type="file"
      accept=".mid,.midi,audio/midi"
      hidden
      data-test="midi-file"
      @change="openMidi"
    />
    <p v-if="midiProblem" class="attention other" role="alert">{{ midiProblem }}</p>
    <template v-if="tracks.length"
      ><SelectField
        inline
        class="other"
        label="Track"
        :items="trackItems"
        :model-value="track"
        @update:model-value="adaptTrack"
      />
      <NumberField
        label="from bar"
        class="other"
        :schema="barNumberSchema"
        :model-value="fromBar"
        @take="adaptFrom"
      />
      <p v-if="adapted" class="other quiet">
        {{ octaveWords(adapted.octaves) }}: {{ adapted.words
        }}{{ adapted.leftOut ? `; ${adapted.leftOut} notes left out` : '' }}.
        <ActButton class="small" data-test="keep-adapted" @click="keepAdapted">Take it</ActButton>
      </p></template
    >
  </section>
</template>
