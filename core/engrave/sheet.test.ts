import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { readSong } from '../document/migrations'
import { newPart } from '../document/new-song'
import { tuningsFor } from '../instrument/tunings'
import { EMPTY_CONTENT, type Song } from '../document/schema'
import { BAR, figureOf, noteAt, onOnes, placeOf, run, smallSong } from '../../tests/support/small-song'
import { everyMarkSong } from '../../tests/support/every-mark'
import type { Primitive } from './primitives'
import { engraveSheet } from './sheet'
import { PAPERS, type SheetOptions, type SheetPage } from './sheet-blocks'
import { pageSvg } from './svg'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const SALT = demo('salt-on-the-signal')
const sheet = (song: Song, over: Partial<SheetOptions> = {}): SheetPage[] =>
  engraveSheet(song, {
    paper: 'A4',
    partIds: song.partOrder,
    naming: 'shape',
    strings: 'letters',
    form: 'exact',
    ...over,
  })
type Text = Extract<Primitive, { kind: 'text' }>
const textsOf = ({ primitives }: SheetPage): Text[] =>
  primitives.flatMap((shape) => (shape.kind === 'text' ? [shape] : []))
/** Where a shape lies on its page, from its top. */
function heights(shape: Primitive): number[] {
  if ('y1' in shape) return [shape.y1, shape.y2]
  return 'y' in shape ? [shape.y] : []
}
const words = (pages: readonly SheetPage[]): string[] =>
  pages.flatMap((page) => textsOf(page).map((shape) => shape.text))

describe('the sheet', () => {
  it('has every chosen part in the form, in as many tables as that takes', () => {
    const heads = (song: Song): string[][] => {
      const all = sheet(song).flatMap(textsOf)
      return all
        .filter((shape) => /^Form/.test(shape.text))
        .map((head) =>
          all
            .filter((shape) => shape.y === head.y && shape !== head && shape.bold)
            .map((shape) => shape.text),
        )
    }
    expect(heads(SALT)).toEqual([
      ['Guitar 1', 'Guitar 2', 'Guitar 3'],
      ['Acoustic', 'Bass'],
    ])
    expect(heads(demo('cold-kiln'))).toEqual([['Baritone', 'Bass']])
  })

  it('gives the chords by section, and names a section that has those of another', () => {
    const said = words(sheet(SALT))
    expect(said).toContain('Chords')
    expect(said).toContain('as Pre-chorus 1')
    // By shape: the record sounds a half step lower.
    expect(said).toContain('Am7')
    expect(words(sheet(SALT, { naming: 'sounding' }))).toContain('A♭m7')
  })

  it('prints of a variation what differs, and all of it where its base is not there', () => {
    const run4 = Object.values(SALT.figures).find(({ name }) => name === 'Verse chug, with the run')!
    expect(words(sheet(SALT))).toContain('as Verse chug, but bar 4')
    const alone = words(sheet(SALT, { figureId: run4.id }))
    expect(alone.some((text) => text.startsWith('as Verse chug'))).toBe(false)
    expect(alone).toContain('Verse chug, with the run')
  })

  it('is of one section or one figure, or grips only, when that is wanted', () => {
    const bridge = SALT.sectionOrder.find((id) => SALT.sections[id]!.name === 'Bridge')!
    const section = words(sheet(SALT, { sectionId: bridge }))
    expect(section).toEqual(
      expect.arrayContaining(['Three-step', 'Bridge ring', 'Half strum', 'Pedal in threes']),
    )
    expect(section).not.toContain('Verse chug')
    expect(section).not.toContain('Verse 1')
    const grips = words(sheet(SALT, { only: 'grips' }))
    expect(grips).toContain('Cadd9')
    expect(grips).not.toContain('Verse chug')
  })

  it('says a part again on its further pages, names palm mutes, counts a pickup from where it starts', () => {
    const said = words(sheet(SALT))
    expect(said).toContain('Guitar 1, continued')
    expect(said).toContain('palm mute')
    const pickup = Object.values(SALT.figures).find(({ name }) => name === 'Pickup run')!
    const alone = words(sheet(SALT, { figureId: pickup.id }))
    expect(alone).toContain('half a bar of 4/4, from the 3 · in Verse 1')
    expect(alone.join(' ')).toContain('3 & 4 &')
    expect(alone).not.toContain('1')
  })

  it('does not turn down strings that are made for their tuning', () => {
    const bass = run(smallSong(), 'addPart', {
      part: {
        ...newPart({ id: 'b', name: 'Bass', kind: 'bass-4' }),
        tuning: tuningsFor('bass-4').find(({ name }) => name.includes('five-string set'))!,
      },
    })
    const line = words(sheet(bass)).find((text) => text.startsWith('Bass:'))
    expect(line).toBe('Bass: B E A D (low to high), B E A D (five-string set without the top)')
  })

  it('keeps a teacher’s own remarks from a student', () => {
    const remark = (id: string, text: string, reader: 'teacher' | 'student') => ({
      spot: {
        id,
        place: { sectionId: 'verse', startTicks: 0 },
        text,
        done: false,
        kind: 'remark' as const,
        reader,
        onSheet: true,
      },
    })
    let song = run(smallSong(), 'setSpot', remark('a', 'He rushes here, watch it', 'teacher'))
    song = run(song, 'setSpot', remark('b', 'Keep the third finger down', 'student'))
    expect(words(sheet(song))).toEqual(
      expect.arrayContaining(['He rushes here, watch it', 'Keep the third finger down']),
    )
    const student = words(sheet(song, { reader: 'student' }))
    expect(student).toContain('Keep the third finger down')
    expect(student).not.toContain('He rushes here, watch it')
  })

  it.each(['A4', 'Letter'] as const)('stays on its paper, whatever is charted: %s', (paper) => {
    const long = figureOf('long', { lengthTicks: 180 * BAR, content: onOnes(180) })
    const songs = [SALT, demo('cold-kiln'), everyMarkSong(), run(smallSong(), 'addFigure', { figure: long })]
    const { width, height } = PAPERS[paper]
    for (const song of songs)
      for (const page of sheet(song, { paper })) {
        expect([page.width, page.height]).toEqual([width, height])
        const ys = page.primitives.flatMap(heights)
        expect(Math.max(...ys)).toBeLessThan(height - 7)
        expect(Math.min(...ys)).toBeGreaterThan(7)
      }
  })

  it('leaves no heading alone at the foot of a page', () => {
    for (const page of [...sheet(SALT), ...sheet(everyMarkSong())]) {
      const own = textsOf(page).filter((shape) => shape.y < page.height - 15)
      const lowest = own.reduce((last, shape) => (shape.y > last.y ? shape : last))
      expect(lowest.face).not.toBe('heading')
    }
  })
})

