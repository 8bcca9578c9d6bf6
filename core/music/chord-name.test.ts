import { describe, expect, it } from 'vitest'
import { inversionWords, nameChord, readChordSymbol, transposeSymbol } from './chord-name'
import type { Key } from './pitch'

const eMinor: Key = { tonic: 'E', mode: 'minor' }
const best = (midis: number[], key = eMinor) => nameChord(midis, key)[0]!

describe('chord names', () => {
  it.each([
    [[40, 47, 52], 'E5'],
    [[40, 47, 52, 55, 59, 64], 'Em'],
    [[43, 47, 50, 55, 59, 67], 'G'],
    [[42, 50, 57, 62], 'D/F#'],
    [[47, 51, 57, 62], 'B7#9'],
    [[47, 51, 57, 59], 'B7'],
    [[48, 52, 55, 62], 'Cadd9'],
    [[50, 57, 62, 67], 'Dsus4'],
    [[45, 52, 55, 60, 64], 'Am7'],
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

describe('names of grips as guitarists say them', () => {
  const open = [64, 59, 55, 50, 45, 40]
  const named = (grip: string, key: Key = { tonic: 'C', mode: 'major' }) =>
    nameChord(
      [...grip].toReversed().flatMap((fret, index) => (fret === 'x' ? [] : [open[index]! + Number(fret)])),
      key,
    )
  it.each([
    ['000000', 'Em11'],
    ['3x345x', 'G13'],
    ['4x2100', 'E/G#'],
    ['x02000', 'Em/A'],
    ['244300', 'F#7(add11)'],
    ['x79897', 'Emaj7'],
    ['x3200x', 'Cmaj7'],
    ['x5455x', 'D9'],
    ['5x455x', 'Am6'],
    ['x2323x', 'Bm7b5'],
    ['xx2323', 'Edim7'],
    ['xx0221', 'Dm(maj7)'],
    ['000232', 'D/E'],
    ['x8798x', 'Fmaj9'],
    ['3x5533', 'Gsus4'],
    ['x7678x', 'E7#9'],
    ['x21202', 'B7'],
    ['x3x010', 'C'],
    ['302010', 'Am7/G'],
    ['402210', 'Am/G#'],
    ['x02220', 'A'],
    ['133111', 'Fm'],
    ['x35353', 'C7'],
    ['032010', 'C/E'],
    ['x20033', 'G/B'],
  ])('%s is %s', (grip, symbol) => expect(named(grip)[0]!.symbol).toBe(symbol))
  it('spells a chord from its root: no flat fourth for a third, no Abm where G#m is meant', () => {
    expect(named('476454')[0]!.tones).toEqual({ 4: 'E', 8: 'G#', 11: 'B' })
    expect(named('x79897').map((name) => name.symbol)).toContain('G#m/E')
    expect(named('x46564', { tonic: 'Ab', mode: 'major' })[0]!.symbol).toBe('Dbmaj7')
    expect(named('466444', { tonic: 'Eb', mode: 'minor' })[0]!.symbol).toBe('Abm')
    for (const { tones } of named('xx2323'))
      expect(Object.values(tones).every((tone) => tone.length < 3)).toBe(true)
  })
  it('gives each name the tones it lacks, and never a name for tones it does not hold', () => {
    expect(named('3x345x')[0]).toMatchObject({ omitted: ['5', '9'], quality: '13' })
    for (const grip of ['000000', '244300', 'x5455x', '302010'])
      for (const name of named(grip)) {
        const read = readChordSymbol(name.symbol.replace(/\(no .*?\)/, ''))!
        for (const [pitchClass, degree] of Object.entries(name.degrees))
          if (degree !== 'bass') expect(read.semitones).toContain((Number(pitchClass) - read.root + 12) % 12)
      }
  })
})

describe('chord symbols as they are written', () => {
  it.each([
    ['Cmin7', 'm7'],
    ['CM7', 'maj7'],
    ['C-7', 'm7'],
    ['C+', 'aug'],
    ['C°', 'dim'],
    ['C2', 'Madd9'],
    ['C69', '6add9'],
    ['Csus', 'sus4'],
    ['Cm(maj7)', 'm/ma7'],
    ['C(add9)', 'Madd9'],
    ['C7(#9)', '7#9'],
    ['Cm7(b5)', 'm7b5'],
    ['Cm6/9', 'm69'],
    ['Cø', 'm7b5'],
    ['Cadd4', 'Madd11'],
    ['Csus2sus4', 'sus24'],
    ['Cmaj', 'M'],
  ])('%s is the %s', (symbol, quality) =>
    expect(readChordSymbol(symbol)).toMatchObject({ root: 0, bass: 0, quality }),
  )
  it.each(['H7', 'Cxyz', '', 'C/', 'C/H', '7', 'c'])('%j is none', (symbol) =>
    expect(readChordSymbol(symbol)).toBeUndefined(),
  )
})

describe('moving chord symbols', () => {
  const flat: Key = { tonic: 'Eb', mode: 'minor' }
  it.each([
    ['Em', -1, 'Ebm'],
    ['D/F#', -1, 'Db/F'],
    ['Cadd9', -1, 'Cbadd9'],
    ['B7#9', -1, 'Bb7#9'],
    ['F♯m7', -1, 'Fm7'],
  ] as const)('%s by %i is %s', (symbol, by, moved) => {
    expect(transposeSymbol(symbol, by, flat)).toBe(moved)
  })
  it('moves back to where it was', () => {
    for (const symbol of ['Em', 'Am7', 'C', 'D', 'G', 'B7'])
      expect(transposeSymbol(transposeSymbol(symbol, -1, flat), 1, eMinor)).toBe(symbol)
  })
})
