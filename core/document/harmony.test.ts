import { describe, expect, it } from 'vitest'
import { BAR, run, smallSong } from '../../tests/support/small-song'
import {
  chordAt,
  dividedChord,
  harmonyOfReturns,
  movedChord,
  movedEnd,
  movedStart,
  renamedChord,
  withChord,
  withoutChord,
  withoutChords,
  type Chord,
  type Harmony,
} from './harmony'

const BEAT = BAR / 4
const chord = (symbol: string, beat: number, beats: number): Chord => ({
  symbol,
  startTicks: beat * BEAT,
  lengthTicks: beats * BEAT,
})
const words = (harmony: Harmony | undefined): string =>
  (harmony ?? [])
    .map(({ symbol, startTicks, lengthTicks }) => `${symbol} ${startTicks / BEAT}+${lengthTicks / BEAT}`)
    .join(', ')
const row = [chord('G', 0, 4), { ...chord('D', 4, 2), confidence: 0.4 }, chord('Em', 6, 2)]
const move = (byBeats: number) => ({
  byTicks: byBeats * BEAT,
  leastTicks: BEAT / 2,
  earliestTicks: -BAR,
  latestTicks: 2 * BAR,
})

describe('a chord in the hand', () => {
  it('is found where it sounds', () => {
    expect(chordAt(row, 5 * BEAT)?.symbol).toBe('D')
    expect(chordAt(row, 8 * BEAT)).toBeUndefined()
  })
  it('is put over a stretch and what lay there sounds on around it', () => {
    expect(words(withChord(row, chord('C', 1, 1)))).toBe('G 0+1, C 1+1, G 2+2, D 4+2, Em 6+2')
    expect(words(withChord(row, chord('C', 3, 4)))).toBe('G 0+3, C 3+4, Em 7+1')
  })
  it('is no guess any more once it is named', () => {
    expect(renamedChord(row, 4 * BEAT, 'Bm')[1]).toEqual(chord('Bm', 4, 2))
  })
  it('moves its ends, and its neighbours follow', () => {
    expect(words(movedStart(row, 4 * BEAT, move(-0.5)))).toBe('G 0+3.5, D 3.5+2.5, Em 6+2')
    expect(words(movedEnd(row, 4 * BEAT, move(1)))).toBe('G 0+4, D 4+3, Em 7+1')
    expect(words(movedChord(row, 4 * BEAT, move(0.5)))).toBe('G 0+4.5, D 4.5+2, Em 6.5+1.5')
    expect(words(movedChord(row, 4 * BEAT, move(-1)))).toBe('G 0+3, D 3+2, Em 5+3')
  })
  it('may begin before its section and never swallows a neighbour', () => {
    expect(words(movedStart(row, 0, move(-1)))).toBe('G -1+5, D 4+2, Em 6+2')
    expect(movedStart(row, 4 * BEAT, move(-4))).toBeUndefined()
    expect(movedEnd(row, 4 * BEAT, move(2))).toBeUndefined()
    expect(movedEnd(row, 6 * BEAT, move(1))).toBeUndefined()
  })
  it('is divided, and taken away with the chord before it sounding on', () => {
    expect(words(dividedChord(row, 0, 2 * BEAT))).toBe('G 0+2, G 2+2, D 4+2, Em 6+2')
    expect(dividedChord(row, 0, 4 * BEAT)).toBeUndefined()
    expect(words(withoutChord(row, 4 * BEAT))).toBe('G 0+6, Em 6+2')
    expect(words(withoutChord(row, 0))).toBe('D 4+2, Em 6+2')
  })
})

describe('chords of what returns', () => {
  const inE = run(smallSong(), 'setFacts', { key: { tonic: 'E', mode: 'major' } })
  const song = run(inE, 'changeSection', {
    sectionId: 'intro',
    set: { harmony: [chord('G', -1, 5), chord('D', 4, 4), chord('F#m', 16, 16)] },
  })
  const back = (returns: object) =>
    harmonyOfReturns(
      run(song, 'setReturn', {
        sectionId: 'chorus',
        returns: { sectionId: 'intro', shiftSemitones: 0, withDifferences: false, ...returns },
      }),
      'intro',
    )
  it('are the same, moved as the section is moved', () => {
    expect(words(back({})[0]?.harmony)).toBe('G -1+5, D 4+4, F#m 16+16')
    expect(words(back({ shiftSemitones: 2 })[0]?.harmony)).toBe('A -1+5, E 4+4, G#m 16+16')
  })
  it('are those of the bars that return', () => {
    expect(words(back({ firstBar: 4, barCount: 4 })[0]?.harmony)).toBe('F#m 0+16')
  })
  it('and stretches without any are told', () => {
    expect(withoutChords(song.sections.intro!, BAR)).toEqual([{ from: 2 * BAR, to: 4 * BAR }])
    expect(withoutChords(song.sections.verse!, BAR)).toEqual([{ from: 0, to: 8 * BAR }])
  })
})

describe('edges and names of sections', () => {
  it('begin by the beat, with a lead-in, and on the one again', () => {
    const earlier = run(smallSong(), 'moveSectionStart', { sectionId: 'verse', byBars: 0, byBeats: -1 })
    expect(earlier.sections.verse).toMatchObject({ pickupTicks: BEAT })
    expect(earlier.sections.verse!.bars).toHaveLength(8)
    const later = run(smallSong(), 'moveSectionStart', { sectionId: 'verse', byBars: 0, byBeats: 1 })
    expect(later.sections.verse).toMatchObject({ pickupTicks: 3 * BEAT })
    expect(later.sections.verse!.bars).toHaveLength(7)
    const back = run(later, 'moveSectionStart', { sectionId: 'verse', byBars: 0, byBeats: -1 })
    expect(back.sections.verse).toEqual(smallSong().sections.verse)
    expect(run(earlier, 'startOnOnes', {}).sections.verse!.pickupTicks).toBe(0)
  })
  it('count on when one of them is merged, and own names stay', () => {
    let song = smallSong()
    const name = (sectionId: string, text: string): void => {
      song = run(song, 'changeSection', { sectionId, set: { name: text } })
    }
    name('intro', 'Verse 1')
    name('verse', 'Verse 2')
    name('chorus', 'Verse 3')
    const merged = run(song, 'mergeSection', { sectionId: 'verse' })
    expect(merged.sectionOrder.map((id) => merged.sections[id]!.name)).toEqual(['Verse 1', 'Verse 2'])
    name('chorus', 'Verse 7')
    const own = run(song, 'mergeSection', { sectionId: 'verse' })
    expect(own.sections.chorus!.name).toBe('Verse 7')
  })
})
