import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { newPart } from '../document/new-song'
import { readSong } from '../document/migrations'
import { EMPTY_CONTENT, type Content, type Note, type Song } from '../document/schema'
import { readGrip } from '../neck/grips/grip'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { seededRandom } from '../../demo/random'
import { BAR, RIFF, chords, figure, note, place, run, twoVerses } from '../../tests/support/two-verses'
import { withMistake, type Mistake } from '../../tests/support/injected-mistakes'
import { checkSong } from './check'
import { findingSeconds, placeWords, type FindingKind } from './finding'

const found = (song: Song): FindingKind[] => checkSong(song).open.map(({ kind }) => kind)
const withNotes = (song: Song, notes: Note[], figureId = 'riff'): Song =>
  run(song, 'changeFigure', { figureId, what: 'notes', set: { content: { ...EMPTY_CONTENT, notes } } })

/** A second part whose two bars lie over both verses. */
function withSecond(song: Song, content: Content, id = 'second'): Song {
  const added = run(song, 'addPart', {
    part: newPart({ id: `part-${id}`, name: `Other ${id}`, kind: 'guitar-6' }),
  })
  const figured = run(added, 'addFigure', figure(id, content, `part-${id}`))
  return place(place(figured, `${id}1`, id, 'v1'), `${id}2`, id, 'v2')
}
const setNote =
  (index: number, set: Partial<Note>) =>
  (song: Song): Song =>
    withNotes(
      song,
      RIFF.notes.map((one, at) => (at === index ? { ...one, ...set } : one)),
    )
const held = (grip: string): Content => ({
  ...EMPTY_CONTENT,
  grips: [{ id: 'grip', startTicks: 0, lengthTicks: 2 * BAR, grip: readGrip(grip, 6)! }],
})
const harmony =
  (sectionId: string, ...symbols: string[]) =>
  (song: Song): Song =>
    run(song, 'changeSection', { sectionId, set: { harmony: chords(...symbols) } })
const meterOf =
  (sectionId: string, bar: number, meter: { beats: number; unit: 4 | 8 }) =>
  (song: Song): Song => {
    const section = song.sections[sectionId]!
    const bars = section.bars.map((one, index) => (index === bar ? { ...one, meter } : one))
    return { ...song, sections: { ...song.sections, [sectionId]: { ...section, bars } } }
  }
const linked = (song: Song, frets: number[]): Song => {
  const follower = withSecond(song, {
    ...EMPTY_CONTENT,
    notes: RIFF.notes.map((one, at) => ({ ...one, string: 4, fret: frets[at]! })),
  })
  const rule = { figureId: 'riff', interval: 8, kind: 'parallel' as const, key: song.key, exceptions: [] }
  const made = follower.figures.second!
  return { ...follower, figures: { ...follower.figures, second: { ...made, derivedFrom: rule } } }
}
const OCTAVE = [2, 5, 2, 5, 2, 5, 2, 5]
const gridOf = (song: Song, bars: number): Song => {
  const source = song.sources.r!
  return {
    ...song,
    sources: { r: { ...source, grid: { ...source.grid!, bars: source.grid!.bars.slice(0, bars) } } },
  }
}

/** What makes each kind appear in a song that has none; without it nothing is found. */
/** Eight octaves of E on strings 6 and 4, the one at an index a fret off. */
const octaves = (slipped: number): Note[] =>
  RIFF.notes.flatMap(({ startTicks }, index) => [
    note(startTicks, 6, 0),
    note(startTicks, 4, index === slipped ? 3 : 2),
  ])
