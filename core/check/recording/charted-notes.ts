// The charted notes as they are looked for in the recording: the same note of a figure in all its passes
// together, where it holds its pitch.
import { group } from 'd3-array'
import type { Song, Source } from '../../document/schema'
import type { AskedNote } from '../../hear/evidence/pitch-scores'
import { ticksToSeconds, type TimeMap } from '../../time/beat-grid'
import { swungTick } from '../../time/meter'
import { firstFrom, songNotes, type SongNote } from '../../score/song-notes'

/** One written note in all its passes, also where its figure is moved. */
export interface ChartedNote {
  first: SongNote
  /** The pitch it holds in its first pass. */
  midi: number
  /** A pass each. */
  asked: AskedNote[]
  /** Other notes of its part sound together with it. */
  together: boolean
  /** Pitches that other charted notes near its place in the stereo field sound in its first pass. */
  others: number[]
}

/** A note that moves less than this stays where it is. */
const STEADY_SEMITONES = 0.3
/** Notes that share less of the shorter one’s time are one after the other. */
const TOGETHER_SHARE = 0.3
/** Further apart (of −1 to 1) players are not heard in each other’s channel. */
const SAME_SEAT = 0.7

/** Where a note holds its pitch: all of it, or where its bend has come to, in ticks from its beginning. */
function heldPart({ played, midi }: SongNote): { fromTicks: number; midi: number } | undefined {
  const moving = played.curve.filter(({ semitones }) => Math.abs(semitones) > STEADY_SEMITONES)
  if (moving.length === 0) return { fromTicks: 0, midi: Math.round(midi) }
  const last = played.curve.at(-1)!
  const reached = Math.round(last.semitones)
  const before = played.curve.at(-2)
  const slow = before && before.semitones === last.semitones ? before.ticks : last.ticks
  if (Math.abs(last.semitones - reached) > STEADY_SEMITONES) return undefined
  return { fromTicks: slow, midi: Math.round(midi) + reached }
}

/** Every charted note of a song whose pitch can be looked for, in the time of its recording. */
export function chartedNotes(song: Song, map: TimeMap, { offsetSemitones }: Source): ChartedNote[] {
  const all = songNotes(song)
  const meanwhile = soundingTogether(all)
  const groups = group(all, ({ play, figure, figureTicks, string, played: { origin } }) => {
    const form = play.placement.kind === 'figure' ? play.placement.form : ''
    return [figure.id, form, origin.layer, origin.id, figureTicks, string].join('/')
  })
  return [...groups.values()].flatMap((notes): ChartedNote[] => {
    const first = notes[0]!
    const held = heldPart(first)
    if (!held) return []
    const asked = notes.map((note) => ({
      start: secondsOf(map, note, note.figureTicks + held.fromTicks),
      end: secondsOf(map, note, note.figureTicks + (note.endTicks - note.startTicks)),
      midi: held.midi + Math.round(note.midi - first.midi) + offsetSemitones,
      pan: note.part.pan,
    }))
    const beside = meanwhile(first)
    return [
      {
        first,
        midi: held.midi,
        asked,
        together: beside.some(({ part }) => part === first.part),
        others: beside
          .filter(({ part }) => Math.abs(part.pan - first.part.pan) < SAME_SEAT)
          .map((other) => Math.round(other.midi)),
      },
    ]
  })
}

function secondsOf(map: TimeMap, { play, figure }: SongNote, figureTicks: number): number {
  const tick = play.startTicks + swungTick(figureTicks, figure.feel.swing, figure.meter)
  return ticksToSeconds(map, Math.max(0, Math.min(map.endTicks, tick)))
}

/** Asks for the notes that sound together with one for a good part of it. */
function soundingTogether(notes: readonly SongNote[]): (note: SongNote) => SongNote[] {
  const longest = Math.max(0, ...notes.map(({ startTicks, endTicks }) => endTicks - startTicks))
  return (note) => {
    const found: SongNote[] = []
    let index = firstFrom(notes, note.startTicks - longest)
    for (; index < notes.length && notes[index]!.startTicks < note.endTicks; index++) {
      const other = notes[index]!
      const shared = Math.min(other.endTicks, note.endTicks) - Math.max(other.startTicks, note.startTicks)
      const shorter = Math.min(other.endTicks - other.startTicks, note.endTicks - note.startTicks)
      if (other !== note && shared > TOGETHER_SHARE * shorter) found.push(other)
    }
    return found
  }
}
