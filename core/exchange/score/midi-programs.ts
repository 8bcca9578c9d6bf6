// Sounds of parts as programs of General MIDI, counted from 0, and back.
import type { Part } from '../../document/schema'

export const PROGRAM_OF_SOUND: Record<Part['sound'], number> = {
  steel: 25,
  clean: 27,
  driven: 29,
  distorted: 30,
  'finger bass': 33,
  'pick bass': 34,
}
/** Nylon strings, jazz guitars and the like are the nearest of ours. */
export const SOUND_OF_PROGRAM: Readonly<Record<number, Part['sound']>> = {
  24: 'steel',
  25: 'steel',
  26: 'clean',
  27: 'clean',
  28: 'clean',
  29: 'driven',
  30: 'distorted',
  31: 'distorted',
  32: 'finger bass',
  33: 'finger bass',
  34: 'pick bass',
}
