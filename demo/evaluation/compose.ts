// Songs for the evaluation, composed by rule from a seed and a wish list: what the analysis meets in rock
// and pop, and nothing of the demo songs.
import { countedBeats, type Meter } from '../../core/time/meter'
import { seededRandom } from '../random'
import { asRecord } from './record'
import type { Change, ChordSpec, EvaluationSong, Passage, Player, Quality, Style } from './spec'

/** What a song is asked to contain; everything else is left to its seed. */
export interface Wish {
  name: string
  seed: number
  tempo?: number
  mode?: 'major' | 'minor'
  tonic?: number
  tapeCents?: number
  meter?: '4/4' | '3/4' | '6/8'
  swing?: number
  power?: boolean
  halfTime?: boolean
  doubleTime?: boolean
  anticipations?: boolean
  keyUp?: boolean
  rubatoOpening?: boolean
  drumlessVerse?: boolean
  threeBridge?: boolean
  rich?: boolean
  twins?: boolean
  stops?: boolean
  jump?: boolean
  pickup?: boolean
  /** Progressions drawn chord by chord from the key, or stock ones begun on another chord. */
  loose?: boolean
  /** Grooves, instruments and playing beyond the stock. */
  varied?: boolean
  /** As dense and as ugly as a record. */
  record?: boolean
}

const FOUR: Meter = { beats: 4, unit: 4 }
const THREE: Meter = { beats: 3, unit: 4 }
const SIX: Meter = { beats: 6, unit: 8 }

// Degrees in semitones above the tonic with the plain quality.
const MAJOR: [number, Quality][][] = [
  [
    [0, 'maj'],
    [7, 'maj'],
    [9, 'min'],
    [5, 'maj'],
  ],
  [
    [9, 'min'],
    [5, 'maj'],
    [0, 'maj'],
    [7, 'maj'],
  ],
  [
    [0, 'maj'],
    [5, 'maj'],
    [7, 'maj'],
    [5, 'maj'],
  ],
  [
    [0, 'maj'],
    [9, 'min'],
    [2, 'min'],
    [7, 'maj'],
  ],
  [
    [0, 'maj'],
    [10, 'maj'],
    [5, 'maj'],
    [0, 'maj'],
  ],
  [
    [0, 'maj'],
    [4, 'min'],
    [5, 'maj'],
    [7, 'maj'],
  ],
  [
    [2, 'min'],
    [5, 'maj'],
    [0, 'maj'],
    [7, 'maj'],
  ],
  [
    [0, 'maj'],
    [0, 'maj'],
    [5, 'maj'],
    [0, 'maj'],
    [7, 'maj'],
    [5, 'maj'],
    [0, 'maj'],
    [7, 'maj'],
  ],
  [
    [5, 'maj'],
    [7, 'maj'],
    [4, 'min'],
    [9, 'min'],
  ],
  [
    [0, 'maj'],
    [5, 'maj'],
    [9, 'min'],
    [7, 'maj'],
  ],
]
const MINOR: [number, Quality][][] = [
  [
    [0, 'min'],
    [8, 'maj'],
    [3, 'maj'],
    [10, 'maj'],
  ],
  [
    [0, 'min'],
    [5, 'min'],
    [7, 'min'],
    [0, 'min'],
  ],
  [
    [0, 'min'],
    [10, 'maj'],
    [8, 'maj'],
    [10, 'maj'],
  ],
  [
    [0, 'min'],
    [10, 'maj'],
    [8, 'maj'],
    [7, 'maj'],
  ],
  [
    [0, 'min'],
    [3, 'maj'],
    [10, 'maj'],
    [5, 'maj'],
  ],
  [
    [8, 'maj'],
    [10, 'maj'],
    [0, 'min'],
    [0, 'min'],
  ],
  [
    [0, 'min'],
    [0, 'min'],
    [8, 'maj'],
    [10, 'maj'],
  ],
  [
    [5, 'min'],
    [8, 'maj'],
    [0, 'min'],
    [7, 'maj'],
  ],
  [
    [0, 'min'],
    [7, 'min'],
    [8, 'maj'],
    [5, 'min'],
  ],
]
/** The chords of a key, the common ones more often. */
const HOME_MAJOR: [number, Quality][] = [
  [0, 'maj'],
  [0, 'maj'],
  [0, 'maj'],
  [5, 'maj'],
  [5, 'maj'],
  [7, 'maj'],
  [7, 'maj'],
  [9, 'min'],
  [9, 'min'],
  [2, 'min'],
  [4, 'min'],
  [10, 'maj'],
]
const HOME_MINOR: [number, Quality][] = [
  [0, 'min'],
  [0, 'min'],
  [0, 'min'],
  [3, 'maj'],
  [5, 'min'],
  [5, 'maj'],
  [7, 'min'],
  [7, 'maj'],
  [8, 'maj'],
  [8, 'maj'],
  [10, 'maj'],
  [10, 'maj'],
]
const DRESSED: Partial<Record<Quality, Quality[]>> = {
  maj: ['maj', 'maj', '7', 'maj7', 'add9', 'sus4', 'sus2', '6', '9', '7sus4'],
  min: ['min', 'min', 'min7', 'min7', 'min9'],
}

