// Grips, calls, paths, harmony and scales from the command line: the same core as the bench, printed as
// JSON or in words.
import { parseCall, type CallContext } from '../core/call/parse'
import { speak } from '../core/call/speak'
import { stringLetters } from '../core/call/strings'
import { readTuning, tuningOf, usualInstrument } from '../core/instrument/tuning-text'
import { INSTRUMENTS } from '../core/instrument/instruments'
import { qualityName, type ChordName } from '../core/music/chord-name'
import { MODES, pitchClassOf, spellMidi, withOctave, type Key, type Mode } from '../core/music/pitch'
import { degreeAbove, fitScales, outsideNotes, scaleKind } from '../core/music/scale'
import { readChordSymbol } from '../core/music/chord-name'
import { chordsOver } from '../core/fretboard/lines/derive'
import { difficultyWord } from '../core/fretboard/grips/fingering'
import { gripFacts, readGrip, writeGrip } from '../core/fretboard/grips/grip'
import { gripsFor } from '../core/fretboard/grips/grip-search'
import { harmonyLine, intervalWords } from '../core/fretboard/lines/harmony-line'
import { lineOf, pathNotes, pitched } from '../core/fretboard/lines/line'
import { findPaths, pathWords, ratePath } from '../core/fretboard/lines/path'
import type { Result } from '../core/result'
import { newPart } from '../core/document/new-song'
import { figureContent } from '../core/document/figure-content'
import { stepTicks } from '../core/time/meter'
import type { Figure, Grip, Part, Song } from '../core/document/schema'

/** A wrong request, told in a sentence. */
export class Complaint extends Error {}
export type Flags = Record<string, string>

const DEFAULT_TUNING = 'E2 A2 D3 G3 B3 E4'
/** Shown to scripts whole, to people in words. */
export interface Answer {
  data: unknown
  words: string
  failed?: boolean
}

