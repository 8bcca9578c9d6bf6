// Students as they lie in the browser: nothing of one disappears because a number of it is strange, and two
// windows that write at the same time both keep what they wrote.
import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { must } from '../core/result'
import { withPractice, type Practice, type Student } from '../core/teach/student'
import { dice } from '../tests/support/random-transactions'
import { database } from './database'
import { loadStudents, putStudent, updateStudent } from './student-store'

const ines: Student = { id: 'ines', name: 'Ines', level: 'improver', handMm: 78, plans: [], log: [] }
const practice = (id: string, over: Partial<Practice> = {}): Practice => ({
  id,
  songId: 'song',
  figureId: 'riff',
  day: '2026-05-31',
  reached: 90,
  goal: 118,
  rounds: 6,
  cleanRounds: 4,
  minutes: 9,
  ...over,
})
/** A practice added to the log that is stored now, as the page does it. */
const addPractice = (here: Student, done: Practice) =>
  updateStudent(here, (student) => withPractice(student, done))

beforeEach(() => database.students.clear())

describe('a student', () => {
  it('keeps a practice at a doubled count, and one that was left open overnight', async () => {
    must(await putStudent(ines))
    must(await addPractice(ines, practice('a', { goal: 473 })))
    must(await addPractice(ines, practice('b', { minutes: 660 })))
    const [read] = await loadStudents()
    expect(read!.leftOut).toEqual([])
    expect(read!.student.log.map(({ goal, minutes }) => [goal, minutes])).toEqual([
      [473, 9],
      [118, 600],
    ])
  })

  it('keeps the newest practice when the log is full', async () => {
    const log = Array.from({ length: 20_000 }, (_, index) => practice(`old-${index}`))
    must(await putStudent({ ...ines, log }))
    const { log: kept } = must(await addPractice(ines, practice('new')))
    expect([kept.length, kept[0]!.id, kept.at(-1)!.id]).toEqual([20_000, 'old-1', 'new'])
  })

  it('is not written when it could not be read again', async () => {
    must(await putStudent(ines))
    const refused = await updateStudent(ines, (student) => ({ ...student, handMm: 900 }))
    expect(refused.ok ? '' : refused.refusal.message).toMatch(/hand mm: at most 160/)
    expect((await loadStudents())[0]!.student.handMm).toBe(78)
  })

  it('whose row is damaged is shown with all that can be read, and says what cannot', async () => {
    const damaged = {
      ...ines,
      handMm: 'wide',
      log: [practice('a'), practice('b', { goal: 9000, minutes: 660 }), { id: 'c' }],
      plans: [{ songId: 'song' }],
    }
    await database.students.put(damaged as unknown as Student)
    const [read] = await loadStudents()
    expect(read!.student.log.map(({ id }) => id)).toEqual(['a', 'b'])
    expect(read!.leftOut).toEqual(['the span of the hand', '1 plan', '1 entry of the log'])
    // Looking at it changes nothing.
    expect(await database.students.get('ines')).toEqual(damaged)
    must(await addPractice(read!.student, practice('d')))
    expect((await loadStudents())[0]!.student.log.map(({ id }) => id)).toEqual(['a', 'b', 'd'])
  })

  it('has every practice that any of two windows noted, whatever came first', async () => {
    must(await putStudent(ines))
    const roll = dice(3)
    // Each window goes on with the student as it saw it last.
    const windows = [ines, ines]
    const noted: string[] = []
    for (let round = 0; round < 40; round++) {
      const both = await Promise.all(
        windows.map(async (seen, at) => {
          if (roll.chance(0.4)) return seen
          if (roll.chance(0.2)) return must(await updateStudent(seen, (one) => ({ ...one, handMm: 60 + at })))
          noted.push(`${at}-${round}`)
          return must(await addPractice(seen, practice(`${at}-${round}`)))
        }),
      )
      windows.splice(0, 2, ...(roll.chance(0.5) ? both : windows))
    }
    const log = (await loadStudents())[0]!.student.log.map(({ id }) => id)
    expect(log.sort()).toEqual(noted.sort())
  })
})
