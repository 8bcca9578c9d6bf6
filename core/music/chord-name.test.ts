import { describe, expect, it } from 'vitest'
import { inversionWords, nameChord, readChordSymbol, transposeSymbol } from './chord-name'
import type { Key } from './pitch'

const eMinor: Key = { tonic: 'E', mode: 'minor' }
const best = (midis: number[], key = eMinor) => nameChord(midis, key)[0]!

describe('chord names', () => {
  it.each([
    [[40, 47, 52], 'E5'], [[40, 47, 52, 55, 59, 64], 'Em'], [[43, 47, 50, 55, 59, 67], 'G'], [[42, 50, 57, 62], 'D/F#'],
    [[47, 51, 57, 62], 'B7#9'], [[47, 51, 57, 59], 'B7'], [[48, 52, 55, 62], 'Cadd9'], [[50, 57, 62, 67], 'Dsus4'], [[45, 52, 55, 60, 64], 'Am7'],
  ])('names %j as %s', (midis, symbol) => expect(best(midis).symbol).toBe(symbol))
  it('says which tone is in the bass', () => {
    expect(inversionWords(best([42, 50, 57, 62]))).toBe('first inversion')
    expect(best([42, 50, 57, 62]).degrees).toEqual({ 6: '3', 2: 'R', 9: '5' })
  })
  it('spells by key', () => {
    expect(best([42, 46, 49], { tonic: 'Db', mode: 'major' }).symbol).toBe('Gb')
    expect(best([42, 46, 49], { tonic: 'B', mode: 'major' }).symbol).toBe('F#')
  })
  it('names nothing it cannot know: silence or one pitch class', () => {
    expect(nameChord([], eMinor)).toEqual([])
    expect(nameChord([40, 52], eMinor)).toEqual([])
  })
  it('reads symbols back', () => {
    expect(readChordSymbol('F♯m7/E')).toMatchObject({ root: 6, bass: 4, semitones: [0, 3, 7, 10] })
    expect(readChordSymbol('C6/9')).toMatchObject({ root: 0, bass: 0 })
    expect(readChordSymbol('nonsense')).toBeUndefined()
  })
})

describe('moving chord symbols', () => {
  const flat: Key = { tonic: 'Eb', mode: 'minor' }
  it.each([['Em', -1, 'Ebm'], ['D/F#', -1, 'Db/F'], ['Cadd9', -1, 'Cbadd9'], ['B7#9', -1, 'Bb7#9'], ['F♯m7', -1, 'Fm7']] as const)('%s by %i is %s', (symbol, by, moved) => {
    expect(transposeSymbol(symbol, by, flat)).toBe(moved)
  })
  it('moves back to where it was', () => {
    for (const symbol of ['Em', 'Am7', 'C', 'D', 'G', 'B7']) expect(transposeSymbol(transposeSymbol(symbol, -1, flat), 1, eMinor)).toBe(symbol)
  })
})
