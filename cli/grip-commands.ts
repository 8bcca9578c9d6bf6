// Grips from the command line: the names of one, and those for a name.
import { difficultyWord } from '../core/neck/grips/fingering'
import { gripFacts, writeGrip } from '../core/neck/grips/grip'
import { gripsFor } from '../core/neck/grips/grip-search'
import { qualityName, type ChordName } from '../core/music/chord-name'
import { spellMidi, withOctave } from '../core/music/pitch'
import type { Answer, Flags } from './answer'
import { gripFrom, keyFrom, partFrom, value, whole } from './flag-values'

const lowToHigh = <T>(list: readonly (T | undefined)[]): (T | null)[] =>
  list.map((entry) => entry ?? null).reverse()

/** Names, degrees, reach and fingers of a grip. */
export function nameGrip(text: string, flags: Flags): Answer {
  const part = partFrom(flags)
  const grip = gripFrom(text, part)
  const song = { key: keyFrom(flags.key) ?? { tonic: 'C', mode: 'major' as const } }
  const sounding = gripFacts(song, part, grip, 'sounding')
  const shape = gripFacts(song, part, grip, 'shape')
  const nameOf = (name: ChordName, shift: number) => ({
    symbol: name.symbol,
    root: name.root,
    quality: qualityName(name.quality),
    bass: name.bass,
    inversion: name.inversion ?? null,
    degrees: lowToHigh(
      sounding.midis.map((midi) =>
        midi === undefined ? undefined : name.degrees[(((midi + shift) % 12) + 12) % 12],
      ),
    ),
    omitted: name.omitted,
    reason: name.reason,
  })
  const best = sounding.names[0]
  const shift = -part.tuning.shapeOffset - part.instrument.capo
  const pitchOf = (midi: number): string =>
    best ? withOctave(best.tones[midi % 12]!, midi) : spellMidi(midi, song.key)
  const data = {
    names: sounding.names.map((name) => nameOf(name, 0)),
    namesByShape: shape.names.map((name) => nameOf(name, shift)),
    soundingPitches: lowToHigh(
      sounding.midis.map((midi) => (midi === undefined ? undefined : pitchOf(midi))),
    ),
    family: sounding.family,
    doubled: sounding.doubled,
    reachMm: Math.round(sounding.reachMm),
    fingering: sounding.fingering ? lowToHigh(sounding.fingering.fingers) : null,
    stretches: sounding.fingering?.stretches ?? [],
    difficulty: sounding.fingering?.difficulty ?? null,
    difficultyReasons: sounding.fingering?.reasons ?? [],
    caution: sounding.caution ?? null,
  }
  const words =
    data.names.map((name, index) => `${index + 1}. ${name.symbol} (${name.reason})`).join('\n') ||
    'No chord name: a single note or an octave.'
  const facts = [sounding.family, `reach ${data.reachMm} mm`]
  if (sounding.fingering)
    facts.push(
      `fingers ${data.fingering!.map((finger) => finger ?? '-').join('')}`,
      difficultyWord(sounding.fingering.difficulty),
    )
  return {
    data,
    words: [words, facts.join(', '), sounding.caution ?? ''].filter(Boolean).join('\n'),
  }
}

/** Grips for a chord name, the best first. */
export function grips(symbol: string, flags: Flags): Answer {
  const part = partFrom(flags)
  const found = value(
    gripsFor(symbol.replaceAll('♯', '#').replaceAll('♭', 'b'), part, {
      count: whole(flags, 'count', 8, [0, 60]),
      ...(flags.after ? { after: gripFrom(flags.after, part) } : {}),
      ...(flags.before ? { before: gripFrom(flags.before, part) } : {}),
      ...('easier' in flags ? { easierFirst: true } : {}),
    }),
  )
  const data = {
    symbol,
    grips: found.map((one) => ({
      grip: writeGrip(one.grip),
      fingering: lowToHigh(one.fingering.fingers),
      difficulty: one.fingering.difficulty,
      reasons: [...one.reasons, ...one.fingering.reasons],
      cost: one.cost,
    })),
  }
  return {
    data,
    words: data.grips.map((one) => `${one.grip.padEnd(20)} ${one.reasons.join(', ')}`).join('\n'),
  }
}
