// What is said, piece by piece, before it stands on strings and in time.
import type { Mark, Grip, Stroke } from '../../document/schema'

/** A string as it was named: its letter, with which of two of one name, or its number. */
export interface StringSpec {
  letter?: string
  which?: 'low' | 'high' | 'middle' | undefined
  number?: number
  /** The lowest string of the grip held. */
  bass?: boolean
}
export interface Span {
  at: number
  end: number
}
export type Move = 'hammer' | 'pull' | 'slide' | 'shift' | 'tap'

/** A bend whose amount is not said has 0 semitones until the key decides. */
export const UNSAID = 0

export interface NoteItem extends Span {
  k: 'note'
  /**
   * `grip`: plucked of the grip held. `finger`: where that finger was before. `last`: what its string played
   * before.
   */
  fret: number | 'grip' | 'finger' | 'last'
  dead: boolean
  count: number
  move?: Move | undefined
  marks: Mark[]
  /** Named in the same breath: "open G". */
  strings?: StringSpec[] | undefined
  double?: 'power' | 'octave' | undefined
  /** Sounds with the note before. */
  join?: boolean
  barre?: boolean
  /** A pair of strings was said before it. */
  paired?: boolean
  /** Both strings of a pair, whatever was said of one in between. */
  both?: boolean
  finger?: '1' | '2' | '3' | '4' | undefined
  pick?: 'down' | 'up' | undefined
  accent?: boolean
}
export interface StringsItem extends Span {
  k: 'strings'
  specs: StringSpec[]
  /** "on the G", "of the G": said after its frets where there are any. */
  after: boolean
  /** "all on the A": every fret before it that has no string. */
  alone?: boolean
}
export interface StrokeItem extends Span {
  k: 'stroke'
  direction: Stroke['direction'] | undefined
  dead: boolean
  count: number
}
/** What a mark reaches: the note before, all that follow, or so many of those before. */
export type Reach = 'before' | 'following' | 'clause' | 'all before' | 'all but last' | { last: number }
export type Length = { steps: number } | { ticks: number }
/** How a grip is changed: strings by number, low to high where it matters. */
export type Change =
  | { what: 'open' | 'mute' | 'unmute'; strings: StringSpec[] }
  | { what: 'fret'; strings: StringSpec[]; fret: number }
  | { what: 'note'; strings: StringSpec[]; letter: string }
  | { what: 'lift finger' | 'move finger'; finger: string; strings?: StringSpec[]; fret?: number | undefined }
  | { what: 'bass'; letter: string }
  | { what: 'only'; strings: StringSpec[] }
  /** The whole grip goes so many frets along the neck, or until its lowest finger stands at a fret. */
  | { what: 'slide'; by: number }
  | { what: 'slide'; to: number }

export type ReferenceHow =
  | { how: 'again' }
  | { how: 'strings'; specs: StringSpec[] }
  | { how: 'set'; by: number }
  | { how: 'frets'; by: number }
  | { how: 'start'; fret: number }
  | { how: 'rhythm'; fret?: number; symbol?: string }
  | { how: 'octave'; by: 1 | -1 }
  | { how: 'backwards' }
  | { how: 'harmony'; interval: number; inKey: boolean }

export type Item = Span &
  (
    | NoteItem
    | StringsItem
    | StrokeItem
    | { k: 'stop'; text: string }
    | { k: 'and' }
    | { k: 'together'; pairs: boolean }
    | { k: 'chord'; symbol: string; hit: boolean; length?: Length; position?: number }
    | { k: 'grip'; grip: Grip; symbol?: string }
    | { k: 'rest'; length?: Length }
    | { k: 'place'; ticks: number; rest?: boolean }
    | { k: 'length'; length: Length; each: boolean }
    | { k: 'step'; ticks: number }
    | { k: 'mark'; mark: Mark; reach: Reach }
    | { k: 'unmark'; kind: Mark['kind'] }
    | { k: 'times'; times: number; whole: boolean; more: boolean }
    | {
        k: 'again'
        whole: boolean
        ways: ReferenceHow[]
        ending?: NoteItem[]
        drop?: number
        /** Only the first or the last few of what is played again. */
        part?: { first: boolean; count: number }
        times: number
        bar?: number
      }
    | { k: 'change'; change: Change }
    | { k: 'dictated'; from: StringSpec; frets: (number | null)[] }
    | { k: 'fix'; wipe: boolean }
  )
export type ItemOf<K extends Item['k']> = Extract<Item, { k: K }>
