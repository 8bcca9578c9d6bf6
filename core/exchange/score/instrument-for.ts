// The instrument and tuning a file means: by its open strings where it gives them, else by its name.
import { INSTRUMENT_KINDS, INSTRUMENTS, isBass, type InstrumentKind } from '../../instrument/instruments'
import { tuningsFor } from '../../instrument/tunings'
import { newPart } from '../../document/new-song'
import type { Part } from '../../document/schema'
import { SOUND_OF_PROGRAM } from './midi-programs'

export interface SaidInstrument {
  /** Sounding open strings, string 1 first; empty where the file does not say. */
  openMidi: readonly number[]
  name: string
  /** General MIDI program from 0. */
  program?: number | undefined
  capo?: number | undefined
  /** The lowest pitch it plays: where no strings are given, they must reach it. */
  lowestMidi?: number | undefined
}

const LOWEST_OPEN = 12
const HIGHEST_OPEN = 90
const MOST_CAPO = 12
/** Basses among the programs of General MIDI. */
const BASS_PROGRAMS = { first: 32, last: 39 }

const soundsLikeBass = ({ name, program }: SaidInstrument): boolean =>
  /bass/i.test(name) ||
  (program !== undefined && program >= BASS_PROGRAMS.first && program <= BASS_PROGRAMS.last)

/** The distance of a tuning from an instrument's usual one, semitones over all strings. */
const distance = (kind: InstrumentKind, openMidi: readonly number[]): number =>
  INSTRUMENTS[kind].standardMidi.reduce((sum, midi, index) => sum + Math.abs(midi - openMidi[index]!), 0)

function kindFor(said: SaidInstrument): InstrumentKind {
  const named = INSTRUMENT_KINDS.find((kind) => INSTRUMENTS[kind].name === said.name)
  const { openMidi } = said
  if (!openMidi.length) return named ?? (soundsLikeBass(said) ? 'bass-4' : 'guitar-6')
  if (named && INSTRUMENTS[named].standardMidi.length === openMidi.length) return named
  const fitting = INSTRUMENT_KINDS.filter((kind) => INSTRUMENTS[kind].standardMidi.length === openMidi.length)
  return fitting.sort((a, b) => distance(a, openMidi) - distance(b, openMidi))[0] ?? 'guitar-6'
}

/** Tried in this order where a file gives no strings: the first that reaches its lowest pitch is taken. */
const TRIED = {
  guitar: ['guitar-6', 'baritone-6', 'guitar-7'],
  bass: ['bass-4', 'bass-5'],
} as const satisfies Record<string, readonly InstrumentKind[]>

/** Another instrument is as far off as so many semitones of tuning down. */
const OTHER_INSTRUMENT = 2.5

/** The instrument and tuning nearest to the usual that reach the lowest pitch; the usual where none does. */
function reaching(
  usual: InstrumentKind,
  lowestMidi: number,
): { kind: InstrumentKind; tuning: Part['tuning'] } {
  const kinds: readonly InstrumentKind[] = isBass(usual) ? TRIED.bass : TRIED.guitar
  const tried = [usual, ...kinds.filter((kind) => kind !== usual)]
  const all = tried.flatMap((kind, rank) =>
    tuningsFor(kind).map((tuning) => {
      const down = INSTRUMENTS[kind].standardMidi.at(-1)! - tuning.openMidi.at(-1)!
      return { kind, tuning, far: rank * OTHER_INSTRUMENT + Math.abs(down) }
    }),
  )
  const reach = all.filter(({ tuning }) => tuning.openMidi.at(-1)! <= lowestMidi)
  return reach.sort((a, b) => a.far - b.far)[0] ?? all[0]!
}

/** A part without notes. A tuning that no instrument has strings for is left at the usual one. */
export function partFor(said: SaidInstrument, facts: { id: string; name: string }): Part {
  const { openMidi, lowestMidi } = said
  const usual = kindFor(said)
  const needed = !openMidi.length && lowestMidi !== undefined ? reaching(usual, lowestMidi) : undefined
  const kind = needed?.kind ?? usual
  const sound = openMidi.every((midi) => midi >= LOWEST_OPEN && midi <= HIGHEST_OPEN)
  const strung = openMidi.length > 0 && sound && openMidi.length === INSTRUMENTS[kind].standardMidi.length
  const part = newPart({
    ...facts,
    kind,
    ...(strung ? { tuning: tuningOf(kind, openMidi) } : {}),
    ...(needed ? { tuning: needed.tuning } : {}),
  })
  const heard = SOUND_OF_PROGRAM[said.program ?? -1]
  const fits = heard && isBass(kind) === heard.endsWith('bass')
  const capo = Math.max(0, Math.min(MOST_CAPO, Math.round(said.capo ?? 0)))
  return { ...part, ...(fits ? { sound: heard } : {}), instrument: { ...part.instrument, capo } }
}

/** A tuning that has a name is called by it. */
function tuningOf(kind: InstrumentKind, openMidi: readonly number[]): Part['tuning'] {
  const known = tuningsFor(kind).find((tuning) => tuning.openMidi.join() === openMidi.join())
  return known ?? { name: 'Own tuning', openMidi: [...openMidi], shapeOffset: 0 }
}
