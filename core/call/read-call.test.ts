// Calls as people say them, held against what they mean; the exact words among them; and whatever else is
// typed.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contentProblem } from '../document/invariants/content'
import { newPart } from '../document/new-song'
import { contentSchema, type Content, type Note } from '../document/schema'
import { dice } from '../../tests/support/random-transactions'
import { judge, ownCalls, readSaidCall, shownCalls, type SaidCall } from '../../tests/support/said-calls'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { CALL_EXAMPLES } from './examples'
import { readCall, type CallUnderstood } from './read-call'
import type { CallContext } from './reading'
import { callSentence } from './sentence'
import { speak } from './speak'
import { saidWords, speakSaid } from './speak-said'
import type { SpeakOptions } from './speech'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const context: CallContext = {
  part,
  letters: ['E', 'B', 'G', 'D', 'A', 'E'],
  meter: { beats: 4, unit: 4 },
  subdivision: 'eighths',
  stepTicks: Q / 2,
}
const options: SpeakOptions = { ...context, strings: 'letters', openMidi: part.tuning.openMidi }
function understood(call: string, more: Partial<CallContext> = {}, decided = {}): CallUnderstood {
  const reading = readCall(call, { ...context, ...more }, decided)
  if (!reading.ok) throw new Error(`${call}: ${reading.error.message}`)
  return reading
}
/** "3/7 3/9" */
const places = ({ value }: CallUnderstood): string =>
  value.content.notes.map((note) => `${note.string}/${note.fret}`).join(' ')
/** A content as a song keeps it: nothing in it but what the document knows. */
const keepable = (content: Content): boolean => contentSchema.safeParse(content).success
const verdicts = (calls: readonly SaidCall[]): string[] => calls.map((said) => judge(said).verdict)

describe('calls as people say them', () => {
  it.each(shownCalls().map((said) => [said.call, said] as const))('%s', (_call, said) => {
    const { verdict, words } = judge(said)
    expect(verdict, words).toBe('exact')
    const { reading } = readSaidCall(said)
    expect(reading.ok && keepable(reading.value.content)).toBe(true)
  })
  it('reads those made up here as they are meant, and hardly ever another way unseen', () => {
    const all = verdicts(ownCalls())
    const share = (verdict: string): number => all.filter((one) => one === verdict).length / all.length
    expect(all.length).toBeGreaterThan(200)
    expect(share('exact')).toBeGreaterThan(0.96)
    expect(share('silent misreading')).toBeLessThanOrEqual(0.012)
    expect(share('refused')).toBeLessThanOrEqual(0.02)
  })
  it.each(CALL_EXAMPLES.flatMap((group) => group.examples.map((example) => [example.say] as const)))(
    'reads what the list of words shows: %s',
    (say) => {
      const { reading } = readSaidCall({ call: say, key: 'E minor', meant: [] })
      if (!reading.ok) throw new Error(reading.error.message)
      expect(reading.unknown).toEqual([])
      expect(reading.slips).toEqual([])
    },
  )
})

describe('what slides', () => {
  const grip = { strings: [5, 5, 6, 7, 7, 5].map((fret) => ({ fret })) }
  const standing: Content = {
    notes: [],
    mutes: [],
    grips: [{ id: 'g', startTicks: 0, lengthTicks: 4 * Q, grip }],
    strokes: [],
  }
  it('is a note where a string or a way in is said, whatever grip stands there', () => {
    for (const call of ['slide into 9 on the G from below', 'slide to 9 on the G']) {
      const reading = understood(call, { content: standing })
      expect(places(reading), call).toBe('3/9')
      expect(reading.value.content.strokes, call).toEqual([])
    }
  })
  it('is the grip where the whole of it is meant, or it was just named', () => {
    for (const [call, content] of [
      ['slide the whole chord up two frets', standing],
      ['hold 577655, down, slide it up to the seventh fret', undefined],
    ] as const) {
      const { grips, strokes } = understood(call, content ? { content } : {}).value.content
      expect(
        grips.at(-1)!.grip.strings.map(({ fret }) => fret),
        call,
      ).toEqual([7, 7, 8, 9, 9, 7])
      expect(strokes.at(-1)!.marks, call).toEqual([{ kind: 'slide', how: 'legato' }])
    }
  })
  it('stays on the neck', () =>
    expect(readCall('hold 577655, down, slide the whole chord down six frets', context)).toMatchObject({
      ok: false,
    }))
  it('a name at a fret is the grip whose hand lies there', () => {
    const asked: unknown[] = []
    const gripFor = (_symbol: string, after: unknown) => {
      asked.push(after)
      return grip
    }
    const { grips } = understood('A minor at the fifth fret', { gripFor }).value.content
    expect(grips[0]!.grip).toEqual(grip)
    expect(asked[0]).toMatchObject({ strings: Array(6).fill({ fret: 5 }) })
  })
})

