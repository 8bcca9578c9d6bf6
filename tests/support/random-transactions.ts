// Random arguments for every transaction: mostly what a page would send, of ids that exist, now and then what
// nobody should send (beats that stand still, bars too long for a bar). Deterministic for a seed.
import type { Content, Figure, Grip, Placement, Rig, Song } from '../../core/document/schema'
import { own } from '../../core/document/invariants/problem'
import { newPart } from '../../core/document/new-song'
import { transactions, type TransactionName } from '../../core/document/transactions'
import { tuningsFor } from '../../core/instrument/tunings'
import { barTicks, FARTHEST_TICKS } from '../../core/time/meter'
import { seededRandom } from '../../demo/random'

export interface Dice {
  next: () => number
  below: (limit: number) => number
  one: <T>(items: readonly T[]) => T
  chance: (share: number) => boolean
  id: () => string
}

export function dice(seed: number): Dice {
  const next = seededRandom(seed)
  const below = (limit: number): number => Math.floor(next() * limit)
  const one = <T>(items: readonly T[]): T => items[below(items.length)]!
  let made = 0
  return { next, below, one, chance: (share) => next() < share, id: () => `r${seed}x${made++}` }
}

const HOSTILE = ['constructor', '__proto__', 'toString', 'hasOwnProperty', 'none', '', 'a b', 'x'.repeat(60)]
const idOf = (table: Record<string, unknown>, roll: Dice): string =>
  roll.one(Object.keys(table).length === 0 || roll.chance(0.04) ? HOSTILE : Object.keys(table))
const QUARTER = 10080

function content(song: Song, partId: string, lengthTicks: number, roll: Dice): Content {
  const strings = own(song.parts, partId)?.tuning.openMidi.length ?? 6
  const at = (): number => roll.below(Math.max(1, Math.floor(lengthTicks / 5040))) * 5040
  const grip = (): Grip => ({
    strings: Array.from({ length: strings }, () => ({ fret: roll.chance(0.3) ? null : roll.below(12) })),
  })
  const some = <T>(make: () => T, most: number): T[] => Array.from({ length: roll.below(most) }, make)
  return {
    notes: some(
      () => ({
        id: roll.id(),
        string: 1 + roll.below(strings + (roll.chance(0.02) ? 2 : 0)),
        fret: roll.below(roll.chance(0.02) ? 36 : 20),
        startTicks: at(),
        lengthTicks: 5040,
        marks: [],
      }),
      6,
    ),
    grips: some(() => ({ id: roll.id(), startTicks: at(), lengthTicks: QUARTER, grip: grip() }), 3),
    strokes: some(
      () => ({
        id: roll.id(),
        startTicks: at(),
        lengthTicks: 5040,
        direction: 'down' as const,
        marks: [],
      }),
      4,
    ),
    mutes: [],
  }
}

function placement(song: Song, roll: Dice): Placement {
  const figureId = idOf(song.figures, roll)
  const figure = Object.hasOwn(song.figures, figureId) ? song.figures[figureId] : undefined
  const partId = roll.chance(0.9) && figure ? figure.partId : idOf(song.parts, roll)
  const place = {
    id: roll.chance(0.3) ? idOf(song.placements, roll) : roll.id(),
    partId,
    sectionId: idOf(song.sections, roll),
    startTicks: (roll.below(24) - 4) * QUARTER * roll.one([1, 2, 4]),
  }
  if (roll.chance(0.25)) return { kind: 'rests', ...place, lengthTicks: (1 + roll.below(12)) * QUARTER }
  return {
    kind: 'figure',
    ...place,
    figureId,
    passes: 1 + roll.below(4),
    shiftFrets: roll.chance(0.8) ? 0 : roll.below(9) - 4,
    form: roll.one(['exact', 'eased']),
    ...(roll.chance(0.15)
      ? { passFigures: [{ pass: 1 + roll.below(3), figureId: idOf(song.figures, roll) }] }
      : {}),
  }
}

