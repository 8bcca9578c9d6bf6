<script setup lang="ts">
import { allBars } from '#core/document/form'
import { clock } from '#core/time/beat-grid'
import { barPlace } from '#core/doubts/charted-note'
import { useShortcuts } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import { useMarkPlace } from '~/stores/marking'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'
import { useBeatWork } from './beatWork'
import { useChordWork } from './chordWork'
import { useCountReadings } from './countReadings'
import { useListenSheet } from './listenSheet'
import { useHearAgain } from './hearAgain'
import { listenShortcuts } from './listenShortcuts'
import { useListenWork } from './listenWork'

const store = useSong()
const transport = useTransport()
const recording = useRecording()
const hearing = useHearing()
const beats = useBeatWork()
const sheet = ref<HTMLElement>()
const view = useListenSheet(sheet, beats)
const { laidOut, drag, hovered, chosenBox } = view
/** The section whose dialog is open. */
const editing = ref<string>()
const work = useListenWork(view, beats, editing)
const hearAgain = useHearAgain(beats)
const chords = useChordWork(view)
const readings = useCountReadings(beats)
view.listenTo({ chord: (tick) => chords.choose(tick), edge: work.startAt })
const callLine = ref<{ focus: () => void }>()
const panel = ref<{ nameChord: () => void }>()
useShortcuts([
  ...listenShortcuts({ work, beats, chords, readings, hearAgain }),
  {
    keys: ['n'],
    label: 'Type the name of the chord',
    run: () => panel.value?.nameChord(),
    group: 'Chord in the hand',
  },
  { keys: ['l'], label: 'The call line', run: () => callLine.value?.focus() },
])

const barBox = computed(() => {
  if (!chosenBox.value) return undefined
  const { ruled, bar } = chosenBox.value
  const { barIndex, startSeconds, endSeconds } = bar
  return { barIndex, startSeconds, endSeconds, sectionId: ruled.sectionId }
})
useMarkPlace(() => (barBox.value && store.song ? barPlace(store.song, barBox.value.barIndex) : undefined))
/** Calls are about the section of the chosen bar, else the first one. */
const callSection = computed(() => barBox.value?.sectionId ?? store.sections[0]?.id)
const sums = computed(() => {
  const grid = store.source?.grid
  if (!grid) return ''
  const total = store.source?.durationSeconds ?? 0
  const first = grid.bars[0]?.beatSeconds[0] ?? 0
  const after = Math.max(0, total - grid.endSeconds)
  return [
    `${allBars(store.song!).length} bars, ${clock(first, 1)} to ${clock(grid.endSeconds, 1)}`,
    `${first.toFixed(1)} s before and ${after.toFixed(1)} s after them`,
    `recording ${clock(total, 1)}: nothing missing`,
  ].join(' · ')
})

onMounted(() => {
  if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
})
// What is known of the recording already; an unknown one is listened to by the frame around the pages.
watch(
  () => recording.state,
  () => void hearing.recall(),
  { immediate: true },
)

/**
 * Tab goes from doubtful chord to doubtful chord while there is one more; then it leaves the lines as
 * usual.
 */
function toDoubt(event: KeyboardEvent): void {
  if (event.target === sheet.value && chords.nextDoubt(event.shiftKey ? -1 : 1)) event.preventDefault()
}
</script>

<template>
  <div class="listen">
    <ListenTools :work="work" :beats="beats" :hear-again="hearAgain.all" :laid-out="laidOut" />
    <FormCallLine
      v-if="laidOut"
      ref="callLine"
      :section-id="callSection"
      hint="8 bars of G, D, Em, C, two each"
    />
    <p v-if="beats.problem.value" class="evidence problem" role="status">{{ beats.problem.value }}</p>
    <div class="columns" :class="{ open: hearing.suggestions.length > 0 }">
      <div>
        <div
          ref="sheet"
          class="lines"
          data-test="sheet"
          tabindex="0"
          role="application"
          aria-label="The recording in bars. Arrow keys step by beats, Tab goes to the next doubtful chord."
          @keydown.tab="toDoubt"
          @pointerdown="view.pointerDown"
          @pointermove="view.pointerMove"
          @pointerup="view.pointerUp"
          @pointercancel="drag = undefined"
          @pointerleave="hovered = undefined"
        >
          <ListenSheet :view="view" :beats="beats" @edit="editing = $event" />
        </div>
        <p v-if="laidOut" class="sums quiet mono" data-test="sums">{{ sums }}</p>
      </div>
      <HeardPanel
        ref="panel"
        :bar="barBox"
        :chords="chords"
        :readings="readings"
        @accept-line="work.acceptLine"
        @count="beats.countAt($event)"
        @inside="hearAgain.inside(barBox?.sectionId)"
      >
        <OtherRecordings />
      </HeardPanel>
    </div>
    <SectionDialog :section-id="editing" :beats="beats" @done="editing = undefined" />
  </div>
</template>

<style scoped>
.listen {
  padding: 12px 22px 24px 20px;
}
/* The ring would run round the whole song. */
.lines:focus-visible {
  outline: none;
  box-shadow:
    -9px 0 0 var(--page),
    -12px 0 0 var(--action);
}
.problem {
  margin: 4px 0;
}
.sums {
  font-size: 13.5px;
  border-top: 1.5px solid var(--deep);
  padding-top: 8px;
  margin-top: 6px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 262px;
  gap: 18px;
  align-items: start;
}
.columns :deep(.heard) {
  position: sticky;
  top: 52px;
  max-height: calc(100vh - 190px);
  overflow-y: auto;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .columns :deep(.heard) {
    position: static;
    max-height: none;
    border-left: 0;
    border-top: 1px solid var(--rule);
    padding-left: 0;
  }
  .columns.open :deep(.heard) {
    order: -1;
    border-top: 0;
    border-bottom: 1px solid var(--rule);
  }
}
</style>
