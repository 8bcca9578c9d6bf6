// "Cold Kiln" by Slow Foundry: invented for Synchorda. A slow, heavy song for bass and one baritone guitar
// tuned to B, riffs in three scales of one key: natural minor, harmonic minor, phrygian. The live take is a
// whole step lower, faster, with four bars of drums before it and a shorter end.
import { content, grips, hand, line, repeat, restartIds } from './chart-text'
import type { PlacePlan, SectionPlan, SongPlan } from './score'

const SLOW = 'k.....k......... / ........s....... / r...r...r...r...'
const SLOW_CRASH = 'k.....k......... / ........s....... / c...r...r...r...'
// The beat flipped: what was the back-beat is the one.
const FLIPPED = 'k.......k....... / s.......s....... / ..r...r...r...r.'
const WIDE = 'k...k.....k.k... / ........s....... / o...o...o...o...'
const WIDE_CRASH = 'k...k.....k.k... / ........s....... / c...o...o...o...'
const THREES = 'k.....k.....k... / ........s....... / r.....r.....r...'
const FILL = 'k.....k......... / ........s.1.2.33 / r...r...........'
const kit = (bars: number, first: string, rest: string, last = FILL): string[] =>
  Array.from({ length: bars }, (_, bar) => (bar === 0 ? first : bar === bars - 1 ? last : rest))

const VERSE_VOICE =
  'r:1 F#4:1 F#4:.5 A4:.5 F#4:1 | E4:.5 D4:1.5 r:2 | r:1 D4:1 E4:.5 D4:.5 B3:1 | ' +
  'C#4:2.5 r:1.5 | r:1 F#4:1 A4:.5 B4:.5 A4:1 | F#4:.5 E4:1.5 r:2 | G4:1 F#4:.5 E4:1 D4:1.5 | ' +
  'F#4:3 r:1'
const CHORUS_VOICE =
  'B4:2 F#4:2 | G4:1.5 F#4:.5 D4:2 | A4:2 F#4:2 | E4:3 r:1 | B4:2 D5:2 | G4:1.5 A4:.5 B4:2 | ' +
  'A4:2 F#4:1 D4:1 | C#4:1.5 E4:2.5'

