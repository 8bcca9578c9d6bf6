// An evaluation song as a band plays it: beats with human drift, sounding events per stem, and the truth.
import { countedBeats, isCompound } from '../../core/time/meter'
import type { SoundingEvent } from '../../core/score/sounding-event'
import { nameAtFifths } from '../../core/music/pitch'
import type { Stem } from '../perform-band'
import { seededRandom } from '../random'
import { strokesOf } from './figure'
import { STACKS, type Change, type ChordSpec, type EvaluationSong, type Passage, type Player } from './spec'

export interface Truth {
  title: string
  beats: number[]
  downbeats: number[]
  tempo: number
  key: { tonic: string; mode: 'major' | 'minor' }
  tuningCents: number
  chords: { start: number; end: number; label: string }[]
  sections: { start: number; end: number; label: string }[]
  swing: number
  meters: string[]
}
interface Placed {
  passage: Passage
  shift: number
  ending: string | undefined
  joined: boolean
  beats: number[]
  end: number
}

const PROGRAM = { keys: 4, voice: 65 } as const
const DRUM: Record<string, [number, number]> = {
  k: [36, 0.95],
  s: [38, 0.9],
  h: [42, 0.5],
  o: [46, 0.55],
  c: [49, 0.85],
  r: [51, 0.5],
  t: [37, 0.4],
  '1': [48, 0.8],
  '2': [45, 0.8],
  '3': [41, 0.85],
}
const NAMES = Array.from({ length: 12 }, (_, pitchClass) => nameAtFifths(((pitchClass * 7 + 4) % 12) - 4))
const base = {
  curve: [],
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none' as const,
  releaseSeconds: 0.09,
}

/** How much of the room is heard with a player: an amplifier is recorded close. */
function roomOf({ sound, amplifier }: Player): number {
  if (sound === 'voice') return 0.3
  return amplifier ? 0.03 : 0.12
}

/** Beat times: slow wander around each passage's tempo. A free passage has one entry a bar, unevenly long. */
function layOut(song: EvaluationSong, random: () => number): Placed[] {
  let at = song.leadInSeconds
  let wander = 0
  return song.passages.map(({ passage, shift, ending, joined }) => {
    const beats: number[] = []
    const perBar = passage.free ? 1 : countedBeats(passage.meter)
    for (let beat = 0; beat < passage.bars * perBar; beat++) {
      beats.push(at)
      wander = wander * 0.95 + (random() - 0.5) * song.drift * 0.6
      const held = ending === 'held' && beat === passage.bars * perBar - 1 ? 1.5 : 1
      at += passage.free
        ? 2.4 + random() * 1.6
        : (60 / (song.tempo * (passage.tempoFactor ?? 1))) *
          (1 + Math.max(-song.drift, Math.min(song.drift, wander))) *
          held
    }
    return { passage, shift, ending, joined: joined ?? false, beats, end: at }
  })
}

