import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { issueWords, wanted } from './issue-words'

const schema = z.strictObject({
  passes: z.int().min(1).max(99),
  lengthTicks: z.number().min(1),
  name: z.string().min(1).max(5),
  mode: z.enum(['major', 'minor']),
  list: z.array(z.number()).max(2),
  shiftFrets: z.number().multipleOf(2),
  hash: z.string().regex(/^a+$/),
})
const good = { passes: 1, lengthTicks: 1, name: 'a', mode: 'major', list: [], shiftFrets: 2, hash: 'a' }
const said = (change: object): string => {
  const read = schema.safeParse({ ...good, ...change })
  if (read.success) throw new Error('should be refused')
  return issueWords(read.error.issues[0]!)
}

describe('what a schema found, in words', () => {
  it.each([
    [{ passes: 0 }, 'passes: at least 1'],
    [{ passes: 100 }, 'passes: at most 99'],
    [{ passes: 1.5 }, 'passes: a whole number is needed'],
    [{ passes: 'two' }, 'passes: a number is needed'],
    [{ lengthTicks: Number.POSITIVE_INFINITY }, 'length: a number is needed'],
    [{ name: '' }, 'name: at least 1 characters'],
    [{ name: 'too long' }, 'name: at most 5 characters'],
    [{ mode: 'dorian' }, 'mode: one of major, minor'],
    [{ list: [1, 2, 3] }, 'list: at most 2 entries'],
    [{ list: 'none' }, 'list: a list is needed'],
    [{ shiftFrets: 3 }, 'shift frets: in steps of 2'],
    [{ hash: 'b' }, 'hash: is not written as it should be'],
    [{ weather: 'rain' }, '“weather” is not known here'],
  ])('%j is said as “%s”', (change, words) => expect(said(change)).toBe(words))
  it('never shows the schema’s own text', () => {
    for (const value of [undefined, null, Number.NaN, {}, [], true, 'x'])
      for (const name of Object.keys(good)) {
        const read = schema.safeParse({ ...good, [name]: value })
        if (!read.success) expect(wanted(read.error.issues[0]!)).not.toMatch(/expected|received|invalid/i)
      }
  })
})
