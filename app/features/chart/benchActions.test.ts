import { describe, expect, it } from 'vitest'
import { benchActions, byRow, meantFor } from './benchActions'
import type { Bench, BenchRow } from './benchKeys'

/** A bench on a row, which only notes what was asked of it. */
function benchOn(row: BenchRow): { bench: Bench; asked: string[] } {
  const asked: string[] = []
  const bench = new Proxy({} as Bench, {
    get: (_, name) =>
      name === 'row'
        ? { value: row }
        : (...args: unknown[]) => asked.push(`${String(name)} ${JSON.stringify(args)}`),
  })
  return { bench, asked }
}
const named = (row: BenchRow, label: string) => {
  const { bench, asked } = benchOn(row)
  const action = benchActions(bench).find((one) => one.label.startsWith(label))!
  return { action, asked }
}

describe('what can be done at the cursor', () => {
  it('is on a string: the marks of a note, and what holds for strokes too', () => {
    const here = benchActions(benchOn(3).bench).filter((action) => meantFor(action, 3))
    expect(here.map((action) => action.keys[0])).toEqual([...'hpsbvdumxar', '.', ',', 'Delete'])
  })
  it('is in the hand row: strokes, and no marks of notes', () => {
    const labels = benchActions(benchOn('hand').bench)
      .filter((action) => meantFor(action, 'hand'))
      .map((action) => action.label.split(':')[0])
    expect(labels).toContain('choke')
    expect(labels).toContain('slide')
    expect(labels).toContain('down')
    expect(labels).not.toContain('hammer-on')
  })
  it('is on the grips what lasts: ring, length, removal', () => {
    const here = benchActions(benchOn('grips').bench).filter((action) => meantFor(action, 'grips'))
    expect(here.map((action) => action.label)).toEqual(['let ring', 'longer', 'shorter', 'remove'])
  })
  it('picks a note down where it strikes with the hand', () => {
    const onString = named(2, 'down')
    onString.action.run()
    expect(onString.asked).toEqual(['dress [{"pick":"down"},"picked down"]'])
    const onHand = named('hand', 'down')
    onHand.action.run()
    expect(onHand.asked).toEqual(['strike ["down"]'])
  })
  it('has no key twice', () => {
    const keys = benchActions(benchOn(1).bench).flatMap((action) => action.keys)
    expect(new Set(keys).size).toBe(keys.length)
  })
})

describe('one key with two meanings', () => {
  it('goes by the row', () => {
    const done: string[] = []
    const both = (row: BenchRow) =>
      byRow(
        benchOn(row).bench,
        () => done.push('string'),
        () => done.push('hand'),
      )
    both(4)()
    both('grips')()
    expect(done).toEqual(['string', 'hand'])
  })
})