const GROOVES: Record<string, { drums: string[]; fill: string }> = {
  straight: {
    drums: [
      'k.......k....... / ....s.......s... / h.h.h.h.h.h.h.h.',
      'k.....k.k....... / ....s.......s... / h.h.h.h.h.h.h.h.',
      'k.....k...k..... / ....s.......s..s / h.h.h.h.h.h.h.o.',
      'k..k..k.k.....k. / ....s.......s... / hhhhhhhhhhhhhhhh',
    ],
    fill: 'k.....k.k....... / ....s...ss.s1.22 / h.h.h.h.......3.',
  },
  ride: {
    drums: [
      'k...k.k.k.k..... / ....s.......s... / r...r...r...r...',
      'k.k.....k.k..... / ....s.......s... / r.r.r.r.r.r.r.r.',
    ],
    fill: 'k...k...k...k... / ....s.s.1.1.2.33 / c...............',
  },
  floor: {
    drums: [
      'k...k...k...k... / ....s.......s... / ..o...o...o...o.',
      'k...k...k...k... / ............s... / h.h.h.h.h.h.h.h.',
    ],
    fill: 'k...k...k...k... / ....s...s.s.ssss / h.h.h.h.........',
  },
  half: {
    drums: [
      'k............... / ........s....... / h...h...h...h...',
      'k.....k.......k. / ........s....... / h.h.h.h.h.h.h.h.',
    ],
    fill: 'k.......k....... / ........s.1.2.3. / h...h...........',
  },
  double: {
    drums: ['k...k...k...k... / ..s...s...s...s. / h.h.h.h.h.h.h.h.'],
    fill: 'k...k...k...k... / ..s...s.ssss1122 / h.h.h.h.........',
  },
  three: {
    drums: ['k........... / ....s...s... / h.h.h.h.h.h.', 'k.........k. / ....s...s... / r...r...r...'],
    fill: 'k........... / ....s.s.1.2. / h.h.h.......',
  },
  six: {
    drums: ['k........... / ......s..... / h.h.h.h.h.h.', 'k...k....... / ......s...s. / r.r.r.r.r.r.'],
    fill: 'k........... / ......s.1.2. / h.h.h.......',
  },
}

/**
 * A groove nobody wrote down: the back-beat of its kind, with kicks, ghost notes and time-keeping drawn by
 * chance.
 */
