// What a schema found, in words for the person who typed or opened it: never the schema's own text.
import type { core } from 'zod'

type Issue = core.$ZodIssue

/** "passes: at least 1", "fret: a whole number from 0". Names where it is, then what would be right. */
export function issueWords(issue: Issue): string {
  const where = issue.path.filter((step) => typeof step === 'string').at(-1)
  const place = where === undefined ? '' : `${spaced(String(where))}: `
  const isTime = where?.endsWith('Ticks') && issue.code === 'too_big'
  return `${place}${isTime ? 'longer than anything that is played' : wanted(issue)}`
}

const spaced = (name: string): string =>
  name
    .replace(/Ticks$/, '')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()

/** What would be right at that place: "at least 1", "at most 99", "one of …". */
export function wanted(issue: Issue): string {
  switch (issue.code) {
    case 'too_small':
      return `at least ${sized(issue.minimum, issue.origin)}`
    case 'too_big':
      return `at most ${sized(issue.maximum, issue.origin)}`
    case 'invalid_type':
      return typeWords(issue)
    case 'invalid_value':
      return issue.values.length <= 12 ? `one of ${issue.values.join(', ')}` : 'not one of those there are'
    case 'unrecognized_keys':
      return `“${issue.keys.join(', ')}” is not known here`
    case 'invalid_format':
      return 'is not written as it should be'
    case 'not_multiple_of':
      return `in steps of ${issue.divisor}`
    default:
      return 'is not possible'
  }
}

const TYPE_WORDS: Record<string, string> = {
  int: 'a whole number is needed',
  number: 'a number is needed',
  string: 'a text is needed',
  boolean: 'yes or no is needed',
  array: 'a list is needed',
  object: 'something is missing',
  record: 'something is missing',
}
const typeWords = (issue: { expected: string }): string =>
  TYPE_WORDS[issue.expected] ?? 'something else is needed'

function sized(limit: number | bigint, origin: string): string {
  if (origin === 'string') return `${limit} characters`
  return origin === 'array' || origin === 'set' || origin === 'map' ? `${limit} entries` : String(limit)
}
