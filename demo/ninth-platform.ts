// "Ninth Platform" by Brass Heron Club: invented for Synchorda. A swung song in G with a 6/8 break and a
// harmonica-like lead. Ships as a recording only.
import { content, grips, hand, letRing, line, repeat, restartIds } from './chart-text'
import { barTicks } from '../core/time/meter'
import type { SongPlan } from './score'

restartIds()
const SIX = { beats: 6, unit: 8 } as const
const SHUFFLE = 'k...k...k..k.... / ....s.......s... / r..r..r.r..r..r.'
const SWING = 'k.....k.k.....k. / ....s.......s..s / h.h.h.h.h.h.h.h.'
const SWING_CRASH = 'k.....k.k.....k. / ....s.......s... / c.h.h.h.h.h.h.h.'
const FILL = 'k.....k.k....... / ....s.s.1.1.2.3. / h.h.h.h.........'
const SIXES = 'k.......k... / ......s..... / h.h.h.h.h.h.'
const groove = (bars: number): string[] =>
  Array.from({ length: bars }, (_, bar) => (bar === 0 ? SWING_CRASH : bar === bars - 1 ? FILL : SWING))

const VERSE = ['G', 'Em7', 'C', 'D7', 'G', 'Em7', 'Am7', 'D7']
const CHORUS = ['C', 'G/B', 'Am7', 'G', 'C', 'G/B', 'D7sus4', 'D7']
const VERSE_LEAD =
  'B4:1.5 D5:.5 B4:1 G4:1 | E4:.5 G4:.5 B4:1 A4:2 | G4:1 E4:.5 G4:.5 C5:1 B4:1 | A4:3 r:1 | ' +
  'B4:1.5 D5:.5 G5:1 E5:1 | D5:.5 B4:.5 G4:1 B4:2 | A4:1 C5:.5 B4:.5 A4:1 G4:1 | F#4:3 r:1'
const CHORUS_LEAD =
  'E5:2 G5:1 E5:1 | D5:3 B4:1 | C5:1 E5:1 D5:.5 C5:.5 A4:1 | B4:3 r:1 | E5:2 G5:1 A5:1 | ' +
  'B5:2 G5:2 | A5:1 G5:1 E5:1 D5:1 | F#5:3 r:1'
const SIX_LEAD =
  'E5:1.5 D5:.5 C5:1 | B4:3 | C5:1.5 B4:.5 A4:1 | G4:3 | E5:1.5 G5:.5 E5:1 | D5:3 | C5:1 B4:1 A4:1 | D5:3'