describe('exact words among others', () => {
  it.each([
    ['so G 7 hammer 9, then B 8 bend 2', 'G 7 hammer 9, B 8 bend 2'],
    ['okay D 7 5 now A 5 for 2', 'D 7 5 A 5 for 2'],
    ['G 7h9p7, B 8 then just 8', 'G 7h9p7, B 8 8'],
  ])('%s', (call, exact) => {
    const reading = understood(call)
    expect(reading.value.content).toEqual(understood(exact).value.content)
    expect(reading.empty.length).toBeGreaterThan(0)
  })
  it('keep their sense in a call that is not in them throughout', () => {
    const { content } = understood('G 7 hammer 9, B 8 bend 2, then 5 on the A').value
    expect(content.notes.map((note) => `${note.string}/${note.fret}`).join(' ')).toBe('3/7 3/9 2/8 5/5')
    expect(content.notes[2]?.marks).toEqual([{ kind: 'bend', semitones: 2, shape: 'plain' }])
  })
})

describe('what is not said', () => {
  it('takes the nearer of two strings of one name, and the other one when told to', () => {
    const near = understood('10 on the B, 12 on the E')
    expect(places(near)).toBe('2/10 1/12')
    const [choice] = near.choices
    expect(choice).toMatchObject({
      what: 'string',
      options: [{ words: 'on the high E' }, { words: 'on the low E' }],
    })
    expect(near.assumed).toEqual(['n1'])
    expect(places(understood('10 on the B, 12 on the E', {}, { [choice!.id]: 1 }))).toBe('2/10 6/12')
  })
  it('bends to the next note of the key', () => {
    const bend = (key: CallContext['key']): unknown =>
      understood('bend the 8 on the B', { key }).value.content.notes[0]?.marks[0]
    // G on the second string: a whole step to A in C major, a half step to A flat in E flat major.
    expect(bend({ tonic: 'C', mode: 'major' })).toMatchObject({ semitones: 2 })
    expect(bend({ tonic: 'Eb', mode: 'major' })).toMatchObject({ semitones: 1 })
  })
  it('puts frets without a string where the cursor is, and says so', () => {
    const reading = understood('7, 9', { string: 3 })
    expect(places(reading)).toBe('3/7 3/9')
    expect(reading.choices[0]).toMatchObject({ what: 'string' })
    expect(readCall('7, 9', context)).toMatchObject({ ok: false, asks: true })
  })
  it('asks how far back a string reaches', () => {
    const reading = understood('5 on the A, 7, 9 on the D')
    const choice = reading.choices.find((one) => one.what === 'reach')!
    expect(places(reading)).toBe('5/5 4/7 4/9')
    expect(places(understood('5 on the A, 7, 9 on the D', {}, { [choice.id]: 1 }))).toBe('5/5 5/7 4/9')
  })
  it('knows chords by their shapes whatever the guitar is tuned to', () => {
    const down = {
      ...part,
      tuning: { ...part.tuning, openMidi: part.tuning.openMidi.map((midi) => midi - 1) },
    }
    const reading = understood('A minor, from the fifth string, open two two one open', { part: down })
    expect(reading.slips).toEqual([])
    expect(reading.value.content.grips[0]?.grip.strings.map((one) => one.fret)).toEqual([0, 1, 2, 2, 0, null])
  })
})

describe('what does not go together', () => {
  it('catches a name and frets that disagree', () => {
    const reading = understood('A minor, 3 on the A, 2 on the D, open G, 1 on the B')
    expect(reading.slips[0]?.message).toMatch(/no note of Am/)
  })
  it('catches a stretch no hand has, and a last bar of chords that is not full', () => {
    expect(understood('2 on the A with 9 on the D').slips[0]?.message).toMatch(/Frets 2 and 9 at once/)
    expect(understood('open A with 9 on the D').slips).toEqual([])
    expect(understood('G for four, A for three').slips[0]?.message).toMatch(/3 of 4 beats/)
    expect(understood('G for four, A for four').slips).toEqual([])
    expect(understood('A minor, F, C').slips).toEqual([])
  })
  it('picks what cannot be slurred, and says it', () =>
    expect(understood('5 on the A, hammer on to 7 on the G').slips[0]?.message).toMatch(/picked here/))
  it.each([
    ['7 on the G, hamer on to 9', 'hammer'],
    ['thrid string, 7', 'third'],
  ])('a slip of the pen is no other word: %s', (call, meant) => {
    const reading = readCall(call, context)
    if (reading.ok) throw new Error('understood')
    expect(reading.error.suggestions).toContain(meant)
  })
  it('shows words that were not understood among many that were, and refuses a call of them', () => {
    const call = '7 on the G, 9 on the G, blorp, then 8 on the B'
    const { unknown } = understood(call)
    expect(unknown.map(({ at, end }) => call.slice(at, end))).toEqual(['blorp'])
    expect(readCall('blorp the frobnitz', context)).toMatchObject({ ok: false, error: { at: 0 } })
  })
  it.each([
    ['30 on the G', /highest is 22/],
    ['12 on the F', /no string “F”/],
    ['same thing on the B', /nothing before/i],
    ['', /./],
  ])('says why not: %j', (call, why) => {
    const reading = readCall(call, context)
    if (call === '') expect(reading.ok).toBe(true)
    else expect(reading.ok ? '' : reading.error.message).toMatch(why)
  })
  it('is as long as its figure, or says by how much it is longer', () => {
    const reading = readCall('7 on the G, nine times', { ...context, lengthTicks: 4 * Q })
    expect(reading).toMatchObject({ ok: false, error: { overTicks: Q / 2 } })
  })
})

