import { defineStore } from 'pinia'
import { same } from '#core/same'
import { secondsToTicks, ticksToSeconds, type TimeMap } from '#core/time/beat-grid'
import { SHORTEST_LOOP } from '#core/time/loops'
import { AudioEngine } from '#platform/audio-engine'
import { sendSong, soundPort } from '../composables/soundPort'
import {
  placeOfFigure,
  planPlaying,
  type FigurePlace,
  type Loop,
  type PlayPlan,
  type Scope,
} from '../session/play-plan'
import { useAside } from '../session/hear-aside'
import { useRecording, WORKING_RATE } from '../session/recording'
import { useLevels } from '../session/levels'
import { useWhereabouts } from '../session/whereabouts'
import { usePreferences } from './preferences'
import { useSong } from './song'

/** Where each song was left, while the application is open. */
const placesLeft = new Map<string, { seconds: number; loop: Loop | undefined; speed: number }>()

/** Stems that belong to no part, and where they stand. */
const stemsBeside = (scope: Scope) => (scope.kind === 'readings' ? scope.stems : [])
const BY_ITSELF: ReadonlySet<Scope['kind']> = new Set<Scope['kind']>(['figure', 'candidate', 'readings'])

/** Playing: what, from where, how fast, what is heard of it. The position is asked for, not reactive. */
export const useTransport = defineStore('transport', () => {
  const songStore = useSong()
  const recording = useRecording()
  const preferences = usePreferences()
  const playing = ref(false)
  const speed = ref(1)
  const loop = shallowRef<Loop>()
  const balance = ref(0.5)
  const scope = shallowRef<Scope>({ kind: 'song' })
  const silenced = shallowRef<Set<string>>(new Set())
  const cursor = ref(0)
  const whereabouts = useWhereabouts(songStore)
  let engine: AudioEngine | undefined

  const sound = (): AudioEngine => {
    if (!engine) {
      engine = new AudioEngine(
        new AudioContext({ latencyHint: 'interactive', sampleRate: WORKING_RATE }),
        soundPort(),
      )
      engine.setBalance(balance.value)
      engine.setLevels(levels.gains())
    }
    return engine
  }
  let hasRecording = false
  /** Takes the place of the recording before. What plays without one goes on, and the record joins it. */
  async function setRecording(channels: readonly Float32Array[] | undefined): Promise<void> {
    const joins = channels && !hasRecording
    if (!joins) stop()
    hasRecording = Boolean(channels)
    await sound().setRecording(channels)
    recording.state = channels ? 'ready' : 'none'
    if (!channels) return
    void levels.match(channels, WORKING_RATE)
    if (joins && !loopsByItself()) replay()
  }
  /** The same recording heard otherwise, while it plays; the channels are handed over. */
  const hearInstead = async (channels: Float32Array[]): Promise<void> => engine?.replaceRecording(channels)
  const levels = useLevels((gains) => engine?.setLevels(gains))
  const figurePlace = (figureId: string): FigurePlace | undefined => placeOfFigure(songStore, figureId)
  const plan = (from: number): PlayPlan =>
    planPlaying({
      from,
      scope: scope.value,
      loop: loop.value,
      speed: speed.value,
      withRecording: engine?.hasRecording ?? false,
      countInBars: preferences.values.countInBars,
      humanFeel: preferences.values.humanFeel,
      click: preferences.values.click,
      open: songStore,
    })

  /** A figure, a chord and a reading go round and round wherever the song is. */
  const loopsByItself = (): boolean => BY_ITSELF.has(scope.value.kind)

  async function play(from = cursor.value): Promise<void> {
    let at = from
    const outside = loop.value && (at < loop.value.startSeconds || at >= loop.value.endSeconds)
    if (loop.value && outside && !loopsByItself()) at = loop.value.startSeconds
    for (const part of songStore.parts)
      sound().setStem(part.id, silenced.value.has(part.id) ? 0 : 1, part.pan)
    playing.value = true
    for (const { id, pan } of stemsBeside(scope.value)) sound().setStem(id, 1, pan)
    const planned = plan(at)
    if (planned.score && songStore.song) sendSong(songStore.song)
    await sound().play(planned)
  }
  function stop(): void {
    if (!playing.value) return
    if (!loopsByItself()) cursor.value = engine?.position() ?? cursor.value
    engine?.stop()
    playing.value = false
  }
  const aside = useAside({ playing, scope, cursor, setScope, stop, play })
  const toggle = (): void => {
    if (!playing.value) aside.leave()
    if (playing.value) stop()
    else void play()
  }

  /** Goes on with changed settings from where it is. */
  function replay(): void {
    if (playing.value) void play(loopsByItself() ? undefined : (engine?.position() ?? cursor.value))
  }

  function seek(seconds: number): void {
    aside.leave()
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
    if (value && value.endSeconds - value.startSeconds < SHORTEST_LOOP) {
      const text = 'That is too short to loop: take at least a quarter of a second.'
      songStore.notice = { text, kind: 'refusal' }
      return
    }
    loop.value = value
    replay()
  }
  function setBalance(value: number): void {
    balance.value = Math.max(0, Math.min(1, value))
    engine?.setBalance(balance.value)
  }
  function setScope(value: Scope): void {
    if (same(value, scope.value)) return
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

  /** Past the end of the recording, with nothing that brings it back. */
  const isOver = (at: number): boolean =>
    scope.value.kind !== 'figure' && !loop.value && at > (songStore.source?.durationSeconds ?? 0) + 0.5

  /** Where we are in words: "Verse 2, bar 3, the and of 4". Called a few times a second while playing. */
  function describe(): void {
    const at = position()
    if (songStore.song && playing.value && isOver(at)) {
      stop()
      cursor.value = 0
    }
    whereabouts.tell(at, playing.value)
  }

  function reset(): void {
    stop()
    const { song } = songStore
    if (song) placesLeft.set(song.id, { seconds: cursor.value, loop: loop.value, speed: speed.value })
    hasRecording = false
    recording.close()
    void engine?.setRecording(undefined)
    cursor.value = 0
    loop.value = undefined
    scope.value = { kind: 'song' }
    silenced.value = new Set()
    speed.value = 1
  }

  /** Back to where this song was left. */
  function recallPlace(): void {
    const left = songStore.song && placesLeft.get(songStore.song.id)
    if (!left) return
    cursor.value = left.seconds
    loop.value = left.loop
    speed.value = left.speed
  }

  return {
    recallPlace,
    hearInstead,
    hearCount: aside.hearCount,
    levels: levels.shown,
    playing,
    speed,
    loop,
    balance,
    scope,
    silenced,
    cursor,
    words: whereabouts.words,
    here: whereabouts.here,
    setRecording,
    play,
    stop,
    toggle,
    seek,
    setSpeed,
    setLoop,
    setBalance,
    setScope,
    togglePart,
    hearCandidate: aside.hearCandidate,
    hearReadings: aside.hearReadings,
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