export function performSong(song: EvaluationSong): { stems: Stem[]; truth: Truth; endSeconds: number } {
  const random = seededRandom(song.seed + 77)
  const gauss = (): number => (random() + random() + random() + random() - 2) * 0.85
  const placed = layOut(song, random)
  const stems = new Map<string, Stem>()
  const late = new Map<string, number>()
  const add = (
    player: Player,
    name: string,
    event: Omit<SoundingEvent, keyof typeof base | 'sound'> & Partial<SoundingEvent>,
  ): void => {
    if (!stems.has(name)) {
      stems.set(name, {
        name,
        pan: player.pan,
        gain: player.gain,
        room: roomOf(player),
        events: [],
        ...(player.amplifier ? { amplifier: player.amplifier } : {}),
      })
      late.set(name, gauss() * 0.003)
    }
    const shift = gauss() * 0.005 + late.get(name)!
    const guest = player.sound === 'keys' || player.sound === 'voice'
    stems.get(name)!.events.push({
      ...base,
      sound: guest ? 'guest' : (player.sound as 'steel'),
      ...(guest ? { program: player.program ?? PROGRAM[player.sound as 'keys'] } : {}),
      ...event,
      startSeconds: Math.max(0, event.startSeconds + shift),
      endSeconds: event.endSeconds + shift,
      midi: event.midi + song.tapeCents / 100,
      loudness: Math.max(0.1, Math.min(1, event.loudness * (1 + 0.08 * gauss()))),
    })
  }
  const chords: Truth['chords'] = []
  for (const place of placed) playPassage(song, place, { add, random, chords, stems })
  const last = placed.at(-1)!
  const joined: Truth['chords'] = []
  for (const chord of chords.sort((a, b) => a.start - b.start)) {
    const before = joined.at(-1)
    if (before) before.end = chord.start
    if (before && before.label === chord.label) before.end = chord.end
    else if (!before || chord.start - before.start > 1e-6) joined.push({ ...chord })
    else joined[joined.length - 1] = { ...chord }
  }
  if (joined.length) joined.at(-1)!.end = last.end
  const beats = placed.flatMap((place) => (place.passage.free ? [] : place.beats))
  const gaps = beats
    .slice(1)
    .map((beat, index) => beat - beats[index]!)
    .sort((a, b) => a - b)
  const round = (value: number): number => Math.round(value * 1e4) / 1e4
  return {
    stems: [...stems.values()],
    endSeconds: last.end,
    truth: {
      title: song.name,
      beats: beats.map(round),
      downbeats: placed
        .flatMap((place) =>
          place.passage.free
            ? []
            : place.beats.filter((_, index) => index % countedBeats(place.passage.meter) === 0),
        )
        .map(round),
      tempo: round(60 / gaps[gaps.length >> 1]!),
      key: { tonic: NAMES[song.tonic]!, mode: song.mode },
      tuningCents: song.tapeCents,
      swing: song.swing,
      meters: placed.map(({ passage }) => `${passage.meter.beats}/${passage.meter.unit}`),
      chords: joined.map((chord) => ({
        start: round(chord.start),
        end: round(chord.end),
        label: chord.label,
      })),
      sections: placed.flatMap((place, index) =>
        place.joined
          ? []
          : [
              {
                start: round(place.beats[0]!),
                end: round(placed[index + 1]?.joined ? placed[index + 1]!.end : place.end),
                label: place.passage.label,
              },
            ],
      ),
    },
  }
}

interface Stage {
  add: (
    player: Player,
    name: string,
    event: Omit<SoundingEvent, keyof typeof base | 'sound'> & Partial<SoundingEvent>,
  ) => void
  random: () => number
  chords: Truth['chords']
  stems: Map<string, Stem>
}

