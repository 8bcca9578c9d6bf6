import { defineStore } from 'pinia'
import { inTune, type Score, type Tuning } from '#core/sound/score'
import { soundCandidate } from '#core/timeline/candidate-chord'
import { soundFigure } from '#core/timeline/sound-song'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '#core/timeline/tempo'
import type { SoundingEvent } from '#core/timeline/sounding-event'
import { barAtTick, clock, secondsToTicks, ticksToSeconds, type TimeMap } from '#core/time/beat-grid'
import { countWords, countedBeats, TICKS_PER_QUARTER } from '#core/time/meter'
import { barStarts } from '#core/document/form'
import { playsOfPart } from '#core/timeline/timeline'
import type { Content } from '#core/document/schema'
import { AudioEngine } from '#platform/audio-engine'
import { sendSong, soundPort } from '../composables/soundPort'
import { usePreferences } from './preferences'
import { useSong } from './song'

/** The place in words is given to the eighth. */
const EIGHTH_TICKS = TICKS_PER_QUARTER / 2

export interface Loop {
  startSeconds: number
  endSeconds: number
}
export type Scope =
  | { kind: 'candidate'; symbol: string; startSeconds: number; endSeconds: number }
  | { kind: 'song' }
  | { kind: 'part'; partId: string }
  | {
      kind: 'figure'
      figureId: string
      form?: 'exact' | 'eased'
      /** A draft heard in its place. */ draft?: Content
    }

