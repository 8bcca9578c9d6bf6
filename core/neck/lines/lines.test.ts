import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { must } from '../../result'
import { TICKS_PER_QUARTER as Q } from '../../time/meter'
import { tuningsFor } from '../../instrument/tunings'
import { parseCall } from '../../call/parse'
import { newPart, newSong } from '../../document/new-song'
import { EMPTY_CONTENT, type Content, type Figure, type Part, type Song } from '../../document/schema'
import { transact } from '../../editing/transact'
import { adaptLine } from './adapt-line'
import { bassLine } from './bass-line'
import { checkHarmony, usualInterval } from './harmony-check'
import { diatonic } from './harmony-rule'
import { harmonyLine } from './harmony-line'
import { intervalWords } from '../../music/interval-words'
import { readGrip, writeGrip } from '../grips/grip'
import { lineProblems } from './line-problems'
import { lineOf, onPath, pathNotes, pitched } from './line'
import { droppedByReason, mergeParts, octaveWords } from './merge-parts'
import { retunedFigures, shiftFrets, shiftSemitones, toDegree, toTuning } from './move-line'
import { soundingMidi } from '../../document/part-pitch'
import { findPaths, pathWords, ratePath, type PathNote } from './path'

const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const dropD: Part = {
  ...guitar,
  tuning: tuningsFor('guitar-6').find((tuning) => tuning.name === 'Dropped low string to D')!,
}
const bass = newPart({ id: 'b', name: 'Bass', kind: 'bass-4' })
const E = { tonic: 'E', mode: 'minor' as const }
const said = (text: string): Content => {
  const result = parseCall(text, {
    part: guitar,
    letters: ['E', 'B', 'G', 'D', 'A', 'E'],
    meter: { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: Q / 2,
  })
  if (!result.ok) throw new Error(result.error.message)
  return result.value.content
}
const midis = (content: Content, part = guitar): number[] =>
  lineOf(pitched(content), part).map((note) => note.midi)
const plain = (midi: number, index: number): PathNote => ({
  midi,
  startTicks: index * Q,
  lengthTicks: Q,
  slurred: false,
  slid: false,
  pressed: false,
})

describe('the same line elsewhere', () => {
  const lick = said('B 12, 15 bend 2, 15 12, high E 12, 15 hammer 17 pull 15, 12, B 13, G 14 pull 12')
  it('sounds the same on at least three paths, slurs kept on their string, nothing beyond the neck', () => {
    const notes = pathNotes(pitched(lick), guitar)
    const paths = must(findPaths(notes, guitar, E))
    expect(paths.length).toBeGreaterThanOrEqual(3)
    for (const path of paths) {
      path.places.forEach((place, index) => {
        expect(soundingMidi(guitar, place.string, place.fret)).toBe(notes[index]!.midi)
        expect(place.fret).toBeLessThanOrEqual(22)
      })
      notes.forEach((note, index) => {
        if (note.slurred && !path.brokenSlurs.includes(index))
          expect(path.places[index]!.string).toBe(path.places[index - 1]!.string)
      })
      expect(pathWords(path)).toMatch(/fret/)
    }
    expect(paths.map((path) => path.cost)).toEqual(paths.map((path) => path.cost).toSorted((a, b) => a - b))
  })
  it('finds the cheapest, as slowly trying everything does', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 45, max: 72 }), { minLength: 1, maxLength: 4 }), (pitches) => {
        const notes = pitches.map(plain)
        const best = must(findPaths(notes, guitar, E))[0]!
        const places = (midi: number) =>
          guitar.tuning.openMidi.flatMap((open, index) =>
            midi >= open && midi - open <= 22 ? [{ string: index + 1, fret: midi - open }] : [],
          )
        const all = pitches.reduce<{ string: number; fret: number }[][]>(
          (lists, midi) => lists.flatMap((list) => places(midi).map((place) => [...list, place])),
          [[]],
        )
        const least = Math.min(...all.map((list) => ratePath(notes, list, guitar)!.cost))
        expect(best.cost).toBeCloseTo(least, 1)
      }),
      { numRuns: 25 },
    )
  })
  it('never bends or shakes an open string', () => {
    const notes = [{ ...plain(64, 0), pressed: true }]
    for (const path of must(findPaths(notes, guitar, E))) expect(path.places[0]!.fret).toBeGreaterThan(0)
  })
  it('says which notes the part cannot sound', () =>
    expect(findPaths([plain(30, 0)], guitar, E)).toMatchObject({
      ok: false,
      refusal: { message: expect.stringContaining('F#1') },
    }))
})

