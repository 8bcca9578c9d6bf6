<script setup lang="ts">
import { benchMetrics } from '#core/engrave/bench-metrics'
import { engraveTab } from '#core/engrave/tab'
import { rowAt, tickToX, xToTick, type TabSystem } from '#core/engrave/tab-measures'
import { ticksToSeconds } from '#core/time/beat-grid'
import { barTicks } from '#core/time/meter'
import type { Content, Figure } from '#core/document/schema'
import { useElementWidth } from '~/composables/elementWidth'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { boxesOver, useKeepInView, useOutlines, usePlayhead } from './benchOverlay'
import type { Bench, BenchRow } from './benchKeys'
import type { FollowFigure } from './followFigure'

// The figure on its strings, over the recording; the cursor, the playhead.
const props = defineProps<{
  bench: Bench
  figure: Figure
  draft: Partial<Content> | undefined
  /** Draft notes that stand on an assumption. */
  assumed: ReadonlySet<string>
  marked: ReadonlySet<string>
  words: string
  following: FollowFigure
}>()
const store = useSong()
const transport = useTransport()
const { row, tick, part, content: shown } = props.bench
const board = ref<HTMLElement>()
const width = useElementWidth(board)
/** As long as what is about to be entered: a call that goes after the figure is seen as well. */
const shownFigure = computed<Figure>(() => {
  const ends = [
    ...(props.draft?.notes ?? []),
    ...(props.draft?.strokes ?? []),
    ...(props.draft?.grips ?? []),
  ].map((event) => event.startTicks + 1)
  const bar = barTicks(props.figure.meter)
  const bars = Math.ceil(Math.max(0, ...ends) / bar)
  return bars * bar > props.figure.lengthTicks ? { ...props.figure, lengthTicks: bars * bar } : props.figure
})
const metrics = computed(() => benchMetrics(shownFigure.value, width.value))
const drawing = computed(() => {
  const player = part.value
  if (!player || width.value < 200) return undefined
  return engraveTab({
    figure: shownFigure.value,
    content: shown.value,
    width: width.value,
    metrics: metrics.value,
    stringNames: player.tuning.openMidi.map((_, index) => store.stringLabel(player, index + 1)),
    gripNames: Object.fromEntries(
      shown.value.grips.map((span) => [span.id, store.gripName(player, span.grip)]),
    ),
    ...(props.draft ? { draft: props.draft, assumed: props.assumed } : {}),
    marked: props.marked,
  })
})
const outlines = useOutlines(() => props.figure, drawing, metrics)

// The cursor: a box over the row and step that keys act on.
const systemOf = (at: number): TabSystem | undefined =>
  drawing.value?.systems.find((system) => at >= system.startTicks && at < system.endTicks)
function rowY(system: TabSystem, which: BenchRow): number {
  if (which === 'grips') return system.gripY - 6
  return which === 'hand' ? system.handY - 5 : system.stringYs[which - 1]!
}
const cursorBox = computed(() => {
  const system = systemOf(tick.value)
  if (!system) return undefined
  const x = tickToX(system, tick.value)
  return {
    x: x - 1,
    y: rowY(system, row.value) - 11,
    width: Math.max(18, tickToX(system, tick.value + props.bench.step.value) - x),
    height: 22,
  }
})
const selectedBoxes = computed(() => {
  const { selected, span } = props.bench.bars
  return selected.value && drawing.value ? boxesOver(drawing.value.systems, span.value) : []
})
const cursor = ref<HTMLElement>()
useKeepInView(board, cursor, () => [cursorBox.value?.y, tick.value, props.figure.id])
function pointTo(event: MouseEvent): void {
  if (!drawing.value || !board.value) return
  const box = board.value.getBoundingClientRect()
  const y = event.clientY - box.top
  const system =
    drawing.value.systems.findLast((candidate) => y >= candidate.top - 8) ?? drawing.value.systems[0]!
  const at =
    Math.floor(xToTick(system, event.clientX - box.left + 1) / props.bench.step.value) *
    props.bench.step.value
  const bar = Math.floor(at / barTicks(props.figure.meter))
  const { bars } = props.bench
  if (event.shiftKey) {
    const here = Math.floor(tick.value / barTicks(props.figure.meter))
    bars.select(bars.selected.value?.first ?? here, bar)
  } else {
    bars.letGo()
    if (at >= system.startTicks) props.bench.go(rowAt(system, y), at)
  }
  board.value.focus({ preventScroll: true })
  if (transport.playing) playFrom(at)
}
function hearFrom(): void {
  if (!transport.figurePlace(props.figure.id)?.placed) return
  if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
  playFrom(tick.value)
  void transport.play()
}
function playFrom(at: number): void {
  const place = transport.figurePlace(props.figure.id)
  if (place?.placed && store.map && transport.scope.kind !== 'figure')
    transport.seek(ticksToSeconds(store.map, place.startTicks + at))
}

