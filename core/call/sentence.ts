// What Enter will put in, in a sentence: "6 notes over 6 eighths: 7 on the G, hammer on to 9 …".
import { counted } from '../words/words'
import { hasMark } from '../marks/marks-of'
import type { Stroke } from '../document/schema'
import { writeGrip } from '../neck/grips/grip'
import { fraction } from './reading'
import type { CallUnderstood } from './read-call'
import { saidWords } from './speak-said'
import { speak } from './speak'
import type { SpeakOptions } from './speech'
import { noteValueName } from './vocabulary'

const strokeWord = (stroke: Stroke): string =>
  hasMark(stroke, 'dead') ? `dead ${stroke.direction}` : stroke.direction

function gripWords(reading: CallUnderstood): string {
  const { grips } = reading.value.content
  const names = grips.map((span) => {
    const named = reading.chords.find((chord) => chord.startTicks === span.startTicks)
    const text = writeGrip(span.grip)
    return named ? `${named.symbol} (${text})` : text
  })
  return names.length ? `hold ${names.join(', then ')}` : ''
}

/** How many strokes are said one by one before they are counted. */
const MOST_NAMED = 12

/** The sentence for a call that was understood. */
export function callSentence(reading: CallUnderstood, options: SpeakOptions): string {
  const { content, startTicks, endTicks, stepTicks } = reading.value
  const { notes, strokes, mutes } = content
  const unit = noteValueName(stepTicks) ?? 'steps'
  const length = fraction((endTicks - startTicks) / stepTicks)
  const parts = [
    notes.length ? counted(notes.length, 'note') : '',
    strokes.length ? counted(strokes.length, 'stroke') : '',
    content.grips.length ? counted(content.grips.length, 'grip') : '',
    mutes.length ? counted(mutes.length, 'stretch of muting', 'stretches of muting') : '',
  ].filter(Boolean)
  const said = notes.length
    ? (saidWords(notes, options) ??
      speak({ ...content, grips: [], strokes: [], mutes: [] }, options)
        .map((line) => line.text)
        .join(', '))
    : ''
  const hand = strokes.length > MOST_NAMED ? '' : strokes.map(strokeWord).join(', ')
  const words = [gripWords(reading), hand, said].filter(Boolean).join('; ')
  const units = length === '1' ? unit.replace(/s$/, '').replace('halve', 'half') : unit
  return `${parts.join(', ')} over ${length} ${units}${words ? `: ${words}` : ''}`
}
