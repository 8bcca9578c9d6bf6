// What a song plays as facts that two formats can be compared by: one line for each note, chord, bar and
// tempo.
import { scoreFromSong } from '../../core/exchange/score/from-song'
import type { WrittenNote, WrittenScore } from '../../core/exchange/score/written-score'
import type { Song } from '../../core/document/schema'

const marks = ({ marks }: WrittenNote): string =>
  marks
    .map((mark) => JSON.stringify(mark, Object.keys(mark).sort()))
    .sort()
    .join()

/** Everything of a part, a line each; lengths past the last bar end with it. */
export function partFacts({ parts, endTicks }: WrittenScore): string[] {
  return parts.flatMap(({ name, notes, tuning, instrument }) => [
    `${name} is ${instrument.kind}, capo ${instrument.capo}, strings ${tuning.openMidi.join(' ')}`,
    ...notes.map((note) => {
      const length = Math.min(note.lengthTicks, endTicks - note.startTicks)
      const { startTicks, string, fret, midi, pick, finger, pluck } = note
      const hand = [pick, finger, pluck].filter(Boolean).join(' ')
      return `${name} ${startTicks}+${length}: ${string}/${fret} (${midi}) ${hand} ${marks(note)}`
    }),
  ])
}

export function formFacts({ key, feel, bars, harmony, tempo }: WrittenScore): string[] {
  return [
    `key ${key.tonic} ${key.mode}, swing ${feel.swing.ratio} ${feel.swing.level}`,
    ...bars.map(
      ({ startTicks, meter, free, section, key: own }) =>
        `bar ${startTicks}: ${meter.beats}/${meter.unit}${free ? ' free' : ''} ` +
        `${section ?? ''} ${own?.tonic ?? ''}`,
    ),
    ...harmony.map(({ startTicks, symbol }) => `chord ${startTicks}: ${symbol}`),
    ...tempo.map(
      ({ startTicks, quartersPerMinute }) => `tempo ${startTicks}: ${quartersPerMinute.toFixed(2)}`,
    ),
  ]
}

/** What one list has and the other has not. */
export function missingFacts(wanted: readonly string[], found: readonly string[]): string[] {
  const left = new Map<string, number>()
  for (const fact of found) left.set(fact, (left.get(fact) ?? 0) + 1)
  return wanted.filter((fact) => {
    const count = left.get(fact) ?? 0
    left.set(fact, count - 1)
    return count < 1
  })
}

export const allFacts = (song: Song): string[] => {
  const score = scoreFromSong(song)
  return [...formFacts(score), ...partFacts(score)]
}
