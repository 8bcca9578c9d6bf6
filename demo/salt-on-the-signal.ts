// "Salt on the Signal" by Quillmark Ferry: invented for Synchorda. Written by shape in E minor; the band
// sounds a half step lower, the tape 14 cents flat.
import { barTicks } from '../core/time/meter'
import { called, content, EIGHTH, grips, hand, letRing, line, repeat, restartIds } from './chart-text'
import type { FigurePlan, PlacePlan, SongPlan } from './score'

restartIds()
const THREE = { beats: 3, unit: 4 } as const
const BAR = barTicks({ beats: 4, unit: 4 })

// Kick k, snare s, hat h, open hat o, crash c, ride r, toms 1 2 3, stick t; sixteen steps a bar, voices
// split by "/".
const GROOVE = 'k.....k.k....... / ....s.......s... / h.h.h.h.h.h.h.h.'
const GROOVE_CRASH = 'k.....k.k....... / ....s.......s... / c.h.h.h.h.h.h.h.'
const DRIVE = 'k...k.k.k.k..... / ....s.......s... / r...r...r...r...'
const DRIVE_CRASH = 'k...k.k.k.k..... / ....s.......s... / c...r...r...r...'
const LIFT = 'k.k.k.k.k.k.k.k. / ....s.......s.ss / h.h.h.h.h.h.o...'
const FILL = 'k.....k.k....... / ....s...ss.s1.22 / h.h.h.h.......3.'
const THREES = 'k.......k... / ....s....... / r...r...r...'
const THREES_CRASH = 'k.......k... / ........s... / c...r...r...'
const groove = (bars: number, first: string, rest: string, last = FILL): string[] =>
  Array.from({ length: bars }, (_, bar) => (bar === 0 ? first : bar === bars - 1 ? last : rest))

const VERSE = ['Em', 'Em', 'C', '^D']
const CHORUS = ['G', '^D/F#', '^Em', '^C', 'G', '^D/F#', '^Am7', 'C>D']

const VERSE_VOICE =
  'r:1 B4:1 B4:.5 D5:.5 B4:1 | A4:.5 G4:1.5 r:2 | r:1 G4:1 A4:.5 G4:.5 E4:1 | F#4:2.5 r:1.5 | ' +
  'r:1 B4:1 D5:.5 E5:.5 D5:1 | B4:.5 A4:1.5 r:2 | C5:1 B4:.5 A4:1 G4:1.5 | A4:3 r:1'
const PRE_VOICE = 'A4:2 C5:1 B4:1 | A4:1.5 G4:2.5 | E5:2 D5:1 C5:1 | D#5:3 r:1'
const CHORUS_VOICE =
  'D5:1.5 B4:1 D5:1.5 | F#5:2 E5:.5 D5:1.5 | E5:1.5 D5:.5 B4:2 | C5:1 D5:1 E5:2 | ' +
  'D5:1.5 B4:1 D5:1.5 | A5:1.5 F#5:.5 D5:2 | E5:1 G5:1 E5:1 C5:1 | E5:2 F#5:2'

const power = { E: '022xxx', C: 'x355xx', D: 'x577xx', G: '355xxx', A: 'x022xx', Fs: '244xxx', B: 'x244xx' }

