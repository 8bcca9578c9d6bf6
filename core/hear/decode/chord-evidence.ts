// How well each chord explains each half beat, by a fitted network; returning sections support each other.
import { addLow } from './chord-bass'
import { NONE, STATES, type Span, type SpanEvidence } from './chord-chain'
import { scaledChroma, turned } from './chord-input'
import { QUALITIES } from './chord-labels'
import { network, type NetWeights } from '../models/net'
import { chromaOf } from '../features/pitch-spectrum'
import type { Sound } from '../features/feature-extraction'
import weights from '../models/chords.json'

const net = network(weights as NetWeights)
const none = (weights as NetWeights & { none: number }).none

/** Fainter than this, nobody plays. */
const SILENT = 1e-3

/** How well each chord explains a stretch, as log probabilities; the last entry is "no chord". */
export function chordEvidence(
  { notesAt, lowAt }: Pick<Sound, 'notesAt' | 'lowAt'>,
  spans: readonly Span[],
): SpanEvidence[] {
  const scores = new Float64Array(QUALITIES.length)
  return spans.map(({ start, end }) => {
    const notes = notesAt(start + 0.02, end)
    const chroma = chromaOf(notes)
    const logs = new Float64Array(STATES)
    const scaled = scaledChroma(chroma)
    for (let root = 0; root < 12; root++) {
      net(turned(scaled, root), scores)
      logs.set(scores, root * QUALITIES.length)
    }
    let loud = 0
    for (const value of notes) loud += value
    logs[NONE] = none
    const low = lowAt(start, end)
    if (low) addLow(logs, low)
    let top = Number.NEGATIVE_INFINITY
    for (const value of logs) top = Math.max(top, value)
    let sum = 0
    for (const value of logs) sum += Math.exp(value - top)
    const total = top + Math.log(sum)
    for (let state = 0; state < STATES; state++) logs[state]! -= total
    if (loud < SILENT) {
      logs.fill(-12)
      logs[NONE] = 0
    }
    return { logs, low, notes, chroma, loud }
  })
}

/** How much what other returns say counts beside what is heard here. */
const SUPPORT = 0.6

/**
 * Sections that return support each other: each span also hears what its counterparts (same place in the
 * section, moved by the shift) say.
 */
export function supportReturns(
  spans: readonly Span[],
  evidence: readonly SpanEvidence[],
  sections: readonly {
    start: number
    end: number
    bars: number
    returns?: { section: number; shift: number; perBar: readonly number[] } | undefined
  }[],
): SpanEvidence[] {
  const inside = sections.map((section) =>
    spans.flatMap((span, index) =>
      span.start >= section.start - 0.05 && span.start < section.end - 0.05 ? [index] : [],
    ),
  )
  const heard = evidence.map((entry) => ({ logs: entry.logs, weight: 1 }))
  const sums = evidence.map((entry) => entry.logs.slice())
  const add = (to: number, from: number, shift: number, likeness: number): void => {
    const weight = SUPPORT * Math.max(0, (likeness - 0.6) / 0.4)
    if (weight === 0 || !sums[to] || !evidence[from]) return
    const { logs } = evidence[from]!
    for (let root = 0; root < 12; root++)
      for (let k = 0; k < QUALITIES.length; k++)
        sums[to]![((root + shift + 12) % 12) * QUALITIES.length + k]! +=
          weight * logs[root * QUALITIES.length + k]!
    sums[to]![NONE]! += weight * logs[NONE]!
    heard[to]!.weight += weight
  }
  sections.forEach(({ returns }, index) => {
    if (!returns || !inside[returns.section]) return
    const [here, there] = [inside[index]!, inside[returns.section]!]
    const perBar = Math.max(1, here.length / Math.max(1, sections[index]!.bars))
    for (let k = 0; k < Math.min(here.length, there.length); k++) {
      const likeness = returns.perBar[Math.min(returns.perBar.length - 1, Math.floor(k / perBar))] ?? 0
      add(here[k]!, there[k]!, returns.shift, likeness)
      add(there[k]!, here[k]!, -returns.shift, likeness)
    }
  })
  // Counterparts add certainty, but not as if they were independent: the sum is brought part of the way
  // back to the scale of one hearing.
  return evidence.map((entry, index) => ({
    ...entry,
    logs: sums[index]!.map((value) => value / heard[index]!.weight ** 0.5),
  }))
}
