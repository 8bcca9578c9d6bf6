// Strange and very long calls: read in the time of a gesture, refused in words, and nothing unplayable
// entered.
import { describe, expect, it } from 'vitest'
import { contentProblem } from '../document/invariants/content'
import { newPart } from '../document/new-song'
import { readGrip } from '../neck/grips/grip'
import { dice } from '../../tests/support/random-transactions'
import { enterCall, fitCall } from './enter'
import { parseCall } from './parse'
import { WORDS } from './vocabulary'

const QUARTER = 10080
const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const meter = { beats: 4, unit: 4 } as const
const figure = { lengthTicks: 4 * QUARTER, meter }
const context = {
  part,
  letters: ['E', 'B', 'G', 'D', 'A', 'E'],
  meter,
  subdivision: 'eighths' as const,
  stepTicks: QUARTER / 2,
  gripFor: () => readGrip('022100', 6),
}
const read = (text: string, open = false) =>
  parseCall(text, open ? context : { ...context, lengthTicks: figure.lengthTicks })

describe('a call of any length', () => {
  it.each(['G 7 ', '7-', 'aaaa', '(', 'Am7 ', 'bend ', 'x02220 '])('made of %j is read at once', (piece) => {
    read(piece)
    const time = (length: number): number => {
      const text = piece.repeat(Math.ceil(length / piece.length)).slice(0, length)
      const started = performance.now()
      const result = read(text)
      if (!result.ok) expect(result.error.message.length).toBeLessThan(200)
      return performance.now() - started
    }
    expect(time(6000)).toBeLessThan(1500)
    expect(time(20_000)).toBeLessThan(1500)
  })
})

describe('fuzzed calls', () => {
  const TOKENS = [
    ...WORDS.map(({ word }) => word),
    ...'G B E D A 7 9 12 22 24 0 ( ) , . x02220 Am7 1:3'.split(' '),
  ]
  it('never throw, and what is entered or made to fit can be played', () => {
    const roll = dice(11)
    let id = 0
    for (let count = 0; count < 3000; count++) {
      const text = Array.from({ length: 1 + roll.below(14) }, () => roll.one(TOKENS)).join(' ')
      const result = read(text)
      const empty = { grips: [], strokes: [], notes: [], mutes: [] }
      if (result.ok) {
        const entered = enterCall(empty, result.value, () => `n${id++}`)
        expect(contentProblem(entered, part, figure.lengthTicks), text).toBeUndefined()
      } else if (result.error.overTicks !== undefined) {
        const open = read(text, true)
        if (!open.ok) continue
        for (const fit of ['longer figure', 'tuplet', 'longer bar'] as const) {
          const fitted = fitCall(open.value, figure, fit)
          if (!fitted) continue
          expect(Number.isFinite(fitted.lengthTicks)).toBe(true)
          expect(
            contentProblem(
              enterCall(empty, fitted.call, () => `n${id++}`),
              part,
              fitted.lengthTicks,
            ),
            text,
          ).toBeUndefined()
        }
      }
    }
  })
})
