// Songs as dense and as ugly as records: walls of doubled guitars through amplifiers, double kick and blast
// beats, riffs on one root, low tunings, a click or a band that drifts, half bars, fades, limiting, coding.
// It changes a song composed by rule; nothing of any real record is in it.
import { countedBeats } from '../../core/time/meter'
import { drawFigure } from './figure'
import type { EvaluationSong, Master, Passage, Player, SongPassage } from './spec'

/** Voices of sixteen sixteenths (see spec.ts). */
const DENSE = [
  'kkkkkkkkkkkkkkkk / ....s.......s... / r...r...r...r...',
  'k.kkk.kkk.kkk.kk / ....s.......s... / c...c...c...c...',
  'kk.kkk.kkk.kkk.k / ....s.......s... / o...o...o...o...',
  'kkkkkkkkkkkkkkkk / ........s....... / c...c...c...c...',
  'k.k.k.k.k.k.k.k. / .s.s.s.s.s.s.s.s / r.r.r.r.r.r.r.r.',
  'kkkkkkkkkkkkkkkk / ..s...s...s...s. / c...c...c...c...',
  'k...k...k...k... / ..s...s...s...s. / r.r.r.r.r.r.r.r.',
  'k..k..k..k..k... / ........s....... / c...c...c...c...',
  'k.....k.k.k..... / ........s....... / o...o...o...o...',
  'k.k...k.k.k...k. / ....s.......s... / o.o.o.o.o.o.o.o.',
  'k...k.k.k...k.k. / ....s.......s... / c...c...c...c...',
  'k..k..k...k.k... / ....s.....s..... / h.h.h.h.h.h.h.h.',
  'k.....k.k....... / ..s...s.....s... / r.r.r.r.r.r.r.r.',
  'k..kk..k..kkk... / ....s.......s... / c...r...r...r...',
] as const
const DENSE_SIX = [
  'k.k.k.k.k.k. / ......s..... / c.....c.....',
  'kkkkkkkkkkkk / ......s..... / c.....c.....',
  'k...k.k...k. / ......s..... / r.r.r.r.r.r.',
] as const
const FILLS = [
  'k.k.k.k.k.k.k.k. / ....s...s1s12233 / c...............',
  'kkkkkkkkkkkkkkkk / s...s...ssss1123 / c...............',
  'k.......k....... / ........ssssssss / c.......c.......',
] as const
/** Lowest strings: as built, and down by a tone to a fifth. */
const LOWEST = [40, 40, 38, 38, 36, 35, 33]

type Draw = ReturnType<typeof drawing>
function drawing(random: () => number) {
  return {
    random,
    chance: (share: number): boolean => random() < share,
    pick: <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!,
    between: (from: number, to: number): number => from + (to - from) * random(),
  }
}

/** One guitar played twice, left and right, and the rest of the band behind it. */
function wall(passage: Passage, draw: Draw, drive: number): Player[] {
  const figure = draw.chance(0.5)
  const pan = draw.between(0.75, 1)
  const guitar: Player = {
    sound: 'clean',
    style: figure ? 'figure' : draw.pick(['chug', 'power', 'strum', 'chug']),
    pan,
    gain: draw.between(0.55, 0.95),
    amplifier: drive,
    ...(figure ? { pattern: drawFigure(draw.random, countedBeats(passage.meter) === 2 ? 12 : 16) } : {}),
  }
  const doubled = [guitar, { ...guitar, pan: -pan, amplifier: drive * draw.between(0.8, 1.2) }]
  const behind = passage.players.filter(
    (player) => player.sound.includes('bass') || player.style === 'melody' || player.style === 'twins',
  )
  const low = behind.map((player): Player => {
    if (!player.sound.includes('bass')) return player
    // The bass goes with the guitars, or beats eighths under them.
    return { ...player, style: figure && draw.chance(0.7) ? 'figure' : 'pulse', pattern: guitar.pattern }
  })
  return [...doubled, ...low.map((player) => ({ ...player, gain: player.gain * draw.between(0.6, 1) }))]
}

const inFour = ({ meter }: Passage): boolean => meter.unit === 4 && meter.beats === 4

function grooveOf(passage: Passage, draw: Draw): string {
  if (passage.meter.unit === 8) return draw.pick(DENSE_SIX)
  return inFour(passage) ? draw.pick(DENSE) : passage.drums
}

function dense(passage: Passage, draw: Draw, drive: number): Passage {
  if (passage.free || !passage.players.length) return passage
  const groove = grooveOf(passage, draw)
  const onOneRoot = draw.chance(0.3)
  return {
    ...passage,
    drums: passage.drums && draw.chance(0.85) ? groove : passage.drums,
    fill: inFour(passage) && passage.fill ? draw.pick(FILLS) : passage.fill,
    players: wall(passage, draw, drive),
    changes: onOneRoot
      ? [{ beat: 0, chord: { root: draw.pick([0, 0, 0, 5]), quality: '5' as const } }]
      : passage.changes,
  }
}

/** A bar of two put in before some passage. */
function withHalfBar(passages: SongPassage[], draw: Draw): SongPassage[] {
  const at = 1 + Math.floor(draw.random() * (passages.length - 1))
  const before = passages[at - 1]!
  if (before.passage.free || !inFour(before.passage)) return passages
  const last = before.passage.changes.at(-1)!
  const half: Passage = {
    ...before.passage,
    bars: 1,
    meter: { beats: 2, unit: 4 },
    changes: [{ beat: 0, chord: last.chord }],
    drums: 'k...k... / ....s.ss / c.......',
    fill: '',
  }
  return [
    ...passages.slice(0, at),
    { passage: half, shift: before.shift, joined: true },
    ...passages.slice(at),
  ]
}

const mastered = (draw: Draw): Master => ({
  level: draw.between(0.16, 0.3),
  drive: draw.between(1.2, 4),
  fadeInSeconds: draw.chance(0.15) ? draw.between(2, 8) : 0,
  fadeOutSeconds: draw.chance(0.35) ? draw.between(5, 15) : 0,
  coding: draw.pick([0, 64, 96, 128, 192]),
  hiss: draw.chance(0.3) ? draw.between(0.001, 0.01) : 0,
})

/** The song as a band of loud guitars records it, or (one in three) only played to a click and mastered. */
export function asRecord(song: EvaluationSong, random: () => number): EvaluationSong {
  const draw = drawing(random)
  const loud = draw.chance(0.68)
  const drive = draw.between(6, 60)
  const changed = new Map<Passage, Passage>()
  const passages = song.passages.map((entry) => {
    if (!changed.has(entry.passage))
      changed.set(entry.passage, loud ? dense(entry.passage, draw, drive) : entry.passage)
    return { ...entry, passage: changed.get(entry.passage)! }
  })
  const steady = draw.chance(0.65)
  const compound = song.passages.at(-1)!.passage.meter.unit === 8
  return {
    ...song,
    tempo: loud && !compound ? Math.round(draw.between(85, 215)) : song.tempo,
    drift: steady ? 0 : song.drift,
    lowest: loud ? draw.pick(LOWEST) : 40,
    master: mastered(draw),
    passages: (draw.chance(0.35) ? withHalfBar(passages, draw) : passages).map((entry) =>
      steady ? { ...entry, passage: { ...entry.passage, tempoFactor: 1 } } : entry,
    ),
  }
}
