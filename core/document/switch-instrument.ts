// Another instrument for a part: nothing of the old one is left over that the new one cannot have.
import { isBass, type InstrumentKind } from '../instrument/instruments'
import { newPart } from './new-song'
import type { Part } from './schema'

/**
 * What to set on a part so that it is played on another kind of instrument. Its role and sound change only
 * when they belong to the old one: a bass role goes with a bass, an acoustic guitar stays acoustic.
 */
export function switchedInstrument(part: Part, kind: InstrumentKind): Partial<Omit<Part, 'id'>> {
  const fresh = newPart({ id: part.id, name: part.name, kind })
  const crossing = isBass(kind) !== isBass(part.instrument.kind)
  return {
    instrument: { ...fresh.instrument },
    tuning: fresh.tuning,
    ...(crossing || kind === 'guitar-12' ? { sound: fresh.sound } : {}),
    ...(crossing ? { role: fresh.role } : {}),
  }
}
