import { expect, it } from 'vitest'
import { counted, listed, timesWords } from './words'

it('words are listed and counted as they are said', () => {
  expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listed)).toEqual(['', 'a', 'a and b', 'a, b and c'])
  expect([counted(1, 'bar'), counted(0, 'bar'), counted(-1, 'beat'), counted(2, 'entry', 'entries')]).toEqual(
    ['1 bar', '0 bars', '-1 beat', '2 entries'],
  )
  expect([timesWords(1), timesWords(3)]).toEqual(['once', '3 times'])
})
