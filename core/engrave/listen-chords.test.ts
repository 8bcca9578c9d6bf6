import { describe, expect, it } from 'vitest'
import { BAR, run, smallSong } from '../../tests/support/small-song'
import { chordsOfSong, chordWidth, placeChords, type DrawnChord } from './listen-chords'
import { layoutListenLines } from './listen-lines'

const chord = (symbol: string, x: number): DrawnChord => ({
  tick: 0,
  x,
  row: 0,
  squeezed: undefined,
  symbol,
  sure: 'set',
  suggested: false,
})
const width = (one: DrawnChord): number => chordWidth(one.symbol, one)
/** Whether any two of a line lie over each other, or one leaves it. */
function collides(chords: readonly DrawnChord[], right: number): boolean {
  const end = (one: DrawnChord): number => one.x + (one.squeezed ?? width(one))
  return chords.some(
    (one, index) =>
      end(one) > right + 0.01 ||
      chords.slice(index + 1).some((other) => other.row === one.row && other.x < end(one) - 0.01),
  )
}

describe('chords under the lines', () => {
  it('stand in one row where there is room', () => {
    const chords = [chord('G', 0), chord('D', 40), chord('Em', 80)]
    expect(placeChords(chords, 200, width)).toBe(false)
    expect(chords.every((one) => one.squeezed === undefined)).toBe(true)
  })
  it('never collide, however narrow the bars and long the names', () => {
    for (const gap of [16, 20, 28, 37, 60]) {
      const chords = Array.from({ length: 12 }, (_, i) => chord(i % 2 ? 'F#m7(add11)/C#' : 'Bbmaj7', i * gap))
      expect(placeChords(chords, 12 * gap, width)).toBe(true)
      expect(collides(chords, 12 * gap)).toBe(false)
    }
  })
  it('that sound before their section are drawn in the bar before', () => {
    const song = run(smallSong(), 'changeSection', {
      sectionId: 'verse',
      set: { harmony: [{ startTicks: -BAR / 8, lengthTicks: BAR, symbol: 'A' }] },
    })
    expect(chordsOfSong(song, song)[0]).toMatchObject({ tick: 7.875 * BAR, suggested: false, sure: 'set' })
    const lines = layoutListenLines(song, 1100)!.lines
    expect(lines[0]!.bars.at(-1)!.chords).toHaveLength(1)
    expect(lines[1]!.bars[0]!.chords).toHaveLength(0)
  })
  it('make their line higher when they need two rows, and say how a section leads in', () => {
    const harmony = Array.from({ length: 16 }, (_, i) => ({
      startTicks: (i * BAR) / 4,
      lengthTicks: BAR / 4,
      symbol: 'C#m7',
    }))
    let song = run(smallSong(), 'changeSection', { sectionId: 'verse', set: { harmony } })
    song = run(song, 'moveSectionStart', { sectionId: 'chorus', byBars: 0, byBeats: -1 })
    const [intro, verse, chorus] = layoutListenLines(song, 1100)!.lines
    expect(verse!.height).toBeGreaterThan(intro!.height)
    expect(chorus!.top).toBe(intro!.height + verse!.height)
    expect(chorus!.leadIn).toBe('begins a beat before')
  })
})
