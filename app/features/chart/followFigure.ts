// The music on the bench: which tick of the figure sounds, what is fretted there, and going along from figure
// to figure through one part.
import { bisectRight } from 'd3-array'
import { changesOf, frettedAt, playAt, playOfFigure } from '#core/timeline/sounding-now'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '#core/timeline/tempo'
import { secondsToTicks } from '#core/time/beat-grid'
import type { Content, Figure } from '#core/document/schema'
import { useEachFrame } from '~/composables/eachFrame'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

/** `choose` brings another figure onto the bench. */
export function useFollowFigure(
  figure: Readonly<Ref<Figure | undefined>>,
  content: Readonly<Ref<Content>>,
  choose: (figureId: string) => void,
) {
  const store = useSong()
  const transport = useTransport()
  const preferences = usePreferences()
  /**
   * The last change on the neck that has sounded, a tick of the figure; undefined while nothing of it
   * sounds.
   */
  const heard = ref<number>()
  const changes = computed(() => changesOf(content.value))
  const fretted = computed(() =>
    heard.value === undefined ? undefined : frettedAt(content.value, heard.value),
  )

  const songTick = (): number | undefined =>
    store.map && transport.position() >= (store.map.seconds[0] ?? 0)
      ? secondsToTicks(store.map, transport.position())
      : undefined
  /** The tick of the figure that sounds now; −1 when none of it does. */
  function tickHeard(): number {
    const shape = figure.value
    if (!shape || !store.song || !transport.playing) return -1
    const alone = transport.scope.kind === 'figure'
    const place = transport.figurePlace(shape.id)
    if (alone && !place?.placed) return transport.position() / STRAIGHT_MAP_SECONDS_PER_TICK
    const tick = songTick()
    if (tick === undefined) return -1
    if (alone && place) return tick - place.startTicks
    const play = playOfFigure(store.song, shape.partId, shape.id, tick)
    const inside = play ? tick - play.startTicks : -1
    return inside < (play?.lengthTicks ?? 0) ? inside : -1
  }
  /** The figure of this part that sounds now, when it is another than the one on the bench. */
  function figureAhead(): string | undefined {
    const shape = figure.value
    const { scope, playing } = transport
    if (!shape || !store.song || !playing || (scope.kind !== 'song' && scope.kind !== 'part'))
      return undefined
    const tick = songTick()
    const play = tick === undefined ? undefined : playAt(store.song, shape.partId, tick)
    return play?.figure && play.figure.id !== shape.id ? play.figure.id : undefined
  }

  let asked: string | undefined
  useEachFrame(() => {
    const at = tickHeard()
    const index = bisectRight(changes.value, at) - 1
    const now = at < 0 ? undefined : changes.value[Math.max(0, index)]
    if (now !== heard.value) heard.value = now
    const ahead = preferences.values.goAlong ? figureAhead() : undefined
    // The page takes a few frames to bring it: it is asked for once.
    if (ahead && ahead !== asked) choose(ahead)
    asked = ahead
  })
  return { tickHeard, fretted }
}
export type FollowFigure = ReturnType<typeof useFollowFigure>
