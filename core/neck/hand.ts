// The hand that plays: how far it spans. Limits are set per student; the defaults are an adult's
// comfortable hand.
export interface Hand {
  name: string
  /** Outer fingers (1 to 4) apart along the neck, in mm: above this a stretch is pointed out. */
  cautionMm: number
}
/** Frets 1 to 4 at 648 mm span about 86 mm. */
export const USUAL_HAND: Hand = { name: 'Adult hand', cautionMm: 100 }
export const HANDS: Hand[] = [
  USUAL_HAND,
  { name: 'Large hand', cautionMm: 115 },
  { name: 'Small hand', cautionMm: 84 },
  { name: 'Child’s hand', cautionMm: 70 },
]

export type Finger = 'T' | '1' | '2' | '3' | '4'

/**
 * How much of the whole span two fingers may take, by how many fingers they are apart and which: index and
 * middle open widest.
 */
const SHARE: Record<string, number> = { '12': 0.52, '23': 0.46, '34': 0.5, '13': 0.8, '24': 0.76, '14': 1 }

/**
 * Comfortable distance in mm between two fingers along the neck. The thumb comes over the top near the
 * index: it shares the index’s place.
 */
export function fingerSpanMm(a: Finger, b: Finger, hand: Hand): number {
  const [one, other] = [a === 'T' ? '1' : a, b === 'T' ? '1' : b]
  const [low, high] = one <= other ? [one, other] : [other, one]
  if (low === high) return a === b ? 0 : hand.cautionMm * 0.35
  return hand.cautionMm * SHARE[low + high]!
}