function playPassage(song: EvaluationSong, place: Placed, stage: Stage): void {
  const { passage } = place
  const { random, add } = stage
  const perBar = passage.free ? 1 : countedBeats(passage.meter)
  const barBeats = countedBeats(passage.meter)
  const compound = isCompound(passage.meter)
  const total = passage.bars * barBeats
  const times = [...place.beats, place.end]
  /** Seconds of a place in counted beats, swung. */
  const seconds = (beat: number): number => {
    const scaled = passage.free ? beat / barBeats : beat
    const whole = Math.max(0, Math.min(times.length - 2, Math.floor(scaled)))
    let share = scaled - whole
    if (!compound && song.swing !== 0.5 && share > 0 && share < 1)
      share = share < 0.5 ? share * 2 * song.swing : song.swing + (share - 0.5) * 2 * (1 - song.swing)
    return times[whole]! + share * (times[whole + 1]! - times[whole]!)
  }
  // A stop bar: everyone hits its first beat and waits.
  const silentFrom =
    place.ending === 'stop'
      ? total - barBeats + 0.4
      : place.ending === 'held'
        ? total - barBeats + 0.1
        : Number.POSITIVE_INFINITY
  const tutti = passage.players.some(
    (player) =>
      ![
        'chug',
        'power',
        'figure',
        'roots',
        'pulse',
        'fifths',
        'walk',
        'melody',
        'twins',
        'riff',
        'voice',
      ].includes(player.style) && player.sound !== 'voice',
  )
  const heard = (chord: ChordSpec): ChordSpec =>
    tutti ||
    passage.players.every((player) => ['roots', 'pulse', 'fifths', 'walk', 'melody'].includes(player.style))
      ? chord
      : { ...chord, quality: '5' }
  const spans = passage.changes
    .map((change: Change, index) => ({
      chord: change.chord && heard(change.chord),
      from: change.beat,
      to: passage.changes[index + 1]?.beat ?? total,
    }))
    .filter((span) => span.to > span.from)
  const absolute = (pitchClass: number): number => (((pitchClass + song.tonic + place.shift) % 12) + 12) % 12
  for (const { chord, from, to } of spans) {
    const label = chord
      ? `${NAMES[absolute(chord.root)]}:${chord.quality}` +
        (chord.bass !== undefined && chord.bass !== chord.root ? `/${NAMES[absolute(chord.bass)]}` : '')
      : 'N'
    stage.chords.push({
      start: seconds(Math.max(0, from)) - (from < 0 ? -from * (times[1]! - times[0]!) : 0),
      end: seconds(to),
      label,
    })
  }
  passage.players.forEach((player, seat) => {
    for (const span of spans)
      if (span.chord)
        playSpan(
          song,
          player,
          `${player.sound}-${player.style}-${seat}`,
          {
            chord: span.chord,
            from: span.from,
            to: Math.min(span.to, Math.max(span.from + 0.4, silentFrom)),
            rings: span.to,
          },
          { seconds, absolute, random, add, barBeats, compound },
        )
  })
  if (passage.drums) drums(passage, perBar, { seconds, random, stems: stage.stems, compound, silentFrom })
}

interface Hand {
  seconds: (beat: number) => number
  absolute: (pitchClass: number) => number
  random: () => number
  add: Stage['add']
  barBeats: number
  compound: boolean
}
interface Span {
  chord: ChordSpec
  from: number
  to: number
  rings: number
}

