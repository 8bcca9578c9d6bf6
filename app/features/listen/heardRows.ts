// What was heard, a row a kind: in words, how sure, why, and whether it is still open to accept.
import type { Analysis } from '#core/hear/analysis'
import { keyName } from '#core/music/pitch'
import { barsSure, doubtfulBars } from '#core/suggest/bars-sure'
import { isSwung, tuningWords, type Suggestion, type SuggestionKind } from '#core/suggest/heard'
import { doubtfulBeginnings, sectionsSure } from '#core/suggest/sections-sure'
import { meterName } from '#core/time/meter'

export type WhyPicture = 'tempo' | 'tuning' | 'form' | 'chord'
export interface HeardRow {
  kind: SuggestionKind
  /** The picture that shows what was measured. */
  picture?: WhyPicture
  text: string
  /** 0 to 1. */
  sure?: number | undefined
  because: string
  open: boolean
}

export const percent = (share: number): string => `${Math.round(share * 100)} %`

/** A tuning that moves by more than this between beginning and end is told, cents. */
const DRIFT_CENTS = 5

type Heard = Pick<HeardRow, 'kind' | 'picture' | 'because' | 'sure'> & { text: string | undefined }

function barsHeard(a: Analysis): Heard {
  const meter = a.meter ? `, ${meterName(a.meter)}` : ''
  return {
    kind: 'bars',
    picture: 'tempo',
    text: a.tempo ? `♩ = ${a.tempo.toFixed(1)}${meter}` : undefined,
    sure: barsSure(a),
    because: `Attacks that return evenly. ${doubtfulBars(a)}`.trim(),
  }
}
function sectionsHeard({ sections = [] }: Analysis): Heard {
  const different = new Set(sections.map((section) => section.label)).size
  return {
    kind: 'sections',
    picture: 'form',
    text: sections.length ? `${sections.length}, ${different} of them different` : undefined,
    sure: sectionsSure(sections),
    because: `Sound, drums and harmony change there. ${doubtfulBeginnings(sections)}`.trim(),
  }
}
const chordsHeard = (a: Analysis): Heard => ({
  kind: 'chords',
  picture: 'chord',
  text: a.chords?.length ? `${a.chords.length} changes` : undefined,
  because: 'The pitches of each half beat against the tones of each chord.',
})
const keyHeard = (a: Analysis): Heard => ({
  kind: 'key',
  text: a.key ? `${keyName(a.key)}, sounding` : undefined,
  sure: a.keyConfidence,
  because: 'Which chords last longest, begin and end.',
})
const feelHeard = (a: Analysis): Heard => ({
  kind: 'feel',
  text: isSwung(a) ? `swung ${percent(a.swing!)}` : undefined,
  because: 'Where attacks fall between the beats.',
})
function tuningHeard(a: Analysis): Heard {
  const drift = a.tuningOverTime ?? []
  const moved = drift.length > 3 ? drift.at(-1)!.cents - drift[0]!.cents : 0
  const tape = moved < 0 ? 'slows' : 'speeds up'
  const words =
    Math.abs(moved) > DRIFT_CENTS
      ? ` From beginning to end it moves by ${Math.round(moved)} cents: the tape ${tape}.`
      : ''
  return {
    kind: 'tuning',
    picture: 'tuning',
    text: tuningWords(a),
    sure: a.tuningConfidence,
    because: `Where the peaks of the spectrum lie.${words}`,
  }
}

/** What is still open stands as its suggestion says it; the rest as it was heard. */
export function heardRows(analysis: Analysis, suggestions: readonly Suggestion[]): HeardRow[] {
  const all = [barsHeard, sectionsHeard, chordsHeard, keyHeard, feelHeard, tuningHeard]
  return all.flatMap((hear) => {
    const heard = hear(analysis)
    const open = suggestions.find((suggestion) => suggestion.kind === heard.kind)
    const text = open?.text ?? heard.text
    if (text === undefined) return []
    return [
      {
        ...heard,
        text,
        sure: open?.confidence ?? heard.sure,
        because: open?.why ?? heard.because,
        open: open !== undefined,
      },
    ]
  })
}
