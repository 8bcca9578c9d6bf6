// What refers to something that stands before the call, or changes it: phrases played again, grips changed.
import { newPart } from '../../document/new-song'
import type { Content } from '../../document/schema'
import { readGrip, writeGrip } from '../../neck/grips/grip'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import { readCall, type CallReading } from '../read-call'
import type { CallContext } from '../reading'
import { describe, expect, it } from 'vitest'

const context: CallContext = {
  part: newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }),
  letters: ['E', 'B', 'G', 'D', 'A', 'E'],
  meter: { beats: 4, unit: 4 },
  subdivision: 'eighths',
  stepTicks: Q / 2,
}
function standing(setup: string): Content {
  const reading = readCall(setup, context)
  if (!reading.ok) throw new Error(reading.error.message)
  return reading.value.content
}
const after = (setup: string, call: string, more: Partial<CallContext> = {}): CallReading =>
  readCall(call, { ...context, before: standing(setup), ...more })
const places = (reading: CallReading): string =>
  reading.ok
    ? reading.value.content.notes.map((note) => `${note.string}/${note.fret}`).join(' ')
    : reading.error.message

describe('what was played before, played again', () => {
  it.each([
    ['string 4 5 7', 'again', '4/5 4/7'],
    ['string 4 5 7', 'once more', '4/5 4/7'],
    ['string 4 5 7', 'twice', '4/5 4/7'],
    ['string 4 5 7', 'three times', '4/5 4/7 4/5 4/7'],
    ['string 3 7 9', 'same thing on the B', '2/7 2/9'],
    ['string 6 3 5', 'same notes on the A and the D', '5/3 5/5 4/3 4/5'],
    ['string 6 3 5 string 5 3', 'that whole thing up two frets', '6/5 6/7 5/5'],
    ['string 6 5 7', 'down a whole step', '6/3 6/5'],
    ['string 3 5 7', 'same thing one string down', '4/5 4/7'],
    ['string 3 9 7 string 4 9', 'same shape, one set of strings higher', '2/9 2/7 3/9'],
    ['string 4 7 9 10', 'same lick starting from the 5th fret', '4/5 4/7 4/8'],
    ['string 5 0 3', 'an octave higher', '5/12 5/15'],
    ['string 5 12 15', 'an octave lower', '5/0 5/3'],
    ['string 5 14 20', 'an octave higher', '3/16 3/22'],
    ['string 4 5 7 9', 'backwards', '4/9 4/7 4/5'],
    ['string 4 5 7 9', 'same again without the last note', '4/5 4/7'],
    ['string 4 5 7 9', 'do that again but finish on 7', '4/5 4/7 4/7'],
    ['string 3 7 9 7', 'same again, but finish on 7 of the D', '3/7 3/9 4/7'],
    ['string 4 5 7 9', 'same again but last two notes 4 5', '4/5 4/4 4/5'],
    ['string 4 5 7 9', 'the last two notes again', '4/7 4/9'],
    ['string 4 5 7 9', 'first two notes again', '4/5 4/7'],
    ['string 6 3 rest 3', 'same rhythm on 5', '6/5 6/5'],
    ['string 6 3 5', 'move it over to the A', '5/3 5/5'],
  ])('after %s: %s', (setup, call, meant) => expect(places(after(setup, call))).toBe(meant))
  it('keeps the lengths and the rests of what it plays again', () => {
    const reading = after('string 6 3 rest 3 for a quarter', 'same thing on the A')
    if (!reading.ok) throw new Error('refused')
    expect(
      reading.value.content.notes.map((note) => [note.startTicks / (Q / 2), note.lengthTicks / (Q / 2)]),
    ).toEqual([
      [0, 1],
      [2, 2],
    ])
  })
  it('follows the key a third above, and asks for it where there is none', () => {
    const key = { tonic: 'G', mode: 'major' } as const
    expect(places(after('string 3 4 5 7', 'a third above', { key }))).toBe('2/3 2/5 2/7')
    expect(after('string 3 4 5 7', 'a third above')).toMatchObject({ ok: false, asks: true })
  })
  it.each([
    ['string 6 20 22', 'that whole thing up two frets', /fret 24: the neck has 0 to 22/],
    ['string 1 5 7', 'same shape, one set of strings higher', /string 0/],
    ['hold x02210', 'backwards', /^$/],
  ])('after %s, %s is refused with the reason', (setup, call, why) => {
    const reading = after(setup, call)
    expect(reading.ok ? '' : reading.error.message).toMatch(why)
  })
  it('means the bar that is named', () => {
    const two = 'string 5 3 for 4, 5 for 4, string 4 7 for 4, 9 for 4'
    expect(places(after(two, 'back to the first bar'))).toBe('5/3 5/5')
    expect(places(after(two, 'like the second bar with the last note left out'))).toBe('4/7')
  })
})

