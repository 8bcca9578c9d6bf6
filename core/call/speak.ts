// A figure said back in the words of the call line: the inverse of parsing. Grips first, then muting, then
// the hand, then the notes, phrase by phrase (a line each, broken where the line breathes) and slur by slur
// (a comma each). What is said is understood back as exactly the same content.
import type { Content, GripSpan } from '../document/schema'
import { writeGrip } from '../neck/grips/grip'
import { speakHand } from './speak-hand'
import { speakNotes } from './speak-notes'
import {
  type SpeakOptions,
  type SpokenLine,
  type Speech,
  lengthWords,
  placeWords,
  addLine,
  goTo,
} from './speech'

/** The call-outs for a content, in order; joined by line breaks they are a call. */
export function speak(content: Content, options: SpeakOptions): SpokenLine[] {
  const speech: Speech = { options, cursor: 0, step: options.stepTicks, lines: [] }
  speakGrips(speech, content.grips)
  speakMuting(speech, content)
  speakHand(speech, content.strokes)
  speakNotes(speech, content.notes)
  return speech.lines
}

const muteWords = (mute: Content['mutes'][number]): string =>
  mute.mark.kind === 'palm mute' ? `palming ${mute.mark.pressure}` : 'letting ring'

function speakGrips(speech: Speech, grips: readonly GripSpan[]): void {
  let end = 0
  const clauses: string[] = []
  for (const { startTicks, lengthTicks, grip } of grips) {
    if (startTicks !== end) {
      clauses.push(goTo(speech, startTicks) || placeWords(startTicks, speech.options.meter))
      speech.cursor = startTicks
    }
    const fingers = grip.strings.map((string) => string.finger ?? 'x').reverse()
    const fingered = grip.strings.some((string) => string.finger) ? ` fingered ${fingers.join('')}` : ''
    const barre = grip.barre
      ? ` barre ${grip.barre.fret} from ${grip.barre.fromString} to ${grip.barre.toString}`
      : ''
    clauses.push(`hold ${writeGrip(grip)}${fingered}${barre} for ${lengthWords(lengthTicks, speech.step)}`)
    end = startTicks + lengthTicks
  }
  addLine(speech, 'grips', grips[0]?.startTicks ?? 0, clauses)
}

function speakMuting(speech: Speech, { mutes }: Content): void {
  const clauses = mutes
    .toSorted((a, b) => a.startTicks - b.startTicks)
    .flatMap((mute) => [
      goTo(speech, mute.startTicks),
      `${muteWords(mute)} for ${lengthWords(mute.lengthTicks, speech.step)}`,
    ])
  addLine(speech, 'muting', mutes[0]?.startTicks ?? 0, clauses)
}
