import { describe, expect, it } from 'vitest'
import { sectionPlaces } from '#core/document/form'
import { TICKS_PER_QUARTER as Q } from '#core/time/meter'
import { BAR, smallSong } from '../../tests/support/small-song'
import { placeWords } from './place-words'

const song = smallSong()
const places = sectionPlaces(song)
const [first, second] = places

describe('the place in words', () => {
  it('names section, bar and beat, with the bar of the song and the time', () => {
    expect(placeWords(places, 0, 0).place).toBe(`${first!.section.name}, bar 1, beat 1`)
    const there = placeWords(places, second!.startTicks + 2 * BAR + Q, 41.34)
    expect(there.place).toBe(`${second!.section.name}, bar 3, beat 2`)
    expect(there.detail).toBe(`bar ${second!.firstBar + 3} · 0:41.3`)
  })
  it('is given to the eighth', () => {
    expect(placeWords(places, Q / 2 + 40, 0).place).toMatch(/, the and of 1$/)
  })
  it('belongs to the section that begins at a tick, though the clock is a hair early', () => {
    expect(placeWords(places, second!.startTicks - 0.3, 0).place).toContain(second!.section.name)
  })
  it('counts passes where a section is gone through several times', () => {
    const twice = places.map((place) => ({ ...place, section: { ...place.section, passes: 2 } }))
    expect(placeWords(twice, 0, 0).detail).toMatch(/^pass 1 of 2 · bar 1 · /)
    expect(placeWords(twice, 5 * BAR, 0).detail).toMatch(/^pass 2 of 2 · bar 6 · /)
  })
  it('says free time where nothing is counted', () => {
    const free = places.map((place) => ({
      ...place,
      section: { ...place.section, bars: place.section.bars.map((bar) => ({ ...bar, free: true })) },
    }))
    expect(placeWords(free, BAR, 0).place).toMatch(/bar 2, free time$/)
  })
})