function ownGroove(random: () => number, kind: string, stockFill: string): { drums: string; fill: string } {
  const chance = (share: number): boolean => random() < share
  const steps = kind === 'three' || kind === 'six' ? 12 : 16
  const snares: Record<string, number[]> = {
    straight: [4, 12],
    ride: [4, 12],
    floor: [4, 12],
    half: [8],
    double: [2, 6, 10, 14],
    three: chance(0.5) ? [4, 8] : [8],
    six: [6],
  }
  const snare = snares[kind]!
  const busy = random() * 0.3
  const kick = Array.from({ length: steps }, (_, step) =>
    step === 0 ||
    (!snare.includes(step) && chance(step % 4 === 0 ? 0.35 + busy : step % 2 === 0 ? 0.12 + busy : 0.04))
      ? 'k'
      : '.',
  )
  const clap = Array.from({ length: steps }, (_, step) =>
    snare.includes(step) ? 's' : step % 2 && chance(0.06) ? 't' : '.',
  )
  const every =
    kind === 'six' || kind === 'three' ? (chance(0.7) ? 2 : 4) : chance(0.5) ? 2 : chance(0.6) ? 4 : 1
  const voice = chance(0.6) ? 'h' : chance(0.7) ? 'r' : 'o'
  const late = every === 2 && chance(0.12)
  const time = Array.from({ length: steps }, (_, step) =>
    late ? (step % 4 === 2 ? 'o' : '.') : step % every === 0 ? voice : '.',
  )
  const fill = chance(0.5)
    ? stockFill
    : [
        kick.map((mark, step) => (step < steps / 2 ? mark : '.')),
        clap.map((mark, step) =>
          step < steps / 2 ? mark : chance(0.5) ? ['s', '1', '2', '3'][Math.floor(random() * 4)]! : '.',
        ),
        time.map((mark, step) => (step < steps / 2 ? mark : '.')),
      ]
        .map((line) => line.join(''))
        .join(' / ')
  return {
    drums: [kick, clap, time].map((line) => line.join('')).join(' / '),
    fill: chance(0.15) ? '' : fill,
  }
}

export function compose(wish: Wish): EvaluationSong {
  const song = composed(wish)
  return wish.record ? asRecord(song, seededRandom(wish.seed + 31)) : song
}