// Guitar 1, driven, left.
const CHUG = called(
  `hold ${power.E} for 16, hold ${power.C} for 7, hold ${power.D} for 9
  down accent palm firm, down palm firm, three times, down accent palm firm, down palm firm, two dead
  down accent palm firm, down palm firm, three times, down accent palm firm, down palm firm, down accent, down
  down accent palm firm, down palm firm, three times, \
down accent palm firm, down palm firm, dead, down accent for 2
  down palm firm, three times, down accent palm firm, down palm firm, two dead`,
  { school: 'all down' },
)
const guitar1: FigurePlan[] = [
  {
    id: 'verse-chug',
    part: 'g1',
    name: 'Verse chug',
    bars: 4,
    school: 'all down',
    note: 'Hand heavy on the bridge; the two dead strokes are counted like notes.',
    content: CHUG,
    eased: called(
      `hold ${power.E} for 16, hold ${power.C} for 7, hold ${power.D} for 9
    down accent palm firm, down palm firm, seven times, twice
    down accent palm firm, down palm firm, six times, down accent for 2, down palm firm, seven times`,
      { school: 'all down' },
    ),
  },
  // The fourth time the last bar runs into what follows.
  {
    id: 'verse-chug-fill',
    part: 'g1',
    name: 'Verse chug, with the run',
    bars: 4,
    varies: 'verse-chug',
    school: 'all down',
    content: {
      ...CHUG,
      strokes: CHUG.strokes.filter((stroke) => stroke.startTicks < 3 * BAR + 5 * EIGHTH),
      notes: called('at bar 4 on the and of 3, A 5 pull 3, low E 5').notes,
    },
  },
  {
    id: 'pickup',
    part: 'g1',
    name: 'Pickup run',
    bars: 0.5,
    content: content({ notes: line('6/0 6/2h 6/3 5/2') }),
  },
  {
    id: 'lift',
    part: 'g1',
    school: 'all down',
    name: 'Lift',
    bars: 4,
    content: content({
      grips: grips(`${power.A}:16 ${power.C}:8 x2424x:8`),
      strokes: hand('nnnnnnnn | nnnnnnnn | D...D... | D.......'),
    }),
  },
  {
    id: 'chorus-push',
    part: 'g1',
    school: 'pendulum',
    name: 'Chorus push',
    bars: 4,
    content: content({
      grips: grips(`${power.G}:7 ${power.D}:8 ${power.E}:8 ${power.C}:9`),
      strokes: hand('D.du.udU | ..du.udU | ..du.udU | ..du.uxy'),
    }),
  },
  {
    id: 'chorus-end',
    part: 'g1',
    school: 'pendulum',
    varies: 'chorus-push',
    name: 'Chorus push, second ending',
    bars: 4,
    content: content({
      grips: grips(`${power.G}:7 ${power.D}:8 ${power.A}:9 ${power.C}:4 ${power.D}:4`),
      strokes: hand('D.du.udU | ..du.udU | ..du.ud. | D.duD.du'),
    }),
  },
  {
    id: 'chorus-last',
    part: 'g1',
    school: 'pendulum',
    varies: 'chorus-push',
    name: 'Last chorus, changed end',
    bars: 4,
    content: content({
      grips: grips(`${power.G}:7 ${power.D}:8 ${power.A}:9 ${power.C}:8`),
      strokes: hand('D.du.udU | ..du.udU | ..du.ud. | D.D.D.D.'),
    }),
  },
  {
    id: 'three-step',
    part: 'g1',
    school: 'all down',
    name: 'Three-step',
    bars: 4,
    meter: THREE,
    content: content({
      grips: grips(`${power.E}:6 x554xx:6 ${power.C}:6 ${power.A}:6`),
      strokes: hand('Mmmmxx | Mmmmxx | Mmmmxx | MmmmDm'),
    }),
  },
  {
    id: 'solo-bed',
    part: 'g1',
    school: 'all down',
    name: 'Solo bed',
    bars: 4,
    content: content({
      grips: grips(`${power.E}:8 ${power.C}:8 ${power.G}:8 ${power.D}:8`),
      strokes: hand('MmmmMmmm | MmmmMmmm | MmmmMmmm | MmmmMmDm'),
    }),
  },
  {
    id: 'sway',
    part: 'g1',
    school: 'pendulum',
    name: 'Two-chord sway',
    bars: 2,
    content: content({ grips: grips(`${power.E}:8 ${power.C}:8`), strokes: hand('D..uD.du | D..uD.xy') }),
  },
  {
    id: 'last-hit',
    part: 'g1',
    name: 'Last hit',
    bars: 2,
    content: content({ grips: grips(`${power.E}:16`), strokes: hand('D............... ') }),
  },
  {
    id: 'intro-riff',
    part: 'g1',
    name: 'Intro riff',
    bars: 2,
    content: content({
      notes: line('6/0m 6/0m 5/2 6/0m 5/4 5/2p 6/3 6/0m | 6/0m 6/0m 5/2 6/0m 4/2 5/4 5/2 r'),
    }),
  },
]
// Guitar 2, clean arpeggios right; lead in the solo.
const guitar2: FigurePlan[] = [
  {
    id: 'free-opening',
    part: 'g2',
    freeTime: true,
    name: 'Free opening',
    bars: 4,
    content: content({
      grips: grips('022000:8 x32010:8 320003:8 xx0232:8'),
      strokes: hand('6.43212. | 5.43212. | 6.43212. | 4.321...'),
      mutes: letRing(4 * BAR),
    }),
  },
  {
    id: 'rain',
    part: 'g2',
    pattern: 'rain-picking',
    name: 'Rain arpeggio',
    bars: 4,
    content: content({
      grips: grips('022000:16 x32010:7 xx0232:9'),
      strokes: hand('64321234 | 64321232 | 54321234 | 43212321'),
      mutes: letRing(4 * BAR),
    }),
  },
  {
    id: 'rain-pre',
    part: 'g2',
    name: 'Lift arpeggio',
    bars: 4,
    content: content({
      grips: grips('x02010:16 x32030:8 x21202:8'),
      strokes: hand('54321234 | 54321232 | 54321234 | 5432123.'),
      mutes: letRing(4 * BAR),
    }),
  },
  {
    id: 'octaves',
    part: 'g2',
    name: 'Octave answer',
    bars: 4,
    content: content({
      notes: line(
        'r:4 5/10+3/12:2 5/9+3/11:1 5/5+3/7:1 | r:4 5/9+3/11:2 5/5+3/7:2 | ' +
          'r:4 5/7+3/9:2 5/5+3/7:2 | r:4 5/3+3/5:2 5/5+3/7:2',
      ),
    }),
  },
  {
    id: 'bridge-ring',
    part: 'g2',
    name: 'Bridge ring',
    bars: 4,
    meter: THREE,
    content: content({
      grips: grips('022000:6 xx0000:6 x32010:6 x02210:6'),
      strokes: hand('6.3.1. | 4.3.1. | 5.3.1. | 5.3.1.'),
      mutes: letRing(4 * BAR * 0.75),
    }),
  },
  {
    id: 'solo-lead',
    part: 'g2',
    name: 'Twin solo',
    bars: 8,
    school: 'alternate',
    content: called(`B 12 for 2, 15 bend 2 for 2, release, 15 12, high E 12
    15 for 2, 12, B 15, 13 for 2, 12 for 2
    B 15 pull 12, G 14 for 2, 12 hammer 14, B 12 for 2
    15 vibrato for 4, slide 14 vibrato for 4
    B 12 for 2, 15 bend 2 for 2, release, 15 12, high E 12
    15 hammer 17 pull 15, 12, B 13 for 2, 12 for 2
    G 12 hammer 14, B 12 15, high E 12 15 14 12
    14 for 3, 15 bend 2 wide vibrato for 5`),
  },
  {
    id: 'outro-run',
    part: 'g2',
    name: 'Outro run',
    bars: 2,
    content: called(`in triplets, B 12 15 high E 12, 15 12 B 15, 12 G 14 12, B 12 G 14 12
    in eighths, G 14 for 2, 12 pull 9, D 12 vibrato for 4`),
  },
  {
    id: 'outro-lead',
    part: 'g2',
    name: 'Outro figure',
    bars: 2,
    content: content({ notes: line('2/12:3 2/10:3 3/11:2 | 3/12:3 3/9:3 4/10:2') }),
  },
]
const guitar3: FigurePlan[] = [
  {
    id: 'solo-third',
    part: 'g3',
    name: 'Twin solo, third below',
    bars: 8,
    note: 'A diatonic third below; on the long note of bar 4 it stays on the fifth of D instead.',
    content: content({}),
    follows: {
      figureId: 'solo-lead',
      interval: -3,
      kind: 'diatonic',
      exceptions: [{ startTicks: 3 * BAR, semitones: -5, why: 'stays on A, the fifth of D' }],
    },
  },
]
const acoustic: FigurePlan[] = [
  {
    id: 'open-strum',
    part: 'ac',
    school: 'pendulum',
    pattern: 'sway-hand',
    name: 'Open strum',
    bars: 4,
    content: content({
      grips: grips('022000:16 x32010:7 xx0232:9'),
      strokes: hand('d.du.udu | d.du.udu | d.du.udU | ..du.udu'),
    }),
  },
  {
    id: 'half-strum',
    part: 'ac',
    school: 'pendulum',
    name: 'Half strum',
    bars: 4,
    meter: THREE,
    content: content({
      grips: grips('022000:6 xx0000:6 x32010:6 x02210:6'),
      strokes: hand('d.d.du | d.d.du | d.d.du | d.d.du'),
    }),
  },
  {
    id: 'sway-strum',
    part: 'ac',
    school: 'pendulum',
    pattern: 'sway-hand',
    name: 'Sway strum',
    bars: 2,
    content: content({ grips: grips('022000:8 x32030:8'), strokes: hand('d.du.udu | d.du.udu') }),
  },
]
const bass: FigurePlan[] = [
  {
    id: 'intro-bass',
    part: 'b',
    name: 'Intro pedal',
    bars: 2,
    content: content({ notes: line(`${repeat('4/0', 7)} 4/3 | ${repeat('4/0', 6)} 3/2 4/3`) }),
  },
  {
    id: 'root-eighths',
    part: 'b',
    name: 'Root eighths',
    bars: 4,
    content: content({
      notes: line(
        `${repeat('4/0', 7)} 4/3 | ${repeat('4/0', 6)} 3/0 3/2 | ${repeat('3/3', 7)} 3/5 | ` +
          `${repeat('3/5', 6)} 3/4 4/2`,
      ),
    }),
  },
  {
    id: 'lift-walk',
    part: 'b',
    name: 'Lift walk',
    bars: 4,
    content: content({
      notes: line(
        `${repeat('3/0:2', 3)} 3/2:2 | ${repeat('3/0:2', 3)} 3/2:2 | ${repeat('3/3', 8)} | ` +
          `${repeat('3/2', 6)} 3/4 3/6`,
      ),
    }),
  },
  {
    id: 'chorus-roots',
    part: 'b',
    name: 'Chorus roots',
    bars: 4,
    content: content({
      notes: line(
        `${repeat('4/3', 7)} 4/2 | ${repeat('4/2', 7)} 4/0 | ${repeat('4/0', 7)} 3/3 | ` +
          `${repeat('3/3', 6)} 3/2 3/0`,
      ),
    }),
  },
  {
    id: 'chorus-roots-end',
    part: 'b',
    name: 'Chorus roots, second ending',
    bars: 4,
    content: content({
      notes: line(
        `${repeat('4/3', 7)} 4/2 | ${repeat('4/2', 7)} 3/0 | ${repeat('3/0', 8)} | ` +
          `${repeat('3/3', 4)} ${repeat('3/5', 4)}`,
      ),
    }),
  },
  {
    id: 'pedal-three',
    part: 'b',
    name: 'Pedal in threes',
    bars: 4,
    meter: THREE,
    content: content({ notes: line('4/0:4 4/0:2 | 3/5:4 3/5:2 | 3/3:4 3/3:2 | 3/0:4 3/2:2') }),
  },
  {
    id: 'solo-roots',
    part: 'b',
    name: 'Solo roots',
    bars: 4,
    content: content({
      notes: line(`${repeat('4/0', 8)} | ${repeat('3/3', 8)} | ${repeat('4/3', 8)} | ${repeat('3/5', 8)}`),
    }),
  },
  {
    id: 'sway-roots',
    part: 'b',
    name: 'Sway roots',
    bars: 2,
    content: content({ notes: line('4/0:3 4/0:3 3/2:2 | 3/3:3 3/3:3 3/2:2') }),
  },
  { id: 'bass-hit', part: 'b', name: 'Last hit', bars: 2, content: content({ notes: line('4/0:16') }) },
]

