import { describe, expect, it } from 'vitest'
import { text, type Primitive } from './primitives'
import type { Block } from './sheet-blocks'
import { pagesOf } from './sheet-pages'

const ROOM = { margin: 10, height: 100 }
const head: Block = { height: 10, keepWithNext: true, primitives: [text(0, 5, 'Guitar', 5)] }
const block = (name: string, height: number, air = 0): Block => ({
  height,
  air,
  continues: { ...head, primitives: [text(0, 5, 'Guitar, continued', 5)] },
  primitives: [text(0, 0, name, 3)],
})
const words = (pages: readonly Primitive[][]): string[][] =>
  pages.map((shapes) => shapes.flatMap((shape) => (shape.kind === 'text' ? [shape.text] : [])))

describe('blocks on pages', () => {
  it('say their heading again where they go on', () => {
    const pages = pagesOf([head, block('a', 45), block('b', 40), block('c', 50)], ROOM)
    expect(words(pages)).toEqual([
      ['Guitar', 'a', 'b'],
      ['Guitar, continued', 'c'],
    ])
  })

  it('leave no heading alone, and none over a block that has its own', () => {
    const pages = pagesOf([block('a', 90), head, block('b', 80)], ROOM)
    expect(words(pages)).toEqual([['a'], ['Guitar', 'b']])
  })

  it('bring a nearly empty last page onto the one before, with less air', () => {
    const pages = pagesOf([block('a', 45, 10), block('b', 45, 10), block('c', 15, 10)], ROOM)
    expect(words(pages)).toEqual([['a', 'b', 'c']])
    expect(pages[0]!.map((shape) => ('y' in shape ? shape.y : 0))).toEqual([10, 52.5, 95])
  })

  it('give the last page more where they cannot be brought closer', () => {
    const pages = pagesOf([block('a', 32), block('b', 32), block('c', 32), block('d', 10)], ROOM)
    expect(words(pages)).toEqual([
      ['a', 'b'],
      ['Guitar, continued', 'c', 'd'],
    ])
  })
})
