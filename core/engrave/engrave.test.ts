import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../result'
import { readGrip } from '../neck/grips/grip'
import { readSong } from '../document/migrations'
import { sectionPlaces } from '../document/form'
import type { Analysis } from '../hear/analysis'
import { newSong } from '../document/new-song'
import { EMPTY_CONTENT, type Content, type Note, type Stroke } from '../document/schema'
import { barTicks, TICKS_PER_QUARTER as Q } from '../time/meter'
import { chordGrid } from './chord-grid'
import { layoutListenLines, listenPlace, listenPoint, outlinePolygon } from './listen-lines'
import { engraveNeck, neckPlace } from './neck'
import { moved, type Primitive } from './primitives'
import { engraveSheet } from './sheet'
import { PAPERS, type SheetOptions } from './sheet-blocks'
import { engraveTab } from './tab'
import { BENCH_METRICS, SHEET_METRICS, tickToX, xToTick } from './tab-measures'
import { deadWords } from './tab-muting'

const song = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const FOUR = { beats: 4, unit: 4 } as const
const feel = song.feel
const texts = (primitives: readonly Primitive[]) =>
  primitives.flatMap((shape) => (shape.kind === 'text' ? [shape.text] : []))
const tabOf = (
  content: Partial<Content>,
  options: { bars?: number; width?: number; metrics?: typeof BENCH_METRICS } = {},
) =>
  engraveTab({
    figure: { lengthTicks: (options.bars ?? 2) * barTicks(FOUR), meter: FOUR, feel },
    content: { ...EMPTY_CONTENT, ...content },
    stringNames: ['e', 'B', 'G', 'D', 'A', 'E'],
    gripNames: { g: 'E5' },
    width: options.width ?? 900,
    metrics: options.metrics ?? BENCH_METRICS,
  })
const note = (over: Partial<Note>): Note => ({
  id: 'n',
  string: 3,
  fret: 7,
  startTicks: 0,
  lengthTicks: Q,
  marks: [],
  ...over,
})
const stroke = (startTicks: number, over: Partial<Stroke> = {}): Stroke => ({
  id: `s${startTicks}`,
  startTicks,
  lengthTicks: Q / 2,
  direction: 'down',
  marks: [],
  ...over,
})

