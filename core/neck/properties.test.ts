// What must hold of the playing core for any line, grip or call, not for chosen ones.
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { enterCall } from '../call/enter'
import { parseCall } from '../call/parse'
import { tuningsFor } from '../instrument/tunings'
import { readChordSymbol } from '../music/chord-name'
import { pitchClassOf, type Key } from '../music/pitch'
import { must } from '../result'
import { contentDifferences } from '../document/differences'
import { newPart } from '../document/new-song'
import { EMPTY_CONTENT, type Mark, type Content, type Note, type Part, type Stroke } from '../document/schema'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { adaptLine } from './lines/adapt-line'
import { easedGrips, isComfortable } from './grips/eased-grip'
import { fingerGrip } from './grips/fingering'
import { gripFacts, readGrip, writeGrip } from './grips/grip'
import { gripsFor } from './grips/grip-search'
import { HANDS, USUAL_HAND } from './hand'
import { harmonyLine } from './lines/harmony-line'
import { onPath, pathNotes, pitched } from './lines/line'
import { mergeParts } from './lines/merge-parts'
import { shiftFrets, toTuning } from './lines/move-line'
import { soundingMidi } from '../document/part-pitch'
import { findPaths } from './lines/path'
import { performContent } from '../score/perform'
import { schoolDirections, turnedTo, withPicks, wrongPicks, wrongWays } from './strokes'

const FOUR = { beats: 4, unit: 4 } as const
const feel = { meter: FOUR, subdivision: 'eighths' as const }
const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const tuned = (name: string): Part => ({
  ...guitar,
  tuning: tuningsFor('guitar-6').find((tuning) => tuning.name === name)!,
})
const PARTS: Part[] = [
  guitar,
  tuned('Dropped low string to D'),
  tuned('Half step down'),
  newPart({ id: 's', name: 'Seven', kind: 'guitar-7' }),
  newPart({ id: 'b', name: 'Baritone', kind: 'baritone-6' }),
  { ...guitar, instrument: { ...guitar.instrument, capo: 2 } },
]
const part = fc.constantFrom(...PARTS)
const key: fc.Arbitrary<Key> = fc.record({
  tonic: fc.constantFrom('C', 'D', 'Eb', 'E', 'F#', 'A', 'Bb'),
  mode: fc.constantFrom('major', 'minor', 'dorian', 'mixolydian'),
})
const SCALES: Record<string, number[]> = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
}

/** A line of single notes that keeps near one place, slurred here and there along a string. */
const line = fc
  .array(
    fc.record({
      string: fc.integer({ min: 1, max: 5 }),
      fret: fc.integer({ min: 3, max: 12 }),
      long: fc.boolean(),
      mark: fc.constantFrom<Mark | undefined>(
        undefined,
        undefined,
        { kind: 'vibrato', width: 'wide' },
        { kind: 'palm mute', pressure: 'firm' },
        { kind: 'ghost' },
      ),
      slur: fc.boolean(),
    }),
    { minLength: 1, maxLength: 16 },
  )
  .map((list): Content => {
    let at = 0
    const notes = list.map((one, index): Note => {
      const before = list[index - 1]
      const slurred = one.slur && before?.string === one.string && before.fret !== one.fret
      const lengthTicks = one.long ? Q : Q / 2
      const note: Note = {
        id: `n${index}`,
        string: one.string,
        fret: one.fret,
        startTicks: at,
        lengthTicks,
        marks: [
          ...(slurred
            ? [{ kind: before.fret < one.fret ? ('hammer-on' as const) : ('pull-off' as const) }]
            : []),
          ...(one.mark ? [one.mark] : []),
        ],
      }
      at += lengthTicks
      return note
    })
    return { ...EMPTY_CONTENT, notes }
  })
const midis = (notes: readonly Note[], on: Part): number[] =>
  notes.map((note) => soundingMidi(on, note.string, note.fret))
const onNeck = (notes: readonly Note[], on: Part): boolean =>
  notes.every(
    (note) =>
      note.string >= 1 &&
      note.string <= on.tuning.openMidi.length &&
      note.fret >= 0 &&
      note.fret <= on.instrument.fretCount - on.instrument.capo,
  )
const placesOnce = (notes: readonly Note[]): boolean =>
  new Set(notes.map((note) => `${note.startTicks}/${note.string}`)).size === notes.length