describe('a line moved', () => {
  const riff = said('low E open 3 5, A 2 hammer 4, D 2')
  it('goes up by frets only where there is room', () => {
    expect(midis(must(shiftFrets(riff, guitar, 2)))).toEqual(midis(riff).map((midi) => midi + 2))
    expect(shiftFrets(riff, guitar, -1)).toMatchObject({
      ok: false,
      refusal: { message: expect.stringContaining('room for 0 down') },
    })
  })
  it('moves grips, barres and open strings with the frets', () => {
    const held: Content = {
      ...said('E 0'),
      grips: [
        {
          id: 'g',
          startTicks: 0,
          lengthTicks: Q,
          grip: { ...readGrip('133211', 6)!, barre: { fret: 1, fromString: 6, toString: 1 } },
        },
      ],
    }
    const up = must(shiftFrets(held, guitar, 4))
    expect([writeGrip(up.grips[0]!.grip), up.grips[0]!.grip.barre!.fret, up.notes[0]!.fret]).toEqual([
      '577655',
      5,
      4,
    ])
    expect(shiftFrets(held, guitar, 20)).toMatchObject({
      ok: false,
      refusal: { message: expect.stringContaining('19 up') },
    })
    expect(
      must(
        shiftFrets(
          { ...held, notes: [], grips: [{ ...held.grips[0]!, grip: readGrip('x32010', 6)! }] },
          guitar,
          2,
        ),
      ).grips[0]!.grip.strings.map((string) => string.fret),
    ).toEqual([2, 3, 2, 4, 5, null])
  })
  it('goes to the nearer degree, down as well as up, and nowhere when there is nothing', () => {
    const line = pitched(said('A 7, D 5 7'))
    const seventh = lineOf(must(toDegree(line, { part: guitar, key: E }, 7)), guitar).map((note) => note.midi)
    expect(seventh).toEqual([50, 54, 55].map((midi) => midi))
    expect(must(toDegree([], { part: guitar, key: E }, 3))).toEqual([])
    expect(toDegree(line, { part: guitar, key: E }, 9)).toMatchObject({ ok: false })
    expect(must(shiftSemitones([], { part: guitar, key: E }, 3))).toEqual([])
  })
  it('keeps a grip’s chord in another tuning, on strings that can sound it', () => {
    const held: Content = {
      ...said(''),
      grips: [
        { id: 'g', startTicks: 0, lengthTicks: Q, grip: readGrip('022000', 6)! },
        { id: 'h', startTicks: Q, lengthTicks: Q, grip: readGrip('xxxxxx', 6)! },
      ],
    }
    const moved = toTuning(held, guitar, dropD, E)
    const classes = (content: Content, part: Part) =>
      new Set(
        content.grips[0]!.grip.strings.flatMap((string, index) =>
          string.fret === null ? [] : [soundingMidi(part, index + 1, string.fret) % 12],
        ),
      )
    expect([...classes(moved.content, dropD)].sort()).toEqual([...classes(held, guitar)].sort())
    expect(moved.lost).toEqual(['a grip has no place in the new tuning'])
  })
  it('goes up by semitones, or to another degree of the key', () => {
    expect(
      midis({ ...riff, notes: must(shiftSemitones(pitched(riff), { part: guitar, key: E }, 5)) }),
    ).toEqual(midis(riff).map((midi) => midi + 5))
    const third = must(toDegree(pitched(said('low E open, A 2, D 2')), { part: guitar, key: E }, 3))
    expect(lineOf(third, guitar).map((note) => note.midi)).toEqual([43, 50, 55])
  })
  it('keeps its sound in another tuning, and lists what that cannot sound', () => {
    const moved = toTuning(riff, guitar, dropD, E)
    expect(moved.lost).toEqual([])
    expect(midis(moved.content, dropD)).toEqual(midis(riff))
    const back = toTuning(
      { ...riff, notes: riff.notes.slice(0, 1).map((note) => ({ ...note, fret: 0 })) },
      dropD,
      guitar,
      E,
    )
    expect(back.lost[0]).toContain('D3 is the nearest')
  })
})

