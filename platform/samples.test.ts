import { afterEach, describe, expect, it, vi } from 'vitest'
import { foldDown, handedOver, lendable, mendSamples, monoOf } from './samples'

afterEach(() => {
  vi.unstubAllGlobals()
})

describe('samples of a recording', () => {
  it('that are no sound are silenced, the others untouched', async () => {
    const channel = Float32Array.from([0.5, Number.NaN, -0.25, Number.POSITIVE_INFINITY, 1e30, 1.5])
    expect(await mendSamples([channel, new Float32Array(6)])).toEqual({ brokenShare: 0.25, peak: 1.5 })
    expect([...channel]).toEqual([0.5, 0, -0.25, 0, 0, 1.5])
  })
  it('fold to two sides and to one', async () => {
    const six = [1, 0.5, 0.2, 0, 0, 0].map((value) => new Float32Array(3).fill(value))
    const [left, right] = await foldDown(six)
    expect(left![1]).toBeCloseTo(1.14 / 1.7)
    expect(right![2]).toBeCloseTo(0.64 / 1.7)
    expect((await monoOf([left!, right!]))[0]).toBeCloseTo((1.14 + 0.64) / 3.4)
  })
  it('let the page go on between slices of a long recording', async () => {
    const long = new Float32Array(2_000_000).fill(0.1)
    let breaths = 0
    let mending = true
    const breathe = (): void => {
      breaths++
      if (mending) setImmediate(breathe)
    }
    setImmediate(breathe)
    await mendSamples([long, long])
    mending = false
    // Half a million samples at most are gone over in one go.
    expect(breaths).toBeGreaterThanOrEqual(8)
  })
  it.each([
    ['are shared with a worker where the page may share memory', true, 0],
    ['are copied for a worker, and given away, where it may not', false, 1],
  ])('%s', async (_, isolated, given) => {
    vi.stubGlobal('crossOriginIsolated', isolated)
    const lent = await lendable([Float32Array.from([0.5, -0.5])])
    const { channels, transfer } = await handedOver(lent)
    expect(channels.map((channel) => [...channel])).toEqual([[0.5, -0.5]])
    expect(transfer).toHaveLength(given)
    expect(channels[0]!.buffer === lent[0]!.buffer).toBe(isolated)
  })
})
