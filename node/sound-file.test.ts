import { existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { hear, type RecordingInPieces } from '../core/hear/features/recording'
import { writeWav } from '../core/sound/wav'
import { decodeAudio } from './decode'
import { openSoundFile } from './sound-file'

/** Where the system lists what this process has open. */
const OPEN_FILES = '/proc/self/fd'
const DEMO = 'public/demo/ninth-platform.ogg'
const wav = join(tmpdir(), `pieces-${process.pid}.wav`)
afterAll(() => rmSync(wav, { force: true }))

/** The pieces one after the other. */
async function joined({ pieces }: RecordingInPieces): Promise<number[][]> {
  const all: number[][] = [[], []]
  for await (const piece of pieces)
    piece.forEach((samples, channel) => {
      for (const value of samples) all[channel]!.push(value)
    })
  return all
}

describe('a sound file in pieces', () => {
  it('holds the samples of the whole file, coded or not', async () => {
    const whole = await decodeAudio(readFileSync(DEMO))
    const coded = (await openSoundFile(DEMO))!
    expect(coded.sampleRate).toBe(whole.sampleRate)
    const samples = await joined(coded)
    expect(samples[1]).toHaveLength(whole.channels[1]!.length)
    expect(samples.map((channel) => channel.findLast(Boolean))).toEqual(
      whole.channels.map((channel) => channel.findLast(Boolean)),
    )
    const short = whole.channels.map((channel) => channel.slice(0, 300_001))
    writeFileSync(wav, writeWav(short, whole.sampleRate))
    const [left] = await joined((await openSoundFile(wav))!)
    expect(left).toHaveLength(300_001)
    expect(short[0]!.every((value, i) => Math.abs(value - left![i]!) < 1e-4)).toBe(true)
  })
  it('sounds to the listener as the whole file does', async () => {
    const whole = await hear(await decodeAudio(readFileSync(DEMO)))
    const inPieces = await hear((await openSoundFile(DEMO))!)
    expect(inPieces.durationSeconds).toBeCloseTo(whole.durationSeconds, 3)
    for (const name of ['mono', 'side', 'rises'] as const) {
      const [a, b] = [whole[name]!, inPieces[name]!]
      expect(b).toHaveLength(a.length)
      expect(a.every((value, i) => Math.abs(value - b[i]!) < 1e-6)).toBe(true)
    }
  })
  it.runIf(existsSync(OPEN_FILES))(
    'is closed when it was read, or when no more of it is wanted',
    async () => {
      writeFileSync(wav, writeWav([new Float32Array(300_000)], 8000))
      const open = (): number => readdirSync(OPEN_FILES).length
      const before = open()
      await joined((await openSoundFile(wav))!)
      expect(open()).toBe(before)
      for await (const piece of (await openSoundFile(wav))!.pieces) if (piece.length) break
      expect(open()).toBe(before)
    },
  )
  it('is none where there is no sound in it', async () => {
    writeFileSync(wav, 'no sound at all, but long enough to be taken for a head')
    await expect(openSoundFile(wav)).rejects.toThrow()
  })
})
