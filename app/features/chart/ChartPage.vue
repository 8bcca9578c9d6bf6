<script setup lang="ts">
import { own } from '#core/document/invariants/problem'
import { engraveTab } from '#core/engrave/tab'
import { BESIDE_METRICS } from '#core/engrave/tab-measures'
import { chordsOver } from '#core/neck/lines/derive'
import { lineProblems } from '#core/neck/lines/line-problems'
import { wrongPicks, wrongWays } from '#core/neck/strokes'
import { ticksToSeconds } from '#core/time/beat-grid'
import { barTicks, countWords } from '#core/time/meter'
import { EMPTY_CONTENT, type Content, type Figure, type Note } from '#core/document/schema'
import { figurePlace } from '#core/doubts/charted-note'
import { randomId } from '#platform/files'
import { useElementWidth } from '~/composables/elementWidth'
import { useShortcuts } from '~/composables/shortcuts'
import { usePreferences } from '~/stores/preferences'
import { useLooping } from '~/stores/looping'
import { useMarkPlace } from '~/stores/marking'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { Beside } from './beside'
import { useBench, type BenchRow } from './benchKeys'
import { benchShortcuts } from './benchShortcuts'
import { useFollowFigure } from './followFigure'

const store = useSong()
const transport = useTransport()
const preferences = usePreferences()
const looping = useLooping()
const route = useRoute()
const figures = computed(() =>
  store.parts.flatMap((player) =>
    Object.values(store.song?.figures ?? {}).filter((figure) => figure.partId === player.id),
  ),
)
const figure = computed<Figure | undefined>(
  () => own(store.song?.figures ?? {}, String(route.query.figure ?? '')) ?? figures.value[0],
)
const bench = useBench(figure)
const { row, tick, part, content: shown } = bench
useMarkPlace(() => {
  if (!figure.value || !store.song) return undefined
  const here = shown.value.notes.filter(({ startTicks }) => startTicks === tick.value)
  const lengthTicks = Math.max(bench.step.value, ...here.map((note) => note.lengthTicks))
  return figurePlace(store.song, figure.value, { startTicks: tick.value, lengthTicks })
})

/** Shown on the strings before it is entered: what the call line says, a path, a second line. */
const draft = shallowRef<Partial<Content>>()
const assumed = shallowRef<ReadonlySet<string>>(new Set())
function draftCall(content: Content | undefined, ids: ReadonlySet<string>): void {
  draft.value = content
  assumed.value = ids
}
const draftNotes = (notes: Note[]): void => {
  draft.value = notes.length ? { notes } : undefined
  assumed.value = new Set()
}
const panelMarks = shallowRef<string[]>([])
const marked = computed(() => {
  const shape = figure.value
  if (!shape || !part.value) return new Set<string>()
  const feel = { meter: shape.meter, subdivision: shape.feel.subdivision }
  return new Set([
    ...panelMarks.value,
    ...lineProblems(shown.value, part.value, preferences.hand).map((problem) => problem.id),
    ...wrongWays(shown.value.strokes, shape.school ?? 'pendulum', feel),
    ...(shape.school ? wrongPicks(shown.value.notes, shape.school, feel) : []),
  ])
})
const chords = computed(() => (store.song && figure.value ? chordsOver(store.song, figure.value) : []))
const symbols = computed(() => {
  const player = part.value
  return player ? [...new Set(chords.value.map((chord) => store.shownChord(player, chord.symbol)))] : []
})

/** What is compared, drawn under the figure to the same ruler. */
const beside = shallowRef<Beside>()
const benchColumn = ref<HTMLElement>()
const width = useElementWidth(benchColumn)
const besideDrawing = computed(() => {
  const player = store.parts.find(({ id }) => id === beside.value?.partId) ?? part.value
  if (!beside.value || !figure.value || !player || width.value < 200) return undefined
  return engraveTab({
    figure: figure.value,
    content: beside.value.content,
    width: width.value,
    metrics: BESIDE_METRICS,
    stringNames: player.tuning.openMidi.map((_, index) => store.stringLabel(player, index + 1)),
    gripNames: Object.fromEntries(
      beside.value.content.grips.map((span) => [span.id, store.gripName(player, span.grip)]),
    ),
  })
})

const callLine = ref<{ focus: (words?: string) => void }>()
const known = ref<{ turn: (by: number) => void; writeGrip: () => void }>()
const board = ref<{ focus: () => void }>()
const toBoard = (): void => board.value?.focus()
function sayAgain(words: string, startTicks: number): void {
  bench.go(row.value, startTicks)
  callLine.value?.focus(words)
}
function writeGripHere(): void {
  row.value = 'grips'
  known.value?.writeGrip()
}

