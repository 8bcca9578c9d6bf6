// What is drawn in Listen, and what on it is pointed at, chosen and dragged.
import { bisector } from 'd3-array'
import { layoutListenLines, listenPlace, listenPoint } from '#core/engrave/listen-lines'
import { useElementWidth } from '~/composables/elementWidth'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'

/** A press within this many pixels of a beat's tick takes the tick. */
const TICK_REACH = 6
/** A press that moves further than this is a drag. */
const DRAG_PIXELS = 5
/** The beat ticks are drawn below this height of a ruled line. */
const TICKS_FROM_Y = 44

interface Drag {
  kind: 'loop' | 'beat'
  startX: number
  startSeconds: number
  nowSeconds: number
  beatIndex?: number
  moved: boolean
}

/** The ruled lines, the bar and the beat that keys act on, and the drags with the pointer. */
export function useListenSheet(sheet: Ref<HTMLElement | undefined>, beats: BeatWork) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const width = useElementWidth(sheet)
  const layout = computed(() =>
    hearing.view && width.value > 300
      ? layoutListenLines(hearing.view, width.value, { accepted: store.song, analysis: hearing.analysis })
      : undefined,
  )
  /** True once the bars are the document's own and not only heard. */
  const laidOut = computed(() => Boolean(store.source?.grid))
  const chosenBeat = ref<number>()
  /** The bar the panel tells about, by its index in what is drawn. */
  const chosenBar = ref<number>()
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
  function pointerDown(event: PointerEvent): void {
    const hit = event.button === 0 ? under(event) : undefined
    if (!hit) return
    const point = pointAt(event)
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
    if (done.kind === 'beat' && done.moved && done.beatIndex !== undefined)
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
    chosenBox,
    hovered,
    drag,
    barAt,
    pointerDown,
    pointerMove,
    pointerUp,
  }
}
export type ListenSheetWork = ReturnType<typeof useListenSheet>