const BREAKS: [FindingKind, (song: Song) => Song, RegExp][] = [
  ['not laid out', (song) => ({ ...song, sources: {}, sourceOrder: [] }), /not laid out in bars/],
  ['form total', (song) => gridOf(song, 7), /form has 8 bars, the recording is counted in 7: 1 too many/],
  [
    'beats of a bar',
    meterOf('v1', 1, { beats: 9, unit: 8 }),
    /Bar 2 of Verse 1 is written with \d beats.* 4 there/,
  ],
  ['odd bar', meterOf('v1', 1, { beats: 9, unit: 8 }), /Bar 2 of Verse 1 has 9\/8 among bars of 4\/4/],
  [
    'not charted',
    (song) => run(song, 'removePlacement', { placementId: 'p2' }),
    /Guitar in Verse 2: 4 bars not charted/,
  ],
  ['not charted', (song) => withNotes(song, RIFF.notes.slice(0, 4)), /nothing in bar 2/],
  ['empty figure', (song) => withNotes(song, []), /has nothing in it yet/],
  [
    'unplaced',
    (song) => run(song, 'addFigure', figure('spare', RIFF)),
    /“spare” \(Guitar\) is placed nowhere/,
  ],
  [
    'length of a figure',
    (song) => ({ ...song, figures: { riff: { ...song.figures.riff!, lengthTicks: 2 * BAR + Q / 2 } } }),
    /8.5 beats long/,
  ],
  [
    'over the end',
    (song) => ({ ...song, figures: { riff: { ...song.figures.riff!, lengthTicks: 3 * BAR } } }),
    /2 bars past the end of Verse 1/,
  ],
  [
    'two at once',
    (song) =>
      run(
        run(song, 'addFigure', {
          figure: {
            ...figure('run', RIFF).figure,
            lengthTicks: BAR,
            content: { ...RIFF, notes: RIFF.notes.slice(0, 4) },
          },
        }),
        'setPlacement',
        {
          placement: {
            ...song.placements.p2!,
            id: 'lead-in',
            figureId: 'run',
            startTicks: -BAR,
            passes: 1,
          } as Song['placements'][string],
        },
      ),
    /at once, from bar 2/,
  ],
  ['overlapping notes', setNote(0, { lengthTicks: (3 * Q) / 2 }), /two notes on string 6 at once/],
  ['reach', (song) => withSecond(song, held('x0x2x9')), /mm between the outer fingers/],
  [
    'reach',
    (song) => withNotes(song, [note(0, 6, 1, { lengthTicks: 2 * BAR }), note(0, 4, 9)]),
    /mm between notes struck together/,
  ],
  ['playing', setNote(0, { marks: [{ kind: 'hammer-on' }] }), /slurred from nothing/],
  [
    'leap',
    (song) =>
      withNotes(song, [
        note(0, 5, 2, { lengthTicks: Q / 2 }),
        note(Q / 2, 6, 15, { lengthTicks: BAR * 1.5 }),
      ]),
    /from fret 2 to 15 within an eighth/,
  ],
  ['chord not understood', harmony('v1', 'Em', 'H?', 'Em', 'Em'), /“H\?” is no known chord/],
  ['chord outside the key', harmony('v1', 'Em', 'Bbm', 'Em', 'Em'), /B♭m stands on a note/],
  ['grip against chord', (song) => withSecond(song, held('x02210')), /holds x02210|grip x02210/],
  ['line against chord', harmony('v1', 'Em', 'F#', 'Em', 'Em'), /chord is F♯, what is charted there says Em/],
  ['outside note', setNote(3, { fret: 4 }), /leaves the key and the chord with G♯ \(bar 1, 4\)/],
  [
    'return',
    harmony('v2', 'Em', 'Em', 'Em7', 'Em'),
    /not as Verse 1 in its chords: bar 3 \(Em7 instead of Em\)/,
  ],
  [
    'linked line',
    (song) => linked(song, OCTAVE.with(2, 3)),
    /does not follow “riff” by its rule at bar 1, 3/,
  ],
  ['doubled line', (song) => withNotes(song, octaves(5)), /goes in octaves but for bar 2, 2 \(E with F\)/],
  [
    'doubled line',
    (song) =>
      withSecond(song, {
        ...EMPTY_CONTENT,
        notes: RIFF.notes.map((one, at) => ({ ...one, string: 4, fret: at === 2 ? 5 : OCTAVE[at]! })),
      }),
    /are one line but for bar 1, 3 \(E against G\)/,
  ],
  [
    'clash',
    (song) => withSecond(song, { ...EMPTY_CONTENT, notes: RIFF.notes.map((one) => ({ ...one, fret: 1 })) }),
    /a half step apart/,
  ],
]

