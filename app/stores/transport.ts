import { defineStore } from 'pinia'
import { clock, secondsToTicks, ticksToSeconds, type TimeMap } from '#core/time/beat-grid'
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
import { placeWords } from '../session/place-words'
import { usePreferences } from './preferences'
import { useSong } from './song'

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
      open: songStore,
    })

  /** A figure and a chord go round and round wherever the song is. */
  const loopsByItself = (): boolean => scope.value.kind === 'figure' || scope.value.kind === 'candidate'

  async function play(from = cursor.value): Promise<void> {
    let at = from
    const outside = loop.value && (at < loop.value.startSeconds || at >= loop.value.endSeconds)
    if (loop.value && outside && !loopsByItself()) at = loop.value.startSeconds
    for (const part of songStore.parts)
      sound().setStem(part.id, silenced.value.has(part.id) ? 0 : 1, part.pan)
    playing.value = true
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
      void play(loopsByItself() ? undefined : at)
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
    words.value = placeWords(places, tick, at)
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
