import { describe, expect, it } from 'vitest'
import { readCount, tempoOf } from './count-readings'

const four = { beats: 4, unit: 4 as const }
const beats = Array.from({ length: 13 }, (_, index) => index * 0.5)

describe('other ways to count', () => {
  it('take every second beat, from the one or from the other', () => {
    expect(readCount(beats, 0, 'half', four).beats).toEqual([0, 1, 2, 3, 4, 5, 6])
    expect(readCount(beats, 0, 'half, the other beat', four).beats).toEqual([0.5, 1.5, 2.5, 3.5, 4.5, 5.5])
    expect(readCount(beats, 3, 'half', four).beats[0]).toBe(0.5)
    expect(readCount(beats, 0, 'half', four).ones).toEqual([0, 4])
  })
  it('double it, or go between the beats', () => {
    expect(readCount(beats, 0, 'double', four).beats).toHaveLength(25)
    expect(readCount(beats, 0, 'off-beat', four).beats.slice(0, 3)).toEqual([0.25, 0.75, 1.25])
  })
  it('set three against two, both ways', () => {
    const three = readCount(beats, 0, 'three for two', four).beats
    expect(three[3]).toBeCloseTo(1)
    expect(tempoOf(three)).toBeCloseTo(180)
    expect(tempoOf(readCount(beats, 0, 'two for three', four).beats)).toBeCloseTo(80)
    expect(tempoOf([1])).toBeUndefined()
  })
})
