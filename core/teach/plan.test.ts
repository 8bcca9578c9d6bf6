import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../demo/random'
import { readSong } from '../document/migrations'
import { must } from '../result'
import { AT_THE_FOOT, afterRound, ladderOf, type Climb } from './ladder'
import { ORDERS } from './orders'
import { coverageCurve, planOf } from './plan'
import { climbLadder, playRound } from './simulated-student'
import { dueAgain } from './spaced-return'
import { planFor, readStudentFile, withPlan, writeStudentFile, type Practice, type Student } from './student'

const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const names = (order: (typeof ORDERS)[number], partId = 'g1'): string[] =>
  planOf(salt, partId, { order }).map(({ name }) => name)

describe('a plan', () => {
  it.each(ORDERS)('in the order %s has every figure once and comes to all of the part', (order) => {
    const steps = planOf(salt, 'g1', { order })
    expect(new Set(steps.map(({ figureId }) => figureId)).size).toBe(steps.length)
    expect(steps).toHaveLength(12)
    const curve = coverageCurve(steps)
    expect(curve.at(-1)).toBe(1)
    curve.slice(1).forEach((share, index) => expect(share).toBeGreaterThan(curve[index]!))
    expect(steps.every(({ minutes, reason }) => minutes > 0 && reason !== '')).toBe(true)
  })

  it('begins with what opens most, with what comes first, with chords, with what is easy', () => {
    expect(names('used')[0]).toBe('Verse chug')
    expect(names('song').slice(0, 3)).toEqual(['Intro riff', 'Pickup run', 'Verse chug'])
    expect(names('rhythm').slice(-2)).toEqual(['Intro riff', 'Pickup run'])
    const points = planOf(salt, 'g2', { order: 'easy' }).map(({ difficulty }) => difficulty.points)
    expect(points).toEqual([...points].sort((a, b) => a - b))
  })

  it('teaches a variation after its base, and only what differs', () => {
    const steps = planOf(salt, 'g1', { order: 'used' })
    const at = (name: string): number => steps.findIndex((step) => step.name === name)
    const run = steps[at('Verse chug, with the run')]!
    expect(at('Verse chug')).toBeLessThan(at('Verse chug, with the run'))
    expect(run).toMatchObject({ baseName: 'Verse chug', newBars: 1, bars: 4 })
    expect(run.minutes).toBeLessThan(steps[at('Verse chug')]!.minutes)
  })

  it('keeps what was dragged, and puts what is new at the end', () => {
    const [first, second] = planOf(salt, 'g1', { order: 'song' }).map(({ figureId }) => figureId)
    const steps = planOf(salt, 'g1', { order: { figureIds: [second!, first!] } })
    expect(steps.slice(0, 3).map(({ reason }) => reason)).toEqual([
      'as you placed it',
      'as you placed it',
      'new since you made the plan',
    ])
    expect(steps[0]!.figureId).toBe(second)
  })

  it('eases what a small hand cannot reach, warns where it still is too wide, and does as it is told', () => {
    const eased = Object.values(salt.figures).find((figure) => figure.eased)!
    const form = (cautionMm: number, forms = {}) =>
      planOf(salt, eased.partId, { order: 'used', hand: { name: 'h', cautionMm }, forms }).find(
        ({ figureId }) => figureId === eased.id,
      )!
    expect(form(200).form).toBe('exact')
    expect(form(20).form).toBe('eased')
    expect(form(20, { [eased.id]: 'exact' }).cautions[0]).toContain('stop at pain, ease the grip')
    expect(form(200).cautions.join()).not.toContain('stretch')
  })

  it('of a part that plays nothing is empty', () =>
    expect(planOf({ ...salt, placements: {} }, 'g1', { order: 'used' })).toEqual([]))
})

describe('the ladder', () => {
  const ladder = ladderOf({ from: 60, to: 100, clean: 3 })
  const climb = (rounds: string): Climb =>
    [...rounds].reduce((now, round) => afterRound(ladder, now, round === 'c'), AT_THE_FOOT)
  it('goes from its start to its goal, never further apart than it says', () => {
    expect(ladder.rungs[0]).toBe(60)
    expect(ladder.rungs.at(-1)).toBe(100)
    ladder.rungs.slice(1).forEach((tempo, index) => expect(tempo / ladder.rungs[index]!).toBeLessThan(1.095))
    expect(ladderOf({ from: 90, to: 90, clean: 1 }).rungs).toEqual([90])
  })
  it('is climbed by clean rounds in a row, and left downwards by two that were not', () => {
    expect(climb('cc')).toMatchObject({ rung: 0, clean: 2 })
    expect(climb('ccc')).toMatchObject({ rung: 1, clean: 0 })
    expect(climb('ccmcc')).toMatchObject({ rung: 0, clean: 2 })
    expect(climb('cccmm')).toMatchObject({ rung: 0 })
    expect(climb('mm')).toMatchObject({ rung: 0, missed: 0 })
    expect(climb('ccc'.repeat(ladder.rungs.length))).toMatchObject({
      rung: ladder.rungs.length - 1,
      done: true,
    })
  })
})

