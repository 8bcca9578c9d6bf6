/** Scaled in place so that they sum to one; all zero stays as it is. */
export function normalise(values: Float64Array): void {
  let sum = 0
  for (let i = 0; i < values.length; i++) sum += values[i]!
  if (sum > 0) for (let i = 0; i < values.length; i++) values[i]! /= sum
}