describe('a grip that is held, changed', () => {
  const changed = (grip: string, call: string): string => {
    const reading = readCall(call, {
      ...context,
      before: standing(`hold ${grip}`),
      content: standing(`hold ${grip}`),
    })
    if (!reading.ok) return reading.error.message
    return reading.value.content.grips.map((span) => writeGrip(span.grip)).join(' ')
  }
  it.each([
    ['x02210', 'lift the B string finger', 'x02200'],
    ['x02210', 'lift the finger off the G string, leave the rest', 'x02010'],
    ['x02210', 'take the first finger off', 'x02200'],
    ['x32013', 'without the pinky', 'x32010'],
    ['x32010', 'add the pinky at 3 on the high E', 'x32013'],
    ['x32010', 'put the pinky on the third fret of the B', 'x32030'],
    ['320003', 'mute the A', '3x0003'],
    ['x02210', "don't play the high E", 'x0221x'],
    ['xx0232', 'now with F sharp in the bass', '2x0232'],
    ['x02210', 'with a G on the high E', 'x02213'],
    ['133211', 'just the top three strings of that', 'xxx211'],
    ['x24432', 'move it up two frets', 'x46654'],
    ['133211', 'same again at the fifth fret', '577655'],
    ['x32010', 'just move the ring finger over to the second fret of the G', 'x02210'],
  ])('%s: %s', (grip, call, meant) => expect(changed(grip, call)).toBe(meant))
  it('is asked for where none is held', () =>
    expect(readCall('take the first finger off', context)).toMatchObject({ ok: false, asks: true }))
  it('is plucked string by string', () => {
    const reading = readCall('5 3 2 3', { ...context, content: standing('hold x32010') })
    expect(places(reading)).toBe('5/3 3/0 2/1 3/0')
    const muted = readCall('6 3 2 3', { ...context, content: standing('hold x32010') })
    expect(muted.ok ? '' : muted.error.message).toMatch(/low E is not played in the grip/)
    expect(readGrip('x32010', 6)).toBeDefined()
  })
})

describe('where things stand in time', () => {
  const starts = (call: string): string => {
    const reading = readCall(call, { ...context, string: 6 })
    if (!reading.ok) return reading.error.message
    const { notes, strokes, grips } = reading.value.content
    const sounds = notes.length + strokes.length ? [...notes, ...strokes] : grips
    return [...new Set(sounds.map((one) => one.startTicks / (Q / 2)))].sort((a, b) => a - b).join(' ')
  }
  it.each([
    ['5 on the A, rest, 5, rest, 7', '0 2 4'],
    ['5 on the A, rest for two beats, 7', '0 5'],
    ['7 on the G for a quarter, 9', '0 2'],
    ['quarter notes, 3 3 5 3 on the A', '0 2 4 6'],
    ['open low E on one, 3 on the A on the and of two', '0 3'],
    ['5 on the D on beat one, 7 on beat three', '0 4'],
    ['E, on one, and the and of two, and four', '0 3 6'],
    ['A5, one and two, rest on three', '0 1 2'],
    ['E5, one, two and, three, four and', '0 2 3 4 6 7'],
    ['G, strum down on every beat', '0 2 4 6'],
    ['A minor, F, C', '0 8 16'],
    ['two bars of G, one of D', '0 16'],
    ['G for four, A for two, D for two', '0 8 12'],
    ['half a bar of C, half a bar of G, then a bar of Am', '0 4 8'],
    ['G and C, two beats each', '0 4'],
    ['C, change to F on the and of 4', '0 7'],
    ['a bar and three beats of C, then E minor on the four', '0 14'],
    ['7 on the D twice, then 5 twice', '0 1 2 3'],
    ['7 7 on the G, all of that three times', '0 1 2 3 4 5'],
  ])('%s', (call, meant) => expect(starts(call)).toBe(meant))
})
