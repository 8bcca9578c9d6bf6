<script setup lang="ts">
import { EMPTY_CONTENT, type Figure, type Note } from '#core/document/schema'
import { pitchName, soundingMidi } from '#core/document/part-pitch'
import { pretty } from '#core/music/pitch'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { randomId } from '#platform/files'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'
import type { Bench } from '../benchKeys'
import type { PlacedDraft } from '../../../workers/listening.worker'
import { placeWords } from './placeWords'
import { useDraft } from './recordDraft'

// What the record plays where this figure is first played: drawn on the strings, taken note by note or whole.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ draft: [notes: Note[]] }>()
const store = useSong()
const transport = useTransport()
const recording = useRecording()
const preferences = usePreferences()
const { part, content } = props.bench
const listen = useDraft()
const listening = ref(false)
const problem = ref('')
const notes = shallowRef<{ note: Note; confidence: number }[]>([])
const leftOut = ref(new Set<string>())
/** Sure of a note from here on; the others are dotted. */
const SURE = 0.5
const taken = computed(() =>
  notes.value.filter(({ note }) => !leftOut.value.has(note.id)).map(({ note }) => note),
)
watch(taken, (list) => emit('draft', list))
const place = computed(() => transport.figurePlace(props.figure.id))
const canListen = computed(() => Boolean(place.value?.placed) && recording.state === 'ready')

async function hear(): Promise<void> {
  const { map, song } = store
  if (!map || !song || !place.value || !part.value) return
  const { startTicks, lengthTicks } = place.value
  const asked = props.figure.id
  listening.value = true
  problem.value = ''
  const found = await listen(part.value, {
    from: ticksToSeconds(map, Math.max(0, startTicks)),
    to: ticksToSeconds(map, Math.min(map.endTicks, startTicks + lengthTicks)),
  })
  listening.value = false
  // Another figure was opened while it was listened to.
  if (props.figure.id !== asked) return
  leftOut.value = new Set()
  const tickOf = (seconds: number): number => secondsToTicks(map, seconds) - startTicks
  notes.value = onGrid(found ?? [], tickOf)
  if (!notes.value.length) problem.value = 'Nothing is heard of this part there.'
}
/** The notes on the steps of the bench; of two on one string at one step the surer one. */
function onGrid(
  found: readonly PlacedDraft[],
  tickOf: (seconds: number) => number,
): { note: Note; confidence: number }[] {
  const step = props.bench.step.value
  const { lengthTicks } = props.figure
  const onStep = (seconds: number): number => Math.max(0, Math.round(tickOf(seconds) / step) * step)
  const placed = new Map<string, { note: Note; confidence: number }>()
  for (const { startSeconds, endSeconds, string, fret, confidence } of found) {
    const startTicks = onStep(startSeconds)
    if (startTicks >= lengthTicks) continue
    const end = Math.min(lengthTicks, Math.max(startTicks + step, onStep(endSeconds)))
    const key = `${startTicks}/${string}`
    if ((placed.get(key)?.confidence ?? -1) >= confidence) continue
    const note = { id: key, string, fret, startTicks, lengthTicks: end - startTicks, marks: [] }
    placed.set(key, { note, confidence })
  }
  return endedByNext([...placed.values()])
}
/** A string sounds one note at a time. */
const endedByNext = (list: { note: Note; confidence: number }[]): { note: Note; confidence: number }[] =>
  list.map(({ note, confidence }) => {
    const next = list
      .filter(({ note: other }) => other.string === note.string && other.startTicks > note.startTicks)
      .reduce((first, { note: other }) => Math.min(first, other.startTicks), Number.POSITIVE_INFINITY)
    const lengthTicks = Math.min(note.lengthTicks, next - note.startTicks)
    return { note: { ...note, lengthTicks }, confidence }
  })
function toggle(id: string): void {
  const next = new Set(leftOut.value)
  if (!next.delete(id)) next.add(id)
  leftOut.value = next
}
const noteWords = ({ string, fret }: Note): string => {
  const player = part.value!
  const midi = soundingMidi(player, string, fret)
  return pretty(pitchName(store.song!, player, midi, preferences.values.naming))
}
function keep(): void {
  const taking = taken.value.map((note) => ({ ...note, id: randomId() }))
  const { grips, strokes, mutes } = content.value
  if (
    !props.bench.edit('take what the record plays', {
      ...EMPTY_CONTENT,
      grips,
      strokes,
      mutes,
      notes: taking,
    })
  )
    return
  notes.value = []
}
watch(
  () => props.figure.id,
  () => {
    notes.value = []
  },
)
onBeforeUnmount(() => emit('draft', []))
</script>

<template>
  <section data-test="from-record">
    <h2 class="small-head">What the record plays here</h2>
    <p v-if="!canListen" class="quiet other">
      Place the figure in the map, with the recording on this machine: then it can be listened to.
    </p>
    <ActButton v-else class="small" :disabled="listening" data-test="hear-draft" @click="hear">
      {{ listening ? 'listening…' : 'Listen and draft it' }}
    </ActButton>
    <p v-if="problem" class="other attention" role="status">{{ problem }}</p>
    <template v-if="notes.length">
      <p class="other quiet">
        Heard as below, drawn on the strings; touch a note to leave it out. Taking replaces the notes written
        there.
      </p>
      <div class="heard" role="group" aria-label="Notes that are heard">
        <ActButton
          v-for="{ note, confidence } in notes"
          :key="note.id"
          class="small"
          :class="{ unsure: confidence < SURE }"
          :aria-pressed="!leftOut.has(note.id)"
          :title="`${placeWords(figure, note.startTicks)}, ${Math.round(100 * confidence)} % sure`"
          @click="toggle(note.id)"
        >
          {{ noteWords(note) }} <span class="mono quiet">{{ note.string }}/{{ note.fret }}</span>
        </ActButton>
      </div>
      <ActButton
        class="small"
        data-test="keep-draft"
        :disabled="!taken.length || Boolean(store.readOnly)"
        @click="keep"
      >
        Take {{ taken.length }} notes
      </ActButton>
    </template>
  </section>
</template>

<style scoped>
section {
  margin-top: 16px;
}
.heard {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  max-height: 180px;
  overflow: auto;
}
.unsure {
  border-style: dotted;
}
</style>
