// Charted notes for which the recording has another pitch in their place, a finding for each bar of a figure.
import { storeContent } from '../../document/figure-layers'
import { figureContent } from '../../document/figure-content'
import { writtenAt } from '../../score/origin'
import { group } from 'd3-array'
import { changeNote } from '../../document/figure-edit'
import { soundingMidi } from '../../document/part-pitch'
import type { Song } from '../../document/schema'
import { scoreAt, type PitchScores } from '../../hear/evidence/pitch-scores'
import { pretty, spellMidi, transposeKey } from '../../music/pitch'
import { barTicks } from '../../time/meter'
import { figureWords, finding, fix, type Finding, type Fix } from '../finding'
import type { ChartedNote } from './charted-notes'

/** Pitches around a note alone that may be meant instead: a fret or two away, or the next string. */
const ALONE = [1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7]
/** Of a chord the other tones stand there anyway: only its neighbours are asked about. */
const TOGETHER = [1, -1]
/** So much stronger than the charted pitch another is what is played. */
const CLEARLY_ALONE = 0.1
const CLEARLY_TOGETHER = 0.14
/** … and more where there is one pass alone to hear it in. */
const ONCE = 0.05
/** Semitones from a note to its own overtones: what stands there may be it. */
const OVERTONES = new Set([0, 12, 19, 24, 28, 31, 34, 36])
const MOST_NAMED = 4

interface Heard {
  note: ChartedNote
  /** What is heard instead, semitones from what is charted. */
  steps: number
  passes: number
}

/** What is heard in the place of a note; nothing where it is heard itself, or nothing can be told. */
function heardInstead(note: ChartedNote, scores: readonly PitchScores[]): Heard | undefined {
  if (scores.length === 0) return undefined
  const score = (steps: number): number =>
    scores.reduce((sum, one) => sum + scoreAt(one, steps), 0) / scores.length
  const isFree = (steps: number): boolean =>
    note.others.every((other) => !OVERTONES.has(note.midi + steps - other))
  const free = (note.together ? TOGETHER : ALONE).filter(isFree)
  const [first] = free
  if (first === undefined) return undefined
  const steps = free.reduce((best, one) => (score(one) > score(best) ? one : best), first)
  const clearly = (note.together ? CLEARLY_TOGETHER : CLEARLY_ALONE) + (scores.length === 1 ? ONCE : 0)
  return score(steps) - score(0) >= clearly ? { note, steps, passes: scores.length } : undefined
}

/** `scores` are those of every pass of every note, in their order. */
export function heardOtherwise(
  song: Song,
  notes: readonly ChartedNote[],
  scores: readonly (PitchScores | undefined)[],
  nameShift: number,
): Finding[] {
  let at = 0
  const heard = notes.flatMap((note): Heard[] => {
    const own = scores.slice(at, at + note.asked.length)
    at += note.asked.length
    const found = heardInstead(
      note,
      own.filter((one) => one !== undefined),
    )
    return found ? [found] : []
  })
  const bars = group(heard, ({ note }) => {
    const { figure, figureTicks } = note.first
    return `${figure.id}/${Math.floor(figureTicks / barTicks(figure.meter))}`
  })
  return [...bars.values()].map((list) => barFinding(song, list, nameShift))
}

function barFinding(song: Song, heard: readonly Heard[], nameShift: number): Finding {
  const { figure, part, figureTicks, play } = heard[0]!.note.first
  const key = transposeKey(song.sections[play.placement.sectionId]?.key ?? song.key, nameShift)
  const name = (midi: number): string => pretty(spellMidi(midi + nameShift, key))
  const told = heard
    .slice(0, MOST_NAMED)
    .map(
      ({ note, steps }) =>
        `${name(note.midi)} is charted (${figureWords(figure, note.first.figureTicks)}), ` +
        `${name(note.midi + steps)} is heard`,
    )
  const more = heard.length > MOST_NAMED ? `; and ${heard.length - MOST_NAMED} more` : ''
  const passes = Math.max(...heard.map((one) => one.passes))
  const where = passes > 1 ? `, in ${passes} passes together` : ''
  return finding(
    ['not as heard', 'look'],
    `“${figure.name}” (${part.name}): ${told.join('; ')}${more}${where}. Listen again.`,
    { partId: part.id, figureId: figure.id, startTicks: figureTicks },
    {
      facts: heard.map(({ note, steps }) => `${note.first.figureTicks}:${note.first.string}:${steps}`),
      fix: heard.length === 1 ? fretFix(song, heard[0]!) : undefined,
    },
  )
}

/** From so many semitones on the hand was on another string rather than at another fret. */
const OTHER_STRING = 3

/**
 * What would write what is heard: another fret of the string or, where it lies further off, the same fret of
 * the string beside it; in a figure that varies another, its own from then on. Nothing for a chord’s note.
 */
function fretFix(song: Song, { note, steps }: Heard): Fix | undefined {
  const { figure, part, figureTicks, string, played, play } = note.first
  const form = play.placement.kind === 'figure' ? play.placement.form : 'exact'
  const written = writtenAt(song, { ...played.origin, figureId: figure.id, figureTicks, form })?.note
  if (!written || form === 'eased') return undefined
  const change = (words: string, set: { string?: number; fret?: number }): Fix =>
    fix(words, 'changeFigure', {
      figureId: figure.id,
      what: 'a note as heard',
      set: storeContent(song, figure, changeNote(figureContent(song, figure), written.id, set)),
    })
  const pitch = soundingMidi(part, string, written.fret) + steps
  const beside = [string - 1, string + 1].find(
    (one) =>
      one >= 1 && one <= part.tuning.openMidi.length && soundingMidi(part, one, written.fret) === pitch,
  )
  if (Math.abs(steps) >= OTHER_STRING && beside !== undefined)
    return change(`String ${beside} instead of ${string}`, { string: beside })
  const fret = written.fret + steps
  if (fret < 0 || fret > part.instrument.fretCount) return undefined
  return change(`Fret ${fret} instead of ${written.fret}`, { fret })
}
