/** Intervals a second line may keep, by their size in steps of the scale. */
export const INTERVALS = [
  { value: 1, title: 'unison' },
  { value: 3, title: 'third' },
  { value: 4, title: 'fourth' },
  { value: 5, title: 'fifth' },
  { value: 6, title: 'sixth' },
  { value: 8, title: 'octave' },
  { value: 10, title: 'tenth' },
]

/** "third", "7th". */
const intervalName = (size: number): string =>
  INTERVALS.find((interval) => interval.value === size)?.title ?? `${size}th`

/** "third below"; a unison is neither above nor below. */
export function intervalWords(interval: number): string {
  const size = Math.abs(interval)
  if (size === 1) return intervalName(size)
  return `${intervalName(size)} ${interval < 0 ? 'below' : 'above'}`
}