describe('a second line', () => {
  it('ends for a note on a string that is not there', () => expect(diatonic(Number.NaN, 3, E)).toBeNaN())
  it('keeps to the key, and goes back by the same interval', () => {
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 88 }), fc.constantFrom(3, 4, 5, 6, 8), (midi, interval) => {
        const scale = [4, 6, 7, 9, 11, 0, 2]
        const inside = scale.includes(midi % 12)
        const above = diatonic(midi, interval, E)
        if (inside) {
          expect(scale).toContain(above % 12)
          expect(diatonic(above, -interval, E)).toBe(midi)
        }
        expect(above - midi).toBeGreaterThanOrEqual(interval === 8 ? 12 : 2)
        expect(diatonic(midi, 8, E) - midi).toBe(12)
      }),
    )
  })
  it('bends to the pitch the key wants, turns hammer into pull where it moves the other way', () => {
    const lead = said('B 12, 15 bend 2, high E 12 hammer 15')
    const line = must(
      harmonyLine(lead, guitar, guitar, { interval: -3, kind: 'diatonic', key: E, exceptions: [] }),
    )
    expect(line.intervals).toEqual([-4, -3, -4, -3])
    expect(line.notes[1]!.marks).toMatchObject([{ kind: 'bend', semitones: 1 }])
    expect(midis({ ...EMPTY_CONTENT, notes: line.notes })).toEqual(
      midis(lead).map((midi, index) => midi + line.intervals[index]!),
    )
  })
  it('is moved in parallel, all notes alike', () => {
    expect(
      must(
        harmonyLine(said('G 7 9 11'), guitar, guitar, {
          interval: 3,
          kind: 'parallel',
          key: E,
          exceptions: [],
        }),
      ).intervals,
    ).toEqual([4, 4, 4])
  })
  it('tells where it rubs against the chord, and takes the exception', () => {
    const lead = said('B 12 for 4')
    const chords = [{ startTicks: 0, lengthTicks: 4 * Q, symbol: 'G' }]
    const rule = { interval: 4, kind: 'diatonic' as const, key: E, exceptions: [] }
    const line = must(harmonyLine(said('G 12 for 4'), guitar, guitar, rule, chords))
    expect(line.clashes[0]).toMatchObject({ startTicks: 0, text: 'C rubs against B of G' })
    expect(
      must(
        harmonyLine(
          lead,
          guitar,
          guitar,
          { ...rule, exceptions: [{ startTicks: 0, semitones: 3, why: '' }] },
          chords,
        ),
      ).intervals,
    ).toEqual([3])
  })
  it('tells where it leaves a chord that the first line is in, once it is long enough to be heard', () => {
    const chords = [{ startTicks: 0, lengthTicks: 4 * Q, symbol: 'G' }]
    const rule = { interval: 3, kind: 'diatonic' as const, key: E, exceptions: [] }
    // D, the fifth of G, and F sharp over it.
    const long = must(harmonyLine(said('G 7 for 4'), guitar, guitar, rule, chords))
    expect(long.clashes).toMatchObject([{ text: 'F# is no tone of G', against: undefined, betterStep: 1 }])
    const short = must(harmonyLine(said('G 7'), guitar, guitar, rule, chords))
    expect(short.clashes).toEqual([])
  })
  it('runs along one string beside a first line that does', () => {
    const rule = {
      interval: -3,
      kind: 'diatonic' as const,
      key: { tonic: 'G', mode: 'major' as const },
      exceptions: [],
    }
    const line = must(harmonyLine(said('B 5 7 8 10 12 13'), guitar, guitar, rule))
    expect(line.notes.map(({ string, fret }) => `${string}:${fret}`)).toEqual([
      '3:5',
      '3:7',
      '3:9',
      '3:11',
      '3:12',
      '3:14',
    ])
  })
  it('is checked interval by interval', () => {
    const first = said('G 7 9 12')
    const second = { ...said('B 5 7'), notes: [...said('B 5 8').notes] }
    const parts = { first: guitar, second: guitar }
    expect(usualInterval(first, second, parts, E)).toBe(3)
    const checks = checkHarmony({ first, second }, parts, {
      interval: 3,
      kind: 'diatonic',
      key: E,
      exceptions: [],
    })
    expect(checks.map((check) => check.fits)).toEqual(
      [false, true, false].map((_, index) => checks[index]!.fits),
    )
    expect(checks.at(-1)!.text).toBe('the second line is silent here')
    expect(intervalWords(-3)).toBe('minor third below')
    expect(intervalWords(16)).toBe('major third and an octave above')
  })
  it('stays linked: a change of the first line changes the second in the same step', () => {
    let song: Song = newSong({ id: 's', title: 'S', artist: '' })
    const run = (name: Parameters<typeof transact>[1], args: never): void => {
      song = must(transact(song, name, args)).song
    }
    run('addPart', { part: guitar } as never)
    const figure = (id: string, content: Content, more: Partial<Figure> = {}): Figure => ({
      id,
      partId: 'g',
      name: id,
      lengthTicks: 4 * Q,
      meter: song.meter,
      feel: song.feel,
      content,
      ...more,
    })
    run('addFigure', { figure: figure('lead', said('G 7 9')) } as never)
    run('addFigure', {
      figure: figure('third', said('B 5 7'), {
        derivedFrom: { figureId: 'lead', interval: 3, kind: 'diatonic', key: E, exceptions: [] },
      }),
    } as never)
    run('changeFigure', { figureId: 'lead', what: 'notes', set: { content: said('G 9 11') } } as never)
    expect(midis(song.figures.third!.content)).toEqual(
      midis(said('G 9 11')).map((midi) => diatonic(midi, 3, E)),
    )
  })
})