const playhead = usePlayhead(drawing, () => props.following.tickHeard())

defineExpose({ focus: () => board.value?.focus({ preventScroll: true }) })
</script>

<template>
  <div
    ref="board"
    class="board"
    tabindex="0"
    role="application"
    :aria-label="`Bench. ${words}. Arrow keys move, digits set frets.`"
    data-test="board"
    @pointerdown="pointTo"
    @dblclick="hearFrom"
  >
    <template v-if="drawing">
      <svg class="outline" :width="drawing.width" :height="drawing.height" aria-hidden="true">
        <polygon v-for="(points, index) in outlines" :key="index" :points="points" />
      </svg>
      <div
        v-for="(span, index) in selectedBoxes"
        :key="`bars-${index}`"
        class="bars"
        data-test="selected-bars"
        :style="{
          transform: `translate(${span.x}px, ${span.y}px)`,
          width: `${span.width}px`,
          height: `${span.height}px`,
        }"
      />
      <div
        v-if="cursorBox"
        ref="cursor"
        class="cursor"
        data-test="cursor"
        :style="{
          transform: `translate(${cursorBox.x}px, ${cursorBox.y}px)`,
          width: `${cursorBox.width}px`,
          height: `${cursorBox.height}px`,
        }"
      />
      <MusicDrawing
        class="tab"
        :primitives="drawing.primitives"
        :width="drawing.width"
        :height="drawing.height"
        :label="`Tablature of ${figure.name}`"
      />
      <div ref="playhead" class="playhead" data-test="bench-playhead" />
      <template v-for="system in drawing.systems" :key="system.firstBar"
        ><span
          v-if="system.mutingY > system.stringYs.at(-1)! + 14"
          class="row-name"
          :style="{ top: `${system.mutingY - 13}px` }"
          >mute</span
        ><span
          v-if="system.handY > system.mutingY + 5"
          class="row-name"
          :style="{ top: `${system.handY - 13}px` }"
          >hand</span
        ><span class="row-name" :style="{ top: `${system.countY - 13}px` }">count</span></template
      >
    </template>
  </div>
</template>

<style scoped>
.board {
  position: relative;
  outline-offset: 2px;
  cursor: crosshair;
  touch-action: manipulation;
}
.outline {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.outline polygon {
  fill: var(--deep);
  opacity: 0.3;
}
.tab {
  position: relative;
  pointer-events: none;
}
.cursor {
  position: absolute;
  background: var(--selection);
  border: 1.5px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
  left: 0;
  top: 0;
  scroll-margin-top: 90px;
}
.bars {
  position: absolute;
  left: 0;
  top: 0;
  background: var(--selection);
  opacity: 0.75;
  pointer-events: none;
}
.playhead {
  position: absolute;
  top: 0;
  left: -1px;
  width: 2px;
  background: var(--attention);
  opacity: 0;
  pointer-events: none;
  will-change: transform;
  scroll-margin-block: 70px 40px;
}
.row-name {
  position: absolute;
  left: 0;
  font-size: 12.5px;
  color: var(--quiet);
  pointer-events: none;
}
</style>
