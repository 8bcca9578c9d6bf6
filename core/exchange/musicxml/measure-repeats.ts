// "As the bar before", "as the two bars before": what a part plays in measures that are written so.
import type { ReadMeasure } from './read-measure'
import { childOf, childrenOf, type XmlNode } from './xml'

const MOST_REPEATED = 8

/** How many measures back a repeat begun or ended here takes its notes from; undefined where none is said. */
function saidIn(measure: XmlNode): { back: number } | 'stop' | undefined {
  const said = childrenOf(measure, 'attributes')
    .flatMap((attributes) => childrenOf(attributes, 'measure-style'))
    .map((style) => childOf(style, 'measure-repeat'))
    .find(Boolean)
  if (!said) return undefined
  if (said.attributes.type === 'stop') return 'stop'
  const back = Number(said.text) || 1
  return { back: Math.max(1, Math.min(MOST_REPEATED, Math.round(back))) }
}

/** The measures of a part with the notes that the signs for repeated bars stand for, in file order. */
export function withMeasureRepeats(
  measures: readonly XmlNode[],
  read: readonly ReadMeasure[],
): ReadMeasure[] {
  const whole: ReadMeasure[] = []
  let back = 0
  for (const [index, own] of read.entries()) {
    const said = measures[index] && saidIn(measures[index])
    if (said === 'stop') back = 0
    else if (said) back = said.back
    const before = back ? whole[index - back] : undefined
    whole.push(before && !own.notes.length ? { ...own, notes: before.notes } : own)
  }
  return whole
}
