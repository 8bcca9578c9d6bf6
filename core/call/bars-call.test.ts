import { describe, expect, it } from 'vitest'
import { BAR, figureOf } from '../../tests/support/small-song'
import { readBarsCall } from './bars-call'

const figure = figureOf('riff', { name: 'Riff', lengthTicks: 4 * BAR })
const said = (call: string): string => {
  const read = readBarsCall(call, figure)
  if (!read) return 'no bars'
  return read.ok ? `${read.first} to ${read.last}` : read.message
}

describe('bars named in a call', () => {
  it.each([
    ['bar 2', '1 to 1'],
    ['Bars 3 to 4', '2 to 3'],
    ['bars two and three', '1 to 2'],
    ['bars 1-4', '0 to 3'],
    ['the last bar', '3 to 3'],
    ['the second bar', '1 to 1'],
    ['bar 5', '“Riff” has bars 1 to 4.'],
    ['bars 3 to 2', '“Riff” has bars 1 to 4.'],
    ['bar 2 the turn', 'no bars'],
    ['5 7 on the A', 'no bars'],
  ])('“%s” is %s', (call, meant) => expect(said(call)).toBe(meant))
})
