import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { nodeFft } from '../../node/fft'
import { pluck, RATE, silence } from '../../tests/support/tones'
import { readSong } from '../document/migrations'
import type { Claim, DoubtReading, Place } from '../document/schema'
import { transact } from '../editing/transact'
import { quietJob } from '../hear/job'
import type { MakeFft } from '../hear/features/spectrum'
import { must } from '../result'
import { TICKS_PER_QUARTER as Q } from '../time/meter'
import { checkSong } from '../check/check'
import { barPlace, chartedNote, figurePlace, placeSeconds } from './charted-note'
import { proveDoubt, verdictOf, type Speaks } from './evidence'
import { proveGroups } from './prove-groups'
import { proveItems, proveSums } from './prove-list'
import { readClaim } from './read-claim'
import { soundReading } from './sound-reading'

const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const BAR = 4 * Q
/** 15 to 12 on the B string, in the third bar of the solo. */
const PULL: Place = { partId: 'g2', sectionId: 'solo', startTicks: 2 * BAR, lengthTicks: Q }
let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})
const reading = (id: string, claim: Claim): DoubtReading => ({ id, text: id, claim, evidence: [] })

describe('a reading in a few words', () => {
  const note = { midi: 70, isNote: true }
  it.each<[string, Claim | undefined]>([
    ['B9: a C♯ on top', { kind: 'chord', symbol: 'B9:' }],
    ['nothing plays here', { kind: 'silence' }],
    ['no chord behind the voice', { kind: 'silence' }],
    ['five times', { kind: 'passes', count: 5 }],
    ['7 repeats', { kind: 'passes', count: 7 }],
    ['string 3 fret 9', { kind: 'string', string: 3, fret: 9 }],
    ['picked', { kind: 'attack', midi: 70, picked: true }],
    ['pulled off', { kind: 'attack', midi: 70, picked: false }],
    ['bend 1.5', { kind: 'bend', midi: 70, semitones: 1.5 }],
    ['bent a half step', { kind: 'bend', midi: 70, semitones: 1 }],
    ['not bent', { kind: 'bend', midi: 70, semitones: 0 }],
    ['muted', { kind: 'mute', midi: 70, short: true }],
    ['it rings', { kind: 'mute', midi: 70, short: false }],
    ['D', { kind: 'note', midi: 74 }],
    ['B3', { kind: 'note', midi: 59 }],
    ['as in the book', undefined],
  ])('%s', (words, claim) => {
    if (claim?.kind === 'chord') expect(readClaim(words, { ...note, isNote: false })?.kind).toBe('chord')
    else expect(readClaim(words, note)).toEqual(claim)
  })
  it('is a chord over a stretch where it would be a note at a note', () =>
    expect(readClaim('D', { midi: undefined, isNote: false })).toEqual({ kind: 'chord', symbol: 'D' }))
  it('says nothing of a note where none is charted', () =>
    expect(readClaim('picked', { midi: undefined, isNote: true })).toBeUndefined())
})

describe('a doubted place', () => {
  it('knows the note that is charted there, and its seconds', () => {
    expect(chartedNote(salt, PULL, Q)).toMatchObject({ midi: 73 })
    const whole = placeSeconds(salt, PULL, undefined)!
    const second = placeSeconds(salt, PULL, 70)!
    expect(second.start).toBeGreaterThan(whole.start + 0.2)
    expect(second.end).toBeCloseTo(whole.end, 1)
  })
  it('is a bar of the form, or a tick of a figure where it is first played', () => {
    expect(barPlace(salt, 9)).toEqual({ sectionId: 'verse1', startTicks: BAR, lengthTicks: BAR })
    expect(barPlace(salt, 5000)).toBeUndefined()
    expect(figurePlace(salt, salt.figures['solo-lead']!, { startTicks: BAR, lengthTicks: Q })).toEqual({
      partId: 'g2',
      sectionId: 'solo',
      startTicks: BAR,
      lengthTicks: Q,
    })
  })
})