function playSpan(song: EvaluationSong, player: Player, name: string, span: Span, hand: Hand): void {
  const { chord, from, to } = span
  const { seconds, absolute, random, add } = hand
  const root = absolute(chord.root)
  const bassClass = absolute(chord.bass ?? chord.root)
  const lowest = song.lowest ?? 40
  const low = lowest + ((root - lowest + 120) % 12)
  const sub = hand.compound ? 1 / 3 : 0.5
  const steps = Math.max(1, Math.round((to - from) / sub))
  const note = (
    midi: number,
    start: number,
    length: number,
    loudness: number,
    extra: Partial<SoundingEvent> = {},
  ): void => {
    if (length > 0.01)
      add(player, name, {
        string: 1,
        startSeconds: seconds(start),
        endSeconds: seconds(Math.min(start + length, span.rings)) - 0.01,
        midi,
        loudness,
        ...extra,
      })
  }
  const chordHit = (
    midis: number[],
    start: number,
    length: number,
    loudness: number,
    extra: Partial<SoundingEvent> = {},
    spread = 0.012,
  ): void =>
    midis.forEach((midi, index) => {
      const late = index * spread * (0.6 + random() * 0.6)
      add(player, name, {
        string: index + 1,
        startSeconds: seconds(start) + late,
        endSeconds: seconds(Math.min(start + length, span.rings)) - 0.02 + late,
        midi,
        loudness: loudness * (1 - 0.04 * index),
        ...extra,
      })
    })
  const stack = STACKS[chord.quality].stack.map((semitones) => low + semitones).filter((midi) => midi <= 79)
  const shaped =
    chord.bass !== undefined && chord.bass !== chord.root && random() < 0.6
      ? [stack[0]! - 12 + ((bassClass - root + 12) % 12), ...stack.slice(1)].map((midi) =>
          midi < 40 ? midi + 12 : midi,
        )
      : stack
  const highTones = STACKS[chord.quality].tones
    .map((semitones) => 55 + ((root + semitones - 7 + 24) % 12))
    .sort((a, b) => a - b)
  const power = [low, low + (chord.quality === 'dim' ? 6 : chord.quality === 'aug' ? 8 : 7), low + 12]
  const bassNote = lowest - 12 + ((bassClass - lowest + 120) % 12)
  const bassRoot = lowest - 12 + ((root - lowest + 120) % 12)
  const at = (step: number): number => from + step * sub
  switch (player.style) {
    case 'strum':
      for (let step = 0; step < steps; step++)
        if (
          step === 0 ||
          (player.pattern ? player.pattern[step % 8] === 'x' : [0, 2, 3, 5, 6, 7].includes(step % 8))
        )
          chordHit(
            step % 2 ? shaped.slice(-4) : shaped,
            at(step),
            sub * 1.6,
            step % 4 === 0 ? 0.75 : 0.55,
            {},
            step % 2 ? 0.006 : 0.011,
          )
      break
    case 'chug':
      for (let step = 0; step < steps; step++)
        chordHit(
          power,
          at(step),
          sub,
          step % 4 === 0 ? 0.85 : 0.65,
          step % 4 === 3 && random() < 0.3 ? {} : { palmMute: 'firm' },
          0.003,
        )
      break
    case 'power':
      for (let step = 0; step < steps; step += 4) chordHit(power, at(step), sub * 4, 0.8, {}, 0.006)
      break
    case 'sustain':
      for (let step = 0; step < steps; step += hand.barBeats * 2)
        chordHit([...highTones], at(step), sub * hand.barBeats * 2, 0.55, {}, 0.004)
      break
    case 'stabs':
      for (let step = 0; step < steps; step++)
        if (step === 0 || (player.pattern ? player.pattern[step % 8] === 'x' : [0, 3, 6].includes(step % 8)))
          chordHit(shaped.slice(-4), at(step), sub * 0.8, 0.75, {}, 0.005)
      break
    case 'offbeats':
      for (let step = 0; step < steps; step++)
        if (step % 2 === 1 || steps === 1) chordHit(shaped.slice(-3), at(step), sub * 0.7, 0.7, {}, 0.005)
      break
    case 'arpeggio': {
      const order = [shaped[0]!, ...highTones, ...highTones.slice(1, -1).reverse()]
      for (let step = 0; step < steps; step++)
        note(order[step % order.length]!, at(step), Math.min(to - at(step), sub * 4), 0.6, {
          string: (step % order.length) + 1,
        })
      break
    }
    case 'figure': {
      const sixteenth = sub / 2
      const bass = player.sound.includes('bass')
      for (const stroke of strokesOf(player.pattern!, Math.round((to - from) / sixteenth))) {
        const start = from + stroke.step * sixteenth
        const midis = bass ? [bassNote + stroke.semitones] : power.map((midi) => midi + stroke.semitones)
        chordHit(
          stroke.muted ? midis.slice(0, 2) : midis,
          start,
          stroke.length * sixteenth,
          stroke.step % 4 === 0 ? 0.85 : 0.7,
          stroke.muted && !bass ? { palmMute: 'firm' } : {},
          0.003,
        )
      }
      break
    }
    case 'roots':
      for (let step = 0; step < steps; step += 2) note(bassNote, at(step), sub * 1.9, 0.8)
      break
    case 'pulse':
      for (let step = 0; step < steps; step++)
        if (step === 0 || !player.pattern || player.pattern[step % 8] === 'x')
          note(bassNote, at(step), sub * 0.95, step % 2 ? 0.65 : 0.8)
      break
    case 'fifths':
      for (let step = 0; step < steps; step += 2)
        note(
          step % 4 === 2
            ? bassRoot + (chord.quality === 'dim' ? 6 : chord.quality === 'aug' ? 8 : 7)
            : bassNote,
          at(step),
          sub * 1.8,
          0.8,
        )
      break
    case 'walk': {
      const tones = STACKS[chord.quality].tones
      for (let step = 0; step < steps; step += 2) {
        const turn = step / 2
        note(
          turn === 0
            ? bassNote
            : turn === Math.ceil(steps / 2) - 1 && steps > 2
              ? bassNote + (random() < 0.5 ? -1 : 2)
              : bassRoot + tones[turn % tones.length]!,
          at(step),
          sub * 1.8,
          0.78,
        )
      }
      break
    }
    case 'riff': {
      const scale = song.mode === 'major' ? [0, 2, 4, 7, 9] : [0, 3, 5, 7, 10]
      for (let step = 0; step < steps; step++)
        note(
          step % 4 === 0 ? low : 52 + ((hand.absolute(scale[Math.floor(random() * 5)]!) - 4 + 12) % 12),
          at(step),
          sub,
          0.65,
          step % 2 ? {} : { palmMute: 'medium' },
        )
      break
    }
    case 'melody':
    case 'twins':
      melody(song, player, span, { ...hand, note, steps, sub })
      break
  }
}