function figureSet(song: Song, partId: string, roll: Dice): Partial<Omit<Figure, 'id' | 'partId'>> {
  const lengthTicks = (1 + roll.below(16)) * QUARTER
  const { key } = song
  const all: Partial<Omit<Figure, 'id' | 'partId'>>[] = [
    { lengthTicks },
    { content: content(song, partId, lengthTicks, roll) },
    { lengthTicks, content: content(song, partId, lengthTicks, roll) },
    { eased: content(song, partId, lengthTicks, roll) },
    { variationOf: { figureId: idOf(song.figures, roll), replacedBars: [roll.below(3)] } },
    {
      derivedFrom: {
        figureId: idOf(song.figures, roll),
        interval: roll.one([3, -3, 8]),
        kind: 'diatonic',
        key,
        exceptions: [],
        ...(roll.chance(0.3) ? { where: { strings: [1 + roll.below(7)], fromFret: roll.below(14) } } : {}),
      },
    },
    { licks: [{ id: roll.id(), name: 'Line', startTicks: roll.below(40) * QUARTER, lengthTicks: QUARTER }] },
    { pattern: { patternId: idOf(song.patterns, roll), ownBars: [roll.below(3)] } },
    { name: 'renamed', freeTime: roll.chance(0.5) },
    { sourceId: idOf(song.sources, roll) },
  ]
  return roll.one(all)
}

const cellArgs = (song: Song, roll: Dice) => {
  const [partId, sectionId] = [idOf(song.parts, roll), idOf(song.sections, roll)]
  const placements = Array.from({ length: roll.below(3) }, () => ({
    ...placement(song, roll),
    partId,
    sectionId,
  }))
  return { partId, sectionId, placements }
}
const beatsArgs = (song: Song, roll: Dice) => {
  const count = roll.below(200)
  const step = roll.chance(0.1) ? 0.0401 : 0.3 + roll.next() * 0.5
  const perBar = roll.chance(0.8) ? 4 : roll.one([1, 3, 8, 11, 40, 90])
  const meter = { beats: roll.one([3, 6, 12]), unit: roll.one([2, 4, 8] as const) }
  return {
    beats: Array.from({ length: count }, (_, index) => ({
      seconds: 0.2 + index * step,
      one: index % perBar === 0,
      ...(roll.chance(0.01) ? { free: true } : {}),
      ...(perBar !== 4 ? { meter } : {}),
    })),
    endSeconds: 0.3 + count * step + roll.one([...Array<number>(18).fill(0), -5, 30_000]),
    what: 'beats',
    newSectionId: roll.id(),
  }
}
const placeOf = (song: Song, roll: Dice) => ({
  sectionId: idOf(song.sections, roll),
  startTicks: roll.below(40) * QUARTER,
  ...(roll.chance(0.5) ? { partId: idOf(song.parts, roll) } : {}),
  ...(roll.chance(0.2) ? { lengthTicks: roll.one([QUARTER, 40 * QUARTER, FARTHEST_TICKS]) } : {}),
})
const aPart = (roll: Dice) =>
  newPart({
    id: roll.chance(0.1) ? roll.one(HOSTILE) : roll.id(),
    name: 'New',
    kind: roll.one(['bass-4', 'guitar-7', 'guitar-6']),
  })
const aFigure = (song: Song, roll: Dice): Figure => {
  const partId = idOf(song.parts, roll)
  const lengthTicks = (1 + roll.below(8)) * QUARTER
  return {
    id: roll.chance(0.05) ? roll.one(HOSTILE) : roll.id(),
    partId,
    name: 'New figure',
    lengthTicks,
    meter: song.meter,
    feel: song.feel,
    content: content(song, partId, lengthTicks, roll),
    ...(roll.chance(0.4) ? figureSet(song, partId, roll) : {}),
  }
}
const RIG: Rig = {
  pickup: 'neck',
  gain: 'clean',
  effects: [
    { id: 'd', kind: 'delay', words: '', knobs: [{ name: 'mix', clock: 12 }], delayTicks: 7560, repeats: 3 },
  ],
}
const aTuning = (song: Song, partId: string, roll: Dice) => {
  const kind = (Object.hasOwn(song.parts, partId) ? song.parts[partId]! : Object.values(song.parts)[0])
    ?.instrument.kind
  return roll.one(tuningsFor(kind ?? 'guitar-6'))
}
const aSource = (song: Song, roll: Dice) => ({
  id: roll.chance(0.5) ? idOf(song.sources, roll) : roll.id(),
  kind: 'live take' as const,
  name: 'Take',
  rank: 1 + roll.below(9),
  offsetSemitones: 0,
  offsetCents: 0,
  offsetSeconds: 0,
})