export const ninthPlatform: SongPlan = {
  id: 'ninth-platform',
  title: 'Ninth Platform',
  artist: 'Brass Heron Club',
  key: { tonic: 'G', mode: 'major' },
  tempo: 106,
  drift: 0.014,
  leadInSeconds: 0.4,
  swing: { ratio: 0.64, level: 'eighths' },
  seed: 97,
  tuningSemitones: 0,
  tapeCents: 8,
  voiceProgram: 22,
  sections: [
    { id: 'intro', kind: 'intro', name: 'Intro', bars: 4, chords: ['G', 'Em7', 'C', 'D7'], drums: groove(4) },
    {
      id: 'verse1',
      kind: 'verse',
      name: 'Verse 1',
      bars: 8,
      chords: VERSE,
      drums: groove(8),
      voice: VERSE_LEAD,
    },
    {
      id: 'chorus1',
      kind: 'chorus',
      name: 'Chorus 1',
      bars: 8,
      chords: CHORUS,
      drums: [...Array.from({ length: 7 }, () => SHUFFLE), FILL],
      voice: CHORUS_LEAD,
    },
    {
      id: 'verse2',
      kind: 'verse',
      name: 'Verse 2',
      bars: 8,
      chords: VERSE,
      drums: groove(8),
      voice: VERSE_LEAD,
      returns: 'verse1',
    },
    {
      id: 'chorus2',
      kind: 'chorus',
      name: 'Chorus 2',
      bars: 8,
      chords: CHORUS,
      drums: [...Array.from({ length: 7 }, () => SHUFFLE), FILL],
      voice: CHORUS_LEAD,
      returns: 'chorus1',
    },
    {
      id: 'break',
      kind: 'interlude',
      name: 'Break in six',
      bars: 8,
      meter: SIX,
      tempo: 72,
      chords: ['C', 'G', 'Am', 'G', 'C', 'G', 'Am', 'D'],
      drums: Array.from({ length: 8 }, () => SIXES),
      voice: SIX_LEAD,
    },
    {
      id: 'chorus3',
      kind: 'chorus',
      name: 'Chorus 3',
      bars: 8,
      chords: CHORUS,
      drums: [...Array.from({ length: 7 }, () => SHUFFLE), FILL],
      voice: CHORUS_LEAD,
      returns: 'chorus1',
    },
    {
      id: 'outro',
      kind: 'outro',
      name: 'Outro',
      bars: 4,
      chords: ['G', 'Em7', 'C', 'G'],
      drums: [SWING_CRASH, SWING, SWING, 'k............... / ................ / c...............'],
    },
  ],
  parts: [
    { id: 'g1', name: 'Guitar 1', instrumentKind: 'guitar-6', role: 'rhythm', pan: -0.5, sound: 'driven' },
    { id: 'g2', name: 'Guitar 2', instrumentKind: 'guitar-6', role: 'rhythm', pan: 0.5, sound: 'steel' },
    { id: 'b', name: 'Bass', instrumentKind: 'bass-4', role: 'bass', pan: 0, sound: 'finger bass' },
  ],
  figures: [
    {
      id: 'stab',
      part: 'g1',
      name: 'Stabs',
      bars: 4,
      content: content({
        grips: grips('320003:8 020000:8 x32010:8 xx0212:8'),
        strokes: hand('x.d.x.du | x.d.x.du | x.d.x.du | x.d.x.du'),
      }),
    },
    {
      id: 'stab2',
      part: 'g1',
      name: 'Stabs, second half',
      bars: 4,
      content: content({
        grips: grips('320003:8 020000:8 x02010:8 xx0212:8'),
        strokes: hand('x.d.x.du | x.d.x.du | x.d.x.du | x.d.D.D.'),
      }),
    },
    {
      id: 'wide',
      part: 'g1',
      name: 'Chorus wide',
      bars: 8,
      content: content({
        grips: grips('x32010:8 x20033:8 x02010:8 320003:8 x32010:8 x20033:8 xx0213:8 xx0212:8'),
        strokes: hand(repeat('D.du.udu', 8)),
      }),
    },
    {
      id: 'roll',
      part: 'g1',
      name: 'Six roll',
      bars: 8,
      meter: SIX,
      content: content({
        grips: grips('x32010:6 320003:6 x02210:6 320003:6 x32010:6 320003:6 x02210:6 xx0232:6'),
        strokes: hand('543231 643231 543231 643231 543231 643231 543231 432321'),
        mutes: letRing(8 * barTicks(SIX)),
      }),
    },
    {
      id: 'strum',
      part: 'g2',
      name: 'Porch strum',
      bars: 4,
      content: content({
        grips: grips('320003:8 020000:8 x32010:8 xx0212:8'),
        strokes: hand(repeat('d.du.udu', 4)),
      }),
    },
    {
      id: 'strum2',
      part: 'g2',
      name: 'Porch strum, second half',
      bars: 4,
      content: content({
        grips: grips('320003:8 020000:8 x02010:8 xx0212:8'),
        strokes: hand(repeat('d.du.udu', 4)),
      }),
    },
    {
      id: 'strumc',
      part: 'g2',
      name: 'Chorus strum',
      bars: 8,
      content: content({
        grips: grips('x32010:8 x20033:8 x02010:8 320003:8 x32010:8 x20033:8 xx0213:8 xx0212:8'),
        strokes: hand(repeat('d.dudud.', 8)),
      }),
    },
    {
      id: 'six',
      part: 'g2',
      name: 'Six strum',
      bars: 8,
      meter: SIX,
      content: content({
        grips: grips('x32010:6 320003:6 x02210:6 320003:6 x32010:6 320003:6 x02210:6 xx0232:6'),
        strokes: hand(repeat('d..d.u', 8)),
      }),
    },
    {
      id: 'end',
      part: 'g2',
      name: 'End',
      bars: 4,
      content: content({
        grips: grips('320003:8 020000:8 x32010:8 320003:8'),
        strokes: hand('d.du.udu d.du.udu d.du.udu D.......'),
      }),
    },
    {
      id: 'walk',
      part: 'b',
      name: 'Walk',
      bars: 4,
      content: content({
        notes: line(
          '4/3:2 4/3:1 3/2:1 3/5:2 3/2:2 | 4/0:2 4/0:1 4/3:1 3/2:2 4/2:2 | ' +
            '3/3:2 3/3:1 3/2:1 3/0:2 3/2:2 | 3/5:2 3/5:1 3/0:1 4/2:2 3/4:2',
        ),
      }),
    },
    {
      id: 'walk2',
      part: 'b',
      name: 'Walk, second half',
      bars: 4,
      content: content({
        notes: line(
          '4/3:2 4/3:1 3/2:1 3/5:2 3/2:2 | 4/0:2 4/0:1 4/3:1 3/2:2 4/2:2 | ' +
            '3/0:2 3/0:1 3/3:1 3/2:2 3/0:2 | 3/5:2 3/5:1 3/0:1 4/2:2 3/5:2',
        ),
      }),
    },
    {
      id: 'walkc',
      part: 'b',
      name: 'Chorus walk',
      bars: 8,
      content: content({
        notes: line(
          '3/3:3 3/3 3/5:2 3/3:2 | 3/2:3 3/2 2/0:2 3/2:2 | 3/0:3 3/0 3/3:2 3/2:2 | ' +
            '4/3:3 4/3 3/2:2 3/0:2 | 3/3:3 3/3 3/5:2 3/3:2 | 3/2:3 3/2 2/0:2 3/2:2 | ' +
            '3/5:3 3/5 3/0:2 3/5:2 | 3/5:3 3/5 4/2:2 3/4:2',
        ),
      }),
    },
    {
      id: 'sixb',
      part: 'b',
      name: 'Six roots',
      bars: 8,
      meter: SIX,
      content: content({
        notes: line(
          '3/3:3 3/3:3 | 4/3:3 4/3:3 | 3/0:3 3/0:3 | 4/3:3 4/3:3 | 3/3:3 3/3:3 | 4/3:3 4/3:3 | ' +
            '3/0:3 3/0:3 | 3/5:3 3/5:3',
        ),
      }),
    },
    {
      id: 'endb',
      part: 'b',
      name: 'End',
      bars: 4,
      content: content({ notes: line('4/3:4 4/3:4 | 4/0:4 4/0:4 | 3/3:4 3/3:4 | 4/3:8') }),
    },
  ],
  places: [
    ['stab', 'intro', 0, 1],
    ['strum', 'intro', 0, 1],
    ['walk', 'intro', 0, 1],
    ...['verse1', 'verse2'].flatMap((at): SongPlan['places'] => [
      ['stab', at, 0, 1],
      ['stab2', at, 4, 1],
      ['strum', at, 0, 1],
      ['strum2', at, 4, 1],
      ['walk', at, 0, 1],
      ['walk2', at, 4, 1],
    ]),
    ...['chorus1', 'chorus2', 'chorus3'].flatMap((at): SongPlan['places'] => [
      ['wide', at, 0, 1],
      ['strumc', at, 0, 1],
      ['walkc', at, 0, 1],
    ]),
    ['roll', 'break', 0, 1],
    ['six', 'break', 0, 1],
    ['sixb', 'break', 0, 1],
    ['end', 'outro', 0, 1],
    ['endb', 'outro', 0, 1],
  ],
  rests: [],
}
