// Notes of a part as voices: in each, chords one after another, cut at the bar lines. Notes that begin and
// end together stand in one chord; what overlaps goes to another voice.
import { noteOrder, type WrittenBar, type WrittenNote } from '../score/written-score'

/** A piece of a chord within one bar. */
export interface VoicedChord {
  voice: number
  startTicks: number
  lengthTicks: number
  notes: readonly WrittenNote[]
  /** Tied from the bar before, tied into the next. */
  goesOn: boolean
  willGoOn: boolean
}

interface Chord {
  startTicks: number
  endTicks: number
  notes: WrittenNote[]
}

function chordsOf(notes: readonly WrittenNote[], endTicks: number): Chord[] {
  const chords = new Map<string, Chord>()
  for (const note of notes.toSorted(noteOrder)) {
    const end = Math.min(endTicks, note.startTicks + note.lengthTicks)
    if (end <= note.startTicks) continue
    const key = `${note.startTicks}/${end}`
    const chord = chords.get(key)
    // A string sounds once in a chord.
    if (chord?.notes.every(({ string }) => string !== note.string)) chord.notes.push(note)
    else if (!chord) chords.set(key, { startTicks: note.startTicks, endTicks: end, notes: [note] })
    else chords.set(`${key}/${note.string}`, { startTicks: note.startTicks, endTicks: end, notes: [note] })
  }
  return [...chords.values()].sort((a, b) => a.startTicks - b.startTicks || b.endTicks - a.endTicks)
}

/** Every chord of a part by bar, each in the first voice that is free. */
export function voicesByBar(
  notes: readonly WrittenNote[],
  bars: readonly WrittenBar[],
  endTicks: number,
): VoicedChord[][] {
  const byBar: VoicedChord[][] = bars.map(() => [])
  const free: number[] = []
  let bar = 0
  for (const { startTicks, endTicks: end, notes: struck } of chordsOf(notes, endTicks)) {
    const known = free.findIndex((until) => until <= startTicks)
    const voice = known < 0 ? free.length : known
    free[voice] = end
    while (bar < bars.length - 1 && bars[bar + 1]!.startTicks <= startTicks) bar += 1
    let [at, index] = [startTicks, bar]
    while (at < end && index < bars.length) {
      const until = Math.min(end, bars[index]!.startTicks + bars[index]!.lengthTicks)
      byBar[index]!.push({
        voice: voice + 1,
        startTicks: at,
        lengthTicks: until - at,
        notes: struck,
        goesOn: at > startTicks,
        willGoOn: until < end,
      })
      at = until
      index += 1
    }
  }
  return byBar
}
