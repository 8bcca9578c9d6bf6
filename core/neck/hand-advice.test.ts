import { describe, expect, it } from 'vitest'
import type { Grip } from '../document/schema'
import { guitar, said } from '../../tests/support/said-line'
import { HANDS, USUAL_HAND } from './hand'
import { fingerProgression } from './grips/finger-progression'
import { fingerings } from './grips/fingering'
import { readGrip } from './grips/grip'
import { handAdvice } from './hand-advice'

const kindsOf = (call: string): string[] => handAdvice(said(call), guitar).map(({ kind }) => kind)
const grip = (text: string): Grip => readGrip(text, 6)!

describe('what is said to the fretting hand', () => {
  it('rolls one finger over neighbouring strings at one fret, not where there is time or a slur', () => {
    expect(kindsOf('G 7, B 7')).toEqual(['roll'])
    expect(handAdvice(said('G 7, B 7'), guitar)[0]!.words).toContain('from string 3 to 2')
    expect(kindsOf('G 7, high E 7')).toEqual([])
    expect(kindsOf('G open, B open')).toEqual([])
  })
  it('puts fingers behind a bend, and says when there are none', () => {
    const [helped] = handAdvice(said('B 8 bend 2'), guitar)
    expect(helped).toMatchObject({ kind: 'helper' })
    expect(helped!.words).toContain('the first and second behind it')
    expect(handAdvice(said('B 1 bend 2'), guitar)[0]!.words).toContain('nothing helps it')
    expect(kindsOf('B 8 bend 0.5')).toEqual([])
  })
  it('warns of a stretch between notes together, slurred or still ringing, not of one that is slid', () => {
    expect(kindsOf('low E 1 + A 7')).toEqual(['stretch'])
    expect(kindsOf('low E 1 hammer 7')).toEqual(['stretch'])
    expect(kindsOf('low E 1 slide 7')).toEqual([])
    expect(kindsOf('low E 1, A 7')).toEqual([])
    const small = HANDS.find(({ name }) => name.startsWith('Child'))!
    expect(handAdvice(said('low E 1 hammer 4'), guitar, USUAL_HAND)).toEqual([])
    expect(handAdvice(said('low E 1 hammer 4'), guitar, small)).toHaveLength(1)
  })
})

describe('fingers chosen for the next shape', () => {
  it('are among the best of each grip, rising in cost', () => {
    const costs = fingerings(grip('x32010'), guitar).map(({ difficulty }) => difficulty)
    expect(costs.length).toBeGreaterThan(1)
    expect(costs).toEqual(costs.toSorted((a, b) => a - b))
  })
  it('fingers a bar that returns alike, also at the end of the row', () => {
    const bar = ['320003', 'x32010', 'xx0232'].map(grip)
    const steps = fingerProgression([...bar, ...bar, ...bar], guitar)
    const words = steps.map((step) => step?.fingering.fingers.join(' '))
    expect(words.slice(6)).toEqual(words.slice(0, 3))
    expect(words.slice(3, 6)).toEqual(words.slice(0, 3))
  })

  it('keep a finger where it is, and say so', () => {
    // Alone an E minor is taken with the first two fingers or the second and third; before a G the third
    // moves.
    const steps = fingerProgression([grip('x02210'), grip('x32010'), grip('x02210')], guitar)
    const [first, second] = steps.map((step) => step!.fingering.fingers)
    const kept = first!.filter((finger, index) => finger && finger === second![index])
    expect(kept.length).toBeGreaterThanOrEqual(2)
  })
  it('give the reason where they are not the easiest alone', () => {
    const rows = [
      ['022000', '320003'],
      ['x02220', 'xx0232'],
      ['x32010', 'x03211'],
      ['022100', 'x02220', 'x24442'],
      ['320033', 'x32033', 'xx0233'],
    ]
    const reasons = rows.flatMap((row) =>
      fingerProgression(row.map(grip), guitar).flatMap((step) => step?.because ?? []),
    )
    expect(reasons.length).toBeGreaterThan(0)
    for (const reason of reasons) expect(reason).toMatch(/stays where it is|slides along its string/)
  })
  it('begin anew after a grip nobody can hold', () => {
    const [first, none, last] = fingerProgression(
      [grip('x32010'), grip('1-3-5-7-9-11'), grip('320003')],
      guitar,
    )
    expect(first).toBeDefined()
    expect(none).toBeUndefined()
    expect(last).toBeDefined()
  })
})