describe('tablature', () => {
  it('maps ticks to places and back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 2000 }),
        fc.integer({ min: 1, max: 16 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (width, bars, share) => {
          const { systems } = tabOf({}, { bars, width })
          const tick = share * bars * barTicks(FOUR)
          const system = systems.find((entry) => tick >= entry.startTicks && tick < entry.endTicks)!
          expect(xToTick(system, tickToX(system, tick))).toBeCloseTo(tick, 3)
          expect(tickToX(system, tick)).toBeLessThanOrEqual(width)
        },
      ),
    )
  })
  it('breaks a long figure into systems that do not overlap', () => {
    const { systems } = tabOf({}, { bars: 12, width: 500 })
    expect(systems.length).toBeGreaterThan(3)
    systems.slice(1).forEach((system, index) => expect(system.top).toBeGreaterThan(systems[index]!.bottom))
    expect(systems.at(-1)!.endTicks).toBe(12 * barTicks(FOUR))
  })
  it('keeps everything inside its width', () => {
    const { primitives, width } = tabOf({
      notes: [note({ startTicks: 7.5 * Q })],
      strokes: [stroke(7.5 * Q)],
    })
    for (const shape of primitives) if (shape.kind === 'text') expect(shape.x).toBeLessThan(width)
  })
  it('says the counts and draws frets on their strings', () => {
    const { primitives, systems } = tabOf({ notes: [note({})] })
    expect(texts(primitives).join(' ')).toContain('1 & 2 & 3 & 4 &')
    const fret = primitives.find((shape) => shape.kind === 'text' && shape.text === '7')!
    expect(fret.kind === 'text' && Math.abs(fret.y - systems[0]!.stringYs[2]!)).toBeLessThan(
      BENCH_METRICS.stringGap / 2,
    )
  })
  it.each([
    ['dead', '×'],
    ['ghost', '(7)'],
    ['natural harmonic', '<7>'],
  ] as const)('writes a %s note as %s', (kind, sign) => {
    expect(texts(tabOf({ notes: [note({ marks: [{ kind }] })] }).primitives)).toContain(sign)
  })
  it('arcs a slur from the note before on the same string', () => {
    const { primitives } = tabOf({
      notes: [note({}), note({ id: 'm', startTicks: Q, fret: 9, marks: [{ kind: 'hammer-on' }] })],
    })
    expect(primitives.filter((shape) => shape.kind === 'curve')).toHaveLength(1)
    expect(texts(primitives)).toContain('h')
  })
  it('draws palm mutes as bars, thicker the firmer, joined where they touch', () => {
    const bars = (strokes: Stroke[]) =>
      tabOf({
        strokes,
        grips: [{ id: 'g', startTicks: 0, lengthTicks: 8 * Q, grip: readGrip('022xxx', 6)! }],
      }).primitives.filter((shape) => shape.kind === 'rect')
    const firm = bars([
      stroke(0, { marks: [{ kind: 'palm mute', pressure: 'firm' }] }),
      stroke(Q / 2, { marks: [{ kind: 'palm mute', pressure: 'firm' }] }),
    ])
    const light = bars([stroke(0, { marks: [{ kind: 'palm mute', pressure: 'light' }] })])
    expect(firm).toHaveLength(1)
    expect(
      firm[0]!.kind === 'rect' && light[0]!.kind === 'rect' && firm[0]!.height > 2 * light[0]!.height,
    ).toBe(true)
  })
  it('counts dead strokes aloud', () => {
    expect(
      deadWords([
        stroke(0, { marks: [{ kind: 'dead' }] }),
        stroke(1, { marks: [{ kind: 'dead' }] }),
        stroke(2),
        stroke(3, { marks: [{ kind: 'dead' }] }),
      ]),
    ).toMatchObject([
      { tick: 0, words: 'two dead' },
      { tick: 3, words: 'dead' },
    ])
  })
  it('leaves empty rows out on paper, not on the bench', () => {
    const full = tabOf({ strokes: [stroke(0)] }, { metrics: SHEET_METRICS, width: 180 })
    expect(tabOf({ notes: [note({})] }, { metrics: SHEET_METRICS, width: 180 }).height).toBeLessThan(
      full.height,
    )
    expect(tabOf({}).height).toBe(tabOf({ strokes: [stroke(0)] }).height)
  })
})

describe('chord grid', () => {
  it('marks open and muted strings, and the fret where it starts', () => {
    const open = chordGrid(readGrip('x32010', 6)!, 60).primitives
    expect(open.filter((shape) => shape.kind === 'circle' && shape.stroke)).toHaveLength(2)
    expect(open.filter((shape) => shape.kind === 'circle' && shape.fill)).toHaveLength(3)
    expect(texts(chordGrid(readGrip('x-10-12-12-12-10', 6)!, 60).primitives)).toContain('10')
  })
  it('moves as a whole', () => {
    const { primitives } = chordGrid(readGrip('022100', 6)!, 60)
    const there = moved(primitives, 5, 7)
    primitives.forEach((shape, index) => {
      const other = there[index]!
      if (shape.kind === 'circle' && other.kind === 'circle')
        expect([other.x - shape.x, other.y - shape.y]).toEqual([5, 7])
    })
  })
})

describe('neck', () => {
  const neck = engraveNeck({
    strings: 6,
    frets: 15,
    capo: 0,
    width: 900,
    dots: [{ string: 5, fret: 3, label: '3', role: 'action' }],
    mutedStrings: [6],
    stringNames: ['e', 'B', 'G', 'D', 'A', 'E'],
  })
  it('finds the place under a click for every string and fret', () => {
    for (let string = 1; string <= 6; string++)
      for (let fret = 1; fret <= 15; fret++)
        expect(
          neckPlace(neck, (neck.fretXs[fret - 1]! + neck.fretXs[fret]!) / 2, neck.stringYs[string - 1]!),
        ).toEqual({ string, fret })
    expect(neckPlace(neck, 20, neck.stringYs[0]!)).toEqual({ string: 1, fret: 0 })
    expect(neckPlace(neck, 300, 500)).toBeUndefined()
  })
  it('narrows towards the body', () =>
    expect(neck.fretXs[1]! - neck.fretXs[0]!).toBeGreaterThan(neck.fretXs[13]! - neck.fretXs[12]!))
})

