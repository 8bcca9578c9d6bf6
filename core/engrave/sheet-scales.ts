// A sheet of the scales a part moves in: each over the whole neck, then zone by zone.
import { lineOf, pitched } from '../neck/lines/line'
import { scalePlaces, scaleZones, zoneWords, type NeckPlace, type ScaleName } from '../neck/zones'
import { pitchClassOf, pretty, spellPitchClass } from '../music/pitch'
import { fitScales } from '../music/scale'
import { figureContent } from '../document/figure-content'
import { namingKey, shapeShift, stringName } from '../document/part-pitch'
import type { Part, Song } from '../document/schema'
import { degreeDots, engraveNeck } from './neck'
import { moved, scaled, text, type Primitive } from './primitives'
import { partHeading, wrap, type Block, type SheetOptions } from './sheet-blocks'

/** The neck is engraved at this width and brought to the width of the page. */
const DRAWN_WIDTH = 760
const MOST_FRETS = 15
const LEAST_NOTES = 4
const GAP = 6

interface Used {
  scale: ScaleName
  figures: string[]
}

/** The scales a part’s figures are in, those of most figures first. */
function scalesOf(song: Song, part: Part): Used[] {
  const used = new Map<string, Used>()
  for (const figure of Object.values(song.figures)) {
    if (figure.partId !== part.id || figure.variationOf) continue
    const notes = lineOf(pitched(figureContent(song, figure)), part)
    const [fit] = notes.length < LEAST_NOTES ? [] : fitScales(notes, song.key, 1)
    if (!fit) continue
    const key = `${fit.tonic} ${fit.name}`
    const known = used.get(key) ?? { scale: { tonic: fit.tonic, name: fit.name }, figures: [] }
    used.set(key, { ...known, figures: [...known.figures, figure.name] })
  }
  return [...used.values()].sort((a, b) => b.figures.length - a.figures.length)
}

function drawnNeck(
  song: Song,
  part: Part,
  options: SheetOptions,
  drawn: { places: readonly NeckPlace[]; width: number },
): { primitives: Primitive[]; height: number } {
  const neck = engraveNeck({
    strings: part.tuning.openMidi.length,
    frets: Math.min(MOST_FRETS, part.instrument.fretCount - part.instrument.capo),
    capo: part.instrument.capo,
    width: DRAWN_WIDTH,
    dots: degreeDots(drawn.places),
    mutedStrings: [],
    ...(options.leftHanded ? { leftHanded: true } : {}),
    stringNames: part.tuning.openMidi.map((_, index) => pretty(stringName(song, part, index + 1, options))),
  })
  const factor = drawn.width / DRAWN_WIDTH
  return { primitives: scaled(neck.primitives, factor), height: neck.height * factor }
}

/** A heading, then each scale; nothing for a part without lines. */
export function scaleBlocks(song: Song, part: Part, options: SheetOptions, inner: number): Block[] {
  const used = scalesOf(song, part)
  if (used.length === 0) return []
  const shift = options.naming === 'shape' ? shapeShift(part) : 0
  const key = namingKey(song, part, options.naming)
  const heading = partHeading(part.name, inner)
  const half = (inner - GAP) / 2
  const blocks = used.flatMap(({ scale, figures }): Block[] => {
    const tonic = pretty(spellPitchClass((((pitchClassOf(scale.tonic) + shift) % 12) + 12) % 12, key))
    const words = wrap(`used in ${figures.join(', ')}`, inner - 60, 2.8)
    const whole = drawnNeck(song, part, options, { places: scalePlaces(part, scale), width: inner })
    const top = Math.max(7, words.length * 3.6 + 3)
    const first: Block = {
      height: top + whole.height + 3,
      keepWithNext: true,
      primitives: [
        text(0, 4.5, `${tonic} ${scale.name}`, 4, { bold: true }),
        ...words.map((value, row) => text(60, 4.3 + row * 3.6, value, 2.8, { role: 'quiet' })),
        ...moved(whole.primitives, 0, top),
      ],
    }
    const zones = scaleZones(part, scale).map((zone) => ({
      words: zoneWords(zone),
      ...drawnNeck(song, part, options, { places: zone.places, width: half }),
    }))
    const rows = Array.from({ length: Math.ceil(zones.length / 2) }, (_, row): Block => {
      const pair = zones.slice(2 * row, 2 * row + 2)
      return {
        height: 5 + Math.max(...pair.map(({ height }) => height)) + 2,
        primitives: pair.flatMap(({ words: said, primitives }, column) => [
          text(column * (half + GAP), 3.4, said, 2.8),
          ...moved(primitives, column * (half + GAP), 4.4),
        ]),
      }
    })
    return [first, ...rows]
  })
  return [heading, ...blocks]
}
