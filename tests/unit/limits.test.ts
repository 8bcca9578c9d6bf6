// What was over the limits when they came may only become less: in all, not only file by file.
import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { z } from 'zod'

/** Take a number down when you have mended some; never up. */
const AT_MOST: Readonly<Record<string, number>> = {
  '@typescript-eslint/no-non-null-assertion': 1626,
  'no-nested-ternary': 32,
  'max-params': 25,
  complexity: 25,
  'max-lines': 19,
  'max-lines-per-function': 12,
  'max-depth': 8,
}
const listSchema = z.record(z.string(), z.record(z.string(), z.object({ count: z.int().min(1) })))

it('the list of what is over the limits grows nowhere', () => {
  const list = listSchema.parse(JSON.parse(readFileSync('eslint-suppressions.json', 'utf8')))
  const counts = new Map<string, number>()
  for (const rules of Object.values(list))
    for (const [rule, { count }] of Object.entries(rules)) counts.set(rule, (counts.get(rule) ?? 0) + count)
  for (const [rule, count] of counts) expect(count, rule).toBeLessThanOrEqual(AT_MOST[rule] ?? 0)
})
