// How sure the bars are, and where they may be counted otherwise.
import { mean } from 'd3-array'
import type { Analysis } from '../hear/analysis'
import { clock } from '../time/beat-grid'

/** Bars less sure than this may well be counted otherwise. */
const DOUBTFUL = 0.82
const FEWEST_BARS = 2
const MOST_STRETCHES = 3

/** The tempo and the ones both have to be right; undefined where the beats were given and not heard. */
export function barsSure({ tempoRivals, barConfidence = [] }: Analysis): number | undefined {
  const tempo = tempoRivals?.[0]?.share
  return tempo === undefined ? undefined : tempo * (mean(barConfidence) ?? 1)
}

/** "Least sure at 2:10–2:31, …", or nothing where all bars are sure. */
export function doubtfulBars({ barConfidence = [], downbeats, durationSeconds }: Analysis): string {
  const stretches: { firstBar: number; endBar: number }[] = []
  barConfidence.forEach((sure, bar) => {
    if (sure >= DOUBTFUL) return
    const last = stretches.at(-1)
    if (last && bar - last.endBar < FEWEST_BARS) last.endBar = bar + 1
    else stretches.push({ firstBar: bar, endBar: bar + 1 })
  })
  const long = stretches
    .filter(({ firstBar, endBar }) => endBar - firstBar >= FEWEST_BARS)
    .sort((a, b) => b.endBar - b.firstBar - (a.endBar - a.firstBar))
    .slice(0, MOST_STRETCHES)
    .sort((a, b) => a.firstBar - b.firstBar)
  const at = (bar: number): string => clock(downbeats[bar] ?? durationSeconds)
  return long.length
    ? `Least sure at ${long.map(({ firstBar, endBar }) => `${at(firstBar)}–${at(endBar)}`).join(', ')}.`
    : ''
}
