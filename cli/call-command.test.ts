// Calls in rows: a line of JSON in, a line out, in order, whatever is in it.
import { describe, expect, it } from 'vitest'
import { call, callBatch } from './call-command'

type Line = Record<string, unknown>
const batch = (lines: readonly (Line | string)[], flags = {}): Record<string, never>[] =>
  callBatch(
    lines.map((line) => (typeof line === 'string' ? line : JSON.stringify(line))).join('\n'),
    flags,
  ).map((line) => JSON.parse(line))
const places = (answer: Record<string, never>): string =>
  (answer.notes as unknown as { string: number; fret: number }[])
    .map((note) => `${note.string}/${note.fret}`)
    .join(' ')

describe('calls in rows', () => {
  it('answers each in order, and goes on after one that is wrong', () => {
    const answers = batch([
      { call: '7 on the G, then 8 on the B' },
      'no json',
      { step: '1/8' },
      { call: 5 },
      'null',
      { call: 'blorp the frobnitz' },
      { call: '7 on the G', step: '1/7x' },
      { call: '7 on the G', tuning: 'E2 H2' },
      { call: '3 on the A' },
    ])
    expect(places(answers[0]!)).toBe('3/7 2/8')
    for (const answer of answers.slice(1, 8))
      expect(answer.error).toMatchObject({ message: expect.stringMatching(/\S{3}/) })
    expect(places(answers[8]!)).toBe('5/3')
  })
  it('takes a step, a tuning, a key and a call before it for each', () => {
    const [low, sixteenth, again, third] = batch([
      { call: 'open low D', tuning: 'D2 A2 D3 G3 B3 E4' },
      { call: '7 on the G', step: '1/16' },
      { call: 'same thing on the B', setup: 'string 3 7 9' },
      { call: 'a third above, in the key', setup: 'string 3 4 5 7', key: 'G major' },
    ])
    expect(places(low!)).toBe('6/0')
    expect(sixteenth!.notes).toMatchObject([{ lengthTicks: 2520 }])
    expect(places(again!)).toBe('2/7 2/9')
    expect(again!.startTicks).toBe(10_080)
    expect(places(third!)).toBe('2/3 2/5 2/7')
    expect(batch([{ call: 'again', setup: 'blorp the frobnitz' }])[0]!.error).toMatchObject({
      message: expect.stringMatching(/^The call before/),
    })
  })
  it('says what it understood, what was assumed with its rivals, slips and left-over words', () => {
    const [answer] = batch([{ call: '10 on the B, 12 on the E, blorp, then 5 on the B' }])
    expect(answer!.says).toMatch(/^3 notes over 3 eighths: 10 on the B, then 12 on the high E/)
    expect(answer!.assumed).toMatchObject([
      { what: 'string', taken: 'on the high E', rivals: ['on the low E'] },
    ])
    expect(answer!.leftOver).toEqual(['blorp'])
    expect(batch([{ call: 'A minor, F' }])[0]!.chords).toMatchObject([{ symbol: 'Am' }, { symbol: 'F' }])
    expect(batch([{ call: '7, 9' }])[0]).toMatchObject({ asks: true })
  })
  it('says one call in words as well', () => {
    expect(call('7 on the G', {}).words).toBe('1 note over 1 eighth: 7 on the G')
    expect(call('7 on the H', {})).toMatchObject({ failed: true })
  })
})
