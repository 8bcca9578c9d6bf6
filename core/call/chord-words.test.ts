import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { readChordSymbol } from '../music/chord-name'
import { spokenChord } from './chord-words'

const said = (text: string) => spokenChord(text.split(' '))

describe('a chord as it is said', () => {
  it.each([
    ['E minor', 'Em', 2],
    ['E min 7', 'Em7', 3],
    ['b flat major seven', 'Bbmaj7', 4],
    ['C major', 'C', 2],
    ['F sharp minor seven', 'F#m7', 4],
    ['F# minor', 'F#m', 2],
    ['E♭ minor', 'Ebm', 2],
    ['D over F sharp', 'D/F#', 4],
    ['A minor slash G', 'Am/G', 4],
    ['A sus four', 'Asus4', 3],
    ['A seven sus 4', 'A7sus4', 4],
    ['D suspended two', 'Dsus2', 3],
    ['C add nine', 'Cadd9', 3],
    ['A minor add nine', 'Am(add9)', 4],
    ['G dominant seven', 'G7', 3],
    ['B diminished', 'Bdim', 2],
    ['C augmented', 'Caug', 2],
    ['G power', 'G5', 2],
    ['G five', 'G5', 2],
    ['A thirteen', 'A13', 2],
  ])('%s is %s, in %i words', (text, symbol, used) => expect(said(text)).toEqual({ symbol, used }))
  it.each(['E', 'minor', 'H minor', 'x02220', 'E for 8', 'E over', 'E sus', ''])('“%s” is none', (text) =>
    expect(said(text)).toBeUndefined(),
  )
  it('leaves what follows to the call', () => {
    expect(said('E minor for 8')).toMatchObject({ used: 2 })
    expect(said('A minor 3 on G')).toMatchObject({ symbol: 'Am', used: 2 })
    expect(said('E minor over 9')).toMatchObject({ symbol: 'Em', used: 2 })
  })
  it('is always a symbol that is understood', () => {
    const words = fc.tuple(
      fc.constantFrom('A', 'b', 'C#', 'D', 'Eb', 'g'),
      fc.constantFrom('', 'sharp', 'flat'),
      fc.constantFrom('', 'minor', 'major', 'dominant', 'diminished', 'augmented'),
      fc.constantFrom('', 'seven'),
      fc.constantFrom('', 'over E', 'slash B flat'),
    )
    fc.assert(
      fc.property(words, (list) => {
        const [root, sign] = list
        // A letter carries one sign at most, and a sixth kind of seventh has no name of its own.
        fc.pre(!(root.length > 1 && sign) && !(list[2] === 'augmented' && list[3]))
        const found = said(list.filter(Boolean).join(' '))
        if (found) expect(readChordSymbol(found.symbol), found.symbol).toBeDefined()
      }),
    )
  })
})