describe('any line elsewhere on the neck', () => {
  it('sounds the same, lies on the neck, and breaks a slur only by picking it', () => {
    fc.assert(
      fc.property(line, part, key, (content, on, inKey) => {
        const notes = pitched(content)
        const paths = must(findPaths(pathNotes(notes, on), on, inKey))
        for (const path of paths) {
          const moved = onPath(notes, path, true)
          expect(midis(moved, on)).toEqual(midis(notes, on))
          expect(onNeck(moved, on)).toBe(true)
          moved.forEach((note, index) => {
            const slurred = note.marks.some((mark) => mark.kind === 'hammer-on' || mark.kind === 'pull-off')
            if (slurred) expect(note.string).toBe(moved[index - 1]!.string)
          })
        }
        paths.slice(1).forEach((path, index) => expect(path.cost).toBeGreaterThanOrEqual(paths[index]!.cost))
      }),
      { numRuns: 60 },
    )
  })
  it('keeps its sound in any tuning that has its pitches, and loses nothing silently', () => {
    fc.assert(
      fc.property(line, part, part, key, (content, from, to, inKey) => {
        const moved = toTuning(content, from, to, inKey)
        expect(onNeck(moved.content.notes, to)).toBe(true)
        expect(moved.content.notes.length + moved.lost.length).toBe(content.notes.length)
        const nearer = toTuning(content, from, to, inKey, 'octave')
        expect(nearer.content.notes.length).toBeGreaterThanOrEqual(moved.content.notes.length)
        const wanted = midis(content.notes, from).map((midi) => midi % 12)
        expect(midis(nearer.content.notes, to).every((midi) => wanted.includes(midi % 12))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('is where it was when it is moved up and down again', () => {
    fc.assert(
      fc.property(line, fc.integer({ min: -3, max: 8 }), (content, by) => {
        const up = shiftFrets(content, guitar, by)
        if (up.ok) expect(must(shiftFrets(up.value, guitar, -by))).toEqual(content)
      }),
    )
  })
})

describe('any harmony line', () => {
  it('has a note for each note, in the key where the first line is, on the same side, playable', () => {
    fc.assert(
      fc.property(line, key, fc.constantFrom(3, -3, 4, 5, 6, -6, 8), (content, inKey, interval) => {
        const made = harmonyLine(content, guitar, guitar, {
          interval,
          kind: 'diatonic',
          key: inKey,
          exceptions: [],
        })
        if (!made.ok) return
        const lead = pitched(content)
        const scale = SCALES[inKey.mode]!.map((step) => (step + pitchClassOf(inKey.tonic)) % 12)
        expect(made.value.notes.map((note) => [note.startTicks, note.lengthTicks])).toEqual(
          lead.map((note) => [note.startTicks, note.lengthTicks]),
        )
        expect(onNeck(made.value.notes, guitar) && placesOnce(made.value.notes)).toBe(true)
        made.value.notes.forEach((note, index) => {
          const [own, other] = [
            soundingMidi(guitar, note.string, note.fret),
            soundingMidi(guitar, lead[index]!.string, lead[index]!.fret),
          ]
          expect(own - other).toBe(made.value.intervals[index])
          expect(Math.sign(own - other)).toBe(Math.sign(interval))
          if (scale.includes(other % 12)) expect(scale).toContain(own % 12)
        })
      }),
      { numRuns: 60 },
    )
  })
  it('in parallel is the same number of semitones throughout', () => {
    fc.assert(
      fc.property(line, key, (content, inKey) => {
        const made = harmonyLine(content, guitar, guitar, {
          interval: 5,
          kind: 'parallel',
          key: inKey,
          exceptions: [],
        })
        if (made.ok) expect(new Set(made.value.intervals).size).toBe(1)
      }),
      { numRuns: 30 },
    )
  })
})

describe('any two parts for one player', () => {
  it('leave the first as it is, put nothing twice on a string, and account for every note', () => {
    fc.assert(
      fc.property(line, line, fc.constantFrom(...HANDS), (first, second, hand) => {
        const merged = must(mergeParts(first, second, { first: guitar, second: guitar }, hand))
        expect(merged.kept + merged.shared + merged.dropped.length).toBe(second.notes.length)
        for (const note of first.notes) expect(merged.content.notes).toContainEqual(note)
        expect(merged.content.notes).toHaveLength(first.notes.length + merged.kept)
        expect(placesOnce(merged.content.notes) && onNeck(merged.content.notes, guitar)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('any foreign line comes out on the steps, one note a string at a time', () => {
    const foreign = fc.array(
      fc.record({
        midi: fc.integer({ min: 20, max: 108 }),
        startTicks: fc.integer({ min: 0, max: 8 * Q }),
        lengthTicks: fc.integer({ min: 1, max: 2 * Q }),
      }),
      { minLength: 1, maxLength: 24 },
    )
    fc.assert(
      fc.property(foreign, part, key, (notes, on, inKey) => {
        const adapted = adaptLine(notes, on, inKey, { stepTicks: Q / 4, lengthTicks: 16 * Q })
        if (!adapted.ok) {
          expect(adapted.refusal.message.length).toBeGreaterThan(15)
          return
        }
        expect(onNeck(adapted.value.notes, on) && placesOnce(adapted.value.notes)).toBe(true)
        expect(adapted.value.notes.every((note) => note.startTicks % (Q / 4) === 0)).toBe(true)
        expect(adapted.value.notes.length + adapted.value.leftOut).toBeLessThanOrEqual(notes.length)
      }),
      { numRuns: 60 },
    )
  })
})

describe('any grip', () => {
  const grip = fc
    .array(fc.option(fc.integer({ min: 0, max: 9 }), { nil: null, freq: 3 }), { minLength: 6, maxLength: 6 })
    .map((frets) => ({ strings: frets.map((fret) => ({ fret })) }))
  it(
    'is written and read back, named by tones that sound, and fingered with four ' +
      'fingers or said to be impossible',
    () => {
      fc.assert(
        fc.property(grip, key, (one, inKey) => {
          expect(readGrip(writeGrip(one), 6)).toEqual(one)
          const facts = gripFacts({ key: inKey }, guitar, one, 'sounding')
          for (const name of facts.names) {
            const sounding = new Set(facts.midis.flatMap((midi) => (midi === undefined ? [] : [midi % 12])))
            expect(
              Object.keys(name.degrees)
                .map(Number)
                .sort((a, b) => a - b),
            ).toEqual([...sounding].sort((a, b) => a - b))
            for (const [pitchClass, tone] of Object.entries(name.tones))
              expect(pitchClassOf(tone)).toBe(Number(pitchClass))
          }
          const fingering = fingerGrip(one, guitar)
          if (!fingering) {
            expect(facts.caution).toMatch(/No hand holds this/)
            return
          }
          one.strings.forEach((string, index) =>
            expect(Boolean(fingering.fingers[index])).toBe(Boolean(string.fret)),
          )
        }),
        { numRuns: 300 },
      )
    },
  )
  it('too wide is eased into grips that are comfortable', () => {
    fc.assert(
      fc.property(grip, (one) => {
        const facts = gripFacts({ key: { tonic: 'C', mode: 'major' } }, guitar, one, 'shape')
        if (!facts.caution) return
        for (const eased of easedGrips(one, guitar, { tonic: 'C', mode: 'major' }, USUAL_HAND))
          expect(isComfortable(eased.grip, guitar, USUAL_HAND)).toBe(true)
      }),
      { numRuns: 40 },
    )
  })
  it(
    'for any common chord there is one within the hand, its root or written bass ' +
      'lowest where a full grip can have it',
    () => {
      const symbol = fc
        .tuple(
          fc.constantFrom('C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'),
          fc.constantFrom('', 'm', '7', 'm7', 'maj7', 'sus4', 'sus2', '5', '6', 'add9', 'dim', 'm7b5', '9'),
        )
        .map((words) => words.join(''))
      fc.assert(
        fc.property(symbol, part, (chord, on) => {
          const [best] = must(gripsFor(chord, on, { count: 3 }))
          const low = Math.min(
            ...best!.grip.strings.flatMap((string, index) =>
              string.fret === null ? [] : [soundingMidi(on, index + 1, string.fret)],
            ),
          )
          expect(low % 12, `${chord}: ${writeGrip(best!.grip)}`).toBe(readChordSymbol(chord)!.bass)
          for (const stretch of best!.fingering.stretches)
            expect(stretch.mm).toBeLessThanOrEqual(stretch.limitMm * 1.1)
        }),
        { numRuns: 120 },
      )
    },
  )
})

describe('any movement of the hand', () => {
  const strokes = fc
    .array(
      fc.record({
        gap: fc.integer({ min: 1, max: 3 }),
        direction: fc.constantFrom('down' as const, 'up' as const, 'thumb' as const),
        dead: fc.boolean(),
      }),
      { minLength: 1, maxLength: 20 },
    )
    .map((list) => {
      let at = 0
      return list.map(({ gap, direction, dead }, index): Stroke => {
        const startTicks = at
        at += (gap * Q) / 2
        return {
          id: `s${index}`,
          startTicks,
          lengthTicks: Q / 2,
          direction,
          marks: dead ? [{ kind: 'dead' }] : [],
        }
      })
    })
  const school = fc.constantFrom(
    'pendulum' as const,
    'all down' as const,
    'alternate' as const,
    'economy' as const,
  )
  it('goes with its school once it is turned, and turning again changes nothing', () => {
    fc.assert(
      fc.property(strokes, school, (list, by) => {
        const turned = turnedTo(list, by, feel)
        expect(wrongWays(turned, by, feel).size).toBe(0)
        expect(turnedTo(turned, by, feel)).toEqual(turned)
        expect(schoolDirections(list, by, feel)).toHaveLength(list.length)
      }),
    )
  })
  it('picks every note that is not slurred, and none that is', () => {
    fc.assert(
      fc.property(line, school, (content, by) => {
        const picked = withPicks(content.notes, by, feel)
        expect(wrongPicks(picked, by, feel).size).toBe(0)
        for (const note of picked)
          if (note.marks.some((mark) => mark.kind === 'hammer-on' || mark.kind === 'pull-off'))
            expect(note.pick).toBeUndefined()
      }),
    )
  })
})

describe('anything played', () => {
  it('sounds at its pitch, inside its figure, one note at a time on a string', () => {
    fc.assert(
      fc.property(line, part, (content, on) => {
        const lengthTicks = Math.max(...content.notes.map((note) => note.startTicks + note.lengthTicks))
        const played = performContent(content, { lengthTicks, meter: FOUR }, on)
        expect(
          played
            .filter((one) => !one.joins)
            .map((one) => one.midi)
            .sort(),
        ).toEqual(midis(content.notes, on).sort())
        for (const one of played) {
          expect(one.endTicks).toBeGreaterThan(one.startTicks)
          expect(one.loudness > 0 && one.loudness <= 1).toBe(true)
          for (const other of played)
            if (other !== one && other.string === one.string && other.startTicks > one.startTicks)
              expect(one.endTicks).toBeLessThanOrEqual(other.startTicks + 1)
        }
      }),
      { numRuns: 80 },
    )
  })
})

describe('any call entered', () => {
  const call = fc
    .array(
      fc.constantFrom(
        'G 7',
        'G 7 9 7',
        'hammer D 5 7',
        'A 2 power',
        'rest',
        'hold x02220, down up',
        'two dead',
        'at bar 2, E 0',
        'palm firm A 0 0',
        'palming firm for 4',
        'in sixteenths',
        'twice',
      ),
      { minLength: 1, maxLength: 6 },
    )
    .map((clauses) => clauses.join(', '))
  it('gives the same content when it is entered again, and touches nothing outside what it speaks of', () => {
    let serial = 0
    const newId = () => `i${serial++}`
    const bare = (content: Content) => ({
      ...content,
      notes: content.notes.map(({ id: _, ...note }) => note),
      strokes: content.strokes.map(({ id: _, ...stroke }) => stroke),
      grips: content.grips.map(({ id: _, ...span }) => span),
      mutes: content.mutes.map(({ id: _, ...mute }) => mute),
    })
    fc.assert(
      fc.property(call, line, (text, old) => {
        const read = parseCall(text, {
          part: guitar,
          letters: ['E', 'B', 'G', 'D', 'A', 'E'],
          ...feel,
          stepTicks: Q / 2,
          lengthTicks: 32 * Q,
          content: old,
        })
        if (!read.ok) return
        const once = enterCall(old, read.value, newId)
        expect(bare(enterCall(once, read.value, newId))).toEqual(bare(once))
        const spoken = (tick: number) =>
          read.value.covered.some((span) => tick >= span.from && tick < span.to)
        for (const note of old.notes) if (!spoken(note.startTicks)) expect(once.notes).toContainEqual(note)
        expect(contentDifferences(once, once, FOUR)).toEqual([])
      }),
      { numRuns: 120 },
    )
  })
})