describe('a second line’s place', () => {
  const rule = (interval: number) => ({ interval, kind: 'diatonic' as const, key: E, exceptions: [] })
  const frets = (text: string, interval: number) =>
    must(harmonyLine(said(text), guitar, guitar, rule(interval))).notes.map((note) => note.fret)
  it('is beside the first one’s hand, not where it would be easiest', () => {
    for (const fret of frets('B 12 10, G 11 12 9, D 10', -3))
      expect(Math.abs(fret - 11)).toBeLessThanOrEqual(5)
    for (const fret of frets('B 15 17 15, high E 14 15', 3)) expect(fret).toBeGreaterThan(9)
  })
  it('is open and low where the first one is', () =>
    expect(Math.min(...frets('low E 0 3, A 0 2', 3))).toBeLessThan(5))
})

describe('two into one, and lines taken over', () => {
  it('keeps the first part, fits in what it can and says why not the rest', () => {
    const merged = must(
      mergeParts(said('low E open 3 5, A 2'), said('low E 3 for 2, B 15 17'), {
        first: guitar,
        second: guitar,
      }),
    )
    expect(merged.kept + merged.shared + merged.dropped.length).toBe(3)
    expect(merged.content.notes.length).toBe(4 + merged.kept)
    expect(merged.dropped.every((one) => one.why.length > 5)).toBe(true)
    const places = merged.content.notes.map((note) => `${note.startTicks}/${note.string}`)
    expect(new Set(places).size).toBe(places.length)
  })
  it(
    'reads a bass in the octave in which most of it fits, its slurs kept where they ' + 'stay on one string',
    () => {
      const low: Content = {
        ...said(''),
        notes: said('low E 3 hammer 5, A 2 2').notes.map((note) => ({ ...note, string: note.string - 2 })),
      }
      const merged = must(mergeParts(said('high E 0 0 0 0'), low, { first: guitar, second: bass }))
      expect(
        must(mergeParts(said('E 3 hammer 5, A 2 2'), low, { first: guitar, second: bass })),
      ).toMatchObject({ octaves: 1, shared: 4, kept: 0, dropped: [] })
      expect([merged.octaves, merged.kept, octaveWords(merged.octaves)]).toEqual([1, 4, 'an octave up'])
      expect(
        merged.content.notes
          .filter((note) => note.string > 1)
          .map((note) => [note.string, note.fret, note.marks[0]?.kind]),
      ).toEqual([
        [6, 3, undefined],
        [6, 5, 'hammer-on'],
        [5, 2, undefined],
        [5, 2, undefined],
      ])
    },
  )
  it('says once why notes are left out, the commonest reason first', () => {
    const crowded = must(
      mergeParts(said('hold 355433, down down down down'), said('hold x-x-12-14-15-14, down, E 17'), {
        first: guitar,
        second: guitar,
      }),
    )
    const groups = droppedByReason(crowded.dropped)
    expect(groups.map((group) => group.notes.length)).toEqual(
      groups.map((group) => group.notes.length).toSorted((a, b) => b - a),
    )
    expect(groups.flatMap((group) => group.notes)).toHaveLength(crowded.dropped.length)
    expect(groups[0]!.why).toMatch(/strings are taken|two places/)
  })
  it('chooses an octave and thins chords for one hand', () => {
    const foreign = [0, 1, 2, 3].flatMap((step) =>
      [96 + step, 92 + step, 89 + step].map((midi) => ({
        midi,
        startTicks: step * Q + 130,
        lengthTicks: Q - 200,
      })),
    )
    const adapted = must(adaptLine(foreign, guitar, E, { stepTicks: Q / 2 }))
    expect(adapted.octaves).toBeLessThan(0)
    expect(adapted.leftOut).toBe(4)
    expect(adapted.notes.every((note) => note.startTicks % (Q / 2) === 0 && note.fret <= 22)).toBe(true)
    expect(adaptLine([], guitar, E, { stepTicks: Q })).toMatchObject({ ok: false })
  })
  it.each([
    ['root', [28, 28, 28, 28]],
    ['octave', [28, 40, 28, 40]],
    ['fifth', [28, 35, 28, 35]],
  ] as const)('lays a %s bass under the chords', (kind, expected) => {
    const notes = must(
      bassLine(
        [
          { startTicks: 0, lengthTicks: 4 * Q, symbol: 'Em' },
          { startTicks: 4 * Q, lengthTicks: 4 * Q, symbol: 'C' },
        ],
        bass,
        E,
        { kind, stepTicks: Q, lengthTicks: 8 * Q },
      ),
    )
    expect(
      lineOf(notes, bass)
        .slice(0, 4)
        .map((note) => note.midi),
    ).toEqual(expected)
    expect(notes).toHaveLength(8)
  })
  it('takes the fifth a chord has, its written bass for a root, and skips what is no chord', () => {
    const line = (symbol: string, kind: 'root' | 'fifth') =>
      bassLine([{ startTicks: -Q, lengthTicks: 3 * Q, symbol }], bass, E, {
        kind,
        stepTicks: Q,
        lengthTicks: 8 * Q,
      })
    expect(lineOf(must(line('Bdim', 'fifth')), bass).map((note) => note.midi % 12)).toEqual([11, 5])
    expect(lineOf(must(line('C/G', 'root')), bass).map((note) => note.midi % 12)).toEqual([7, 7])
    expect(line('Hm', 'root')).toMatchObject({ ok: false, refusal: { code: 'no-chords' } })
  })
  it('walks into the next root by a step', () => {
    const walk = lineOf(
      must(
        bassLine(
          [
            { startTicks: 0, lengthTicks: 4 * Q, symbol: 'Em' },
            { startTicks: 4 * Q, lengthTicks: 4 * Q, symbol: 'A' },
          ],
          bass,
          E,
          { kind: 'walking', stepTicks: Q, lengthTicks: 8 * Q },
        ),
      ),
      bass,
    )
    expect(Math.abs(walk[3]!.midi - walk[4]!.midi)).toBe(1)
  })
})

