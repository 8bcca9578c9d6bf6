// A song as large as any: bars × parts, every bar of it charted. For measuring, and for tests of what must
// not get slow.
import { must } from '../../core/result'
import { readSong } from '../../core/document/migrations'
import { newPart, newSong } from '../../core/document/new-song'
import type { Content, Figure, Placement, Section, Song } from '../../core/document/schema'
import { STRAIGHT } from '../../core/time/meter'

const QUARTER = 10080
const BAR = 4 * QUARTER
const SECTION_BARS = 16
const FIGURE_BARS = 4
const SECONDS_PER_BEAT = 0.25

const eighths = (id: string, bars: number): Content => ({
  grips: [],
  strokes: [],
  mutes: [],
  notes: Array.from({ length: bars * 8 }, (_, index) => ({
    id: `${id}n${index}`,
    string: 4 + (index % 3),
    fret: 2 + (index % 7),
    startTicks: (index * QUARTER) / 2,
    lengthTicks: QUARTER / 2,
    marks: index % 8 === 4 ? [{ kind: 'palm mute' as const, pressure: 'medium' as const }] : [],
  })),
})

/**
 * `bars` in sections of sixteen, `parts` guitars with 24 figures each, all of it placed, over a steady
 * grid.
 */
export function bigSong(bars: number, parts: number): Song {
  const base = newSong({ id: 'big', title: 'Long Way Round', artist: 'The Sample Four' })
  const meter = { beats: 4, unit: 4 } as const
  const feel = { subdivision: 'eighths', swing: STRAIGHT } as const
  const sections: Record<string, Section> = {}
  const figures: Record<string, Figure> = {}
  const placements: Record<string, Placement> = {}
  const partOrder = Array.from({ length: parts }, (_, index) => `p${index}`)
  const sectionOrder = Array.from({ length: Math.ceil(bars / SECTION_BARS) }, (_, index) => `s${index}`)
  sectionOrder.forEach((id, index) => {
    const count = Math.min(SECTION_BARS, bars - index * SECTION_BARS)
    const list = Array.from({ length: count }, () => ({ meter }))
    sections[id] = {
      id,
      kind: 'verse',
      name: `Verse ${index + 1}`,
      bars: list,
      passes: 1,
      pickupTicks: 0,
      harmony: [],
    }
  })
  for (const partId of partOrder) {
    for (let index = 0; index < 24; index++) {
      const id = `${partId}f${index}`
      const content = eighths(id, FIGURE_BARS)
      figures[id] = { id, partId, name: id, lengthTicks: FIGURE_BARS * BAR, meter, feel, content }
    }
    sectionOrder.forEach((sectionId, at) => {
      for (let start = 0; start + FIGURE_BARS <= sections[sectionId]!.bars.length; start += FIGURE_BARS) {
        const id = `${partId}${sectionId}x${start}`
        const figureId = `${partId}f${(at + start) % 24}`
        const place = { id, partId, sectionId, startTicks: start * BAR, figureId, passes: 1, shiftFrets: 0 }
        placements[id] = { kind: 'figure', ...place, form: 'exact' }
      }
    })
  }
  const grid = {
    bars: Array.from({ length: bars }, (_, bar) => ({
      beatSeconds: Array.from({ length: 4 }, (_beat, beat) => (bar * 4 + beat) * SECONDS_PER_BEAT),
    })),
    endSeconds: bars * 4 * SECONDS_PER_BEAT,
  }
  const source = { id: 'record', kind: 'recording' as const, name: 'record', rank: 1, offsetSemitones: 0 }
  return must(
    readSong({
      ...base,
      sections,
      sectionOrder,
      figures,
      placements,
      parts: Object.fromEntries(
        partOrder.map((id) => [id, newPart({ id, name: `Guitar ${id}`, kind: 'guitar-6' })]),
      ),
      partOrder,
      sources: { record: { ...source, offsetCents: 0, offsetSeconds: 0, grid } },
      sourceOrder: ['record'],
    }),
  )
}