const chorusAt = (section: string, frets = 0, last = 'chorus-end'): PlacePlan[] => [
  ['chorus-push', section, 0, 1, { frets }],
  [last, section, 4, 1, { frets }],
  ['octaves', section, 0, 2, { frets }],
  ['chorus-roots', section, 0, 1, { frets }],
  ['chorus-roots-end', section, 4, 1, { frets }],
]

export const saltOnTheSignal: SongPlan = {
  id: 'salt-on-the-signal',
  title: 'Salt on the Signal',
  artist: 'Quillmark Ferry',
  key: { tonic: 'E', mode: 'minor' },
  tempo: 118,
  drift: 0.016,
  leadInSeconds: 0.62,
  seed: 41,
  tuningSemitones: -1,
  tapeCents: -14,
  voiceProgram: 53,
  sections: [
    {
      id: 'opening',
      kind: 'intro',
      name: 'Opening',
      bars: 4,
      free: [3.4, 3.1, 3.7, 2.9],
      chords: ['Em', 'C', 'G', 'D'],
      drums: [],
    },
    {
      id: 'intro',
      kind: 'intro',
      name: 'Intro',
      bars: 4,
      chords: ['E5', 'E5', 'E5', 'E5'],
      drums: groove(4, GROOVE_CRASH, GROOVE),
    },
    {
      id: 'verse1',
      kind: 'verse',
      name: 'Verse 1',
      bars: 16,
      chords: [...VERSE, ...VERSE, ...VERSE, ...VERSE],
      drums: groove(16, GROOVE_CRASH, GROOVE),
      voice: `${VERSE_VOICE} | ${VERSE_VOICE}`,
    },
    {
      id: 'pre1',
      kind: 'pre-chorus',
      name: 'Pre-chorus 1',
      bars: 4,
      chords: ['Am7', 'Am7', 'Cadd9', 'B7'],
      drums: groove(4, LIFT, LIFT),
      voice: PRE_VOICE,
    },
    {
      id: 'chorus1',
      kind: 'chorus',
      name: 'Chorus 1',
      bars: 8,
      tempo: 119.5,
      chords: CHORUS,
      drums: groove(8, DRIVE_CRASH, DRIVE),
      voice: CHORUS_VOICE,
    },
    {
      id: 'verse2',
      kind: 'verse',
      name: 'Verse 2',
      bars: 8,
      chords: [...VERSE, ...VERSE],
      drums: groove(8, GROOVE_CRASH, GROOVE),
      voice: VERSE_VOICE,
      returns: 'verse1',
    },
    {
      id: 'pre2',
      kind: 'pre-chorus',
      name: 'Pre-chorus 2',
      bars: 4,
      chords: ['Am7', 'Am7', 'Cadd9', 'B7'],
      drums: groove(4, LIFT, LIFT),
      voice: PRE_VOICE,
      returns: 'pre1',
    },
    {
      id: 'chorus2',
      kind: 'chorus',
      name: 'Chorus 2',
      bars: 8,
      tempo: 119.5,
      chords: CHORUS,
      drums: groove(8, DRIVE_CRASH, DRIVE),
      voice: CHORUS_VOICE,
      returns: 'chorus1',
    },
    {
      id: 'bridge',
      kind: 'bridge',
      name: 'Bridge',
      bars: 8,
      meter: THREE,
      tempo: 116,
      chords: ['Em', 'Em7/D', 'C', 'Am', 'Em', 'Em7/D', 'C', 'Am'],
      drums: Array.from({ length: 8 }, (_, bar) => (bar % 4 === 0 ? THREES_CRASH : THREES)),
    },
    {
      id: 'solo',
      kind: 'solo',
      name: 'Solo',
      bars: 8,
      chords: ['Em', 'C', 'G', 'D', 'Em', 'C', 'G', 'D'],
      drums: groove(8, DRIVE_CRASH, DRIVE),
    },
    {
      id: 'chorus3',
      kind: 'chorus',
      name: 'Chorus 3',
      bars: 8,
      tempo: 120,
      key: { tonic: 'F#', mode: 'minor' },
      chords: ['A', '^E/G#', '^F#m', '^D', 'A', '^E/G#', '^Bm7', 'D'],
      drums: groove(8, DRIVE_CRASH, DRIVE),
      voice: CHORUS_VOICE,
      returns: 'chorus1',
      shift: 2,
    },
    {
      id: 'outro',
      kind: 'outro',
      name: 'Outro',
      bars: 16,
      passes: 8,
      chords: Array.from({ length: 8 }, () => ['Em', 'Cadd9']).flat(),
      drums: groove(16, DRIVE_CRASH, GROOVE),
    },
    {
      id: 'tag',
      kind: 'stop',
      name: 'Stop',
      bars: 2,
      chords: ['Em', 'Em'],
      drums: ['k............... / ................ / c...............'],
    },
  ],
  parts: [
    {
      id: 'g1',
      name: 'Guitar 1',
      instrumentKind: 'guitar-6',
      role: 'rhythm',
      pan: -0.65,
      sound: 'distorted',
      rig: { pickup: 'bridge', gain: 'full', strike: 'pick', effects: [] },
    },
    {
      id: 'g2',
      name: 'Guitar 2',
      instrumentKind: 'guitar-6',
      role: 'lead',
      pan: 0.6,
      sound: 'clean',
      rig: {
        pickup: 'neck and middle',
        gain: 'edge of breakup',
        strike: 'pick',
        effects: [
          {
            id: 'delay',
            kind: 'delay',
            words: '',
            knobs: [{ name: 'mix', clock: 9.5 }],
            delayTicks: 7560,
            repeats: 1,
          },
        ],
      },
    },
    { id: 'g3', name: 'Guitar 3', instrumentKind: 'guitar-6', role: 'lead', pan: -0.4, sound: 'driven' },
    { id: 'ac', name: 'Acoustic', instrumentKind: 'guitar-6', role: 'acoustic', pan: 0.25, sound: 'steel' },
    { id: 'b', name: 'Bass', instrumentKind: 'bass-4', role: 'bass', pan: 0, sound: 'finger bass' },
  ],
  figures: [...guitar1, ...guitar2, ...guitar3, ...acoustic, ...bass],
  places: [
    ['free-opening', 'opening', 0, 1],
    ['intro-riff', 'intro', 0, 2],
    ['intro-bass', 'intro', 0, 2],
    ['pickup', 'verse1', 0, 1, { beat: -2 }],
    ['verse-chug', 'verse1', 0, 4, { other: [{ pass: 4, figure: 'verse-chug-fill' }] }],
    ['rain', 'verse1', 0, 4],
    ['root-eighths', 'verse1', 0, 4],
    ['lift', 'pre1', 0, 1],
    ['rain-pre', 'pre1', 0, 1],
    ['lift-walk', 'pre1', 0, 1],
    ...chorusAt('chorus1'),
    ['verse-chug', 'verse2', 0, 2],
    ['rain', 'verse2', 0, 2],
    ['open-strum', 'verse2', 0, 2],
    ['root-eighths', 'verse2', 0, 2],
    ['lift', 'pre2', 0, 1],
    ['rain-pre', 'pre2', 0, 1],
    ['lift-walk', 'pre2', 0, 1],
    ...chorusAt('chorus2'),
    ['three-step', 'bridge', 0, 2],
    ['bridge-ring', 'bridge', 0, 2],
    ['half-strum', 'bridge', 0, 2],
    ['pedal-three', 'bridge', 0, 2],
    ['solo-bed', 'solo', 0, 2],
    ['solo-lead', 'solo', 0, 1],
    ['solo-third', 'solo', 0, 1],
    ['solo-roots', 'solo', 0, 2],
    ...chorusAt('chorus3', 2, 'chorus-last'),
    ['sway', 'outro', 0, 8],
    ['outro-lead', 'outro', 0, 7],
    ['outro-run', 'outro', 14, 1],
    ['sway-strum', 'outro', 0, 8],
    ['sway-roots', 'outro', 0, 8],
    ['last-hit', 'tag', 0, 1],
    ['bass-hit', 'tag', 0, 1],
  ],
  patterns: [
    { id: 'rain-picking', name: 'Rain picking', from: 'rain', bars: 4 },
    { id: 'sway-hand', name: 'Sway', from: 'open-strum', bars: 1 },
  ],
  doubts: [
    {
      id: 'seventh-or-ninth',
      place: { partId: 'g2', sectionId: 'pre1', startTicks: 3 * BAR, lengthTicks: BAR },
      question: 'The last chord of the pre-chorus: a plain dominant seventh, or is there a ninth in it?',
      status: 'open',
      readings: [
        { id: 'seventh', text: 'B7', claim: { kind: 'chord', symbol: 'Bb7' }, evidence: [] },
        {
          id: 'ninth',
          text: 'B9: a C♯ on top',
          claim: { kind: 'chord', symbol: 'Bb9' },
          evidence: [],
        },
      ],
    },
    {
      id: 'picked-or-pulled',
      place: { partId: 'g2', sectionId: 'solo', startTicks: 2 * BAR, lengthTicks: BAR / 4 },
      question: 'Third bar of the solo, 15 to 12 on the B string: picked or pulled?',
      status: 'open',
      readings: [
        {
          id: 'pulled',
          text: 'pulled off',
          claim: { kind: 'attack', midi: 70, picked: false },
          evidence: [],
        },
        {
          id: 'picked',
          text: 'picked both times',
          claim: { kind: 'attack', midi: 70, picked: true },
          evidence: [],
        },
      ],
    },
  ],
  spots: [
    {
      id: 'outro-end',
      place: { partId: 'g2', sectionId: 'outro', startTicks: 14 * BAR, lengthTicks: 2 * BAR },
      text: 'The run in the last two bars of the outro goes by too fast: slow it down and chart it.',
      done: false,
    },
    {
      id: 'palm',
      place: { partId: 'g1', sectionId: 'verse1', startTicks: 0 },
      text: 'The side of the hand lies on the bridge all the time: the two dead strokes are no slip.',
      done: false,
      kind: 'remark',
      reader: 'student',
      onSheet: true,
    },
  ],
  rests: [
    ['g1', 'opening'],
    ['b', 'opening'],
    ['ac', 'opening'],
    ['ac', 'intro'],
    ['ac', 'verse1'],
    ['ac', 'pre1'],
    ['ac', 'chorus1'],
    ['ac', 'pre2'],
    ['ac', 'chorus2'],
    ['ac', 'solo'],
    ['ac', 'chorus3'],
    ['ac', 'tag'],
    ['g2', 'intro'],
    ['g2', 'tag'],
    ...[
      'opening',
      'intro',
      'verse1',
      'pre1',
      'chorus1',
      'verse2',
      'pre2',
      'chorus2',
      'bridge',
      'chorus3',
      'outro',
      'tag',
    ].map((section): [string, string] => ['g3', section]),
  ],
}

/** Left open on purpose: nobody has worked out the run at the very end of the outro yet. */
export const NOT_SHIPPED = new Set(['outro-run'])