describe('note values under the strings', () => {
  const Q = BAR / 4
  const song = (...lengths: number[]): Song => {
    let at = 0
    const notes = lengths.flatMap((length, index) => {
      const start = at
      at += Math.abs(length) * Q
      return length < 0 ? [] : [{ ...noteAt(start, 3, 5), id: `n${index}`, lengthTicks: length * Q }]
    })
    const figure = figureOf('values', { lengthTicks: BAR, content: { ...EMPTY_CONTENT, notes } })
    return run(run(smallSong(), 'addFigure', { figure }), 'setPlacement', {
      placement: placeOf('p', { figureId: 'values' }),
    })
  }
  /** Shapes between the lowest string and the counts. */
  function row(lengths: number[]): { beams: number; stems: number; rests: number; open: number } {
    const of = song(...lengths)
    const id = Object.values(of.figures).find(({ name }) => name === 'values')!.id
    const [page] = sheet(of, { figureId: id })
    const counts = textsOf(page!).find((shape) => shape.text === '1')!
    const inRow = page!.primitives.filter((shape) => {
      const [y = 0] = heights(shape)
      return y < counts.y - 1.5 && y > counts.y - 6.4
    })
    const lines = inRow.flatMap((shape) => (shape.kind === 'line' ? [shape] : []))
    return {
      beams: lines.filter((shape) => shape.y1 === shape.y2 && shape.width > 0.3).length,
      stems: lines.filter((shape) => shape.x1 === shape.x2 && shape.width < 0.25).length,
      rests: inRow.filter((shape) => shape.kind === 'rect').length,
      open: inRow.filter((shape) => shape.kind === 'circle' && shape.stroke).length,
    }
  }

  it.each([
    ['four quarters', [1, 1, 1, 1], { beams: 0, stems: 4, rests: 0, open: 0 }],
    ['a half and two quarters', [2, 1, 1], { beams: 0, stems: 3, rests: 0, open: 1 }],
    ['eighths, beamed in pairs', [0.5, 0.5, 0.5, 0.5, 2], { beams: 2, stems: 5, rests: 0, open: 1 }],
    ['a whole', [4], { beams: 0, stems: 0, rests: 0, open: 1 }],
    ['a rest between', [1, -1, 1, 1], { beams: 0, stems: 3, rests: 1, open: 0 }],
    ['a bar that begins with a rest', [-2, 1, 1], { beams: 0, stems: 2, rests: 1, open: 0 }],
    ['sixteenths, beamed twice', [0.25, 0.25, 0.25, 0.25, 3], { beams: 6, stems: 5, rests: 0, open: 1 }],
  ])('are those that are written: %s', (_, lengths, wanted) => {
    expect(row(lengths)).toEqual(wanted)
  })
})

describe('a page as SVG', () => {
  it('is whole, with every text of the page as text', () => {
    const [page] = sheet(everyMarkSong())
    const svg = pageSvg(page!, 'Paper Boat & <others>')
    expect(svg).toMatch(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" width="210mm" height="297mm"/)
    expect(svg).toContain('<title>Paper Boat &amp; &lt;others&gt;</title>')
    expect(svg.match(/<text /g)).toHaveLength(textsOf(page!).length)
    expect(svg).not.toMatch(/NaN|undefined|<script/)
  })
})
