<script setup lang="ts">
import { allBars } from '#core/document/form'
import { clock } from '#core/time/beat-grid'
import { useShortcuts } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useBeatWork } from './beatWork'
import { useListenSheet } from './listenSheet'
import { listenShortcuts } from './listenShortcuts'
import { useListenWork } from './listenWork'

const store = useSong()
const transport = useTransport()
const hearing = useHearing()
const beats = useBeatWork()
const sheet = ref<HTMLElement>()
const view = useListenSheet(sheet, beats)
const { laidOut, drag, hovered, chosenBox } = view
/** The section whose dialog is open. */
const editing = ref<string>()
const work = useListenWork(view, beats, editing)
const callLine = ref<{ focus: () => void }>()
useShortcuts([
  ...listenShortcuts(work, beats),
  { keys: ['l'], label: 'The call line', run: () => callLine.value?.focus() },
])

const barBox = computed(() => {
  if (!chosenBox.value) return undefined
  const { ruled, bar } = chosenBox.value
  const { barIndex, startSeconds, endSeconds } = bar
  return { barIndex, startSeconds, endSeconds, sectionId: ruled.sectionId }
})
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

onMounted(() => transport.setScope(transport.scope.kind === 'figure' ? { kind: 'song' } : transport.scope))
// An unknown recording is listened to as soon as it is there; one that is laid out only when asked.
watch(
  () => transport.recordingState,
  async (state) => {
    if ((await hearing.recall()) || state !== 'ready' || store.readOnly || laidOut.value) return
    await hearing.listen()
  },
  { immediate: true },
)
</script>

<template>
  <div class="listen">
    <ListenTools :work="work" :beats="beats" :laid-out="laidOut" />
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
          data-test="sheet"
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
      <HeardPanel :bar="barBox" @accept-line="work.acceptLine" @count="beats.countAt($event)">
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
