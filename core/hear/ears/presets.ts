// The ears a teacher reaches for, and those for a part whose place in the recording is known.
import type { Ears } from './ears'

export const PLACES = ['left', 'centre', 'right', 'sides'] as const
export const REGISTERS = ['low', 'high'] as const
export const DRUMS = ['without', 'only'] as const
/** What is chosen with a few buttons; nothing chosen is the recording as it is. */
export interface EarsChoice {
  place?: (typeof PLACES)[number] | undefined
  register?: (typeof REGISTERS)[number] | undefined
  drums?: (typeof DRUMS)[number] | undefined
}

/** Below this lies the bass, above it nearly everything a guitar plays, Hz. */
const LOW_TO_HZ = 220
const HIGH_FROM_HZ = 300
const SIDE_PAN = 0.8
const SIDE_WIDTH = 0.9
const MIDDLE_WIDTH = 0.3

export function earsOf({ place, register, drums }: EarsChoice): Ears {
  const at = { left: -SIDE_PAN, right: SIDE_PAN, centre: 0, sides: undefined }
  const pan = place && at[place]
  return {
    ...(pan === undefined ? {} : { place: { pan, width: pan === 0 ? MIDDLE_WIDTH : SIDE_WIDTH } }),
    ...(place === 'sides' ? { sides: true } : {}),
    ...(register === 'low' ? { register: { lowHz: 0, highHz: LOW_TO_HZ } } : {}),
    ...(register === 'high' ? { register: { lowHz: HIGH_FROM_HZ, highHz: Number.POSITIVE_INFINITY } } : {}),
    ...(drums ? { drums } : {}),
  }
}

const PART_WIDTH = 0.2
const BASS_WIDTH = 0.5
/** A guitar's lowest string sounds above this; what is lower is not the part, Hz. */
const GUITAR_FROM_HZ = 90

/** Ears for one part: its place, its register, no drums. */
export const earsForPart = (part: { pan: number; bass: boolean }): Ears => ({
  place: { pan: part.pan, width: part.bass ? BASS_WIDTH : PART_WIDTH },
  register: part.bass
    ? { lowHz: 30, highHz: LOW_TO_HZ }
    : { lowHz: GUITAR_FROM_HZ, highHz: Number.POSITIVE_INFINITY },
  drums: 'without',
})

/** The ears in words: "left, low, without drums". */
export function earsWords({ place, register, drums }: EarsChoice): string {
  const words = [place, register, drums && (drums === 'only' ? 'drums only' : 'without drums')]
  return words.filter(Boolean).join(', ')
}
