import { readFileSync } from 'node:fs'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { readSong } from '../../document/migrations'
import type { Song } from '../../document/schema'
import { songTimeMap } from '../../document/form'
import { ticksToSeconds } from '../../time/beat-grid'
import { timelineOf } from '../../timeline/timeline'
import { run, smallSong } from '../../../tests/support/small-song'
import { songFromScore } from '../score/to-song'
import type { WrittenScore } from '../score/written-score'
import { chordsByBar, writeChordText } from './chord-text'
import { readCueSheet, writeCueSheet } from './cue-sheet'
import { readChordText } from './read-chord-text'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const songOf = (score: WrittenScore): Song => must(songFromScore(score, { id: 'x', sourceName: 'file' })).song
const bars = (song: Song): string[] =>
  timelineOf(song).places.map(
    ({ section }) =>
      `${section.name}: ${chordsByBar(section)
        .map((chords) => chords.join(' '))
        .join(' | ')}`,
  )
const FOUR = { beats: 4, unit: 4 } as const

describe('chords as text', () => {
  it.each(['salt-on-the-signal', 'cold-kiln'])('come back bar for bar: %s', (name) => {
    const song = demo(name)
    expect(bars(songOf(must(readChordText(writeChordText(song), FOUR)).score))).toEqual(bars(song))
  })

  it('say a bar that is the same as the one before shorter, and an empty one as a dash', () => {
    const song = run(smallSong(), 'changeSection', {
      sectionId: 'verse',
      set: {
        name: 'Verse: one | two',
        harmony: [
          { startTicks: 0, lengthTicks: 2 * 40_320, symbol: 'Em' },
          { startTicks: 3 * 40_320, lengthTicks: 20_160, symbol: 'G' },
          { startTicks: 3 * 40_320 + 20_160, lengthTicks: 20_160, symbol: 'D/F#' },
        ],
      },
    })
    expect(writeChordText(song, 'verse')).toBe('Verse one two:\n| Em | % | - | G D/F# |\n| - | - | - | - |\n')
  })

  it('keep pushed chords at their place both ways, also in a table', () => {
    const harmony = [
      { startTicks: 0, lengthTicks: 3.5 * 10_080, symbol: 'Em' },
      { startTicks: 3.5 * 10_080, lengthTicks: 4.5 * 10_080, symbol: 'G' },
      { startTicks: 8 * 10_080, lengthTicks: 13_440, symbol: 'C' },
      { startTicks: 8 * 10_080 + 13_440, lengthTicks: 26_880, symbol: 'D' },
    ]
    const song = run(smallSong(), 'changeSection', { sectionId: 'verse', set: { harmony } })
    const text = writeChordText(song, 'verse')
    expect(text).toContain('| Em G@4.5 | G | C D@2.333 | - |')
    const places = (score: WrittenScore, first: number) =>
      score.harmony.map(({ startTicks, lengthTicks, symbol }) => ({
        startTicks: startTicks - first,
        lengthTicks,
        symbol,
      }))
    expect(places(must(readChordText(text, FOUR)).score, 0)).toEqual(harmony)
    expect(places(must(readCueSheet(writeCueSheet(song))).score, 8 * 40_320)).toEqual(harmony)
  })

  it('say no key, and none is claimed', () => {
    expect(songOf(must(readChordText('Verse:\n| Am | F |', FOUR)).score).keyUnknown).toBe(true)
    expect(songOf(must(readCueSheet('section,bars\nVerse,8')).score).keyUnknown).toBe(true)
  })

  it('are refused where there are none', () => {
    const result = readChordText('She walks alone\nby the river', FOUR)
    expect(result.ok || result.refusal.message).toContain('No line of chords was found')
  })

  it('say which lines were no chords', () => {
    const { dropped } = must(readChordText('Verse:\n| Am | F |\nand then it rains', FOUR))
    expect(dropped).toEqual([
      { what: 'lines', count: 1, why: 'Line 3: “and then it rains” is not a line of chords.' },
    ])
  })
})

describe('a cue sheet', () => {
  it.each(['salt-on-the-signal', 'cold-kiln'])('holds sections, times, meters and chords: %s', (name) => {
    const song = demo(name)
    const again = songOf(must(readCueSheet(writeCueSheet(song))).score)
    expect(bars(again)).toEqual(bars(song))
    const [map, other] = [songTimeMap(song)!, songTimeMap(again)!]
    for (const { startTicks } of timelineOf(song).places)
      expect(ticksToSeconds(other, startTicks)).toBeCloseTo(ticksToSeconds(map, startTicks), 2)
  })

  it('is a table any spreadsheet reads, and no name becomes a formula', () => {
    const song = run(smallSong(), 'changeSection', {
      sectionId: 'verse',
      set: { name: '=2+3, "the other"' },
    })
    const { data } = Papa.parse<Record<string, string>>(writeCueSheet(song), {
      header: true,
      skipEmptyLines: true,
    })
    expect(data[1]).toMatchObject({
      section: `'=2+3, "the other"`,
      'first bar': '9',
      bars: '8',
      meter: '4/4',
    })
    const again = songOf(must(readCueSheet(writeCueSheet(song))).score)
    expect(again.sections['section-2']!.name).toBe('=2+3, "the other"')
  })

  it('is read with other columns, other separators, seconds or minutes, and without chords', () => {
    const score = must(
      readCueSheet('Section;Start;Bars;Meter;who\nIntro;0:10,5;4;3/4;all\nVerse;0:16.5;8;4/4;all\n;;;;\n'),
    ).score
    expect(score.bars).toHaveLength(12)
    expect(score.bars[0]).toMatchObject({ section: 'Intro', meter: { beats: 3, unit: 4 } })
    expect(score.firstSeconds).toBe(10.5)
    // Twelve quarters in six seconds.
    expect(score.tempo).toEqual([{ startTicks: 0, quartersPerMinute: 120 }])
  })

  it.each([
    ['no such column', 'name,bars\nIntro,4', 'no column "section"'],
    ['no rows', 'section,bars\n,4', 'no sections'],
    ['too many bars', `section,bars\n${'A,2000\n'.repeat(4)}`, 'more than 5000 bars'],
  ])('is refused with what is missing: %s', (_, text, words) => {
    const result = readCueSheet(text)
    expect(result.ok || result.refusal.message).toContain(words)
  })
})
