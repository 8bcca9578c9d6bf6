// Neck geometry: where frets lie and what sounds there.

/** Distance in mm from nut to fret on an equal-tempered neck. Fret 0 is the nut. */
export const fretDistanceMm = (fret: number, scaleLengthMm: number): number =>
  scaleLengthMm * (1 - 2 ** (-fret / 12))

/** Where a finger presses: just behind the fret, at four fifths of the space (0 for open). */
export function fingerPlaceMm(fret: number, scaleLengthMm: number): number {
  if (fret <= 0) return 0
  const behind = fretDistanceMm(fret - 1, scaleLengthMm)
  return behind + 0.8 * (fretDistanceMm(fret, scaleLengthMm) - behind)
}

/** Distance in mm between two fretted places along the neck. */
export const fretSpanMm = (a: number, b: number, scaleLengthMm: number): number =>
  Math.abs(fingerPlaceMm(a, scaleLengthMm) - fingerPlaceMm(b, scaleLengthMm))

/** Sounding MIDI number of a fret. Frets are counted from the capo when there is one. */
export const fretToMidi = (openMidi: number, fret: number, capo = 0): number => openMidi + capo + fret
