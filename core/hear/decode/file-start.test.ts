import { describe, expect, it } from 'vitest'
import { placeInBar, type PlaceInBar } from './bars'
import { oneFromFileStart } from './file-start'

const GAP = 1 / 3
const beatsFrom = (first: number, count = 160): number[] =>
  Array.from({ length: count }, (_, index) => first + index * GAP)
/** Odds that say a beat of every four is the one, of all beats or of those up to some. */
const odds = (phase: number, one = 4): number[] =>
  Array.from({ length: 160 }, (_, index) => (index % 4 === phase ? one : -4))
const known = { fixed: new Map<number, boolean>(), usual: undefined, toClick: true }
const countedFrom = (phase: number): PlaceInBar[] => placeInBar(odds(phase), known)

describe('a file that begins on the grid of its click', () => {
  it('begins on a one, whatever the song sounds like all the way through', () => {
    // The first attack that was found is the second beat of the project.
    const faint = odds(0, 0.1)
    const opens = oneFromFileStart(beatsFrom(GAP - 0.003), placeInBar(faint, known), faint)
    expect(opens).toEqual({ beat: 3, throughout: true })
    const places = placeInBar(faint, { ...known, fixed: new Map([[3, true]]), locked: true })
    const ones = places.flatMap(({ place }, beat) => (place === 0 ? [beat % 4] : []))
    expect(new Set(ones.slice(1))).toEqual(new Set([3]))
  })
  it('says nothing where the bars begin there already, off the grid, or for a few beats', () => {
    const faint = odds(2, 0.1)
    expect(oneFromFileStart(beatsFrom(0.002), countedFrom(0), odds(0))).toBeUndefined()
    expect(oneFromFileStart(beatsFrom(0.05), placeInBar(faint, known), faint)).toBeUndefined()
    expect(oneFromFileStart(beatsFrom(0, 6), [], [])).toBeUndefined()
    expect(oneFromFileStart([], [], [])).toBeUndefined()
  })
  it('gives way to ones that are plainly heard', () => {
    expect(oneFromFileStart(beatsFrom(GAP), countedFrom(0), odds(0))).toBeUndefined()
  })
  it('corrects an opening alone where the rest of the song agrees with it', () => {
    const scores = odds(0).map((score, beat) => (beat < 24 ? odds(2)[beat]! : score))
    const places = placeInBar(scores, known)
    expect(oneFromFileStart(beatsFrom(0), places, scores)).toEqual({ beat: 0, throughout: false })
  })
})