/** Playing: what, from where, how fast, what is heard of it. The position is asked for, not reactive. */
export const useTransport = defineStore('transport', () => {
  const songStore = useSong()
  const preferences = usePreferences()
  const playing = ref(false)
  const speed = ref(1)
  const loop = shallowRef<Loop>()
  const balance = ref(0.5)
  const scope = shallowRef<Scope>({ kind: 'song' })
  const silenced = shallowRef<Set<string>>(new Set())
  const recordingState = ref<'none' | 'loading' | 'ready' | 'missing'>('none')
  const cursor = ref(0)
  const words = ref({ place: '', detail: '' })
  let engine: AudioEngine | undefined

  const sound = (): AudioEngine => {
    if (!engine) {
      engine = new AudioEngine(new AudioContext({ latencyHint: 'interactive' }), soundPort())
      engine.setBalance(balance.value)
    }
    return engine
  }
  const sampleRate = (): number => sound().context.sampleRate

  async function setRecording(channels: Float32Array[] | undefined): Promise<void> {
    stop()
    await sound().setRecording(channels)
    recordingState.value = channels ? 'ready' : 'none'
  }

  /** A figure's own loop: its first place in the recording, or a straight pulse when it is placed nowhere. */
  function figurePlace(
    figureId: string,
  ): { startTicks: number; lengthTicks: number; placed: boolean } | undefined {
    const { song, map } = songStore
    const figure = song?.figures[figureId]
    if (!song || !figure) return undefined
    const first = map
      ? playsOfPart(song, figure.partId).find((play) => play.figure?.id === figureId && play.startTicks >= 0)
      : undefined
    return { startTicks: first?.startTicks ?? 0, lengthTicks: figure.lengthTicks, placed: Boolean(first) }
  }

  const tuning = (): Tuning => {
    const { source } = songStore
    return {
      semitones: (source?.offsetSemitones ?? 0) + (source?.offsetCents ?? 0) / 100,
      humanFeel: preferences.values.humanFeel,
    }
  }

  function plan(from: number) {
    const { song, map, parts } = songStore
    const beatGap = (at: number): number => {
      if (!map || !song) return 0.6
      const bar = song && Math.max(0, barAtTick(map, secondsToTicks(map, at)))
      const start = map.barStartTicks[bar]!
      const meter = songStore.sections.flatMap((section) => section.bars)[bar]!.meter
      return (
        (ticksToSeconds(map, start + (map.barStartTicks[bar + 1] ?? map.endTicks) - start) -
          ticksToSeconds(map, start)) /
        countedBeats(meter)
      )
    }
    let stems: { id: string; events: SoundingEvent[] }[] = []
    let score: Score | undefined
    let used = { from, loop: loop.value as Loop | undefined, withRecording: engine?.hasRecording ?? false }
    if (scope.value.kind === 'candidate') {
      const { symbol, startSeconds, endSeconds } = scope.value
      stems = [
        {
          id: 'candidate',
          events: soundCandidate(symbol, startSeconds, endSeconds, songStore.source?.offsetCents ?? 0),
        },
      ]
      used = { ...used, from: startSeconds, loop: { startSeconds, endSeconds } }
    } else if (scope.value.kind === 'figure' && song) {
      const figure = song.figures[scope.value.figureId]
      const place = figurePlace(scope.value.figureId)
      if (figure && place) {
        const toSeconds =
          place.placed && map
            ? (tick: number) => ticksToSeconds(map, tick)
            : (tick: number) => tick * STRAIGHT_MAP_SECONDS_PER_TICK
        const startSeconds = toSeconds(place.startTicks)
        stems = [
          {
            id: figure.partId,
            events: inTune(
              soundFigure(song, figure, {
                startTicks: place.startTicks,
                toSeconds,
                ...(scope.value.form ? { form: scope.value.form } : {}),
                content: scope.value.draft,
              }),
              tuning(),
            ),
          },
        ]
        used = {
          from: startSeconds,
          loop: { startSeconds, endSeconds: toSeconds(place.startTicks + place.lengthTicks) },
          withRecording: used.withRecording && place.placed,
        }
      }
    } else if (song && map) {
      const only = scope.value.kind === 'part' ? scope.value.partId : undefined
      sendSong(song)
      score = {
        partIds: parts.filter((part) => !only || part.id === only).map((part) => part.id),
        sourceId: songStore.heardSourceId,
        tuning: tuning(),
      }
    }
    const beats =
      preferences.values.countInBars *
      countedBeats(songStore.sections[0]?.bars.find((bar) => !bar.free)?.meter ?? { beats: 4, unit: 4 })
    const gap = beatGap(used.from) / speed.value
    return {
      stems,
      score,
      fromSeconds: used.from,
      speed: speed.value,
      loop: used.loop,
      leadSeconds: beats * gap,
      clickSeconds: Array.from({ length: beats }, (_, beat) => beat * gap),
      withRecording: used.withRecording,
    }
  }

  async function play(from = cursor.value): Promise<void> {
    let at = from
    if (
      loop.value &&
      scope.value.kind !== 'figure' &&
      scope.value.kind !== 'candidate' &&
      (at < loop.value.startSeconds || at >= loop.value.endSeconds)
    )
      at = loop.value.startSeconds
    for (const part of songStore.parts)
      sound().setStem(part.id, silenced.value.has(part.id) ? 0 : 1, part.pan)
    playing.value = true
    await sound().play(plan(at))
  }
  function stop(): void {
    if (!playing.value) return
    if (scope.value.kind !== 'figure' && scope.value.kind !== 'candidate')
      cursor.value = engine?.position() ?? cursor.value
    engine?.stop()
    playing.value = false
  }
  /** Sounds a chord against the record over a stretch, round and round; the same again stops it. */
  function hearCandidate(symbol: string, startSeconds: number, endSeconds: number): void {
    const same =
      playing.value &&
      scope.value.kind === 'candidate' &&
      scope.value.symbol === symbol &&
      scope.value.startSeconds === startSeconds
    setScope({ kind: 'candidate', symbol, startSeconds, endSeconds })
    if (same) {
      stop()
      setScope({ kind: 'song' })
    } else void play(startSeconds)
  }
  const leaveCandidate = (): void => {
    if (scope.value.kind === 'candidate') {
      stop()
      scope.value = { kind: 'song' }
    }
  }
  const toggle = (): void => {
    if (!playing.value) leaveCandidate()
    if (playing.value) stop()
    else void play()
  }

  /** Goes on with changed settings from where it is. */
  function replay(): void {
    if (playing.value) {
      const at = engine?.position() ?? cursor.value
      void play(scope.value.kind === 'figure' || scope.value.kind === 'candidate' ? undefined : at)
    }
  }

  function seek(seconds: number): void {
    leaveCandidate()
    const end = songStore.source?.durationSeconds ?? 0
    cursor.value = Math.max(0, Math.min(end, seconds))
    if (playing.value && scope.value.kind !== 'figure') void play(cursor.value)
    describe()
  }
  function setSpeed(value: number): void {
    speed.value = Math.round(Math.max(0.25, Math.min(1.1, value)) * 100) / 100
    replay()
  }
  function setLoop(value: Loop | undefined): void {
    loop.value = value && value.endSeconds - value.startSeconds > 0.1 ? value : undefined
    replay()
  }
  function setBalance(value: number): void {
    balance.value = Math.max(0, Math.min(1, value))
    engine?.setBalance(balance.value)
  }
  function setScope(value: Scope): void {
    if (JSON.stringify(value) === JSON.stringify(scope.value)) return
    stop()
    scope.value = value
  }
  function togglePart(id: string): void {
    const next = new Set(silenced.value)
    if (!next.delete(id)) next.add(id)
    silenced.value = next
    engine?.setStem(id, next.has(id) ? 0 : 1, songStore.song?.parts[id]?.pan ?? 0)
  }

  let placeMap: TimeMap | undefined
  /** The musical place now, in ticks, before the recording is changed for another of the same song. */
  function takePlace(): number | undefined {
    const at = position()
    stop()
    loop.value = undefined
    return placeMap && secondsToTicks(placeMap, at)
  }
  /** Goes on at a musical place in the recording that is open now. */
  function resumeAt(tick: number | undefined, going: boolean): void {
    if (tick !== undefined && songStore.map) seek(ticksToSeconds(songStore.map, Math.max(0, tick)))
    if (going) void play()
  }
  watch(
    () => songStore.map,
    (map, before) => {
      placeMap = before ?? map
    },
    { flush: 'sync' },
  )

  /** Seconds in the recording heard now, or where it would start. */
  const position = (): number => (playing.value ? (engine?.position() ?? cursor.value) : cursor.value)

  /** Where we are in words: "Verse 2, bar 3, the and of 4". Called a few times a second while playing. */
  function describe(): void {
    const { map, places, song } = songStore
    const at = position()
    if (
      playing.value &&
      scope.value.kind !== 'figure' &&
      !loop.value &&
      song &&
      at > (songStore.source?.durationSeconds ?? 0) + 0.5
    ) {
      stop()
      cursor.value = 0
    }
    if (!map || places.length === 0) {
      words.value = { place: song ? 'No bars accepted yet' : '', detail: clock(at, 1) }
      return
    }
    const tick = Math.max(0, Math.min(map.endTicks - 1, secondsToTicks(map, at)))
    if (at < map.seconds[0]!) {
      words.value = { place: 'Before the first bar', detail: clock(at, 1) }
      return
    }
    const place = places.findLast((entry) => entry.startTicks <= tick + 0.5) ?? places[0]!
    const starts = barStarts(place.section)
    const inSection = tick - place.startTicks
    const bar = Math.max(
      0,
      starts.findLastIndex((start, index) => start <= inSection + 0.5 && index < place.section.bars.length),
    )
    const shape = place.section.bars[bar]!
    const count = shape.free
      ? 'free time'
      : countWords(shape.meter, Math.floor((inSection - starts[bar]! + 1) / EIGHTH_TICKS) * EIGHTH_TICKS)
    const passes = place.section.passes
    const pass = Math.min(passes, Math.floor(bar / (place.section.bars.length / passes)) + 1)
    words.value = {
      place: `${place.section.name}, bar ${bar + 1}, ${/^\d/.test(count) ? `beat ${count}` : count}`,
      detail: [passes > 1 ? `pass ${pass} of ${passes}` : '', `bar ${place.firstBar + bar + 1}`, clock(at, 1)]
        .filter(Boolean)
        .join(' · '),
    }
  }

  function reset(): void {
    stop()
    void engine?.setRecording(undefined)
    cursor.value = 0
    loop.value = undefined
    scope.value = { kind: 'song' }
    silenced.value = new Set()
    recordingState.value = 'none'
    speed.value = 1
  }

  return {
    playing,
    speed,
    loop,
    balance,
    scope,
    silenced,
    recordingState,
    cursor,
    words,
    setRecording,
    sampleRate,
    play,
    stop,
    toggle,
    seek,
    setSpeed,
    setLoop,
    setBalance,
    setScope,
    togglePart,
    hearCandidate,
    takePlace,
    resumeAt,
    position,
    describe,
    replay,
    reset,
    countingIn: () => engine?.countingIn ?? false,
    figurePlace,
  }
})