const practice = (day: string, set: Partial<Practice> = {}): Practice => ({
  id: day,
  songId: 's',
  figureId: 'f',
  day,
  reached: 100,
  goal: 100,
  rounds: 6,
  cleanRounds: 5,
  minutes: 4,
  ...set,
})
const dueDay = (log: Practice[]): string => dueAgain(log, 's', '2026-06-30')[0]!.day

describe('what is due again', () => {
  it('comes back after 1, 3, 7 days as long as it goes well', () => {
    const days = ['2026-06-01', '2026-06-02', '2026-06-05', '2026-06-12'].map((day) => practice(day))
    expect(days.map((_, index) => dueDay(days.slice(0, index + 1)))).toEqual([
      '2026-06-02',
      '2026-06-05',
      '2026-06-12',
      '2026-06-26',
    ])
  })
  it('comes back the next day when it did not, and twice on a day counts once', () => {
    const well = [practice('2026-06-01'), practice('2026-06-02')]
    expect(dueDay([...well, practice('2026-06-05', { cleanRounds: 0, reached: 60 })])).toBe('2026-06-06')
    expect(dueDay([...well, practice('2026-06-02', { id: 'x' })])).toBe('2026-06-05')
  })
  it('counts what gets further than before as well, and lists what is due first', () => {
    const log = [practice('2026-06-01', { reached: 60 }), practice('2026-06-29', { figureId: 'g' })]
    expect(dueAgain(log, 's', '2026-06-30').map(({ figureId, inDays }) => [figureId, inDays])).toEqual([
      ['f', -28],
      ['g', 0],
    ])
    expect(dueAgain(log, 'another', '2026-06-30')).toEqual([])
  })
})

describe('the simulated student', () => {
  const figure = { difficulty: { points: 3, word: 'medium' as const, reasons: [] }, strokes: 60 }
  const habits = { comfort: 110, learning: 0.01, timingSeconds: 0.015 }
  it('plays clean where it is comfortable and stumbles where it is not', () => {
    const rounds = (tempo: number) =>
      Array.from({ length: 40 }, (_, index) => playRound(habits, figure, tempo, seededRandom(index)).clean)
    expect(rounds(60).every(Boolean)).toBe(true)
    expect(rounds(220).some(Boolean)).toBe(false)
  })
  it('climbs a ladder in the end by learning, the same from the same seed', () => {
    const ladder = ladderOf({ from: 60, to: 118, clean: 3 })
    const play = () => climbLadder(habits, figure, ladder, { rounds: 200, random: seededRandom(4) })
    expect(play().climb.done).toBe(true)
    expect(play()).toEqual(play())
    expect(play().habits.comfort).toBeGreaterThan(habits.comfort)
  })
})

describe('a student’s file', () => {
  const student: Student = {
    id: 'i',
    name: 'Ines',
    level: 'improver',
    handMm: 88,
    plans: [],
    log: [practice('2026-06-01')],
  }
  it('comes back as it was written', () =>
    expect(must(readStudentFile(writeStudentFile(student)))).toEqual(student))
  it('is refused in a sentence where it is none', () => {
    for (const text of ['', '{}', '[]', '{"kind":"synchorda student","version":1,"student":{"id":""}}'])
      expect(readStudentFile(text)).toMatchObject({ ok: false, refusal: { code: 'student-file' } })
    const long = writeStudentFile({ ...student, handMm: 900 })
    expect(readStudentFile(long)).toMatchObject({
      refusal: { message: expect.stringContaining('student.handMm') },
    })
  })
  it('keeps one plan for each part', () => {
    const plan = { songId: 's', partId: 'g', order: 'easy' as const, forms: {} }
    const twice = withPlan(withPlan(student, plan), { ...plan, order: 'song' })
    expect(twice.plans).toHaveLength(1)
    expect(planFor(twice, 's', 'g').order).toBe('song')
    expect(planFor(twice, 's', 'h').order).toBe('used')
  })
})