describe('what the record says to each reading', () => {
  /** A piece of two seconds in which these notes sound from its middle on. */
  const piece = (midis: readonly number[], more: Partial<Parameters<typeof pluck>[1]> = {}) => {
    const mono = silence(2.4)
    for (const midi of midis) pluck(mono, { midi, start: 0.8, length: 1.4, ...more })
    return { mono, near: mono, sampleRate: RATE, tuningCents: 0, start: 0.85, end: 2 }
  }
  const said = async (
    claims: Claim[],
    excerpt: ReturnType<typeof piece>,
    place: Place = PULL,
  ): Promise<Speaks[]> => {
    const readings = claims.map((claim, index) => reading(`r${index}`, claim))
    const proof = await proveDoubt({ song: salt, place, readings, nameShift: 0 }, excerpt, makeFft, quietJob)
    return proof.readings.map(({ evidence }) => verdictOf(evidence))
  }
  const seventh: Claim = { kind: 'chord', symbol: 'C7' }
  const ninth: Claim = { kind: 'chord', symbol: 'C9' }
  it('seventh or ninth', async () => {
    expect(await said([seventh, ninth], piece([48, 52, 55, 58]))).toEqual(['for', 'against'])
    expect(await said([seventh, ninth], piece([48, 52, 55, 58, 62]))).toEqual(['against', 'for'])
  })
  it('this note or that', async () => {
    const claims: Claim[] = [
      { kind: 'note', midi: 71 },
      { kind: 'note', midi: 74 },
    ]
    expect(await said(claims, piece([74]))).toEqual(['against', 'for'])
  })
  it('bent or not, muted or ringing', async () => {
    const bends: Claim[] = [0, 2].map((semitones) => ({ kind: 'bend', midi: 67, semitones }))
    const bent = piece([67], { bend: { semitones: 2, from: 0.15, to: 0.4 } })
    expect(await said(bends, bent)).toEqual(['against', 'for'])
    const mutes: Claim[] = [true, false].map((short) => ({ kind: 'mute', midi: 52, short }))
    const short = { ...piece([52], { decay: 0.25 }), start: 0.8 }
    expect(await said(mutes, short)).toEqual(['for', 'against'])
  })
  it('cannot tell how a note begins that is alone', async () => {
    const attacks: Claim[] = [true, false].map((picked) => ({ kind: 'attack', midi: 70, picked }))
    const soft = { ...piece([70], { attack: false }), start: 0.8 }
    expect(await said(attacks, soft)).toEqual(['cannot tell', 'cannot tell'])
  })
  it('whether anything plays', async () => {
    const silent: Claim[] = [{ kind: 'silence' }]
    const before = silence(2.4)
    pluck(before, { midi: 60, start: 0, length: 0.8 })
    const nothing = { mono: before, near: before, sampleRate: RATE, tuningCents: 0, start: 1, end: 2 }
    expect(await said(silent, nothing)).toEqual(['for'])
    expect(await said(silent, piece([60]))).toEqual(['against'])
  })
  it('how often it fits the bars that were counted, and what is nearer under the hand', async () => {
    const outro: Place = { partId: 'g1', sectionId: 'outro', startTicks: 0 }
    const passes: Claim[] = [7, 8].map((count) => ({ kind: 'passes', count }))
    expect(await said(passes, piece([60]), outro)).toEqual(['against', 'for'])
    const places: Claim[] = [
      { kind: 'string', string: 2, fret: 12 },
      { kind: 'string', string: 3, fret: 3 },
    ]
    expect(await said(places, piece([60]))).toEqual(['for', 'against'])
  })
  it('calls notes as they are called on the page', async () => {
    const readings = [reading('r', seventh), reading('s', ninth)]
    const asked = { song: salt, place: PULL, readings, nameShift: 1 }
    const proof = await proveDoubt(asked, piece([48, 52, 55, 58]), makeFft, quietJob)
    expect(proof.readings[1]!.evidence[0]!.measured).toContain('wants D♯')
  })
})

describe('how a reading sounds', () => {
  const span = placeSeconds(salt, PULL, undefined)!
  const sound = (claim: Claim) => soundReading(salt, PULL, reading('r', claim), span)
  it('is the chart with the note as it says', () => {
    const [picked, pulled] = [true, false].map((one) => sound({ kind: 'attack', midi: 70, picked: one }))
    expect(picked!.map(({ slurred }) => slurred)).toEqual([false, false])
    expect(pulled!.map(({ slurred }) => slurred)).toEqual([false, true])
    expect(sound({ kind: 'bend', midi: 70, semitones: 1 })[1]!.curve.at(-1)).toMatchObject({ semitones: 1 })
    const [, muted] = sound({ kind: 'mute', midi: 70, short: true })
    expect(muted!.endSeconds - muted!.startSeconds).toBeLessThan(0.13)
  })
  it('is a chord or a note by itself, and nothing for silence', () => {
    expect(new Set(sound({ kind: 'chord', symbol: 'C7' }).map(({ midi }) => midi % 12))).toEqual(
      new Set([0, 4, 7, 10]),
    )
    expect(sound({ kind: 'note', midi: 71 })).toMatchObject([{ midi: 71 }])
    expect(sound({ kind: 'silence' })).toEqual([])
  })
})

describe('the list of what is to be proved', () => {
  const items = proveItems(salt, checkSong(salt))
  it('is in the order of the song, with everything in it', () => {
    expect(items.filter(({ done }) => !done).map(({ kind }) => kind)).toEqual([
      'doubt',
      'doubt',
      'finding',
      'to hear',
    ])
    const seconds = items.map((item) => item.seconds ?? -1)
    expect(seconds).toEqual([...seconds].sort((a, b) => a - b))
    expect(proveSums(items)).toEqual({ open: 4, all: 10 })
  })
  it('is done with what is settled, heard or excused', () => {
    const doubt = salt.doubts['seventh-or-ninth']!
    const settled = { ...doubt, status: 'settled' as const, decision: 'seventh', why: 'no C sharp anywhere' }
    const after = must(transact(salt, 'setDoubt', { doubt: settled })).song
    expect(proveSums(proveItems(after, checkSong(after)))).toEqual({ open: 3, all: 10 })
  })

  it('is put by cause: what cannot be so, then doubts, then what is not done, alike things together', () => {
    const unwritten = Object.values(salt.placements)
      .filter(({ partId }) => partId === 'g1')
      .slice(0, 4)
      .reduce((song, { id }) => must(transact(song, 'removePlacement', { placementId: id })).song, salt)
    const open = proveItems(unwritten, checkSong(unwritten)).filter(({ done }) => !done)
    const groups = proveGroups(open)
    expect(groups.flatMap((group) => group.items)).toHaveLength(open.length)
    const causes = groups.map(({ cause }) => cause)
    expect(new Set(causes).size).toBe(causes.length)
    expect(causes.indexOf('doubt')).toBeLessThan(causes.indexOf('not charted'))
    const missing = groups.find(({ cause }) => cause === 'not charted')!
    expect(missing.items.length).toBeGreaterThanOrEqual(3)
    const seconds = missing.items.map((item) => item.seconds ?? -1)
    expect(seconds).toEqual(seconds.toSorted((a, b) => a - b))
  })
})
