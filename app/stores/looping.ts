import { defineStore } from 'pinia'
import {
  barAt,
  barsFrom,
  barsSpan,
  beatsFrom,
  fromHere,
  grown,
  ladderSpeeds,
  shifted,
  ticksSpan,
  type Span,
} from '#core/time/loops'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { useSong } from './song'
import { useTransport } from './transport'

/** A climb in speed within a loop. */
export interface Ladder {
  start: number
  goal: number
  step: number
  /** Rounds at each speed. */
  rounds: number
}
/** "The last moments again" goes back so far, seconds. */
const AGAIN_SECONDS = 2

/** Loops, the ladder within them, and small steps through the recording: the same on every page. */
export const useLooping = defineStore('looping', () => {
  const store = useSong()
  const transport = useTransport()
  /** The figure the page is about, for a loop over its place. */
  const figureId = ref<string>()
  const ladder = ref<Ladder>()
  const round = ref(0)

  const say = (text: string): void => {
    store.notice = { text, kind: 'refusal' }
  }
  /** With the bars of the song; without them it says what is missing. */
  function withMap(act: (map: NonNullable<typeof store.map>) => Span | undefined): void {
    const { map } = store
    if (!map) {
      say('Lay out the bars in Listen first: a loop goes by bars. A stretch can be dragged without them.')
      return
    }
    const span = act(map)
    if (!span) return
    transport.setLoop(span)
    const at = transport.position()
    if (!transport.playing && (at < span.startSeconds || at >= span.endSeconds))
      transport.seek(span.startSeconds)
  }
  const withLoop = (act: (map: NonNullable<typeof store.map>, loop: Span) => Span): void =>
    withMap((map) =>
      transport.loop ? act(map, transport.loop) : barsSpan(map, barAt(map, transport.position()), 1),
    )

  const placeNow = () => {
    const { map, places } = store
    const tick = map ? secondsToTicks(map, transport.position() + 0.02) : 0
    return places.findLast((place) => place.startTicks <= tick) ?? places[0]
  }
  function loopFigure(): void {
    const place = figureId.value === undefined ? undefined : transport.figurePlace(figureId.value)
    if (!place?.placed) {
      say('This figure is not placed in the song yet: place it on the Map to loop where it sounds.')
      return
    }
    withMap((map) => ticksSpan(map, place.startTicks, place.startTicks + place.lengthTicks))
  }
  function toSection(by: number): void {
    const { map, places } = store
    const here = placeNow()
    if (!map || !here) return
    const at = places.indexOf(here)
    // Going back from inside a section goes to its own start first.
    const inside = transport.position() - ticksToSeconds(map, here.startTicks) > 1
    const to = places[Math.max(0, Math.min(places.length - 1, at + by + (by < 0 && inside ? 1 : 0)))]
    if (to) transport.seek(ticksToSeconds(map, to.startTicks))
  }
  const step = (move: typeof beatsFrom, by: number): void => {
    if (store.map) transport.seek(move(store.map, transport.position(), by))
    else transport.seek(transport.position() + by * 0.5)
  }

  function climb(wanted: Ladder | undefined): void {
    ladder.value = wanted
    round.value = 0
    if (!wanted) return
    if (!transport.loop) withLoop((_, loop) => loop)
    transport.setSpeed(wanted.start)
  }
  const speeds = computed(() =>
    ladder.value ? ladderSpeeds(ladder.value.start, ladder.value.goal, ladder.value.step) : [],
  )
  /** Called when a loop comes round: after enough rounds the next speed. */
  function cameRound(): void {
    const { value: climbing } = ladder
    if (!climbing) return
    round.value++
    const rung = Math.floor(round.value / climbing.rounds)
    const speed = speeds.value[Math.min(speeds.value.length - 1, rung)]
    if (speed !== undefined && Math.abs(speed - transport.speed) > 0.001) transport.setSpeed(speed)
  }
  let before = 0
  /** Watches the place while playing; a jump back within a loop is a round. */
  function watchPlace(): void {
    const { loop, playing } = transport
    const at = transport.position()
    if (playing && loop && at < before - (loop.endSeconds - loop.startSeconds) / 2) cameRound()
    before = playing ? at : 0
  }

  return {
    figureId,
    ladder,
    round,
    speeds,
    climb,
    watchPlace,
    loopBar: () => withMap((map) => barsSpan(map, barAt(map, transport.position()), 1)),
    loopSection: () =>
      withMap((map) => {
        const place = placeNow()
        return place && ticksSpan(map, place.startTicks, place.startTicks + place.lengthTicks)
      }),
    loopFigure,
    loopHere: () => withMap((map) => fromHere(map, transport.position())),
    grow: (byBars: number) => withLoop((map, loop) => grown(map, loop, byBars)),
    shift: (times: number) => withLoop((map, loop) => shifted(map, loop, times)),
    off: () => {
      climb(undefined)
      transport.setLoop(undefined)
    },
    toSection,
    stepBeat: (by: number) => step(beatsFrom, by),
    stepBar: (by: number) => step(barsFrom, by),
    again: () => {
      const back = AGAIN_SECONDS * transport.speed
      transport.seek(Math.max(transport.loop?.startSeconds ?? 0, transport.position() - back))
      if (!transport.playing) void transport.play()
    },
  }
})
