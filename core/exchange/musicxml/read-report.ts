// What is said of a MusicXML file that was read: what was passed over, what it leaves open.
import { pretty, spellMidi } from '../../music/pitch'
import type { ImportAnswers, ImportQuestion } from '../import-questions'
import { dropped, type Dropped, type WrittenBar } from '../score/written-score'
import type { ReadMeasure } from './read-measure'
import type { Differing, PartMeasures, ReadPart } from './read-part'

/** Asked where strings and frets say another pitch than the notes do. */
export function pitchQuestion(
  differing: readonly Differing[],
  bars: readonly WrittenBar[],
  answers: ImportAnswers | undefined,
): ImportQuestion[] {
  const first = differing[0]
  if (!first) return []
  const bar = 1 + bars.findLastIndex(({ startTicks }) => startTicks <= first.startTicks)
  const { partName, string, fret, fretMidi, midi } = first
  const key = bars[0]?.key ?? { tonic: 'C', mode: 'major' }
  const count = differing.length === 1 ? 'One note is' : `${differing.length} notes are`
  const [byFret, byNote] = [pretty(spellMidi(fretMidi, key)), pretty(spellMidi(midi, key))]
  return [
    {
      id: 'pitches',
      text:
        `${count} another in the tablature than on the staff, first in bar ${bar} of ${partName}: ` +
        `fret ${fret} on string ${string} is ${byFret}, the note is ${byNote}. ` +
        'Which is meant?',
      taken: answers?.pitches ?? 'frets',
      options: [
        { value: 'frets', words: 'the strings and frets' },
        { value: 'pitches', words: 'the notes, laid on the neck anew' },
      ],
    },
  ]
}

/** What was passed over. */
export function leftOut(
  read: readonly PartMeasures[],
  laid: readonly ReadPart[],
  { order, unclearJump, own }: { order: readonly number[]; unclearJump: boolean; own: boolean },
): Dropped[] {
  const sum = (count: (measure: ReadMeasure) => number): number =>
    read.reduce((all, part) => part.reduce((total, measure) => total + count(measure), all), 0)
  return dropped([
    {
      what: 'jumps (da capo, dal segno)',
      count: unclearJump ? 1 : 0,
      why: 'the sign or the coda they lead to is missing: lay the rest out on the map',
    },
    { what: 'notes without a pitch', count: sum(({ unpitched }) => unpitched), why: 'drums are not charted' },
    { what: 'cue notes', count: sum(({ cues }) => cues), why: 'they show what somebody else plays' },
    {
      what: 'slashes',
      count: laid.reduce((all, { slashes }) => all + slashes, 0),
      why: 'no chord that can be gripped is written over them',
    },
    {
      what: 'chord frames',
      count: sum(({ harmony }) => harmony.filter(({ frame }) => frame).length),
      why: own
        ? 'the notes are kept, the grips they were struck from are not'
        : 'their chords are kept, their shapes only where slashes are struck from them',
    },
    {
      what: 'notes off the neck',
      count: laid.reduce((all, { offNeck }) => all + offNeck, 0),
      why: 'no string of the instrument reaches them',
    },
    {
      what: 'measures after the five thousandth',
      count: order.length >= 5000 ? 1 : 0,
      why: 'a song holds at most five thousand bars',
    },
  ])
}
