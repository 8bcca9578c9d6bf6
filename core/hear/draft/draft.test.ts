import { beforeAll, describe, expect, it } from 'vitest'
import { nodeFft } from '../../../node/fft'
import { noise, pluck, RATE, silence } from '../../../tests/support/tones'
import { newPart } from '../../document/new-song'
import { draftPlaces } from '../../neck/lines/draft-places'
import { quietJob } from '../job'
import type { MakeFft } from '../features/spectrum'
import { draftNotes, type DraftNote } from './draft'
import type { DraftSide } from './side-spectra'

let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})
/** Quarter-second notes from half a second on. */
const LINE = [64, 67, 69, 72, 71, 69, 67, 64, 62, 64, 67, 64]
const at = (index: number): number => 0.5 + 0.25 * index

function line(midis: readonly number[]): Float32Array {
  const out = silence(4.5)
  midis.forEach((midi, index) => pluck(out, { midi, start: at(index), length: 0.25, decay: 1.2 }))
  return out
}
const draft = (channels: Float32Array[], side: DraftSide, more: { from?: number; to?: number } = {}) =>
  draftNotes(
    { channels, sampleRate: RATE },
    { side, low: 40, high: 88, tuningCents: 0, from: 0, to: 4.5, ...more },
    makeFft,
    quietJob,
  )
/** Notes that begin within 50 ms of where they do, of all, both ways (F measure). */
function right(found: readonly DraftNote[], wanted: readonly number[], start = at): number {
  const hits = wanted.filter((midi, index) =>
    found.some((note) => note.midi === midi && Math.abs(note.startSeconds - start(index)) <= 0.05),
  ).length
  return (2 * hits) / (found.length + wanted.length)
}

describe('what the record plays', () => {
  it('is the line of one side, beside another line, bass and drums', async () => {
    const [own, other] = [line(LINE), line(LINE.map((midi) => midi - 5))]
    const middle = silence(4.5)
    const random = noise(4)
    for (let beat = 0; beat < 9; beat++) {
      pluck(middle, { midi: 33, start: 0.5 * beat, length: 0.45, loudness: 0.5 })
      for (let i = 0; i < 1500; i++)
        middle[Math.round(0.5 * beat * RATE) + i]! += 0.25 * random() * (1 - i / 1500)
    }
    const left = own.map((value, i) => value + 0.1 * other[i]! + middle[i]!)
    const mixed = other.map((value, i) => value + 0.1 * own[i]! + middle[i]!)
    const found = await draft([left, mixed], 'left')
    expect(right(found, LINE)).toBeGreaterThan(0.85)
    expect(found.every(({ confidence }) => confidence > 0 && confidence <= 1)).toBe(true)
  })
  it('is all of one channel, whatever side is asked for, only of the stretch', async () => {
    const found = await draft([line(LINE)], 'right', { from: 1.45, to: 2.45 })
    expect(found.map(({ midi }) => midi)).toEqual(LINE.slice(4, 8))
  })
  it('is a new pitch where only the pitch changes', async () => {
    const slurred = silence(3)
    pluck(slurred, { midi: 64, start: 0.5, length: 0.5, decay: 4 })
    pluck(slurred, { midi: 67, start: 1, length: 0.8, decay: 4, attack: false })
    const found = await draft([slurred], 'all')
    expect(right(found, [64, 67], (index) => 0.5 + 0.5 * index)).toBeGreaterThan(0.75)
  })
  it('is chords where several notes stand together', async () => {
    const chords = silence(4.5)
    const played = [
      [48, 52, 55, 60],
      [53, 57, 60, 65],
      [55, 59, 62, 67],
      [48, 52, 55, 60],
    ]
    played.forEach((chord, index) =>
      chord.forEach((midi) => pluck(chords, { midi, start: 0.5 + index, length: 0.95, decay: 2 })),
    )
    const found = await draft([chords], 'all')
    const sounds = (index: number): Set<number> =>
      new Set(
        found.filter((note) => Math.abs(note.startSeconds - 0.5 - index) < 0.06).map(({ midi }) => midi),
      )
    const hits = played.flatMap((chord, index) => chord.filter((midi) => sounds(index).has(midi))).length
    expect(hits).toBeGreaterThanOrEqual(9)
  })
  it('is nothing where nothing sounds', async () => expect(await draft([silence(4.5)], 'all')).toEqual([]))
})

describe('notes laid on the strings', () => {
  const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
  const note = (midi: number, startSeconds: number) => ({
    midi,
    startSeconds,
    endSeconds: startSeconds + 0.2,
  })
  const key = { tonic: 'E', mode: 'minor' } as const
  it('lie near each other, chords on strings of their own', () => {
    const places = draftPlaces([note(71, 0), note(74, 0.25), note(76, 0.5), note(79, 0.75)], guitar, key)
    const frets = places.map((place) => place!.fret).filter((fret) => fret > 0)
    expect(Math.max(...frets) - Math.min(...frets)).toBeLessThan(5)
    const chord = draftPlaces([note(48, 0), note(52, 0), note(55, 0)], guitar, key)
    expect(new Set(chord.map((place) => place!.string)).size).toBe(3)
  })
  it('lie nowhere below the lowest string', () =>
    expect(draftPlaces([note(30, 0), note(64, 0.5)], guitar, key)[0]).toBeUndefined())
})
