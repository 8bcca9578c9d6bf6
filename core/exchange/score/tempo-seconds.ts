// From ticks of a score to seconds.
import { TICKS_PER_QUARTER } from '../../time/meter'
import type { WrittenTempo } from './written-score'

const USUAL_TEMPO = 120
/** Seconds of a tick by the tempos written; without one, 120 quarters a minute. */
export function secondsByTempo(tempo: readonly WrittenTempo[]): (ticks: number) => number {
  const changes = tempo.length ? tempo : [{ startTicks: 0, quartersPerMinute: USUAL_TEMPO }]
  const perTick = (index: number): number => 60 / (changes[index]!.quartersPerMinute * TICKS_PER_QUARTER)
  let at = changes[0]!.startTicks * perTick(0)
  const begun = changes.map(({ startTicks }, index) => {
    const before = changes[index - 1]
    if (before) at += (startTicks - before.startTicks) * perTick(index - 1)
    return at
  })
  let index = 0
  return (ticks) => {
    if (ticks < changes[index]!.startTicks) index = 0
    while (changes[index + 1] && changes[index + 1]!.startTicks <= ticks) index += 1
    return Math.max(0, begun[index]! + (ticks - changes[index]!.startTicks) * perTick(index))
  }
}