const note = fc.record({
  string: fc.integer({ min: 1, max: 6 }),
  fret: fc.integer({ min: 0, max: 15 }),
  length: fc.constantFrom(Q / 2, Q / 2, Q / 2, Q),
  mark: fc.constantFrom('', '', 'vibrato', 'let ring', 'palm mute', 'staccato', 'bend', 'move'),
})
/** A line that words as people say them reach: one note after the other, moved on its string. */
function lineOf(notes: readonly { string: number; fret: number; length: number; mark: string }[]): Content {
  let at = 0
  const made = notes.map((one, index): Note => {
    const before = notes[index - 1]
    const moves = one.mark === 'move' && before?.string === one.string && before.fret !== one.fret
    const startTicks = at
    at += one.length
    const marks: Note['marks'] = []
    if (moves) marks.push({ kind: one.fret > before.fret ? 'hammer-on' : 'pull-off' })
    else if (one.mark === 'vibrato' && one.fret > 0) marks.push({ kind: 'vibrato', width: 'narrow' })
    else if (one.mark === 'bend' && one.fret > 0)
      marks.push({ kind: 'bend', semitones: 2, shape: 'bend and release' })
    else if (one.mark === 'let ring' || one.mark === 'staccato') marks.push({ kind: one.mark })
    else if (one.mark === 'palm mute') marks.push({ kind: 'palm mute', pressure: 'medium' })
    return {
      id: `n${index}`,
      string: one.string,
      fret: one.fret,
      startTicks,
      lengthTicks: one.length,
      marks,
    }
  })
  return { grips: [], strokes: [], notes: made, mutes: [] }
}

describe('spoken and read back', () => {
  it('is the same line in the words people use', () => {
    let natural = 0
    fc.assert(
      fc.property(fc.array(note, { minLength: 1, maxLength: 8 }), (notes) => {
        const content = lineOf(notes)
        const text = saidWords(content.notes, options)
        if (text === undefined) return
        natural++
        expect(understood(text).value.content.notes, text).toEqual(content.notes)
      }),
      { numRuns: 300 },
    )
    expect(natural).toBeGreaterThan(150)
  })
  it('is the same in the exact words where the others do not reach', () => {
    const { content } = understood('hold x02210, down, up, G 7 bend 2 accent').value
    const lines = speakSaid(content, options, (call) => understood(call).value.content)
    expect(lines).toEqual(speak(content, options))
    expect(understood(lines.map((line) => line.text).join('\n')).value.content).toEqual(content)
  })
  it('says before Enter what is entered', () => {
    expect(callSentence(understood('7 on the G, hammer on to 9, then two open Ds'), options)).toBe(
      '4 notes over 4 eighths: 7 on the G, hammer on to 9, then open D, open',
    )
    expect(callSentence(understood('A minor, down, two dead ones'), options)).toBe(
      '3 strokes, 1 grip over 3 eighths: hold Am (x02210); down, dead up, dead down',
    )
  })
})

describe('whatever is typed', () => {
  const words = [...new Set([...shownCalls(), ...ownCalls()].flatMap((said) => said.call.split(/\s+/)))]
  it('never throws and never gives what cannot be played', () => {
    const roll = dice(5)
    for (let count = 0; count < Number(process.env.CALL_FUZZ ?? 1500); count++) {
      const call = Array.from({ length: 1 + roll.below(24) }, () => roll.one(words)).join(' ')
      const reading = readCall(call, { ...context, string: 3 })
      if (!reading.ok) {
        expect(reading.error.message, call).toMatch(/^\S.{8,}[.?]$/s)
        continue
      }
      expect(contentProblem(reading.value.content, part, Number.POSITIVE_INFINITY), call).toBeUndefined()
      expect(keepable(reading.value.content), call).toBe(true)
    }
  })
  it('takes time in step with its length', () => {
    const time = (length: number): number => {
      const call = ownCalls()
        .map((said) => said.call)
        .join(', then ')
        .slice(0, length)
      const started = performance.now()
      readCall(call, { ...context, string: 3 })
      return performance.now() - started
    }
    time(3000)
    expect(time(6000)).toBeLessThan(1500)
  })
})