describe('ruled lines of bars', () => {
  const layout = layoutListenLines(song, 1140)!
  it('shows every bar once, equally wide, a section on a new line', () => {
    const bars = layout.lines.flatMap((line) => line.bars)
    expect(bars.map((bar) => bar.barIndex)).toEqual(Array.from({ length: 98 }, (_, index) => index))
    expect(new Set(bars.map((bar) => bar.width)).size).toBe(1)
    expect(layout.lines.filter((line) => line.heading)).toHaveLength(song.sectionOrder.length)
    expect(layout.lines.every((line) => line.bars.length <= layout.perLine)).toBe(true)
  })
  it('finds the time under a point, and the point of a time', () => {
    for (const seconds of [20, 63.4, 110, 190.2]) {
      const point = listenPoint(layout, seconds)!
      const back = listenPlace(layout, point.x, point.top + 10)!
      expect(back.seconds).toBeCloseTo(seconds, 6)
    }
    expect(listenPlace(layout, 10, 10)).toBeUndefined()
    expect(listenPoint(layout, 9999)).toBeUndefined()
  })
  it('says how a return differs once it was heard, and how sure each chord is', () => {
    const heard = structuredClone(song)
    const target = heard.sections[heard.sectionOrder.find((id) => heard.sections[id]!.returns)!]!
    const plain = layoutListenLines(heard, 1140)!
    expect(
      plain.lines
        .map((line) => line.heading?.returns ?? '')
        .filter(Boolean)
        .every((words) => words.startsWith('as ')),
    ).toBe(true)
    heard.sections[target.id]!.harmony = [0.9, 0.6, 0.2].map((confidence, index) => ({
      startTicks: index * barTicks(FOUR),
      lengthTicks: barTicks(FOUR),
      symbol: 'Em',
      confidence,
    }))
    const chords = layoutListenLines(heard, 1140)!
      .lines.filter((line) => line.sectionId === target.id)
      .flatMap((line) => line.bars.flatMap((bar) => bar.chords))
    expect(chords.slice(0, 3).map((chord) => chord.sure)).toEqual(['set', 'likely', 'unsure'])
    const grid = heard.sources[heard.sourceOrder[0]!]!.grid!
    const bars = grid.bars.length
    const likeness = Array.from({ length: bars }, (_, a) =>
      Array.from({ length: bars }, (_other, b): number => (a === b ? 99 : 90)),
    )
    const starts = new Map(sectionPlaces(heard).map((place) => [place.section.id, place.firstBar]))
    const [own, first] = [starts.get(target.id)!, starts.get(target.returns!.sectionId)!]
    heard.sections[target.id]!.returns = { ...target.returns!, shiftSemitones: 0 }
    likeness[own + 1]![first + 1] = 30
    const analysis = {
      durationSeconds: 200,
      beats: [],
      downbeats: grid.bars.map((bar) => bar.beatSeconds[0]!),
      likeness,
      chroma: Array.from({ length: bars }, () => new Array<number>(12).fill(1)),
    } as unknown as Analysis
    const words = layoutListenLines(heard, 1140, { analysis })!.lines.find(
      (line) => line.sectionId === target.id && line.heading,
    )!.heading!.returns!
    expect(words).toMatch(/^≈ .*, \d+ %, bar 2 differs$/)
  })
  it('needs a grid, and shows four bars a line where there is little room', () => {
    expect(layoutListenLines(newSong({ id: 'x', title: 'X', artist: '' }), 1000)).toBeUndefined()
    expect(layoutListenLines(song, 600)!.perLine).toBe(4)
  })
  it('draws the outline standing on its base', () => {
    const points = outlinePolygon(
      { ratePerSecond: 100, peaks: new Uint8Array(400).fill(255), lows: new Uint8Array(400) },
      'peaks',
      { fromSeconds: 1, toSeconds: 2, x: 50, width: 40, baseY: 100, height: 30 },
    )
    expect(points.slice(0, 2)).toEqual([50, 100])
    expect(points.slice(-2)).toEqual([90, 100])
    expect(points[3]).toBe(70)
  })
})