describe('what cannot be played', () => {
  it('is told note by note with what is nearest', () => {
    const broken: Content = {
      ...EMPTY_CONTENT,
      notes: [
        { id: 'a', string: 3, fret: 7, startTicks: 0, lengthTicks: Q, marks: [] },
        {
          id: 'b',
          string: 2,
          fret: 8,
          startTicks: Q,
          lengthTicks: Q,
          marks: [{ kind: 'hammer-on' }],
        },
        {
          id: 'c',
          string: 3,
          fret: 5,
          startTicks: 2 * Q,
          lengthTicks: Q,
          marks: [{ kind: 'hammer-on' }],
        },
        {
          id: 'd',
          string: 3,
          fret: 21,
          startTicks: 3 * Q,
          lengthTicks: Q,
          marks: [{ kind: 'trill', frets: 3 }],
        },
      ],
    }
    expect(lineProblems(broken, guitar).map((problem) => problem.text)).toEqual([
      'slurred across strings: from string 3 to 2. Pick it, or play the note before on string 2',
      'hammered down from 7 to 5: that is a pull-off',
      'the trill reaches beyond fret 22',
    ])
    expect(lineProblems(said('G 7 hammer 9 pull 7'), guitar)).toEqual([])
  })
  it('is listed before a part is retuned with its sound', () => {
    let song: Song = newSong({ id: 's', title: 'S', artist: '' })
    song = must(transact(song, 'addPart', { part: dropD })).song
    song = must(
      transact(song, 'addFigure', {
        figure: {
          id: 'f',
          partId: 'g',
          name: 'Low',
          lengthTicks: 4 * Q,
          meter: song.meter,
          feel: song.feel,
          content: {
            ...EMPTY_CONTENT,
            notes: [
              { id: 'n', string: 6, fret: 0, startTicks: 0, lengthTicks: Q, marks: [] },
              { id: 'm', string: 6, fret: 5, startTicks: Q, lengthTicks: Q, marks: [] },
            ],
          },
        },
      }),
    ).song
    const { changes, lost } = retunedFigures(song, 'g', guitar.tuning)
    expect(lost).toMatchObject([{ figureName: 'Low', times: 1 }])
    const next = must(
      transact(song, 'retuneKeepingSound', { partId: 'g', tuning: guitar.tuning, changes }),
    ).song
    expect(lineOf(next.figures.f!.content.notes, next.parts.g!).map((note) => note.midi)).toEqual([43])
    const nearer = retunedFigures(song, 'g', guitar.tuning, 'octave')
    const kept = must(
      transact(song, 'retuneKeepingSound', { partId: 'g', tuning: guitar.tuning, changes: nearer.changes }),
    ).song
    expect(lineOf(kept.figures.f!.content.notes, kept.parts.g!).map((note) => note.midi)).toEqual([50, 43])
  })
  it('keeps fingers off what it moves unless they are asked for', () => {
    const notes = pitched(said('G 7 finger 3 9'))
    const path = must(findPaths(pathNotes(notes, guitar), guitar, E))[0]!
    expect(onPath(notes, path, false).every((note) => note.finger === undefined)).toBe(true)
    expect(onPath(notes, path, true).some((note) => note.finger !== undefined)).toBe(true)
  })
})
