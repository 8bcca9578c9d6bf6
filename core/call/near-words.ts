// Words that may have been meant: near to what was typed.

/** What is longer is no slip of any word there is. */
const LONGEST_WORD = 24

/** Words near to what was typed, nearest first: for "did you mean". */
export function nearWords(typed: string, among: readonly string[], count = 3): string[] {
  if (typed.length > LONGEST_WORD) return []
  const lower = typed.toLowerCase()
  return among
    .map((word) => ({ word, distance: editDistance(lower, word) - (word.startsWith(lower) ? 1.5 : 0) }))
    .filter(({ word, distance }) => distance <= Math.max(1, Math.ceil(word.length / 2.5)))
    .sort((a, b) => a.distance - b.distance)
    .slice(0, count)
    .map(({ word }) => word)
}

/** A word that is one slip of the pen away: the likeliest first, none for short or strange ones. */
export const slipsOf = (typed: string, among: readonly string[]): string[] =>
  typed.length < 4 || typed.length > LONGEST_WORD
    ? []
    : among.filter(
        (word) =>
          Math.abs(word.length - typed.length) < 3 &&
          editDistance(typed.toLowerCase(), word) <= (typed.length > 6 ? 2 : 1),
      )

/** Damerau–Levenshtein distance, neighbours swapped counting as one (1964). */
function editDistance(a: string, b: string): number {
  const rows = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_, j) => (i === 0 || j === 0 ? i + j : 0)),
  )
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1
      let least = Math.min(rows[i - 1]![j]! + 1, rows[i]![j - 1]! + 1, rows[i - 1]![j - 1]! + same)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, rows[i - 2]![j - 2]! + 1)
      rows[i]![j] = least
    }
  return rows[a.length]![b.length]!
}