/** For each transaction what a page might send. */
export const RANDOM_ARGS: Record<TransactionName, (song: Song, roll: Dice) => unknown> = {
  setFacts: (_, roll) =>
    roll.one([{ title: '' }, { key: { tonic: 'D', mode: 'minor' } }, { meter: { beats: 12, unit: 8 } }]),
  addSource: (song, roll) => ({ source: aSource(song, roll) }),
  changeSource: (song, roll) => ({ source: aSource(song, roll) }),
  removeSource: (song, roll) => ({ sourceId: idOf(song.sources, roll) }),
  setBeats: beatsArgs,
  acceptHeard: (song, roll) => ({
    ...(roll.chance(0.3) ? { beats: beatsArgs(song, roll) } : {}),
    sections: Array.from({ length: roll.below(5) }, (_, index) => ({
      startSeconds: index * 12 + roll.next() * 8,
      id: roll.id(),
      name: 'Heard',
      kind: 'chorus',
      ...(roll.chance(0.4) ? { returnsStartSeconds: roll.next() * 40 } : {}),
    })),
    chords: Array.from({ length: roll.below(9) }, (_, index) => ({
      startSeconds: index * 3,
      endSeconds: index * 3 + 3,
      symbol: 'Em',
      confidence: 0.5,
    })),
    words: 'heard',
  }),
  splitSection: (song, roll) => {
    const sectionId = idOf(song.sections, roll)
    const bars = Object.hasOwn(song.sections, sectionId) ? song.sections[sectionId]!.bars.length : 4
    return { sectionId, atBar: roll.below(bars + 1), newId: roll.id(), name: 'Cut', kind: 'verse' }
  },
  mergeSection: (song, roll) => ({ sectionId: idOf(song.sections, roll) }),
  moveSectionStart: (song, roll) => ({
    sectionId: idOf(song.sections, roll),
    byBars: roll.below(9) - 4,
    ...(roll.chance(0.4) ? { byBeats: roll.below(7) - 3 } : {}),
  }),
  startOnOnes: () => ({}),
  changeChords: (song, roll) => ({
    what: 'chords',
    sections: [
      {
        sectionId: idOf(song.sections, roll),
        harmony: [{ startTicks: roll.below(60) * QUARTER, lengthTicks: QUARTER, symbol: 'G' }],
      },
    ],
  }),
  changeSection: (song, roll) => ({
    sectionId: idOf(song.sections, roll),
    set: roll.one([
      { name: 'Named' },
      { passes: 1 + roll.below(4) },
      { harmony: [{ startTicks: roll.below(60) * QUARTER, lengthTicks: QUARTER, symbol: 'G' }] },
      { pickupTicks: roll.below(4) * QUARTER },
    ]),
  }),
  setReturn: (song, roll) => ({
    sectionId: idOf(song.sections, roll),
    returns: roll.chance(0.2)
      ? null
      : {
          sectionId: idOf(song.sections, roll),
          shiftSemitones: 0,
          withDifferences: true,
          ...(roll.chance(0.4) ? { firstBar: roll.below(8), barCount: 1 + roll.below(8) } : {}),
        },
  }),
  addPart: (_, roll) => ({ part: aPart(roll) }),
  changePart: (song, roll) => {
    const partId = idOf(song.parts, roll)
    const part = Object.hasOwn(song.parts, partId) ? song.parts[partId] : undefined
    return {
      partId,
      set: roll.one<object>([
        { name: 'Renamed' },
        part ? { instrument: { ...part.instrument, capo: roll.below(14) } } : {},
        part ? { instrument: { ...part.instrument, fretCount: 12 + roll.below(14) } } : {},
        { derivedFrom: { partId: idOf(song.parts, roll), interval: 3, kind: 'diatonic', exceptions: [] } },
        { tuning: aTuning(song, idOf(song.parts, roll), roll) },
        { sectionRigs: [{ sectionId: idOf(song.sections, roll), rig: RIG }] },
        { rig: RIG },
      ]),
    }
  },
  retunePart: (song, roll) => {
    const partId = idOf(song.parts, roll)
    return { partId, tuning: aTuning(song, partId, roll) }
  },
  retuneKeepingSound: (song, roll) => {
    const partId = idOf(song.parts, roll)
    const figureId = idOf(song.figures, roll)
    return {
      partId,
      tuning: aTuning(song, partId, roll),
      changes: [{ figureId, set: figureSet(song, partId, roll) }],
    }
  },
  setRig: (song, roll) => ({
    partId: idOf(song.parts, roll),
    ...(roll.chance(0.6) ? { sectionId: idOf(song.sections, roll) } : {}),
    ...(roll.chance(0.7) ? { rig: RIG } : {}),
  }),
  movePart: (song, roll) => ({ partId: idOf(song.parts, roll), to: roll.below(7) }),
  removePart: (song, roll) => ({ partId: idOf(song.parts, roll) }),
  addFigure: (song, roll) => ({ figure: aFigure(song, roll) }),
  addPlacedFigures: (song, roll) => {
    const figure = aFigure(song, roll)
    const places = [placement(song, roll), { ...placement(song, roll), partId: figure.partId }]
    const figureId = idOf(song.figures, roll)
    const partId = own(song.figures, figureId)?.partId ?? ''
    return {
      what: 'lines',
      figures: [figure],
      placements: places.slice(0, roll.below(3)),
      ...(roll.chance(0.3) ? { part: { ...aPart(roll), id: figure.partId } } : {}),
      ...(roll.chance(0.3) ? { changes: [{ figureId, set: figureSet(song, partId, roll) }] } : {}),
    }
  },
  bringInPart: (song, roll) => {
    const figure = aFigure(song, roll)
    const placed = placement(song, roll)
    return {
      part: song.parts[figure.partId] ?? newPart({ id: figure.partId, name: 'New', kind: 'guitar-6' }),
      figures: roll.below(3) ? [figure] : [],
      cells: [{ sectionId: placed.sectionId, placements: roll.below(2) ? [placed] : [] }],
    }
  },
  changeFigure: (song, roll) => {
    const figureId = idOf(song.figures, roll)
    const partId = Object.hasOwn(song.figures, figureId) ? song.figures[figureId]!.partId : ''
    return { figureId, what: 'change', set: figureSet(song, partId, roll) }
  },
  changeFigures: (song, roll) => {
    const figureId = idOf(song.figures, roll)
    const partId = Object.hasOwn(song.figures, figureId) ? song.figures[figureId]!.partId : ''
    return { what: 'change', changes: [{ figureId, set: figureSet(song, partId, roll) }] }
  },
  releaseFigure: (song, roll) => ({
    figureId: idOf(song.figures, roll),
    from: roll.one(['variationOf', 'derivedFrom', 'pattern', 'eased']),
  }),
  removeFigure: (song, roll) => ({ figureId: idOf(song.figures, roll) }),
  setPattern: (song, roll) => ({
    pattern: {
      id: roll.chance(0.5) ? idOf(song.patterns, roll) : roll.id(),
      name: 'Hand',
      lengthTicks: roll.one([1, QUARTER, barTicks(song.meter)]),
      meter: song.meter,
      strokes: [
        {
          startTicks: 0,
          lengthTicks: 5040,
          direction: 'down',
          marks: [],
          on: 'all',
        },
      ],
    },
  }),
  removePattern: (song, roll) => ({ patternId: idOf(song.patterns, roll) }),
  setPlacement: (song, roll) => ({ placement: placement(song, roll) }),
  removePlacement: (song, roll) => ({ placementId: idOf(song.placements, roll) }),
  replaceCell: (song, roll) => ({ ...cellArgs(song, roll), what: 'cell' }),
  replaceCells: (song, roll) => ({ cells: [cellArgs(song, roll), cellArgs(song, roll)], what: 'cells' }),
  enterFormCall: (song, roll) => ({
    what: 'call',
    figures: [],
    cells: [cellArgs(song, roll)],
    sections: [{ sectionId: idOf(song.sections, roll), set: { passes: 1 + roll.below(3) } }],
    returns: roll.chance(0.3)
      ? [
          {
            sectionId: idOf(song.sections, roll),
            returns: { sectionId: idOf(song.sections, roll), shiftSemitones: 0, withDifferences: false },
          },
        ]
      : [],
    ...(roll.chance(0.3)
      ? {
          rigs: [{ partId: idOf(song.parts, roll), sectionId: idOf(song.sections, roll), rig: RIG }],
        }
      : {}),
  }),
  setDoubt: (song, roll) => ({
    doubt: {
      id: roll.chance(0.5) ? idOf(song.doubts, roll) : roll.id(),
      place: placeOf(song, roll),
      question: 'Which?',
      readings: [{ id: 'one', text: 'this', evidence: [], sourceId: idOf(song.sources, roll) }],
      status: roll.one(['open', 'settled']),
      ...(roll.chance(0.5) ? { decision: roll.one(['one', 'two']) } : {}),
    },
  }),
  removeDoubt: (song, roll) => ({ doubtId: idOf(song.doubts, roll) }),
  setSpot: (song, roll) => ({
    spot: { id: roll.id(), place: placeOf(song, roll), text: 'listen', done: roll.chance(0.5) },
  }),
  removeSpot: (song, roll) => ({ spotId: idOf(song.spots, roll) }),
  excuseFinding: (song, roll) => ({
    excuse: { id: roll.id(), finding: roll.one(['return/a', 'clash/b', 'reach/c']), why: 'wanted' },
  }),
  withdrawExcuse: (song, roll) => ({ excuseId: idOf(song.excuses, roll) }),
}

export const TRANSACTION_NAMES = Object.keys(transactions) as TransactionName[]
