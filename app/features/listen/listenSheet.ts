// What is drawn in Listen, and what on it is pointed at, chosen and dragged.
import { bisector } from 'd3-array'
import { chordWidth, type DrawnChord } from '#core/engrave/listen-chords'
import { layoutListenLines, listenPlace, listenPoint, SECOND_ROW } from '#core/engrave/listen-lines'
import { useElementWidth } from '~/composables/elementWidth'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'

/** A press within this many pixels of a beat's tick takes the tick. */
const TICK_REACH = 6
/** The handle of a section's beginning, left of its first bar line and so high. */
const EDGE_REACH = 14
const EDGE_HEIGHT = 20
/** Height of a line with one row of chords. */
const LEAST_HEIGHT = 82
/** A press that moves further than this is a drag. */
const DRAG_PIXELS = 5
/** The chords stand below this height of a ruled line. */
const CHORDS_FROM_Y = 60
/** The beat ticks are drawn below this height of a ruled line. */
const TICKS_FROM_Y = 44

interface Drag {
  kind: 'loop' | 'beat' | 'edge'
  startX: number
  startSeconds: number
  nowSeconds: number
  beatIndex?: number
  sectionId?: string
  moved: boolean
}

/** The ruled lines, the bar and the beat that keys act on, and the drags with the pointer. */
export function useListenSheet(sheet: Ref<HTMLElement | undefined>, beats: BeatWork) {
  let onChord: ((tick: number) => void) | undefined
  let onEdge: ((sectionId: string, seconds: number) => void) | undefined
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const width = useElementWidth(sheet)
  const layout = computed(() =>
    hearing.view && width.value > 300
      ? layoutListenLines(
          hearing.view,
          width.value,
          { accepted: store.song, analysis: hearing.analysis },
          store.showSymbol,
        )
      : undefined,
  )
  /** True once the bars are the document's own and not only heard. */
  const laidOut = computed(() => Boolean(store.source?.grid))
  const chosenBeat = ref<number>()
  /** The bar the panel tells about, by its index in what is drawn. */
  const chosenBar = ref<number>()
  /** The chord in the hand, by the tick of the song at which it begins. */
  const chosenChord = ref<number>()
  const hovered = ref<{ barIndex: number; seconds: number }>()
  const drag = ref<Drag>()

  const barAt = (seconds: number): number | undefined =>
    layout.value && listenPoint(layout.value, seconds)?.bar.barIndex
  const chosenBox = computed(() => {
    for (const ruled of layout.value?.lines ?? [])
      for (const bar of ruled.bars) if (bar.barIndex === chosenBar.value) return { ruled, bar }
    return undefined
  })
  const beatTimes = computed(() =>
    laidOut.value ? beats.flat.value.map((beat) => beat.seconds) : (hearing.analysis?.beats ?? []),
  )
  const nearestTime = (seconds: number): number | undefined =>
    beatTimes.value[bisector((time: number) => time).center(beatTimes.value, seconds)]
  const beatIndexOf = (seconds: number): number =>
    beats.flat.value.findIndex((beat) => Math.abs(beat.seconds - seconds) < 1e-6)

  const pointAt = (event: PointerEvent) => {
    const box = sheet.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const under = (event: PointerEvent) => {
    const { x, y } = pointAt(event)
    return layout.value && listenPlace(layout.value, x, y)
  }
  type Hit = NonNullable<ReturnType<typeof under>>
  function tickUnder(hit: Hit, { x, y }: { x: number; y: number }): number | undefined {
    if (!laidOut.value || !store.onMainSource || y - hit.line.top <= TICKS_FROM_Y) return undefined
    return hit.bar.beatSeconds[hit.bar.beatXs.findIndex((beatX) => Math.abs(beatX - x) < TICK_REACH)]
  }
  /** The chord under a point: its letters, in its row. */
  function chordUnder(hit: Hit, { x, y }: { x: number; y: number }): DrawnChord | undefined {
    const down = y - hit.line.top
    if (down < CHORDS_FROM_Y) return undefined
    const row = down > CHORDS_FROM_Y + SECOND_ROW && hit.line.height > LEAST_HEIGHT ? 1 : 0
    const wide = (chord: DrawnChord): number =>
      chord.squeezed ?? chordWidth(store.chordWords(chord.symbol), chord)
    return hit.line.bars
      .flatMap((bar) => bar.chords)
      .findLast((chord) => chord.row === row && x >= chord.x - 3 && x <= chord.x + wide(chord) + 3)
  }
  /** The section whose handle, left of its first bar line, is under a point: dragged by bars and beats. */
  function edgeUnder({
    x,
    y,
  }: {
    x: number
    y: number
  }): Pick<Drag, 'sectionId' | 'startSeconds'> | undefined {
    if (!laidOut.value || !store.onMainSource) return undefined
    const line = layout.value?.lines.find((one) => y >= one.top && y <= one.top + EDGE_HEIGHT)
    const first = line?.heading && line.bars[0]
    if (!line || !first || x > first.x + 1 || x < first.x - EDGE_REACH) return undefined
    return { sectionId: line.sectionId, startSeconds: first.startSeconds }
  }
  function pointerDown(event: PointerEvent): void {
    const point = pointAt(event)
    const edge = event.button === 0 ? edgeUnder(point) : undefined
    if (edge) {
      drag.value = { kind: 'edge', startX: point.x, nowSeconds: edge.startSeconds, moved: false, ...edge }
      sheet.value?.setPointerCapture(event.pointerId)
      return
    }
    const hit = event.button === 0 ? under(event) : undefined
    if (!hit) return
    sheet.value?.focus({ preventScroll: true })
    const chord = chordUnder(hit, point)
    if (chord) {
      onChord?.(chord.tick)
      return
    }
    const tick = tickUnder(hit, point)
    const seconds = tick ?? hit.seconds
    const start = { startX: point.x, startSeconds: seconds, nowSeconds: seconds, moved: false }
    if (tick === undefined) drag.value = { kind: 'loop', ...start }
    else {
      chosenBeat.value = beatIndexOf(tick)
      drag.value = { kind: 'beat', ...start, beatIndex: chosenBeat.value }
    }
    sheet.value!.setPointerCapture(event.pointerId)
  }
  function pointerMove(event: PointerEvent): void {
    const hit = under(event)
    hovered.value = hit ? { barIndex: hit.bar.barIndex, seconds: hit.seconds } : undefined
    if (!drag.value || !hit) return
    if (Math.abs(pointAt(event).x - drag.value.startX) > DRAG_PIXELS) drag.value.moved = true
    drag.value.nowSeconds = hit.seconds
  }
  function choosePlace(seconds: number): void {
    transport.seek(seconds)
    chosenBar.value = barAt(seconds)
    chosenChord.value = undefined
    chosenBeat.value = beats.flat.value.length ? beats.nearest(seconds) : undefined
  }
  function loopSpan({ startSeconds, nowSeconds }: Drag): void {
    const from = nearestTime(Math.min(startSeconds, nowSeconds))
    const to = nearestTime(Math.max(startSeconds, nowSeconds))
    if (from === undefined || to === undefined || to <= from) return
    transport.setLoop({ startSeconds: from, endSeconds: to })
    if (!transport.playing) transport.seek(from)
  }
  function pointerUp(): void {
    const done = drag.value
    drag.value = undefined
    if (!done) return
    if (done.kind === 'edge') {
      if (done.moved && done.sectionId) onEdge?.(done.sectionId, done.nowSeconds)
      else choosePlace(done.startSeconds)
    } else if (done.kind === 'beat' && done.moved && done.beatIndex !== undefined)
      beats.moveTo(done.beatIndex, done.nowSeconds)
    else if (done.kind === 'beat') transport.seek(done.startSeconds)
    else if (done.moved) loopSpan(done)
    else choosePlace(done.startSeconds)
  }

  return {
    width,
    layout,
    laidOut,
    chosenBeat,
    chosenBar,
    chosenChord,
    chosenBox,
    /** What pressing a chord and dragging the beginning of a section do. */
    listenTo: (acts: { chord: typeof onChord; edge: typeof onEdge }) => {
      onChord = acts.chord
      onEdge = acts.edge
    },
    hovered,
    drag,
    barAt,
    pointerDown,
    pointerMove,
    pointerUp,
  }
}
export type ListenSheetWork = ReturnType<typeof useListenSheet>
