// Which calls are in the exact words, and which are left to the reading of what people say.
import { describe, expect, it } from 'vitest'
import { isExact } from './exact-words'

describe('the exact words', () => {
  it.each([
    'G 7 9 hammer 11',
    'on G seven seven, hammer seven nine eleven, B eight eight',
    'g 7h9p7 b 8 8 e 5.',
    '3:7 9, 2:8',
    'low E 0 0 3 0 for a quarter',
    'D 9 and B 10, A 7',
    'G 2 for 1/2, 2 and high E 2 for 1 ticks',
    'hold x02220, two dead, three on four-three-two',
    'hold D over F sharp for 8',
    'down on 4-3-2, up, palm firm dead down',
    '( D 7 5 ) *3',
    'palm firm [ G 7 5 ]',
    'G 9 bend 1.5 and hold',
    'at bar 2 on 3, G 7',
    'at the and of 4, A 2 power',
    'G 7 9 7\nsame again but last two notes B 8 10',
    'string 6 fret 3, string 5 fret 2 4',
    'G 7 finger T, B 8 pick down',
  ])('%s', (call) => expect(isExact(call)).toBe(true))
  it.each([
    '7 on the G',
    '10 D, 9 G',
    'so G 7',
    'ninth fret on the D',
    'A minor, down up',
    'E9, chuck chuck',
    'D5',
    'same again',
    '7 and 9 on the D and G',
    '5, 8 on high E',
    'A G B high E',
    'G, D, A',
    'G 7, no, 9',
    'third string, 7',
    'again, twice',
    'low 7',
  ])('as said: %s', (call) => expect(isExact(call)).toBe(false))
})
