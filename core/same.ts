// Whether plain values say the same, whatever the order in which their fields were written.
import { dequal } from 'dequal/lite'

export const same = <T>(one: T, other: T): boolean => dequal(one, other)

/** The same values in any order. */
export function sameInAnyOrder<T>(ones: readonly T[], others: readonly T[]): boolean {
  if (ones.length !== others.length) return false
  const left = [...others]
  return ones.every((one) => {
    const at = left.findIndex((other) => same(one, other))
    if (at >= 0) left.splice(at, 1)
    return at >= 0
  })
}
