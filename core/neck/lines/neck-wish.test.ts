import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import type { NeckWish } from '../../document/schema'
import { bass, dropD, guitar, midisOf, said } from '../../../tests/support/said-line'
import { acrossStrings } from './across-strings'
import { harmonyLine } from './harmony-line'
import { pathNotes, pitched } from './line'
import { shiftSemitones, toDegree } from './move-line'
import { isWish, neckWishWords, pathWhere } from './neck-wish'

const E = { tonic: 'E', mode: 'minor' as const }
const line = said('G 9, 7, 12, 9')
const where = (wish: NeckWish, content = line) =>
  pathWhere(pathNotes(pitched(content), guitar), guitar, E, wish)
const placesOf = (wish: NeckWish): string[] =>
  must(where(wish)).places.map(({ string, fret }) => `${string}/${fret}`)
const refused = (wish: NeckWish, content = line): string => {
  const path = where(wish, content)
  return path.ok ? '' : path.refusal.message
}

describe('a line where it is wanted', () => {
  it('lies on the strings that are asked for, and nowhere else', () => {
    expect(placesOf({ strings: [2] })).toEqual(['2/5', '2/3', '2/8', '2/5'])
    expect(placesOf({ strings: [4] })).toEqual(['4/14', '4/12', '4/17', '4/14'])
  })
  it('lies from a fret up with nothing open, and below a fret', () => {
    for (const place of must(where({ fromFret: 12 })).places) expect(place.fret).toBeGreaterThanOrEqual(12)
    for (const place of must(where({ toFret: 5 })).places) expect(place.fret).toBeLessThanOrEqual(5)
    const open = said('high E open, 3')
    expect(must(where({ noOpen: true }, open)).places.every(({ fret }) => fret > 0)).toBe(true)
  })
  it('is refused with the notes that do not lie there and what to do', () => {
    expect(refused({ strings: [1] })).toBe(
      'D4 cannot be played on string 1 on Guitar: allow another string or more frets, ' +
        'or move the line by an octave first.',
    )
    expect(refused({ strings: [2], toFret: 5 })).toContain('G4 cannot be played on string 2, up to fret 5')
  })
  it('says when each note lies there but no hand plays them at once', () => {
    const both = said('G 9 + B 8')
    expect(refused({ strings: [2] }, both)).toBe(
      'No hand can play this line on string 2 on Guitar: allow another string.',
    )
  })
  it('without a wish is the best path there is', () => {
    expect(isWish({})).toBe(false)
    expect(must(where({})).brokenSlurs).toEqual([])
  })
})

describe('a wish in words', () => {
  it.each<[NeckWish, string]>([
    [{ strings: [2, 1], fromFret: 12 }, 'on strings 1 and 2, from fret 12 up'],
    [{ strings: [1, 2, 4] }, 'on strings 1, 2 and 4'],
    [{ noOpen: true, toFret: 5 }, 'up to fret 5, nothing open'],
    [{ fromFret: 5, toFret: 9 }, 'from fret 5 to 9'],
    [{}, ''],
  ])('%j', (wish, words) => expect(neckWishWords(wish)).toBe(words))
  it('calls one string by its letter', () =>
    expect(neckWishWords({ strings: [2] }, ['E', 'B', 'G', 'D', 'A', 'E'])).toBe('all on the B string'))
})

describe('lines that keep a wish', () => {
  const rule = { interval: 3, kind: 'diatonic' as const, key: E, exceptions: [] }
  it('a harmony line stays on its string', () => {
    const free = must(harmonyLine(line, guitar, guitar, rule))
    const onB = must(harmonyLine(line, guitar, guitar, { ...rule, where: { strings: [2] } }))
    expect(onB.notes.map(({ string }) => string)).toEqual([2, 2, 2, 2])
    expect(midisOf({ ...line, notes: onB.notes })).toEqual(midisOf({ ...line, notes: free.notes }))
    expect(harmonyLine(line, guitar, bass, { ...rule, where: { fromFret: 12 } }).ok).toBe(false)
  })
  it('a moved line does too', () => {
    const on = { part: guitar, key: E, where: { strings: [3] } }
    const up = must(shiftSemitones(pitched(line), on, 2))
    expect(up.map(({ string, fret }) => `${string}/${fret}`)).toEqual(['3/11', '3/9', '3/14', '3/11'])
    expect(must(toDegree(pitched(line), on, 1)).every(({ string }) => string === 3)).toBe(true)
  })
})

describe('a riff to the fourth and the fifth on the strings', () => {
  const riff = said('low E 3, 5, A 3, 5')
  it('keeps its shape a string higher where strings are a fourth apart', () => {
    const fourth = must(acrossStrings(pitched(riff), guitar, 'fourth'))
    expect(fourth.changes).toEqual([])
    expect(fourth.notes.map(({ string, fret }) => `${string}/${fret}`)).toEqual(['5/3', '5/5', '4/3', '4/5'])
    const fifth = must(acrossStrings(pitched(riff), guitar, 'fifth'))
    expect(midisOf({ ...riff, notes: fifth.notes })).toEqual(midisOf(riff).map((midi) => midi + 7))
  })
  it('says what a dropped string changes', () => {
    const low = said('string 6 5, 7, A 5', dropD)
    const moved = must(acrossStrings(pitched(low), dropD, 'fourth'))
    expect(midisOf({ ...low, notes: moved.notes }, dropD)).toEqual(
      midisOf(low, dropD).map((midi) => midi + 5),
    )
    expect(moved.changes).toEqual([
      'what was on string 6 lies 2 frets lower than the shape has it: strings 6 and 5 are 7 half steps ' +
        'apart, not 5',
    ])
  })
  it('says what the third and second string change', () => {
    const across = must(acrossStrings(pitched(said('G 5, 7')), guitar, 'fourth'))
    expect(across.changes).toHaveLength(1)
    expect(across.changes[0]).toContain('1 fret higher')
  })
  it('is refused from the highest string and off the neck', () => {
    expect(acrossStrings(pitched(said('high E 5')), guitar, 'fourth')).toMatchObject({ ok: false })
    const off = acrossStrings(pitched(said('string 6 open', dropD)), dropD, 'fourth')
    expect(off.ok ? '' : off.refusal.message).toContain('that is not on this neck')
  })
})