/** The studio recording, or the live take of the same song. */
export function coldKiln(live: boolean): SongPlan {
  restartIds()
  const chorusChords = ['Bm', 'G', 'D', 'A', 'Bm', 'G', 'D', 'A']
  const riff = (chord: string, bars: number): string[] => Array.from({ length: bars }, () => chord)
  const sections: SectionPlan[] = [
    {
      id: 'intro',
      kind: 'intro',
      name: 'Intro',
      bars: 8,
      chords: riff('B5', 8),
      drums: kit(8, SLOW_CRASH, SLOW),
    },
    {
      id: 'verse1',
      kind: 'verse',
      name: 'Verse 1',
      bars: 8,
      chords: riff('B5', 8),
      drums: kit(8, SLOW_CRASH, SLOW),
      voice: VERSE_VOICE,
    },
    {
      id: 'chorus1',
      kind: 'chorus',
      name: 'Chorus 1',
      bars: 8,
      chords: chorusChords,
      drums: kit(8, WIDE_CRASH, WIDE),
      voice: CHORUS_VOICE,
    },
    {
      id: 'turn',
      kind: 'interlude',
      name: 'Turnaround',
      bars: 8,
      chords: riff('B5', 8),
      drums: [...kit(4, SLOW_CRASH, SLOW, SLOW), ...kit(4, FLIPPED, FLIPPED)],
    },
    {
      id: 'verse2',
      kind: 'verse',
      name: 'Verse 2',
      bars: 8,
      chords: riff('B5', 8),
      drums: kit(8, SLOW_CRASH, SLOW),
      voice: VERSE_VOICE,
      returns: 'verse1',
    },
    {
      id: 'chorus2',
      kind: 'chorus',
      name: 'Chorus 2',
      bars: 8,
      chords: chorusChords,
      drums: kit(8, WIDE_CRASH, WIDE),
      voice: CHORUS_VOICE,
      returns: 'chorus1',
    },
    {
      id: 'bridge',
      kind: 'bridge',
      name: 'Bridge',
      bars: 8,
      chords: Array.from({ length: 4 }, () => ['B5', 'C5']).flat(),
      drums: kit(8, THREES, THREES),
    },
    {
      id: 'chorus3',
      kind: 'chorus',
      name: 'Chorus 3',
      bars: 8,
      chords: chorusChords,
      drums: kit(8, WIDE_CRASH, WIDE),
      voice: CHORUS_VOICE,
      returns: 'chorus1',
    },
    {
      id: 'outro',
      kind: 'outro',
      name: 'Outro',
      bars: live ? 4 : 8,
      chords: riff('B5', live ? 4 : 8),
      drums: kit(live ? 4 : 8, SLOW_CRASH, SLOW),
      passes: live ? 2 : 4,
    },
    {
      id: 'stop',
      kind: 'stop',
      name: 'Stop',
      bars: 2,
      chords: ['B5', 'B5'],
      drums: ['k............... / ................ / c...............'],
    },
  ]
  const places = (section: string): PlacePlan[] => [
    ['kiln', section, 0, 4],
    ['kiln-bass', section, 0, 4],
  ]
  const chorus = (section: string): PlacePlan[] => [
    ['pour', section, 0, 2],
    ['pour-bass', section, 0, 2],
  ]
  return {
    id: 'cold-kiln',
    title: 'Cold Kiln',
    artist: 'Slow Foundry',
    key: { tonic: 'B', mode: 'minor' },
    tempo: live ? 80 : 76,
    drift: live ? 0.02 : 0.012,
    leadInSeconds: 0.5,
    seed: live ? 92 : 91,
    tuningSemitones: live ? -2 : 0,
    tapeCents: live ? 4 : 0,
    voiceProgram: 53,
    sections: live
      ? [
          {
            id: 'count',
            kind: 'drum break',
            name: 'Drums',
            bars: 4,
            chords: riff('B5', 4),
            drums: kit(4, SLOW_CRASH, SLOW),
          },
          ...sections,
        ]
      : sections,
    parts: [
      {
        id: 'bar',
        name: 'Baritone',
        instrumentKind: 'baritone-6',
        role: 'rhythm',
        pan: -0.25,
        sound: 'distorted',
        rig: { pickup: 'bridge', gain: 'full', strike: 'pick', effects: [] },
      },
      {
        id: 'bass',
        name: 'Bass',
        instrumentKind: 'bass-4',
        role: 'bass',
        pan: 0,
        sound: 'pick bass',
        tuning: {
          name: 'B E A D (five-string set without the top)',
          openMidi: [38, 33, 28, 23].map((midi) => midi + (live ? -2 : 0)),
          shapeOffset: 0,
        },
      },
    ],
    figures: [
      {
        id: 'kiln',
        part: 'bar',
        name: 'Riff 1',
        bars: 2,
        note: 'Natural minor. Let the low string answer itself.',
        content: content({ notes: line('6/0m:2 6/0m 6/3 6/5:2 6/3 6/2 | 6/0m:2 6/0m 6/3 5/3 5/2p 6/5 6/3') }),
      },
      {
        id: 'kiln-bass',
        part: 'bass',
        name: 'Riff 1',
        bars: 2,
        content: content({ notes: line('4/0:2 4/0 4/3 4/5:2 4/3 4/2 | 4/0:2 4/0 4/3 3/3 3/2 4/5 4/3') }),
      },
      {
        id: 'flip',
        part: 'bar',
        name: 'Riff 2',
        bars: 2,
        note:
          'Harmonic minor: the A♯ wants back to B. ' +
          'In the second half the drums turn round, the riff does not.',
        content: content({ notes: line('6/0m 6/0m 5/2 6/0m 5/3 5/2 5/6:2 | 5/7:2 5/6:2 6/0:4') }),
      },
      {
        id: 'flip-bass',
        part: 'bass',
        name: 'Riff 2',
        bars: 2,
        content: content({ notes: line('4/0 4/0 3/2 4/0 3/3 3/2 3/6:2 | 3/7:2 3/6:2 4/0:4') }),
      },
      {
        id: 'threes',
        part: 'bar',
        name: 'Riff 3',
        bars: 2,
        note: 'Phrygian, felt in 3 + 3 + 2.',
        content: content({ notes: line('6/0m:3 6/0m:3 6/1:2 | 6/1:3 6/3:3 6/1:2') }),
      },
      {
        id: 'threes-bass',
        part: 'bass',
        name: 'Riff 3',
        bars: 2,
        content: content({ notes: line('4/0:3 4/0:3 4/1:2 | 4/1:3 4/3:3 4/1:2') }),
      },
      {
        id: 'pour',
        part: 'bar',
        name: 'Pour',
        bars: 4,
        content: content({
          grips: grips('022000:8 x32010:8 320003:8 xx0232:8'),
          strokes: hand('D...d.du | D...d.du | D...d.du | D...d.du'),
        }),
      },
      {
        id: 'pour-bass',
        part: 'bass',
        name: 'Pour',
        bars: 4,
        content: content({
          notes: line(
            `${repeat('4/0:2', 4)} | ${repeat('3/3:2', 4)} | ${repeat('4/3:2', 4)} | ` +
              `${repeat('2/0:2', 3)} 3/2:2`,
          ),
        }),
      },
      {
        id: 'last',
        part: 'bar',
        name: 'Last hit',
        bars: 2,
        content: content({ grips: grips('022xxx:16'), strokes: hand('D...............') }),
      },
      {
        id: 'last-bass',
        part: 'bass',
        name: 'Last hit',
        bars: 2,
        content: content({ notes: line('4/0:16') }),
      },
    ],
    places: [
      ...places('intro'),
      ...places('verse1'),
      ...chorus('chorus1'),
      ['flip', 'turn', 0, 4],
      ['flip-bass', 'turn', 0, 4],
      ...places('verse2'),
      ...chorus('chorus2'),
      ['threes', 'bridge', 0, 4],
      ['threes-bass', 'bridge', 0, 4],
      ...chorus('chorus3'),
      ['kiln', 'outro', 0, live ? 2 : 4],
      ['kiln-bass', 'outro', 0, live ? 2 : 4],
      ['last', 'stop', 0, 1],
      ['last-bass', 'stop', 0, 1],
    ],
    rests: live
      ? [
          ['bar', 'count'],
          ['bass', 'count'],
        ]
      : [],
  }
}
