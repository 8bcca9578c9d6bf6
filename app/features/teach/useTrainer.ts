// Practising one step: a ladder of tempos, rounds that were clean or not, time counted, a rest in time.
import { AT_THE_FOOT, afterRound, ladderOf, type Climb } from '#core/teach/ladder'
import type { PlanStep } from '#core/teach/plan'
import { climbLadder, type Round } from '#core/teach/simulated-student'
import { figureContent } from '#core/document/figure-content'
import { TICKS_PER_QUARTER } from '#core/time/meter'
import { ticksSpan } from '#core/time/loops'
import { randomId } from '#platform/files'
import { todayIs, type Teach } from './useTeach'

/** A ladder begins at this share of the tempo in the song. */
const START_SHARE = 0.5
const SLOWEST = 0.25
/** After so many minutes without one a rest is due. */
const REST_MINUTES = 6
const MINUTE_MS = 60_000
/** So long after the last round nobody practises any more: the page was left open. */
const IDLE_MINUTES = 10
export type With = 'chart' | 'band'

export function useTrainer(teach: Teach, step: () => PlanStep) {
  const { store, students, transport } = teach
  const from = ref(Math.round(step().goalTempo * START_SHARE))
  const clean = ref(3)
  const playWith = ref<With>('chart')
  const ladder = computed(() =>
    ladderOf({ from: Math.min(from.value, step().goalTempo), to: step().goalTempo, clean: clean.value }),
  )
  const climb = ref<Climb>({ ...AT_THE_FOOT })
  const rounds = ref({ all: 0, clean: 0, reached: 0 })
  const startedAt = ref<number>()
  const lastRoundAt = ref(0)
  const now = ref(Date.now())
  const shown = shallowRef<readonly Round[]>([])
  const minutes = computed(() => {
    if (!startedAt.value) return 0
    const until = Math.min(now.value, Math.max(startedAt.value, lastRoundAt.value) + IDLE_MINUTES * MINUTE_MS)
    return (until - startedAt.value) / MINUTE_MS
  })
  const restDue = computed(() => minutes.value >= REST_MINUTES)
  const tempo = computed(() => ladder.value.rungs[climb.value.rung] ?? step().goalTempo)
  const clock = setInterval(() => (now.value = Date.now()), 5000)

  /** What the player was set to before the part was left out. */
  let before: { balance: number; silenced: boolean } | undefined
  const isSilenced = (): boolean => transport.silenced.has(teach.partId.value)
  function leavePartOut(): void {
    before ??= { balance: transport.balance, silenced: isSilenced() }
    // The record has the part in it: only the chart can go without.
    transport.setBalance(1)
    if (!isSilenced()) transport.togglePart(teach.partId.value)
  }
  function giveBack(): void {
    if (!before) return
    transport.setBalance(before.balance)
    if (isSilenced() !== before.silenced) transport.togglePart(teach.partId.value)
    transport.setLoop(undefined)
    before = undefined
  }
  /** The chart of the figure alone, or the band with the student's own part left out, round and round. */
  function hear(): void {
    const { figureId, form, goalTempo } = step()
    transport.stop()
    transport.setSpeed(Math.max(SLOWEST, tempo.value / goalTempo))
    const place = transport.figurePlace(figureId)
    if (playWith.value === 'chart' || !place || !store.map) {
      giveBack()
      transport.setScope({ kind: 'figure', figureId, form })
    } else {
      leavePartOut()
      transport.setScope({ kind: 'song' })
      transport.setLoop(ticksSpan(store.map, place.startTicks, place.startTicks + place.lengthTicks))
    }
    void transport.play()
  }
  /** Silent, and the player as it was. */
  function quiet(): void {
    transport.stop()
    transport.setSpeed(1)
    giveBack()
  }
  function start(): void {
    startedAt.value = Date.now()
    now.value = Date.now()
    climb.value = { ...AT_THE_FOOT }
    rounds.value = { all: 0, clean: 0, reached: 0 }
    shown.value = []
    hear()
  }
  function round(wasClean: boolean): void {
    if (!startedAt.value) return
    lastRoundAt.value = Date.now()
    now.value = Math.max(now.value, lastRoundAt.value)
    const played = tempo.value
    const { all, clean: good, reached } = rounds.value
    rounds.value = {
      all: all + 1,
      clean: good + Number(wasClean),
      reached: wasClean ? Math.max(reached, played) : reached,
    }
    climb.value = afterRound(ladder.value, climb.value, wasClean)
    if (tempo.value !== played && transport.playing) hear()
  }
  /** What was reached goes to the log; nothing does where no round was told. */
  function finish(): void {
    if (!startedAt.value) return
    quiet()
    log(rounds.value, Math.round(10 * minutes.value) / 10, false)
    startedAt.value = undefined
  }
  function log(
    done: { all: number; clean: number; reached: number },
    took: number,
    simulated: boolean,
  ): void {
    if (!done.all || !store.song) return
    const { goalTempo, figureId } = step()
    students.note({
      id: randomId(),
      songId: store.song.id,
      figureId,
      day: todayIs(),
      reached: done.reached || ladder.value.rungs[0]!,
      goal: goalTempo,
      rounds: done.all,
      cleanRounds: done.clean,
      minutes: took,
      ...(simulated ? { simulated: true } : {}),
    })
  }
  /** Nobody plays: a student who is not there climbs the same ladder, and the log shows it. */
  function simulate(): void {
    const { difficulty, figureId, goalTempo } = step()
    const figure = store.song?.figures[figureId]
    if (!store.song || !figure) return
    const { notes, strokes: hits } = figureContent(store.song, figure)
    const strokes = notes.length + hits.length
    const roundSeconds = (at: number): number => ((figure.lengthTicks / TICKS_PER_QUARTER) * 60) / at
    const played = climbLadder(
      { comfort: goalTempo, learning: 0.01, timingSeconds: 0.018 },
      { difficulty, strokes },
      ladder.value,
      { rounds: 40, random: Math.random },
    )
    shown.value = played.rounds
    climb.value = { ...played.climb }
    const good = played.rounds.filter((one) => one.clean)
    const reached = Math.max(0, ...good.map((one) => one.tempo))
    const seconds = played.rounds.reduce((sum, one) => sum + roundSeconds(one.tempo), 0)
    log({ all: played.rounds.length, clean: good.length, reached }, Math.round(seconds / 6) / 10, true)
  }

  onBeforeUnmount(() => {
    clearInterval(clock)
    if (startedAt.value) finish()
    giveBack()
    if (transport.scope.kind === 'figure') transport.setScope({ kind: 'song' })
  })
  return {
    from,
    clean,
    playWith,
    ladder,
    climb,
    rounds,
    going: computed(() => startedAt.value !== undefined),
    minutes,
    restDue,
    tempo,
    shown,
    start,
    hear,
    quiet,
    round,
    finish,
    simulate,
  }
}
