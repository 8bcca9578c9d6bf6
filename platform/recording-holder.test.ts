import { describe, expect, it } from 'vitest'
import type { Recording } from '#core/hear/features/recording'
import { RecordingHolder } from './recording-holder'

const sound = (): Recording => ({ channels: [new Float32Array(1)], sampleRate: 44_100 })
/** A holder whose decoding ends when a test says so. */
function holder() {
  const asked: { hash: string; end: (recording?: Recording) => void }[] = []
  const made = new RecordingHolder(
    (hash) => new Promise((resolve) => asked.push({ hash, end: (recording) => resolve(recording) })),
  )
  return { asked, made }
}

describe('the recording that is held', () => {
  it('is decoded once, whoever asks and when', async () => {
    const { asked, made } = holder()
    const [first, second] = [made.open('a'), made.open('a')]
    const one = sound()
    asked[0]!.end(one)
    expect([await first, await second, await made.open('a')]).toEqual([one, one, one])
    expect(made.lent).toBe(one)
    expect(asked.map(({ hash }) => hash)).toEqual(['a'])
  })
  it('is the last one asked for', async () => {
    const { asked, made } = holder()
    const [first, second] = [made.open('a'), made.open('b')]
    const [one, other] = [sound(), sound()]
    asked[1]!.end(other)
    expect(await second).toBe(other)
    asked[0]!.end(one)
    expect(await first).toBeUndefined()
    expect(made.lent).toBe(other)
  })
  it('is there for both when a song is left and opened again while it is decoded', async () => {
    const { asked, made } = holder()
    const first = made.open('a')
    made.close()
    const second = made.open('a')
    const one = sound()
    asked[0]!.end(sound())
    asked[1]!.end(one)
    expect([await first, await second]).toEqual([one, one])
  })
  it('is let go, and not held when it comes after that', async () => {
    const { asked, made } = holder()
    const first = made.open('a')
    made.close()
    asked[0]!.end(sound())
    expect([await first, made.lent]).toEqual([undefined, undefined])
  })
  it('that cannot be read is none', async () => {
    const broken = new RecordingHolder(() => Promise.reject(new Error('no sound')))
    expect([await broken.open('a'), broken.lent]).toEqual([undefined, undefined])
  })
})
