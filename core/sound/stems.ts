// Several parts rendered side by side on the clock of what is heard: recording seconds stretched by the
// speed, turned round at the loop's end, with a lead before the start for the count-in. Frame n of the
// output is heard at start + n / rate, exactly, however many loops have passed.
import type { EventFlow } from '../score/sound-song'
import type { SoundingEvent } from '../score/sounding-event'
import type { Bank } from './bank'
import { click } from './click'
import { SamplePlayer } from './player'

/** All events at once, or as they are needed from a moment of the recording on. */
export interface Stem {
  id: string
  events?: readonly SoundingEvent[]
  flowFrom?: (fromSeconds: number) => EventFlow
}

export interface StemPlan {
  stems: Stem[]
  fromSeconds: number
  speed: number
  loop?: { startSeconds: number; endSeconds: number } | undefined
  /** Silence before `fromSeconds` sounds, filled by count-in clicks; in heard seconds. */
  leadSeconds: number
  clickSeconds: readonly number[]
  sampleRate: number
}

/**
 * A note under way when playing starts is taken up if at least this much of it is left, in recording
 * seconds.
 */
const WORTH_TAKING_UP = 0.2

/** Events of one stretch [from, to) of the recording as heard from output time `outSeconds` on. */
export function heardEvents(
  events: readonly SoundingEvent[],
  span: { from: number; to: number; outSeconds: number; speed: number },
): SoundingEvent[] {
  const { from, to, outSeconds, speed } = span
  return events.flatMap((event): SoundingEvent[] => {
    if (event.startSeconds >= to || event.endSeconds <= from) return []
    const underWay = event.startSeconds < from
    if (underWay && event.endSeconds - from < WORTH_TAKING_UP) return []
    const start = Math.max(event.startSeconds, from)
    return [
      {
        ...event,
        slurred: event.slurred || underWay,
        startSeconds: outSeconds + (start - from) / speed,
        endSeconds: outSeconds + (Math.min(event.endSeconds, to) - from) / speed,
        curve: event.curve.map((point) => ({
          seconds: (point.seconds - (start - event.startSeconds)) / speed,
          semitones: point.semitones,
        })),
      },
    ]
  })
}

/** Events are worked out this long before they are heard. */
const AHEAD_SECONDS = 0.5

interface Flowing {
  player: SamplePlayer
  flow: EventFlow
  span: { from: number; to: number; outSeconds: number; speed: number }
  startFrame: number
}

export class StemRenderer {
  private frame = 0
  private rounds = 0
  private nextRoundSeconds: number
  private readonly players: SamplePlayer[][]
  private flows: Flowing[] = []

  constructor(
    private readonly bank: Bank,
    private readonly plan: StemPlan,
  ) {
    const clicks = plan.clickSeconds.map((seconds) => click(seconds, false))
    this.players = [...plan.stems.map(() => []), [new SamplePlayer(bank, clicks, plan.sampleRate)]]
    this.nextRoundSeconds = plan.leadSeconds
  }

  /** Names of the blocks `render` returns, in order: the stems, then the count-in. */
  get names(): string[] {
    return [...this.plan.stems.map((stem) => stem.id), 'count-in']
  }

  /** The next frames of every stem. */
  render(frames: number): Float32Array[] {
    while (this.nextRoundSeconds * this.plan.sampleRate < this.frame + frames) this.startRound()
    this.feedPlayers(frames)
    const blocks = this.players.map((players) => {
      const block = new Float32Array(frames)
      for (const player of players) player.render(block)
      return block
    })
    this.players.forEach((players, index) => {
      this.players[index] = players.filter((player) => !player.finished || this.isFed(player))
    })
    this.frame += frames
    return blocks
  }

  private isFed(player: SamplePlayer): boolean {
    return this.flows.some((entry) => entry.player === player)
  }

  /** Hands every player what starts within the coming frames and a little beyond. */
  private feedPlayers(frames: number): void {
    const { sampleRate, speed } = this.plan
    for (const { player, flow, span, startFrame } of this.flows) {
      const heard = (this.frame + frames - startFrame) / sampleRate - span.outSeconds + AHEAD_SECONDS
      const until = Math.min(span.to, span.from + heard * speed)
      player.add(heardEvents(flow(until), span))
    }
  }

  private startRound(): void {
    const { plan } = this
    const from = this.rounds === 0 ? plan.fromSeconds : plan.loop!.startSeconds
    const to = plan.loop?.endSeconds ?? Number.POSITIVE_INFINITY
    // Players count frames from their own first block: events are placed from there.
    const outSeconds = this.nextRoundSeconds - this.frame / plan.sampleRate
    const span = { from, to, outSeconds, speed: plan.speed }
    const startFrame = this.frame
    this.flows = []
    plan.stems.forEach((stem, index) => {
      const player = new SamplePlayer(this.bank, heardEvents(stem.events ?? [], span), plan.sampleRate)
      this.players[index]!.push(player)
      if (stem.flowFrom) this.flows.push({ player, flow: stem.flowFrom(from), span, startFrame })
    })
    this.rounds++
    this.nextRoundSeconds = plan.loop
      ? this.nextRoundSeconds + (to - from) / plan.speed
      : Number.POSITIVE_INFINITY
  }
}

/** Recording seconds heard at a time after the start (lead included); before the lead is over, the start. */
export function heardToRecording(
  plan: Pick<StemPlan, 'fromSeconds' | 'speed' | 'loop' | 'leadSeconds'>,
  heardSeconds: number,
): number {
  const at = plan.fromSeconds + Math.max(0, heardSeconds - plan.leadSeconds) * plan.speed
  if (!plan.loop || at < plan.loop.endSeconds) return at
  const length = plan.loop.endSeconds - plan.loop.startSeconds
  return plan.loop.startSeconds + ((at - plan.loop.endSeconds) % length)
}