function composed(wish: Wish): EvaluationSong {
  const random = seededRandom(wish.seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
  const chance = (share: number): boolean => random() < share
  const meter = wish.meter === '3/4' ? THREE : wish.meter === '6/8' ? SIX : FOUR
  const mode = wish.mode ?? (chance(0.5) ? 'major' : 'minor')
  const heavy = wish.power ?? chance(0.25)
  const beatsOf = (m: Meter): number => countedBeats(m)

  const dress = (chord: ChordSpec): ChordSpec => {
    if (!(wish.rich ?? false) && chance(0.82)) return chord
    const quality = pick(DRESSED[chord.quality] ?? [chord.quality])
    return {
      ...chord,
      quality: quality === '7' && chord.root === 0 && chance(0.7) ? 'maj7' : quality,
      ...((wish.rich || chance(0.3)) && quality === 'maj' && chance(0.35)
        ? { bass: (chord.root + pick([4, 4, 7])) % 12 }
        : {}),
    }
  }
  function changes(bars: number, m: Meter, plain: boolean): Change[] {
    const beats = beatsOf(m)
    const stock = pick(mode === 'major' ? MAJOR : MINOR)
    const turn = wish.loose && chance(0.35) ? Math.floor(random() * stock.length) : 0
    const degrees =
      wish.loose && chance(0.35)
        ? Array.from({ length: 4 }, () => pick(mode === 'major' ? HOME_MAJOR : HOME_MINOR))
        : [...stock.slice(turn), ...stock.slice(0, turn)]
    const progression = degrees.map(([root, quality]) => dress({ root, quality }))
    const barsEach = bars % (progression.length * 2) === 0 && chance(0.2) ? 2 : 1
    const list: Change[] = []
    const round = progression.map((_, index) =>
      wish.anticipations ? index > 0 && chance(0.6) : index > 0 && chance(0.12),
    )
    for (let bar = 0; bar < bars; bar += barsEach) {
      const index = (bar / barsEach) % progression.length
      const early = !plain && round[index]! && bar > 0 ? (m === SIX ? 1 / 3 : 0.5) : 0
      list.push({ beat: bar * beats - early, chord: progression[index] })
      if (barsEach === 1 && beats === 4 && index === progression.length - 1 && chance(0.3))
        list.push({
          beat: bar * beats + 2,
          chord: dress(
            pick([
              { root: 7, quality: 'maj' },
              { root: mode === 'major' ? 5 : 10, quality: 'maj' },
            ]),
          ),
        })
    }
    return list.filter(
      (change, index) =>
        index === 0 || JSON.stringify(change.chord) !== JSON.stringify(list[index - 1]!.chord),
    )
  }
  const bassOf = (): Player => ({
    sound: pick(['finger bass', 'pick bass']),
    style: pick<Style>(['roots', 'pulse', 'fifths', 'walk']),
    pan: 0,
    gain: 0.65,
  })
  const bass = bassOf()
  const vary = (player: Player): Player => {
    if (!wish.varied) return player
    const keys = chance(0.18) && player.sound !== 'voice'
    return {
      ...player,
      ...(keys
        ? { sound: 'keys' as const, program: pick([0, 1, 4, 5, 16, 18, 48, 50, 88, 90]) }
        : player.sound === 'voice'
          ? { program: pick([22, 52, 53, 56, 65, 66, 73, 80, 85]) }
          : {}),
      gain: player.gain * (0.7 + 0.7 * random()),
      pan: player.pan * (chance(0.25) ? -1 : 1) * (0.4 + random() * 0.9),
      ...(chance(0.35)
        ? {
            pattern: Array.from({ length: 8 }, (_, step) =>
              step === 0 || chance(step % 2 ? 0.5 : 0.65) ? 'x' : '.',
            ).join(''),
          }
        : {}),
    }
  }
  const chordSounds = heavy ? (['driven', 'distorted'] as const) : (['steel', 'clean', 'driven'] as const)
  const left: Player = {
    sound: pick(chordSounds),
    style: heavy ? pick<Style>(['chug', 'power']) : pick<Style>(['strum', 'strum', 'stabs']),
    pan: -0.55,
    gain: heavy ? 0.36 : 0.5,
  }
  const right: Player = {
    sound: heavy ? pick(['driven', 'clean']) : pick(['clean', 'steel', 'keys']),
    style: heavy
      ? pick<Style>(['power', 'arpeggio', 'strum'])
      : pick<Style>(['arpeggio', 'sustain', 'strum', 'offbeats']),
    pan: 0.55,
    gain: 0.42,
  }
  const voice: Player = { sound: 'voice', style: 'melody', pan: 0.05, gain: 0.45 }
  const lead: Player = {
    sound: heavy ? 'distorted' : 'driven',
    style: wish.twins ? 'twins' : 'melody',
    pan: 0.2,
    gain: 0.4,
  }
  const riff: Player = { sound: heavy ? 'distorted' : 'driven', style: 'riff', pan: -0.3, gain: 0.4 }
  const groove = (name: string): { drums: string; fill: string } => {
    const g = GROOVES[name]!
    return wish.varied && chance(0.65)
      ? ownGroove(random, name, g.fill)
      : { drums: pick(g.drums), fill: g.fill }
  }
  const main =
    meter === THREE
      ? 'three'
      : meter === SIX
        ? 'six'
        : wish.halfTime
          ? 'half'
          : wish.doubleTime
            ? 'double'
            : pick(['straight', 'straight', 'straight', 'ride', 'floor'])
  const lifted =
    meter !== FOUR || wish.halfTime || wish.doubleTime ? main : pick(['ride', 'straight', 'floor'])
  // The same player sounds the same in every passage.
  const seats = new Map<Player, Player>(
    [bass, left, right, voice, lead, riff].map((player) => [player, vary(player)]),
  )
  const passage = (
    label: string,
    bars: number,
    players: Player[],
    drums: { drums: string; fill: string },
    extra: Partial<Passage> = {},
  ): Passage => {
    const m = extra.meter ?? meter
    return {
      label,
      bars,
      meter: m,
      changes: changes(bars, m, Boolean(extra.free)),
      drums: drums.drums,
      fill: drums.fill,
      players: players.map((player) => seats.get(player) ?? player),
      ...extra,
    }
  }
  const silent = { drums: '', fill: '' }
  const verse = passage(
    'verse',
    pick([8, 8, 16]),
    chance(0.4) ? [bass, left, voice] : [bass, right, voice, ...(chance(0.5) ? [left] : [])],
    wish.drumlessVerse ? silent : groove(main),
  )
  const chorus = passage('chorus', 8, [bass, left, right, voice], groove(lifted))
  const pre = passage('pre', 4, [bass, left, right, voice], groove(main))
  const bridge = passage(
    'bridge',
    8,
    [bass, right, ...(chance(0.5) ? [voice] : [])],
    wish.threeBridge ? groove('three') : chance(0.3) && meter === FOUR ? groove('half') : groove(main),
    wish.threeBridge ? { meter: THREE } : {},
  )
  const solo = passage('solo', 8, [bass, left, lead], groove(lifted))
  const intro: Passage = wish.rubatoOpening
    ? passage('intro', 4, [{ ...right, style: 'arpeggio', sound: 'clean' }], silent, { free: true })
    : passage(
        'intro',
        pick([4, 4, 8]),
        chance(0.5) ? [bass, riff, left] : [bass, left],
        chance(0.25) ? silent : groove(main),
      )
  const outro = passage('outro', pick([4, 8]), [bass, left, right], groove(lifted))
  const short: Passage = {
    ...verse,
    bars: verse.bars === 16 ? 8 : verse.bars,
    changes: verse.changes.filter(
      (change) => change.beat < (verse.bars === 16 ? 8 : verse.bars) * beatsOf(meter) - 0.6,
    ),
  }
  const plain = (one: Passage, shift = 0, ending?: 'stop' | 'held' | 'cut') => ({
    passage: one,
    shift,
    ...(ending ? { ending } : {}),
  })
  const hasPre = chance(0.4)
  const stop = wish.stops ? ('stop' as const) : undefined
  const round = (v: Passage) => [
    plain(v, 0, hasPre ? undefined : stop),
    ...(hasPre ? [plain(pre)] : []),
    plain(chorus),
  ]
  const middle = chance(0.5) ? [plain(bridge)] : [plain(solo)]
  const passages = [
    plain(intro),
    ...round(verse),
    ...round(short),
    ...(wish.threeBridge ? [plain(bridge)] : middle),
    ...(wish.twins ? [plain(solo)] : []),
    plain(chorus, wish.keyUp ? 2 : 0),
    plain(outro, wish.keyUp ? 2 : 0, wish.stops ? 'held' : 'cut'),
  ]
  return {
    name: wish.name,
    seed: wish.seed,
    tempo: wish.tempo ?? Math.round(75 + random() * 85),
    drift: wish.jump ? 0.03 : 0.006 + random() * 0.014,
    swing: wish.swing ?? 0.5,
    tonic: wish.tonic ?? Math.floor(random() * 12),
    mode,
    tapeCents: wish.tapeCents ?? Math.round((random() - 0.5) * 60),
    leadInSeconds: wish.pickup ? 1.4 : 0.2 + random() * 0.8,
    passages: wish.jump
      ? passages.map((entry) =>
          entry.passage.label === 'chorus'
            ? { ...entry, passage: { ...entry.passage, tempoFactor: 1.04 } }
            : entry,
        )
      : passages,
  }
}

/** The songs that are measured: each wish is something real recordings do. */
export const WISHES: Wish[] = [
  { name: 'half-step-down', seed: 11, tempo: 122, tonic: 3, mode: 'minor', tapeCents: -14 },
  { name: 'tape-30-flat', seed: 12, tempo: 96, tapeCents: -30, mode: 'major' },
  { name: 'tape-30-sharp', seed: 13, tempo: 134, tapeCents: 30, rich: true },
  { name: 'dropped-riffs', seed: 14, tempo: 104, power: true, mode: 'minor', tonic: 2 },
  { name: 'dense-distortion', seed: 15, tempo: 152, power: true, twins: true },
  { name: 'shuffle', seed: 16, tempo: 118, swing: 0.66, mode: 'major' },
  { name: 'waltz', seed: 17, tempo: 108, meter: '3/4' },
  { name: 'six-eight', seed: 18, tempo: 62, meter: '6/8', mode: 'minor' },
  { name: 'three-bridge', seed: 19, tempo: 112, threeBridge: true },
  { name: 'rubato-opening', seed: 20, tempo: 88, rubatoOpening: true },
  { name: 'drumless-verse', seed: 21, tempo: 100, drumlessVerse: true, mode: 'major' },
  { name: 'anticipations', seed: 22, tempo: 128, anticipations: true, mode: 'major' },
  { name: 'key-up', seed: 23, tempo: 116, keyUp: true, mode: 'major' },
  { name: 'slow-60', seed: 24, tempo: 61, rich: true },
  { name: 'fast-186', seed: 25, tempo: 186 },
  { name: 'half-time', seed: 26, tempo: 140, halfTime: true, power: true },
  { name: 'sus-add-slash', seed: 27, tempo: 92, rich: true, mode: 'major' },
  { name: 'stops-and-holds', seed: 28, tempo: 126, stops: true, jump: true },
]
/** A wish drawn by a seed, for material that is used to fit the models and never to measure them. */
export function drawnWish(seed: number): Wish {
  const random = seededRandom(seed * 7919 + 5)
  const chance = (share: number): boolean => random() < share
  const meter = chance(0.12) ? '3/4' : chance(0.14) ? '6/8' : '4/4'
  return {
    name: `drawn-${seed}`,
    seed: 1000 + seed,
    meter,
    tempo: meter === '6/8' ? 48 + random() * 50 : Math.round(62 * 2 ** (random() * 1.6)),
    rich: chance(0.5),
    anticipations: chance(0.35),
    keyUp: chance(0.15),
    drumlessVerse: chance(0.15),
    rubatoOpening: chance(0.12),
    threeBridge: meter === '4/4' && chance(0.1),
    swing: meter === '4/4' && chance(0.18) ? 0.58 + random() * 0.1 : 0.5,
    halfTime: meter === '4/4' && chance(0.12),
    twins: chance(0.2),
    stops: chance(0.25),
    jump: chance(0.2),
    power: chance(0.3),
    varied: chance(0.8),
    loose: chance(0.5),
    doubleTime: meter === '4/4' && chance(0.05),
    pickup: chance(0.15),
  }
}
function recordMeter(draw: number): NonNullable<Wish['meter']> {
  if (draw < 0.2) return '6/8'
  return draw < 0.28 ? '3/4' : '4/4'
}

/** A wish for a song as dense as a record, with more bars of six eighths and of three than others have. */
export function drawnRecord(seed: number): Wish {
  const random = seededRandom(seed * 6271 + 3)
  const meter = recordMeter(random())
  return {
    ...drawnWish(seed),
    name: `record-${seed}`,
    meter,
    tempo: meter === '6/8' ? 44 + random() * 50 : Math.round(66 * 2 ** (random() * 1.5)),
    threeBridge: meter === '4/4' && random() < 0.15,
    swing: meter === '4/4' && random() < 0.15 ? 0.6 + random() * 0.07 : 0.5,
    varied: true,
    record: true,
  }
}

/** Songs as dense as records that are measured; seeds that nothing is fitted to. */
export const RECORD_WISHES: Wish[] = Array.from({ length: 20 }, (_, index) => drawnRecord(700 + index))
