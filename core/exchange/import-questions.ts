// What a file leaves open, asked before anything is made of it. Each question has an answer already: the one
// taken when nobody answers.

/** Which of two holds where strings and frets say another pitch than the notes. */
export const PITCH_SIDES = ['frets', 'pitches'] as const
export type PitchSide = (typeof PITCH_SIDES)[number]

/** How the times of a file played by hand are written: as played, or to so many steps a quarter. */
export const TIMINGS = ['as played', 'eighths', 'triplets', 'sixteenths', 'sixteenths and triplets'] as const
export type Timing = (typeof TIMINGS)[number]

export interface ImportAnswers {
  pitches?: PitchSide | undefined
  timing?: Timing | undefined
}
interface Asked<K extends keyof ImportAnswers> {
  id: K
  /** What was found, and what is asked. */
  text: string
  taken: NonNullable<ImportAnswers[K]>
  options: readonly { value: NonNullable<ImportAnswers[K]>; words: string }[]
}
export type ImportQuestion = Asked<'pitches'> | Asked<'timing'>
