// What flags describe: grips, keys, parts, numbers.
import { newPart } from '../core/document/new-song'
import type { Grip, Part } from '../core/document/schema'
import { readGrip } from '../core/neck/grips/grip'
import { INSTRUMENTS } from '../core/instrument/instruments'
import { readTuning, tuningOf, usualInstrument } from '../core/instrument/tuning-text'
import { MODES, pitchClassOf, type Key, type Mode } from '../core/music/pitch'
import type { Result } from '../core/result'
import { Complaint, type Flags } from './answer'

const DEFAULT_TUNING = 'E2 A2 D3 G3 B3 E4'

/** What a result holds; a refusal becomes the complaint it is. */
export function value<T>(result: Result<T>): T {
  if (!result.ok) throw new Complaint(result.refusal.message)
  return result.value
}
/** A whole number from a flag, within its bounds. */
export function whole(
  flags: Flags,
  name: string,
  fallback: number,
  [least, most]: readonly [number, number],
): number {
  if (!(name in flags)) return fallback
  const number = Number(flags[name])
  if (!Number.isInteger(number) || number < least || number > most)
    throw new Complaint(`--${name} wants a whole number from ${least} to ${most}.`)
  return number
}
/** A key from its words: "D minor". */
export function keyFrom(text: string | undefined): Key | undefined {
  if (text === undefined) return undefined
  const [tonic, mode = 'major'] = text.trim().split(/\s+/)
  if (Number.isNaN(pitchClassOf(tonic ?? '')) || !MODES.includes(mode as Mode))
    throw new Complaint(
      `--key wants a tonic and a mode, like "D minor" or "A mixolydian" (${MODES.join(', ')}).`,
    )
  return { tonic: tonic!, mode: mode as Mode }
}
/** The part that a tuning, frets and a capo describe. */
export function partFrom(flags: Flags): Part {
  const openMidi = value(readTuning(flags.tuning ?? DEFAULT_TUNING))
  const kind = usualInstrument(openMidi)
  const part = newPart({ id: 'part', name: INSTRUMENTS[kind].name, kind, tuning: tuningOf(openMidi, kind) })
  const fretCount = whole(flags, 'frets', part.instrument.fretCount, [12, 36])
  const capo = whole(flags, 'capo', 0, [0, 12])
  return { ...part, instrument: { ...part.instrument, fretCount, capo } }
}
/** A grip as it is written, on the neck of a part. */
export function gripFrom(text: string, part: Part): Grip {
  const grip = readGrip(text, part.tuning.openMidi.length)
  if (!grip)
    throw new Complaint(
      `“${text}” is no grip for ${part.tuning.openMidi.length} strings: low to high, x muted, 0 open, ` +
        'frets over 9 with dashes (x-12-14-14-14-12).',
    )
  const highest = part.instrument.fretCount - part.instrument.capo
  if (grip.strings.some((string) => (string.fret ?? 0) > highest))
    throw new Complaint(`${text} reaches beyond the neck: the highest fret is ${highest}.`)
  return grip
}

function secondsFrom(flags: Flags, name: string, command: string): number {
  const value = Number(flags[name])
  if (!(name in flags) || !Number.isFinite(value) || value < 0)
    throw new Complaint(`${command} wants --${name} in seconds.`)
  return value
}
/** --from and --to, seconds of a recording. */
export function stretchFrom(flags: Flags, command: string): { from: number; to: number } {
  const [from, to] = [secondsFrom(flags, 'from', command), secondsFrom(flags, 'to', command)]
  if (to <= from) throw new Complaint(`${command} wants --to after --from.`)
  return { from, to }
}
