import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { countsOf, kickAndBass, kickAndBassWords } from '../../review/kick-and-bass'
import { decodeAudio } from '../../../tools/decode'
import { nodeFft } from '../../../tools/fft'
import { Cancelled, quietJob } from '../job'
import { kickAccents } from './kick'

const makeFft = await nodeFft()
const Q = 10080

describe('the kick drum in a stretch', () => {
  it('is found in the demo recording, most strokes of it, and little else', async () => {
    const truth = JSON.parse(readFileSync('demo/truth/ninth-platform.json', 'utf8')) as {
      notes: { drums: [number, number, number][] }
    }
    const { channels, sampleRate } = await decodeAudio(readFileSync('public/demo/ninth-platform.ogg'))
    const [from, to] = [40, 56]
    const cut = channels.slice(0, 2).map((one) => one.slice(from * sampleRate, to * sampleRate))
    const found = await kickAccents({ channels: cut, sampleRate }, makeFft, quietJob)
    const struck = truth.notes.drums
      .filter(([seconds, , midi]) => midi === 36 && seconds > from + 0.1 && seconds < to - 0.1)
      .map(([seconds]) => seconds)
    const hits = struck.filter((kick) =>
      found.some(({ seconds }) => Math.abs(seconds + from - kick) < 0.04),
    ).length
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

describe('the bass against the kick', () => {
  const meter = { beats: 4, unit: 4 as const }
  it('strikes with it or alone, and the kick alone', () => {
    const held = kickAndBass([0, 2 * Q, 4 * Q, 7 * Q], [0, Q, 2 * Q + 40, 4 * Q], Q / 2)
    expect(held).toEqual({ together: [0, 2 * Q + 40, 4 * Q], bassAlone: [Q], kickAlone: [7 * Q] })
    expect(kickAndBassWords(kickAndBass([0, 7 * Q], [0, Q, 5 * Q], Q / 2), meter)).toBe(
      '1 of 3 bass strokes fall on the kick; alone on 2; the kick alone on 4.',
    )
  })
  it('says each count once, and when there is no bass', () => {
    expect(countsOf([Q / 2, 4 * Q + Q / 2, 3 * Q], meter)).toBe('the and of 1, 4')
    expect(kickAndBassWords(kickAndBass([0], [], Q / 2), meter)).toContain('No bass is charted')
  })
})
