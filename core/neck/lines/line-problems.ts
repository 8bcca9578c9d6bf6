// What in a figure cannot be played as written, note by note, with what would be nearest. Used by the bench
// (marked where it is) and the check.
import type { Content, Note, Part } from '../../document/schema'
import { fingerGrip } from '../grips/fingering'
import { USUAL_HAND, type Hand } from '../hand'
import { isSlurred } from '../../marks/marks-of'
import { inTimeOrder } from './line'

export interface LineProblem {
  id: string
  startTicks: number
  text: string
}

export function lineProblems(content: Content, part: Part, hand: Hand = USUAL_HAND): LineProblem[] {
  const highest = part.instrument.fretCount - part.instrument.capo
  const last = new Map<number, Note>()
  let before: Note[] = []
  const found: LineProblem[] = []
  const say = (event: { id: string; startTicks: number }, text: string): void => {
    found.push({ id: event.id, startTicks: event.startTicks, text })
  }
  for (const note of inTimeOrder(content.notes)) {
    const source = last.get(note.string)
    if (before[0] && before[0].startTicks !== note.startTicks)
      before = before.filter((one) => one.startTicks === before.at(-1)!.startTicks)
    const slur = note.marks.find((mark) => mark.kind === 'hammer-on' || mark.kind === 'pull-off')
    if (isSlurred(note) && !source)
      say(
        note,
        before.length
          ? `slurred across strings: from string ${before.at(-1)!.string} to ${note.string}. ` +
              `Pick it, or play the note before on string ${note.string}`
          : 'slurred from nothing: pick it',
      )
    else if (source && slur?.kind === 'hammer-on' && note.fret <= source.fret)
      say(note, `hammered down from ${source.fret} to ${note.fret}: that is a pull-off`)
    else if (source && slur?.kind === 'pull-off' && note.fret >= source.fret)
      say(note, `pulled up from ${source.fret} to ${note.fret}: that is a hammer-on`)
    for (const mark of note.marks) {
      if (mark.kind === 'bend' && note.fret === 0)
        say(note, 'an open string cannot be bent: fret it, or play it a string lower')
      if (mark.kind === 'trill' && note.fret + mark.frets > highest)
        say(note, `the trill reaches beyond fret ${highest}`)
      if (mark.kind === 'grace' && (note.fret + mark.frets < 0 || note.fret + mark.frets > highest))
        say(note, 'the grace note lies off the neck')
    }
    last.set(note.string, note)
    before = before[0]?.startTicks === note.startTicks ? [...before, note] : [note]
  }
  for (const span of content.grips)
    if (!fingerGrip(span.grip, part, hand)) say(span, 'no hand holds this grip: leave out a string')
  return found
}
