import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSong } from '../document/migrations'
import type { Song } from '../document/schema'
import { must } from '../result'
import { run } from '../../tests/support/small-song'
import { engraveSheet } from './sheet'
import { line, scaled, text, type Primitive } from './primitives'
import type { SheetOptions } from './sheet-blocks'

const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const options = (over: Partial<SheetOptions> = {}): SheetOptions => ({
  paper: 'A4',
  partIds: ['g1', 'g2'],
  naming: 'shape',
  strings: 'letters',
  form: 'exact',
  ...over,
})
const words = (song: Song, over: Partial<SheetOptions> = {}): string[] =>
  engraveSheet(song, options(over)).flatMap(({ primitives }) =>
    primitives.flatMap((shape) => (shape.kind === 'text' ? [shape.text] : [])),
  )

describe('what a part is played through, on the sheet', () => {
  const rig = {
    pickup: 'neck',
    gain: 'clean',
    effects: [{ id: 'o', kind: 'octave' as const, words: '', knobs: [], semitones: -12 }],
  }
  it('stands in a box, with the milliseconds of a delay', () => {
    const all = words(salt).join('\n')
    expect(all).toContain('neck and middle pickup, gain edge of breakup, with the pick')
    expect(all).toMatch(/delay: dotted eighth, \d{3} ms, 1 repeat; mix half past 9/)
  })
  it('names the sections with another rig, those with the same one together', () => {
    let song = run(salt, 'setRig', { partId: 'g1', sectionId: 'verse1', rig })
    song = run(song, 'setRig', { partId: 'g1', sectionId: 'verse2', rig })
    expect(words(song)).toContain('octave: an octave below')
    expect(words(song).join(' ')).toContain('Verse 1, Verse 2')
    expect(words(song, { sectionId: 'chorus1' }).join(' ')).not.toContain('an octave below')
  })
  it('is left out where only grips or one figure is wanted', () => {
    expect(words(salt, { only: 'grips' }).join(' ')).not.toContain('edge of breakup')
    expect(words(salt, { figureId: 'verse-chug' }).join(' ')).not.toContain('gain full')
  })
})

describe('other sheets', () => {
  it('of scales: each on the neck and zone by zone, named by shape', () => {
    const all = words(salt, { only: 'scales', partIds: ['g2'] })
    expect(all).toContain('E minor')
    expect(all.some((value) => value.startsWith('position '))).toBe(true)
    expect(all).toContain('R')
    expect(all).not.toContain('Form')
  })
  it('with degrees beside the chords, as they are named there', () => {
    const all = words(salt, { numerals: true })
    expect(all).toContain('Em i')
    expect(all).toContain('C ♭VI')
    expect(words(salt)).not.toContain('Em i')
  })
  it('names the licks of a figure', () => {
    const figure = Object.values(salt.figures).find(
      ({ partId, content }) => partId === 'g2' && content.notes.length,
    )!
    const song = run(salt, 'changeFigure', {
      figureId: figure.id,
      what: 'lick',
      set: { licks: [{ id: 'l', name: 'the turn', startTicks: 0, lengthTicks: 10080 }] },
    })
    expect(words(song).join(' ')).toContain('“the turn” from bar 1')
  })
})

describe('shapes at another size', () => {
  it('keep their proportions, whatever they are', () => {
    const shapes: Primitive[] = [
      line(1, 2, 3, 4, 0.5),
      text(2, 2, 'a', 4),
      { kind: 'rect', x: 1, y: 1, width: 2, height: 3, radius: 1 },
      { kind: 'circle', x: 1, y: 2, radius: 3 },
      { kind: 'polygon', points: [1, 2, 3, 4], fill: 'ink' },
      { kind: 'curve', x1: 1, y1: 1, cx: 2, cy: 2, x2: 3, y2: 3, width: 1, role: 'ink' },
    ]
    const twice = scaled(shapes, 2)
    expect(twice[0]).toMatchObject({ x1: 2, y2: 8, width: 1 })
    expect(twice[1]).toMatchObject({ x: 4, size: 8 })
    expect(twice[2]).toMatchObject({ width: 4, radius: 2 })
    expect(scaled(twice, 0.5)).toEqual(shapes)
  })
})