/**
 * A line over the chord: chord tones on the beats, scale tones between, now and then a rest; twins add the
 * diatonic third below.
 */
function melody(
  song: EvaluationSong,
  player: Player,
  span: Span,
  hand: Hand & {
    note: (
      midi: number,
      start: number,
      length: number,
      loudness: number,
      extra?: Partial<SoundingEvent>,
    ) => void
    steps: number
    sub: number
  },
): void {
  const scale = (song.mode === 'major' ? [0, 2, 4, 5, 7, 9, 11] : [0, 2, 3, 5, 7, 8, 10])
    .map(hand.absolute)
    .sort((a, b) => a - b)
  const tones = STACKS[span.chord.quality].tones.map(
    (semitones) => (hand.absolute(span.chord.root) + semitones) % 12,
  )
  const floor = player.sound === 'voice' ? 57 : 64
  let step = 0
  while (step < hand.steps) {
    const length = Math.min(hand.steps - step, hand.random() < 0.35 ? 1 : hand.random() < 0.6 ? 2 : 3)
    const onBeat = step % 2 === 0
    const pool = onBeat ? tones : scale
    const pitchClass = pool[Math.floor(hand.random() * pool.length)]!
    if (hand.random() > 0.22) {
      const midi = floor + ((pitchClass - floor + 120) % 12)
      hand.note(midi, span.from + step * hand.sub, length * hand.sub * 0.95, 0.75, {
        vibrato: length > 1 ? 'narrow' : 'none',
        ...(hand.random() < 0.15
          ? {
              curve: [
                { seconds: 0, semitones: -0.6 },
                { seconds: 0.07, semitones: 0 },
              ],
            }
          : {}),
      })
      if (player.style === 'twins') {
        const degree = scale.indexOf(pitchClass)
        const below = scale[(degree + 5) % 7] ?? pitchClass
        hand.note(
          midi - ((pitchClass - below + 12) % 12),
          span.from + step * hand.sub,
          length * hand.sub * 0.95,
          0.7,
          { string: 2 },
        )
      }
    }
    step += length
  }
}

function drums(
  passage: Passage,
  perBar: number,
  stage: {
    seconds: (beat: number) => number
    random: () => number
    stems: Map<string, Stem>
    compound: boolean
    silentFrom: number
  },
): void {
  if (!stage.stems.has('drums'))
    stage.stems.set('drums', { name: 'drums', pan: 0, gain: 0.9, room: 0.08, events: [] })
  const stepBeats = stage.compound ? 1 / 6 : 0.25
  for (let bar = 0; bar < passage.bars; bar++) {
    let pattern = bar === passage.bars - 1 && passage.fill ? passage.fill : passage.drums
    if (bar === 0) pattern = pattern.replace(/[hr]/, 'c')
    for (const voice of pattern.split('/'))
      [...voice.trim()].forEach((mark, step) => {
        const drum = DRUM[mark]
        const beat = bar * perBar + step * stepBeats
        if (!drum || beat > stage.silentFrom) return
        const startSeconds = Math.max(0, stage.seconds(beat) + (stage.random() - 0.5) * 0.008)
        stage.stems.get('drums')!.events.push({
          ...base,
          string: drum[0],
          startSeconds,
          endSeconds: startSeconds + 1.2,
          midi: drum[0],
          loudness: drum[1] * (0.88 + 0.2 * stage.random()) * (step % 4 ? 0.85 : 1),
          sound: 'drums',
        })
      })
  }
}
