import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { accentsAndStrokes, accentWords, countsOf } from '../../explore/accents-and-strokes'
import { decodeAudio } from '../../../node/decode'
import { nodeFft } from '../../../node/fft'
import { noise } from '../../../tests/support/tones'
import { Cancelled, quietJob } from '../job'
import { sideAccents } from './accents'
import { kickAccents } from './kick'

const makeFft = await nodeFft()
const Q = 10080

interface Truth {
  notes: Record<string, [number, number, number][]>
}
/** A stretch of a demo recording and when what stands in it begins, in seconds of the stretch. */
async function stretchOf(song: string, [from, to]: readonly [number, number]) {
  const truth = JSON.parse(readFileSync(`demo/truth/${song}.json`, 'utf8')) as Truth
  const { channels, sampleRate } = await decodeAudio(readFileSync(`public/demo/${song}.ogg`))
  const cut = channels.slice(0, 2).map((one) => one.slice(from * sampleRate, to * sampleRate))
  const begun = (player: string, keep = (_midi: number): boolean => true): number[] => [
    ...new Set(
      truth.notes[player]!.filter(([at, , midi]) => at > from + 0.1 && at < to - 0.1 && keep(midi)).map(
        ([at]) => Math.round((at - from) * 50) / 50,
      ),
    ),
  ]
  return { piece: { channels: cut, sampleRate }, begun }
}
const near = (list: readonly number[], at: number): boolean => list.some((one) => Math.abs(one - at) < 0.05)

describe('accents of who stands on a side', () => {
  it('are found in the demo recording, and hardly anything of the others', async () => {
    const { piece, begun } = await stretchOf('ninth-platform', [60, 80])
    const found = (await sideAccents(piece, 'right', makeFft, quietJob)).map(({ seconds }) => seconds)
    const played = begun('g2')
    expect(found.filter((at) => near(played, at)).length / found.length).toBeGreaterThan(0.85)
    expect(played.filter((at) => near(found, at)).length / played.length).toBeGreaterThan(0.85)
  })
})

describe('a wall that is even', () => {
  it('has no accents: nothing stands out of it', async () => {
    const next = noise(7)
    const left = Float32Array.from({ length: 4 * 44_100 }, () => 0.3 * next())
    const piece = { channels: [left, new Float32Array(left.length)], sampleRate: 44_100 }
    expect(await sideAccents(piece, 'left', makeFft, quietJob)).toEqual([])
  })
})

describe('the kick drum in a stretch', () => {
  it('is found in the demo recording, most strokes of it, and little else', async () => {
    const { piece, begun } = await stretchOf('ninth-platform', [40, 56])
    const found = (await kickAccents(piece, makeFft, quietJob)).map(({ seconds }) => seconds)
    const struck = begun('drums', (midi) => midi === 36)
    const hits = struck.filter((kick) => near(found, kick)).length
    expect(struck.length).toBeGreaterThan(10)
    expect(hits / struck.length).toBeGreaterThan(0.7)
    expect(hits / found.length).toBeGreaterThan(0.7)
  })
  it('is not found in silence, and stops when it is told to', async () => {
    const silence = { channels: [new Float32Array(44_100)], sampleRate: 44_100 }
    expect(await kickAccents(silence, makeFft, quietJob)).toEqual([])
    await expect(
      kickAccents(silence, makeFft, { ...quietJob, isCancelled: () => true }),
    ).rejects.toBeInstanceOf(Cancelled)
  })
})

const KICK = { who: 'the kick', what: 'bass strokes' }
describe('the bass against the kick', () => {
  const meter = { beats: 4, unit: 4 as const }
  it('strikes with it or alone, and the kick alone', () => {
    const held = accentsAndStrokes([0, 2 * Q, 4 * Q, 7 * Q], [0, Q, 2 * Q + 40, 4 * Q], Q / 2)
    expect(held).toEqual({ together: [0, 2 * Q + 40, 4 * Q], strokesAlone: [Q], accentsAlone: [7 * Q] })
    expect(accentWords(accentsAndStrokes([0, 7 * Q], [0, Q, 5 * Q], Q / 2), meter, KICK)).toBe(
      '1 of 3 bass strokes fall on the kick; alone on 2; the kick alone on 4.',
    )
  })
  it('says each count once, and when there is no bass', () => {
    expect(countsOf([Q / 2, 4 * Q + Q / 2, 3 * Q], meter)).toBe('the and of 1, 4')
    expect(accentWords(accentsAndStrokes([0], [], Q / 2), meter, KICK)).toContain('Nothing is charted')
  })
})
