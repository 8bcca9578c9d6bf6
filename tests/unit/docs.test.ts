// What the pages in docs/ say about the program is held against it.
import { existsSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { parseCall } from '../../core/call/parse'
import { readCall } from '../../core/call/read-call'
import { CORE_FOLDERS } from '../../tools/lint/walls.mjs'
import { WORDS } from '../../core/call/vocabulary'
import { readGrip } from '../../core/neck/grips/grip'
import { newPart } from '../../core/document/new-song'
import { TICKS_PER_QUARTER as Q } from '../../core/time/meter'

const page = (name: string) => readFileSync(`docs/${name}.md`, 'utf8')
const context = {
  part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }),
  letters: ['E', 'B', 'G', 'D', 'A', 'E'],
  meter: { beats: 4, unit: 4 },
  subdivision: 'eighths',
  stepTicks: Q / 2,
  gripFor: () => readGrip('022100', 6),
} as const
const call = (text: string) => parseCall(text, context)

describe('the page of the call line', () => {
  const text = page('call-line')
  const examples = text
    .split('\n')
    .filter((line) => line.startsWith('    '))
    .map((line) => line.trim())
  it('opens with calls that are understood', () => {
    expect(examples.length).toBeGreaterThanOrEqual(5)
    for (const example of examples) {
      const result = readCall(example, context)
      if (!result.ok) throw new Error(`${example}: ${result.error.message}`)
    }
  })
  it('names every word there is', () => {
    const missing = WORDS.filter((word) => !text.includes(word.word)).map((word) => word.word)
    expect(missing).toEqual([])
  })
  it('gives only short forms that are known', () => {
    const shorts = new Set(WORDS.flatMap((word) => (word.short ? [word.short] : [])))
    for (const list of text.matchAll(/\| `([a-z]{2}(?: [a-z]{2})+)`/g))
      for (const short of list[1]!.split(' ')) expect(shorts, short).toContain(short)
  })
  it.each([
    'G7',
    '3:7',
    'D 9 and B 10',
    'G 7h9p7',
    'G 7 for 3/2',
    'G 7 *3',
    'G 7. 9',
    'G 7 ~',
    'at 2.4& G 7',
    'G 9b2',
    'G 9 bend 1.5 and hold',
    'G x5',
    'hold F#m7 for 8',
    'pluck 6 4 3 2-1',
    '( G 7 5 ) *3',
    'palm firm [ G 7 5 ]',
    'G 7 5\nsame again but note 2 9',
  ])('%s is understood as it says', (text) => {
    const result = call(text)
    if (!result.ok) throw new Error(result.error.message)
    expect(
      result.value.content.notes.length +
        result.value.content.strokes.length +
        result.value.content.grips.length,
    ).toBeGreaterThan(0)
  })
})

describe('files named in the docs', () => {
  it('exist', () => {
    const folders = Object.keys(CORE_FOLDERS).join('|')
    const file = new RegExp(`\`(?:core/)?((?:${folders})/[\\w/-]+\\.ts)\``, 'g')
    const named = ['architecture', 'charting', 'correcting', 'listening', 'proving', 'sound'].flatMap(
      (name) => [...page(name).matchAll(file)].map((match) => match[1] ?? ''),
    )
    expect(named.length).toBeGreaterThan(30)
    for (const path of named) expect(existsSync(`core/${path}`), path).toBe(true)
    for (const [, link] of readFileSync('README.md', 'utf8').matchAll(/\]\((docs\/[\w/.-]+)\)/g))
      expect(existsSync(link!), link).toBe(true)
  })
})
