// From ticks of a score to seconds.
import { bisector } from 'd3-array'
import { TICKS_PER_QUARTER } from '../../time/meter'
import type { WrittenTempo } from './written-score'

const USUAL_TEMPO = 120
/** From a tick on, every tick lasts so long. */
interface Stretch {
  startTicks: number
  seconds: number
  perTick: number
}
const stretchAt = bisector(({ startTicks }: Stretch) => startTicks).right

/** Seconds of a tick by the tempos written, in order; without one, 120 quarters a minute. */
export function secondsByTempo(tempo: readonly WrittenTempo[]): (ticks: number) => number {
  const stretches: Stretch[] = []
  for (const { startTicks, quartersPerMinute } of tempo) {
    const perTick = 60 / (quartersPerMinute * TICKS_PER_QUARTER)
    const before = stretches.at(-1) ?? { startTicks: 0, seconds: 0, perTick }
    const seconds = before.seconds + (startTicks - before.startTicks) * before.perTick
    stretches.push({ startTicks, seconds, perTick })
  }
  const usual = { startTicks: 0, seconds: 0, perTick: 60 / (USUAL_TEMPO * TICKS_PER_QUARTER) }
  return (ticks) => {
    const { startTicks, seconds, perTick } = stretches[Math.max(0, stretchAt(stretches, ticks) - 1)] ?? usual
    return Math.max(0, seconds + (ticks - startTicks) * perTick)
  }
}
