// Figures of a song from the command line: said back, elsewhere on the neck, in harmony, in scales.
import { readCall } from '../core/call/read-call'
import { speak } from '../core/call/speak'
import { speakSaid } from '../core/call/speak-said'
import { stringLetters } from '../core/call/strings'
import { figureContent } from '../core/document/figure-content'
import type { Figure, NeckWish, Part, Song } from '../core/document/schema'
import { chordsOver } from '../core/neck/lines/derive'
import { harmonyLine } from '../core/neck/lines/harmony-line'
import { intervalWords } from '../core/music/interval-words'
import { lineOf, pathNotes, pitched } from '../core/neck/lines/line'
import { wishesFrom } from '../core/neck/lines/neck-wish'
import { findPaths, pathWords, ratePath } from '../core/neck/lines/path'
import { readChordSymbol } from '../core/music/chord-name'
import { pitchClassOf, spellMidi } from '../core/music/pitch'
import { degreeAbove, fitScales, outsideNotes, scaleKind } from '../core/music/scale'
import { stepTicks } from '../core/time/meter'
import { Complaint, type Answer, type Flags } from './answer'
import { keyFrom, value, whole } from './flag-values'

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

/** A figure said back. */
export function speakFigure(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const options = {
    letters: stringLetters(song, part),
    strings: flags.strings === 'numbers' ? ('numbers' as const) : ('letters' as const),
    meter: figure.meter,
    subdivision: figure.feel.subdivision,
    school: figure.school,
    stepTicks: stepTicks(figure.meter, figure.feel.subdivision),
    openMidi: part.tuning.openMidi,
  }
  const content = figureContent(song, figure)
  const lines =
    flags.words === 'said'
      ? speakSaid(content, options, (call) => {
          const back = readCall(call, { ...options, part })
          return back.ok ? back.value.content : undefined
        })
      : speak(content, options)
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

/** --on-strings "1 2" --from-fret 12 --no-open: where on the neck a line is wanted. */
function wishFrom(flags: Flags, part: Part): NeckWish {
  const strings = flags['on-strings']
    ?.split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
  const count = part.tuning.openMidi.length
  if (strings?.some((string) => !Number.isInteger(string) || string < 1 || string > count))
    throw new Complaint(`--on-strings wants numbers from 1 (the highest) to ${count}, like "1 2".`)
  return {
    ...(strings?.length ? { strings } : {}),
    ...('from-fret' in flags ? { fromFret: whole(flags, 'from-fret', 0, [0, 36]) } : {}),
    ...('no-open' in flags ? { noOpen: true } : {}),
  }
}

/** The same line elsewhere on the neck. */
export function pathsOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const notes = pitched(figureContent(song, figure))
  const line = pathNotes(notes, part)
  const found = value(
    findPaths(
      line,
      part,
      song.key,
      wishesFrom(wishFrom(flags, part)),
      Math.max(3, whole(flags, 'count', 5, [0, 12])),
    ),
  )
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

/** A second line to a figure. */
export function harmonyOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const size = whole(flags, 'interval', 3, [1, 15])
  if (flags.direction !== undefined && flags.direction !== 'above' && flags.direction !== 'below')
    throw new Complaint('--direction is above or below.')
  const interval = flags.direction === 'below' ? -size : size
  const key = keyFrom(flags.key) ?? song.key
  const line = value(
    harmonyLine(
      figureContent(song, figure),
      part,
      part,
      {
        interval,
        kind: 'parallel' in flags ? 'parallel' : 'diatonic',
        key,
        exceptions: [],
        where: wishFrom(flags, part),
      },
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

/** The scales a line fits. */
export function scaleOf(song: Song, flags: Flags): Answer {
  const figure = figureOf(song, flags)
  const part = song.parts[figure.partId]!
  const notes = pitched(figureContent(song, figure))
  const line = lineOf(notes, part)
  const key = keyFrom(flags.key) ?? song.key
  const fits = fitScales(line, key, whole(flags, 'count', 8, [0, 40]))
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
