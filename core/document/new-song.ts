import { INSTRUMENTS, isBass, type InstrumentKind } from '../instrument/instruments'
import { tuningsFor } from '../instrument/tunings'
import { STRAIGHT } from '../time/meter'
import { SCHEMA_VERSION, type Part, type Song } from './schema'

/** An empty song: no recording, no form, no parts. */
export function newSong(facts: { id: string; title: string; artist: string }): Song {
  return {
    schemaVersion: SCHEMA_VERSION,
    ...facts,
    key: { tonic: 'C', mode: 'major' },
    keyUnknown: true,
    referenceHz: 440,
    meter: { beats: 4, unit: 4 },
    feel: { subdivision: 'eighths', swing: STRAIGHT },
    sources: {},
    sourceOrder: [],
    sections: {},
    sectionOrder: [],
    parts: {},
    partOrder: [],
    figures: {},
    patterns: {},
    placements: {},
    doubts: {},
    spots: {},
    excuses: {},
  }
}

/**
 * The tuning of a part that joins the band: as the band is tuned, else shifted as its first part is, else as
 * the instrument comes.
 */
export function tuningForNewPart(song: Song, kind: InstrumentKind): Part['tuning'] | undefined {
  const first = song.parts[song.partOrder[0] ?? '']
  const { shapeOffset, dropped } = song.bandTuning ?? {
    shapeOffset: first?.tuning.shapeOffset ?? 0,
    dropped: false,
  }
  const shifted = tuningsFor(kind).filter((tuning) => tuning.shapeOffset === shapeOffset)
  return (
    shifted.find(({ name }) => name.startsWith('Dropped') === dropped) ?? shifted[0] ?? tuningsFor(kind)[0]
  )
}

/** A part with what its instrument usually has. */
export function newPart(facts: {
  id: string
  name: string
  kind: InstrumentKind
  tuning?: Part['tuning']
}): Part {
  const instrument = INSTRUMENTS[facts.kind]
  const bass = isBass(facts.kind)
  const guitarSound = facts.kind === 'guitar-12' ? 'steel' : 'clean'
  return {
    id: facts.id,
    name: facts.name,
    role: bass ? 'bass' : 'rhythm',
    instrument: {
      kind: facts.kind,
      fretCount: instrument.frets,
      scaleLengthMm: instrument.scaleLengthMm,
      capo: 0,
    },
    tuning: facts.tuning ?? tuningsFor(facts.kind)[0]!,
    pan: 0,
    sound: bass ? 'finger bass' : guitarSound,
  }
}