describe('sheet', () => {
  const options: SheetOptions = {
    paper: 'A4',
    partIds: ['g1', 'b'],
    naming: 'shape',
    strings: 'letters',
    form: 'exact',
  }
  it.each(['A4', 'Letter'] as const)('keeps everything inside %s pages', (paper) => {
    const pages = engraveSheet(song, { ...options, paper })
    expect(pages.length).toBeGreaterThan(1)
    for (const page of pages) {
      expect([page.width, page.height]).toEqual([PAPERS[paper].width, PAPERS[paper].height])
      for (const shape of page.primitives)
        if (shape.kind === 'text') {
          expect(shape.y).toBeLessThan(page.height)
          expect(shape.x).toBeGreaterThan(0)
        }
    }
  })
  it('shows the form, each figure once, tunings and where figures are played', () => {
    const words = engraveSheet(song, options).flatMap((page) => texts(page.primitives))
    for (const section of song.sectionOrder) expect(words).toContain(song.sections[section]!.name)
    expect(words.filter((word) => word === 'Verse chug')).toHaveLength(1)
    expect(words.some((word) => word.includes('in Verse 1, Verse 2'))).toBe(true)
    expect(words.some((word) => word.includes('E♭ A♭ D♭ G♭ B♭ E♭'))).toBe(true)
    expect(words.some((word) => word.includes('copyright'))).toBe(true)
    expect(words).toContain('E minor by shape, E♭ minor as sounding')
  })
  it('names grips as sounding when asked, and takes the eased form', () => {
    const sounding = engraveSheet(song, { ...options, naming: 'sounding' }).flatMap((page) =>
      texts(page.primitives),
    )
    expect(sounding).toContain('E♭5')
    expect(sounding).not.toContain('E5')
    const dead = (form: 'exact' | 'eased') =>
      engraveSheet(song, { ...options, partIds: ['g1'], form })
        .flatMap((page) => texts(page.primitives))
        .filter((word) => word === 'two dead').length
    expect(dead('eased')).toBeLessThan(dead('exact'))
  })
  it(
    'says what is out of the ordinary: capo, swing, a section of its own meter, ' +
      'passes that differ, what is left open',
    () => {
      const other = structuredClone(song)
      other.feel = { subdivision: 'eighths', swing: { ratio: 0.62, level: 'eighths' } }
      other.parts.g1!.instrument = { ...other.parts.g1!.instrument, capo: 2 }
      const fill = structuredClone(other.figures['verse-chug']!)
      other.figures.fill = { ...fill, id: 'fill', name: 'Only the fourth time', feel: other.feel }
      const [place] = Object.values(other.placements).filter(
        (placement) =>
          placement.kind === 'figure' && placement.figureId === 'verse-chug' && placement.passes > 1,
      )
      if (place?.kind !== 'figure') throw new Error('the verse is played more than once')
      place.passFigures = [{ pass: 2, figureId: 'fill' }]
      place.shiftFrets = 2
      other.placements = Object.fromEntries(
        Object.entries(other.placements).filter(
          ([, placement]) => placement.partId !== 'b' || placement.sectionId !== place.sectionId,
        ),
      )
      const words = engraveSheet(other, options).flatMap((page) => texts(page.primitives))
      const all = words.join(' ')
      expect(all).toContain('capo 2')
      expect(words.some((word) => word.includes('swung'))).toBe(true)
      expect(all).toContain('+2 frets')
      expect(all).toMatch(/\(2: Only the fourth time\)/)
      expect(words.some((word) => word.includes('3/4'))).toBe(true)
      expect(words).toContain('not charted')
      // A figure that is played only in a pass of another has its place all the same.
      const at = words.indexOf('Only the fourth time')
      expect(words.slice(at, at + 4).join(' ')).toContain(`in ${other.sections[place.sectionId]!.name}`)
    },
  )
  it('keeps the words of a figure that is placed nowhere, its note under its name', () => {
    const other = structuredClone(song)
    other.figures.spare = {
      ...structuredClone(other.figures['verse-chug']!),
      id: 'spare',
      name: 'Spare',
      note: 'Try it with the fingers before the pick, slowly, and listen for the open string that rings on.',
    }
    const words = engraveSheet(other, { ...options, partIds: ['g1'] }).flatMap((page) =>
      texts(page.primitives),
    )
    expect(words.slice(words.indexOf('Spare'), words.indexOf('Spare') + 4).join(' ')).toContain(
      'not placed yet',
    )
    expect(words.join(' ')).toContain('listen for the open string that rings on.')
  })
  it('makes a page even of a song with nothing in it', () =>
    expect(
      engraveSheet(newSong({ id: 'x', title: 'X', artist: '' }), { ...options, partIds: [] }),
    ).toHaveLength(1))
})
