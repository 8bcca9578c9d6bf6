// Helpers of English sentences that are said in many places, each once.

const AND = new Intl.ListFormat('en-GB', { type: 'conjunction' })

/** "a", "a and b", "a, b and c". */
export const listed = (words: readonly string[]): string => AND.format(words)

/** "1 bar", "3 bars", "-1 bar"; `many` where the plural is not made with an s. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${Math.abs(count) === 1 ? one : many}`

/** "once", "3 times". */
export const timesWords = (times: number): string => (times === 1 ? 'once' : `${times} times`)
