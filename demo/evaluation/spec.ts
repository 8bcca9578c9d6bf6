// What an evaluation song is made of: passages in an order, each with its chords, its drums and who plays
// how.
import type { Meter } from '../../core/time/meter'

export type Quality =
  | 'maj'
  | 'min'
  | '5'
  | '7'
  | 'maj7'
  | 'min7'
  | 'sus2'
  | 'sus4'
  | '7sus4'
  | 'add9'
  | '9'
  | 'min9'
  | '7#9'
  | 'dim'
  | 'aug'
  | '6'
  | 'min6'

/** Semitones above the root as a guitar stacks them, and of the plain chord. */
export const STACKS: Record<Quality, { stack: number[]; tones: number[] }> = {
  maj: { stack: [0, 7, 12, 16, 19, 24], tones: [0, 4, 7] },
  min: { stack: [0, 7, 12, 15, 19, 24], tones: [0, 3, 7] },
  5: { stack: [0, 7, 12], tones: [0, 7] },
  7: { stack: [0, 7, 10, 16, 19, 24], tones: [0, 4, 7, 10] },
  maj7: { stack: [0, 7, 11, 16, 19], tones: [0, 4, 7, 11] },
  min7: { stack: [0, 7, 10, 15, 19, 24], tones: [0, 3, 7, 10] },
  sus2: { stack: [0, 7, 12, 14, 19], tones: [0, 2, 7] },
  sus4: { stack: [0, 7, 12, 17, 19, 24], tones: [0, 5, 7] },
  '7sus4': { stack: [0, 7, 10, 17, 19], tones: [0, 5, 7, 10] },
  add9: { stack: [0, 7, 14, 16, 19], tones: [0, 2, 4, 7] },
  9: { stack: [0, 4, 10, 14, 19], tones: [0, 2, 4, 7, 10] },
  min9: { stack: [0, 3, 10, 14, 19], tones: [0, 2, 3, 7, 10] },
  '7#9': { stack: [0, 4, 10, 15, 22], tones: [0, 3, 4, 10] },
  dim: { stack: [0, 6, 12, 15, 18], tones: [0, 3, 6] },
  aug: { stack: [0, 8, 12, 16, 20], tones: [0, 4, 8] },
  6: { stack: [0, 7, 9, 16, 21], tones: [0, 4, 7, 9] },
  min6: { stack: [0, 7, 9, 15, 19], tones: [0, 3, 7, 9] },
}

/** root and bass as pitch classes relative to the song's tonic. */
export interface ChordSpec {
  root: number
  quality: Quality
  bass?: number
}
/** A change inside a passage, in counted beats from its start; half beats are anticipations. */
export interface Change {
  beat: number
  chord: ChordSpec | undefined
}

export type Style =
  | 'strum'
  | 'chug'
  | 'power'
  | 'arpeggio'
  | 'sustain'
  | 'stabs'
  | 'offbeats'
  | 'twins'
  | 'melody'
  | 'riff'
  | 'roots'
  | 'pulse'
  | 'fifths'
  | 'walk'
  | 'figure'
export interface Player {
  sound: 'steel' | 'clean' | 'driven' | 'distorted' | 'finger bass' | 'pick bass' | 'keys' | 'voice'
  style: Style
  pan: number
  gain: number
  program?: number
  /** Which of eight steps a strummer strikes; of a figure, its sixteenths (figure.ts). */ pattern?: string
  /** How hard the player's amplifier is driven; none is played straight. */ amplifier?: number
}

export interface Passage {
  label: string
  bars: number
  meter: Meter
  changes: Change[]
  /** Steps of a sixteenth, voices split by "/"; empty without drums. The last bar may have a fill. */
  drums: string
  fill: string
  players: Player[]
  free?: boolean
  tempoFactor?: number
}
export interface SongPassage {
  passage: Passage
  shift: number
  ending?: 'stop' | 'held' | 'cut'
  /** Belongs to the section before it: a half bar put in. */ joined?: boolean
}
/** What is done to a mix before anyone hears it. */
export interface Master {
  /** Mean level before the limiter, of full scale. */ level: number
  /** Into the limiter: 1 leaves most peaks, 4 leaves none. */ drive: number
  fadeInSeconds: number
  fadeOutSeconds: number
  /** Kilobits a second of an MP3; 0 leaves it uncoded. */ coding: number
  /** Amplitude of the hiss. */ hiss: number
}
export interface EvaluationSong {
  name: string
  seed: number
  tempo: number
  drift: number
  swing: number
  tonic: number
  mode: 'major' | 'minor'
  tapeCents: number
  leadInSeconds: number
  /** Lowest string of the guitars, as a MIDI note: 40 unless said. */ lowest?: number
  master?: Master
  passages: SongPassage[]
}