describe('the check', () => {
  it('finds nothing in a song that adds up', () =>
    expect(checkSong(twoVerses())).toEqual({ open: [], excused: [] }))
  it('finds nothing in a line of octaves, nor where half of it is none', () => {
    expect(found(withNotes(twoVerses(), octaves(-1)))).toEqual([])
    const half = octaves(-1).map((one, index) => (index % 4 === 1 ? { ...one, fret: 5 } : one))
    expect(found(withNotes(twoVerses(), half))).not.toContain('doubled line')
  })
  it('finds nothing in a line that follows another as it should', () =>
    expect(found(linked(twoVerses(), OCTAVE))).toEqual([]))

  it.each(BREAKS)('finds %s', (kind, breakIt, words) => {
    const broken = breakIt(twoVerses())
    const finding = checkSong(broken).open.find((one) => one.kind === kind && words.test(one.words))
    expect(
      finding,
      checkSong(broken)
        .open.map((one) => one.words)
        .join(' | '),
    ).toBeDefined()
  })

  it('mends what it offers to mend', () => {
    for (const [kind, breakIt] of BREAKS) {
      const broken = breakIt(twoVerses())
      for (const finding of checkSong(broken).open.filter((one) => one.kind === kind && one.fix)) {
        const { name, args } = finding.fix!
        const after = checkSong(run(broken, name, args)).open.map(({ id }) => id)
        expect(after, finding.words).not.toContain(finding.id)
      }
    }
  })

  it('leaves out what is excused, until it is another thing', () => {
    const broken = setNote(3, { fret: 4 })(twoVerses())
    const [finding] = checkSong(broken).open
    const excused = run(broken, 'excuseFinding', {
      excuse: { id: 'e', finding: finding!.id, why: 'A blue note, wanted.' },
    })
    expect(checkSong(excused)).toMatchObject({ open: [], excused: [{ excused: 'A blue note, wanted.' }] })
    expect(found(setNote(5, { fret: 4 })(excused))).toEqual(['outside note'])
    expect(found(run(excused, 'withdrawExcuse', { excuseId: 'e' }))).toEqual(['outside note'])
  })

  it('can be excused however much there is to say about it', () => {
    const many = Array.from({ length: 300 }, (_, index) =>
      note((index * Q) / 48, 6, 4, { lengthTicks: Q / 48 }),
    )
    const outside = checkSong(withNotes(twoVerses(), many)).open.find(({ kind }) => kind === 'outside note')!
    const excuse = { id: 'e', finding: outside.id, why: 'all of it' }
    expect(found(run(withNotes(twoVerses(), many), 'excuseFinding', { excuse }))).not.toContain(
      'outside note',
    )
  })

  it('says where and when a finding is', () => {
    const broken = setNote(3, { fret: 4 })(twoVerses())
    const { place } = checkSong(broken).open[0]!
    expect(placeWords(broken, place)).toBe('Guitar · riff, bar 1, 4')
    expect(findingSeconds(broken, place)).toBeCloseTo(2.5)
    expect(findingSeconds(broken, { sectionId: 'v2', startTicks: BAR })).toBeCloseTo(11)
  })
})

describe('mistakes put into the demo songs at random', () => {
  const songs = ['salt-on-the-signal', 'cold-kiln'].map((name) =>
    must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8')))),
  )
  const known = songs.map((song) => new Set(checkSong(song).open.map(({ id }) => id)))
  const random = seededRandom(2026)
  const draw = (below: number): number => Math.floor(random() * below)

  /** Of so many of a kind, how many are found. A song that is no song any more is found by reading it. */
  function foundOf(mistake: Mistake, count: number): number {
    let caught = 0
    for (let made = 0; made < count;) {
      const which = draw(songs.length)
      const broken = withMistake(songs[which]!, mistake, draw)
      if (!broken) continue
      made++
      const read = readSong(broken.song)
      if (!read.ok || checkSong(read.value).open.some(({ id }) => !known[which]!.has(id))) caught++
    }
    return caught
  }

  it('leave nothing but what is open on purpose where there is none', () =>
    expect(known.map((ids) => ids.size)).toEqual([1, 0]))
  // From the document alone: a line that stays in key and chord takes the record to doubt.
  it.each<[Mistake, number]>([
    ['bar of nine eighths', 20],
    ['missing bar', 20],
    ['wrong chord name', 20],
    ['unmarked difference', 20],
    ['fret off by one', 14],
    ['swapped string', 10],
  ])('%s: at least %i of 20 are found', (mistake, least) => {
    expect(foundOf(mistake, 20)).toBeGreaterThanOrEqual(least)
  })
})