function hearDraft(content: Content): void {
  if (!figure.value) return
  transport.setScope({ kind: 'figure', figureId: figure.value.id, draft: content })
  void transport.play()
}
function hear(kind: 'figure' | 'part' | 'song'): void {
  if (!figure.value) return
  if (kind === 'figure') transport.setScope({ kind, figureId: figure.value.id, form: bench.form.value })
  else if (kind === 'part') transport.setScope({ kind, partId: figure.value.partId })
  else transport.setScope({ kind })
  const place = transport.figurePlace(figure.value.id)
  void transport.play(
    kind !== 'figure' && place?.placed && store.map ? ticksToSeconds(store.map, place.startTicks) : undefined,
  )
}
/** Whatever plays goes on; a silent bench is set for the figure alone. */
watch(
  [() => figure.value?.id, bench.form],
  () => {
    looping.figureId = figure.value?.id
    const goesOn = transport.playing && transport.scope.kind !== 'figure'
    if (figure.value && !goesOn)
      transport.setScope({ kind: 'figure', figureId: figure.value.id, form: bench.form.value })
  },
  { immediate: true },
)
watch(shown, () => {
  if (transport.playing && transport.scope.kind === 'figure') transport.replay()
})
onBeforeUnmount(() => {
  looping.figureId = undefined
  if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
})

const following = useFollowFigure(
  figure,
  shown,
  (id) => void navigateTo({ query: { figure: id } }, { replace: true }),
)

function newFigure(partId?: string): void {
  const player = store.parts.find(({ id }) => id === partId) ?? part.value ?? store.parts[0]
  if (!player || !store.song) return
  const id = randomId()
  const { meter, feel } = store.song
  const made = store.run('addFigure', {
    figure: {
      id,
      partId: player.id,
      name: `Figure ${figures.value.length + 1}`,
      lengthTicks: 2 * barTicks(meter),
      meter,
      feel,
      content: EMPTY_CONTENT,
    },
  })
  if (made) choose(id)
}
function choose(id: string): void {
  void navigateTo({ query: { figure: id } })
  tick.value = 0
  void nextTick(toBoard)
}
function removeFigure(): void {
  if (figure.value)
    store.run('removeFigure', { figureId: figure.value.id }, () => void navigateTo({ query: {} }))
}

useShortcuts(
  benchShortcuts(bench, {
    newFigure: () => newFigure(),
    callLine: () => callLine.value?.focus(),
    writeGrip: writeGripHere,
    turnPage: (by) => known.value?.turn(by),
    hear,
  }),
)
const rowWords = (which: BenchRow): string => {
  if (which === 'grips') return 'Grips'
  return which === 'hand' ? 'Hand' : `String ${which}`
}
const cursorWords = computed(() => {
  if (!figure.value) return ''
  const bar = barTicks(figure.value.meter)
  const count = countWords(figure.value.meter, tick.value % bar)
  return `${rowWords(row.value)}, bar ${Math.floor(tick.value / bar) + 1}, ${count}`
})
</script>

<template>
  <div v-if="!figure" class="empty">
    <h2>No figures yet</h2>
    <p v-if="store.parts.length === 0">
      Add the band first in <NuxtLink class="link" :to="`/song/${store.song?.id}/setup`">Set up</NuxtLink>.
    </p>
    <template v-else>
      <p>A figure is what you would talk about in a lesson: a riff, a strummed pattern, a fill.</p>
      <ActButton kind="main" once data-test="first-figure" @click="newFigure()">
        New figure for {{ store.parts[0]?.name }}
      </ActButton>
    </template>
  </div>
  <div v-else class="chart">
    <div ref="benchColumn" class="bench">
      <FigureHead :figure="figure" :figures="figures" @choose="choose" @new="newFigure" />
      <FigureSettings :bench="bench" :figure="figure" @hear="hear" />
      <CallLine
        ref="callLine"
        :bench="bench"
        :figure="figure"
        :chords="symbols"
        @draft="draftCall"
        @choose="choose"
        @leave="toBoard"
      />
      <BenchBoard
        ref="board"
        :bench="bench"
        :figure="figure"
        :draft="draft"
        :assumed="assumed"
        :marked="marked"
        :words="cursorWords"
        :following="following"
      />
      <section v-if="beside && besideDrawing" class="beside" data-test="beside" :aria-label="beside.title">
        <h2 class="small-head">{{ beside.title }}</h2>
        <MusicDrawing
          :primitives="besideDrawing.primitives"
          :width="besideDrawing.width"
          :height="besideDrawing.height"
          :label="`Tablature of ${beside.title}`"
        />
      </section>
      <div class="hands">
        <BenchPalette :bench="bench" :words="cursorWords" @done="toBoard" />
        <NeckBoard :bench="bench" :figure="figure" :draft="draft" :fretted="following.fretted.value" />
      </div>
    </div>
    <KnownPanel
      ref="known"
      :bench="bench"
      :figure="figure"
      :chords="chords"
      @choose="choose"
      @remove="removeFigure"
      @leave="toBoard"
      @draft="draftNotes"
      @hear="hearDraft"
      @marks="(ids) => (panelMarks = ids)"
      @beside="(what) => (beside = what)"
      @say="sayAgain"
    />
  </div>
</template>

<style scoped>
.empty {
  padding: 60px 0 0 40px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
.chart {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 254px;
  gap: 18px;
  padding: 8px 14px 4px 16px;
  min-height: 100%;
}
/* What the hands reach for stays in view under a figure of several systems. */
.hands {
  position: sticky;
  bottom: 0;
  background: var(--page);
  z-index: 2;
}
.beside {
  border-left: 3px solid var(--rule);
  padding-left: 8px;
  margin: 4px 0 6px -11px;
}
@media (max-width: 1000px) {
  .chart {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
