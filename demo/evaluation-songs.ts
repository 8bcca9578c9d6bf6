// Other material for the evaluation: short songs from their own scores, rendered by the shipped bank with another mix, so that nothing is tuned to one song.
import { readFileSync } from 'node:fs'
import { openBank } from '../core/sound/bank'
import { content, grips, hand, line, repeat, restartIds } from './chart-text'
import { mix } from './mix'
import { performBand } from './perform-band'
import { buildScore, type SongPlan } from './score'

const BACKBEAT = 'k.......k....... / ....s.......s... / h.h.h.h.h.h.h.h.'
const SLOW = 'k.........k..... / ....s.......s... / r...r...r...r...'
const FAST = 'k...k...k...k... / ....s.......s... / h...h...h...h...'
const WALTZ = 'k........... / ....s...s... / r...r...r...'
const SPARSE = 'k............... / ........s....... / ................'

interface Variant { name: string; tempo: number; drums: string; three?: boolean; chords: string[]; tapeCents: number; down: number; drift: number; swing?: number }

const VARIANTS: Variant[] = [
  { name: 'straight-96', tempo: 96, drums: BACKBEAT, chords: ['Em', 'C', 'G', 'D'], tapeCents: 0, down: 0, drift: 0.01 },
  { name: 'slow-72', tempo: 72, drums: SLOW, chords: ['Em', 'Em', 'C', 'D'], tapeCents: -22, down: -2, drift: 0.02 },
  { name: 'fast-172', tempo: 172, drums: FAST, chords: ['Em', 'G', 'C', 'D'], tapeCents: 12, down: -1, drift: 0.012 },
  { name: 'waltz-112', tempo: 112, drums: WALTZ, three: true, chords: ['Em', 'C', 'G', 'D'], tapeCents: 0, down: 0, drift: 0.015 },
  { name: 'half-time-138', tempo: 138, drums: SPARSE, chords: ['Em', 'C', 'Em', 'D'], tapeCents: 30, down: -1, drift: 0.01 },
  { name: 'shuffle-124', tempo: 124, drums: BACKBEAT, chords: ['Em', 'D', 'C', 'D'], tapeCents: 0, down: 0, drift: 0.02, swing: 0.66 },
]
const SHAPES: Record<string, string> = { Em: '022000', C: 'x32010', G: '320003', D: 'xx0232' }
const ROOTS: Record<string, string> = { Em: '4/0', C: '3/3', G: '4/3', D: '3/5' }

function planOf(variant: Variant, seed: number): SongPlan {
  restartIds()
  const meter = variant.three ? { beats: 3, unit: 4 } as const : { beats: 4, unit: 4 } as const
  const eighths = meter.beats * 2
  const sections = ['a', 'b', 'c'].map((id, index) => ({ id, kind: 'verse' as const, name: id, bars: 8, meter, chords: [...variant.chords, ...variant.chords], drums: Array.from({ length: 8 }, (_, bar) => (bar === 0 && index > 0 ? variant.drums.replace('h', 'c').replace('r', 'c') : variant.drums)) }))
  return {
    id: variant.name, title: variant.name, artist: 'Evaluation', key: { tonic: 'E', mode: 'minor' }, tempo: variant.tempo, drift: variant.drift, leadInSeconds: 0.5, seed, tuningSemitones: variant.down, tapeCents: variant.tapeCents, voiceProgram: 25,
    ...(variant.swing ? { swing: { ratio: variant.swing, level: 'eighths' as const } } : {}), sections,
    parts: [{ id: 'g', name: 'Guitar', instrumentKind: 'guitar-6', sound: 'driven', pan: -0.2 }, { id: 's', name: 'Acoustic', instrumentKind: 'guitar-6', sound: 'steel', pan: 0.3 }, { id: 'b', name: 'Bass', instrumentKind: 'bass-4', sound: 'pick bass' }],
    figures: [
      { id: 'gf', part: 'g', name: 'g', bars: 4, meter, content: content({ grips: grips(variant.chords.map((chord) => `${SHAPES[chord]}:${eighths}`).join(' ')), strokes: hand(repeat(variant.three ? 'D.mmmm' : 'D.mmDumm', 4)) }) },
      { id: 'sf', part: 's', name: 's', bars: 4, meter, content: content({ grips: grips(variant.chords.map((chord) => `${SHAPES[chord]}:${eighths}`).join(' ')), strokes: hand(repeat(variant.three ? 'd.dudu' : 'd.du.udu', 4)) }) },
      { id: 'bf', part: 'b', name: 'b', bars: 4, meter, content: content({ notes: line(variant.chords.map((chord) => repeat(`${ROOTS[chord]}:2`, eighths / 2)).join(' ')) }) },
    ],
    places: sections.flatMap(({ id }): SongPlan['places'] => [['gf', id, 0, 2], ['sf', id, 0, 2], ['bf', id, 0, 2]]), rests: [],
  }
}

export function evaluationSongs() {
  return VARIANTS.map((variant, index) => {
    const score = buildScore(planOf(variant, 300 + index), { hash: '0'.repeat(64) })
    const beats = score.beats.map((beat) => beat.seconds)
    const gaps = beats.slice(1).map((beat, at) => beat - beats[at]!).sort((a, b) => a - b)
    return {
      name: variant.name, truth: { title: variant.name, beats, downbeats: score.beats.filter((beat) => beat.one).map((beat) => beat.seconds), tempo: 60 / gaps[gaps.length >> 1]! },
      async render(): Promise<Float32Array> {
        const file = readFileSync('public/sound/bank.sf3')
        const bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
        const [left, right] = mix(bank, performBand(score, { timingSeconds: 0.008 }), { sampleRate: 22_050, seconds: score.endSeconds + 1.5, targetRms: 0.22, drive: 1.4, reverbSeconds: 0.7 })
        return left.map((value, at) => (value + right[at]!) / 2)
      },
    }
  })
}
