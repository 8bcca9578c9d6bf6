import { describe, expect, it } from 'vitest'
import { BAR, figureOf } from '../../tests/support/small-song'
import { readAccentCall } from './accent-call'

const figure = figureOf('riff', { lengthTicks: 2 * BAR })
const Q = BAR / 4

describe('accents on the call line', () => {
  it.each([
    ['accents of the voice on 1, the and of two and 4', 'voice', [0, 1.5, 3, 4, 5.5, 7]],
    ['accent of keys in bar 2 on 3', 'keys', [6]],
    ['the accents of the band in bar one on 2 and, 4', 'band', [1.5, 3]],
  ])('%s', (call, of, quarters) =>
    expect(readAccentCall(call, figure)).toEqual({ ok: true, of, at: quarters.map((count) => count * Q) }),
  )
  it.each([
    ['accents of the tuba on 1', 'voice'],
    ['accents of the voice', 'which counts'],
    ['accents of the voice on 7', 'no count'],
    ['accents of the voice in bar 9 on 1', 'bars 1 to 2'],
  ])('%s is answered with what is missing', (call, words) =>
    expect(readAccentCall(call, figure)).toMatchObject({
      ok: false,
      message: expect.stringContaining(words),
    }),
  )
  it('leaves every other call alone', () => expect(readAccentCall('accent on the 7', figure)).toBeUndefined())
})