function value<T>(result: Result<T>): T {
  if (!result.ok) throw new Complaint(result.refusal.message)
  return result.value
}
function whole(flags: Flags, name: string, fallback: number, most: number, least = 0): number {
  if (!(name in flags)) return fallback
  const number = Number(flags[name])
  if (!Number.isInteger(number) || number < least || number > most)
    throw new Complaint(`--${name} wants a whole number from ${least} to ${most}.`)
  return number
}
function keyFrom(text: string | undefined): Key | undefined {
  if (text === undefined) return undefined
  const [tonic, mode = 'major'] = text.trim().split(/\s+/)
  if (Number.isNaN(pitchClassOf(tonic ?? '')) || !MODES.includes(mode as Mode))
    throw new Complaint(
      `--key wants a tonic and a mode, like "D minor" or "A mixolydian" (${MODES.join(', ')}).`,
    )
  return { tonic: tonic!, mode: mode as Mode }
}
function partFrom(flags: Flags): Part {
  const openMidi = value(readTuning(flags.tuning ?? DEFAULT_TUNING))
  const kind = usualInstrument(openMidi)
  const part = newPart({ id: 'part', name: INSTRUMENTS[kind].name, kind, tuning: tuningOf(openMidi, kind) })
  const fretCount = whole(flags, 'frets', part.instrument.fretCount, 36, 12)
  const capo = whole(flags, 'capo', 0, 12)
  return { ...part, instrument: { ...part.instrument, fretCount, capo } }
}
function gripFrom(text: string, part: Part): Grip {
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
const lowToHigh = <T>(list: readonly (T | undefined)[]): (T | null)[] =>
  list.map((entry) => entry ?? null).reverse()

function nameGrip(text: string, flags: Flags): Answer {
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

function grips(symbol: string, flags: Flags): Answer {
  const part = partFrom(flags)
  const found = value(
    gripsFor(symbol.replaceAll('♯', '#').replaceAll('♭', 'b'), part, {
      count: whole(flags, 'count', 8, 60),
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

const STEP = /^1\/(\d{1,3})$/
function call(text: string, flags: Flags): Answer {
  const part = partFrom(flags)
  const step = STEP.exec(flags.step ?? '1/8')
  const ticks = step ? 40_320 / Number(step[1]) : Number.NaN
  if (!Number.isInteger(ticks))
    throw new Complaint('--step wants a share of a whole note: 1/8, 1/12 (triplets), 1/16.')
  const key = keyFrom(flags.key) ?? { tonic: 'C', mode: 'major' as const }
  const context: CallContext = {
    part,
    letters: stringLetters({ key }, part),
    meter: { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: ticks,
    gripFor: (symbol, after) => {
      const found = gripsFor(symbol, part, { count: 1, ...(after ? { after } : {}) })
      return found.ok ? found.value[0]?.grip : undefined
    },
  }
  const result = parseCall(text, context)
  if (!result.ok) {
    const { at, message, suggestions } = result.error
    const perhaps = suggestions.length ? ` Perhaps: ${suggestions.join(' · ')}` : ''
    return {
      data: { error: { at, message, suggestions } },
      words: `${text}\n${' '.repeat(at)}^ ${message}${perhaps}`,
      failed: true,
    }
  }
  const { content, endTicks } = result.value
  const notes = content.notes.map(({ id: _id, ...note }) => note)
  const data = {
    notes,
    strokes: content.strokes.map(({ id: _id, ...stroke }) => stroke),
    grips: content.grips.map((span) => ({
      startTicks: span.startTicks,
      lengthTicks: span.lengthTicks,
      grip: writeGrip(span.grip),
    })),
    mutes: content.mutes.map(({ id: _id, ...mute }) => mute),
    lengthTicks: endTicks,
  }
  return {
    data,
    words: notes
      .map((note) =>
        [
          note.startTicks,
          `string ${note.string}`,
          `fret ${note.fret}`,
          note.lengthTicks,
          note.articulations.map((mark) => mark.kind).join(', '),
        ].join('\t'),
      )
      .join('\n'),
  }
}

function figureOf(song: Song, flags: Flags): Figure {
  const wanted = flags.figure?.toLowerCase()
  const of = (figure: Figure): string => song.parts[figure.partId]?.name ?? ''
  const parts = Object.values(song.parts)
  if (
    flags.part !== undefined &&
    !parts.some((part) => part.name.toLowerCase() === flags.part!.toLowerCase())
  )
    throw new Complaint(
      `There is no part “${flags.part}”. This song has: ${parts.map((part) => part.name).join(', ')}.`,
    )
  const all = Object.values(song.figures).filter(
    (figure) => flags.part === undefined || of(figure).toLowerCase() === flags.part.toLowerCase(),
  )
  const found =
    all.find((figure) => figure.id.toLowerCase() === wanted) ??
    all.find((figure) => figure.name.toLowerCase() === wanted)
  if (!found)
    throw new Complaint(
      [
        wanted === undefined ? 'Say which figure: --figure NAME.' : `There is no figure “${flags.figure}”.`,
        `This song has: ${all.map((figure) => `“${figure.name}” (${of(figure)})`).join(', ') || 'none'}.`,
      ].join(' '),
    )
  return found
}

function speakFigure(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const lines = speak(figureContent(song, figure), {
    letters: stringLetters(song, part),
    strings: flags.strings === 'numbers' ? 'numbers' : 'letters',
    meter: figure.meter,
    subdivision: figure.feel.subdivision,
    school: figure.school,
    stepTicks: stepTicks(figure.meter, figure.feel.subdivision),
    openMidi: part.tuning.openMidi,
  })
  return {
    data: {
      figure: figure.name,
      stepTicks: stepTicks(figure.meter, figure.feel.subdivision),
      call: lines.map((line) => line.text).join('\n'),
      lines,
    },
    words: lines.map((line) => line.text).join('\n'),
  }
}

function pathsOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const notes = pitched(figureContent(song, figure))
  const line = pathNotes(notes, part)
  const found = value(findPaths(line, part, song.key, {}, Math.max(3, whole(flags, 'count', 5, 12))))
  const own = ratePath(line, notes, part)
  const show = (path: (typeof found)[number]) => ({
    cost: path.cost,
    words: pathWords(path),
    shifts: path.shifts,
    stringSkips: path.skips,
    openStrings: path.open,
    widestMm: path.widestMm,
    notes: path.places.map((place, index) => ({
      string: place.string,
      fret: place.fret,
      finger: place.finger ?? null,
      startTicks: notes[index]!.startTicks,
    })),
  })
  const data = { figure: figure.name, asCharted: own ? show(own) : null, paths: found.map(show) }
  return {
    data,
    words: [
      own ? `as charted: ${pathWords(own)} (${own.cost})` : '',
      ...found.map(
        (path) =>
          `${pathWords(path)} (${path.cost}): ` +
          path.places.map((place) => `${place.string}/${place.fret}`).join(' '),
      ),
    ]
      .filter(Boolean)
      .join('\n'),
  }
}

function harmonyOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const size = whole(flags, 'interval', 3, 15, 1)
  if (flags.direction !== undefined && flags.direction !== 'above' && flags.direction !== 'below')
    throw new Complaint('--direction is above or below.')
  const interval = flags.direction === 'below' ? -size : size
  const key = keyFrom(flags.key) ?? song.key
  const line = value(
    harmonyLine(
      figureContent(song, figure),
      part,
      part,
      { interval, kind: 'parallel' in flags ? 'parallel' : 'diatonic', key, exceptions: [] },
      chordsOver(song, figure),
    ),
  )
  const lead = pitched(figureContent(song, figure))
  const data = {
    figure: figure.name,
    key,
    interval,
    notes: line.notes.map(({ id: _id, ...note }, index) => ({
      ...note,
      pitch: spellMidi(part.tuning.openMidi[note.string - 1]! + part.instrument.capo + note.fret, key),
      leadPitch: spellMidi(
        part.tuning.openMidi[lead[index]!.string - 1]! + part.instrument.capo + lead[index]!.fret,
        key,
      ),
      semitones: line.intervals[index]!,
      interval: intervalWords(line.intervals[index]!),
    })),
    clashes: line.clashes,
    remarks: line.remarks,
  }
  return {
    data,
    words: [
      ...data.notes.map((note) =>
        [
          note.startTicks,
          note.leadPitch,
          note.pitch,
          note.interval,
          `string ${note.string} fret ${note.fret}`,
        ].join('\t'),
      ),
      ...line.clashes.map((clash) => clash.text),
      ...line.remarks.map((remark) => remark.text),
    ].join('\n'),
  }
}

function scaleOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const notes = pitched(figureContent(song, figure))
  const line = lineOf(notes, part)
  const key = keyFrom(flags.key) ?? song.key
  const fits = fitScales(line, key, whole(flags, 'count', 8, 40))
  const best = fits[0]
  if (!best) throw new Complaint(`“${figure.name}” has no notes to find a scale for.`)
  const chords = chordsOver(song, figure)
  const data = {
    figure: figure.name,
    fits: fits.map((fit) => ({
      tonic: fit.tonic,
      scale: fit.name,
      share: fit.share,
      outside: fit.outside,
      score: fit.score,
      reason: fit.reason,
    })),
    notes: line.map((note) => {
      const chord = chords.find(
        (one) => one.startTicks <= note.startTicks && note.startTicks < one.startTicks + one.lengthTicks,
      )
      const root = chord && readChordSymbol(chord.symbol)?.root
      return {
        startTicks: note.startTicks,
        pitch: spellMidi(note.midi, key),
        degree: degreeAbove(note.midi, pitchClassOf(best.tonic), scaleKind(best.name)),
        chord: chord?.symbol ?? null,
        chordDegree: root === undefined ? null : degreeAbove(note.midi, root),
      }
    }),
    outside: outsideNotes(line, best, key).map((note) => ({
      startTicks: line[note.index]!.startTicks,
      name: note.name,
      resolves: note.resolves,
    })),
  }
  return {
    data,
    words: [
      ...data.fits.map((fit, index) => `${index + 1}. ${fit.tonic} ${fit.scale}: ${fit.reason}`),
      ...data.outside.map((note) => `${note.name} is outside: ${note.resolves}`),
    ].join('\n'),
  }
}

/** Commands that take a word or a phrase, and those that take a song. */
export const TEXT_COMMANDS: Record<string, (text: string, flags: Flags) => Answer> = {
  'name-grip': nameGrip,
  grips,
  call,
}
export const SONG_COMMANDS: Record<string, (song: Song, flags: Flags) => Answer> = {
  speak: speakFigure,
  paths: pathsOf,
  harmony: harmonyOf,
  scale: scaleOf,
}
