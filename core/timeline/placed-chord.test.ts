import { describe, expect, it } from 'vitest'
import { barTicks, beatTicks, type Meter } from '../time/meter'
import { chordsAtPlaces, readPlacedChord, writePlacedChord } from './placed-chord'

const FOUR: Meter = { beats: 4, unit: 4 }
const SIX_EIGHT: Meter = { beats: 6, unit: 8 }

describe('a chord in a bar', () => {
  it('says its beat only where it does not stand evenly', () => {
    const written = (tick: number, index: number, count: number): string =>
      writePlacedChord({ tick, symbol: 'G' }, { index, count, meter: FOUR })
    expect(written(barTicks(FOUR) / 2, 1, 2)).toBe('G')
    expect(written(3.5 * beatTicks(FOUR), 1, 2)).toBe('G@4.5')
    expect(written((2 + 1 / 3) * beatTicks(FOUR), 1, 2)).toBe('G@3.333')
  })

  it.each([FOUR, SIX_EIGHT])('comes back from writing at every 48th of a beat', (meter) => {
    for (let place = 0; place < 48 * (barTicks(meter) / beatTicks(meter)); place++) {
      const tick = (place * beatTicks(meter)) / 48
      const word = writePlacedChord({ tick, symbol: 'F#m7/E' }, { index: 1, count: 2, meter })
      const [, second] = chordsAtPlaces([{ symbol: 'A', beat: 1 }, readPlacedChord(word)], meter)
      expect(second).toEqual({ tick, symbol: place ? 'F#m7/E' : second!.symbol })
    }
  })

  it('stands evenly where the beat said is none of the bar', () => {
    const chords = ['A', 'B@9', 'C@0.5'].map(readPlacedChord)
    expect(chordsAtPlaces(chords, { beats: 3, unit: 4 }).map(({ tick }) => tick / 10_080)).toEqual([0, 1, 2])
  })
})
