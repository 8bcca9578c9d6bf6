// The two invented students of the demo, each with a plan for "Salt on the Signal" and what they practised.
import type { Practice, Student } from '#core/teach/student'

const SONG = 'salt-on-the-signal'
const DAY_MS = 86_400_000

/** Days are counted back from today, so that something is due. */
export function demoStudents(today: Date): Student[] {
  const daysAgo = (days: number): string =>
    new Date(today.getTime() - days * DAY_MS).toISOString().slice(0, 10)
  const practised = (
    figureId: string,
    days: number,
    [reached, rounds, cleanRounds, minutes]: readonly [number, number, number, number],
  ): Practice => ({
    id: `demo-${figureId}-${days}`,
    songId: SONG,
    figureId,
    day: daysAgo(days),
    reached,
    goal: 118,
    rounds,
    cleanRounds,
    minutes,
  })
  return [
    {
      id: 'demo-ines',
      name: 'Ines',
      level: 'improver',
      handMm: 78,
      plans: [{ songId: SONG, partId: 'g1', order: 'used', forms: {} }],
      log: [
        practised('verse-chug', 8, [76, 14, 8, 9]),
        practised('verse-chug', 7, [92, 12, 9, 8]),
        practised('verse-chug', 4, [118, 10, 9, 7]),
        practised('lift', 2, [84, 12, 5, 8]),
      ],
    },
    {
      id: 'demo-tobin',
      name: 'Tobin',
      level: 'advanced',
      handMm: 104,
      plans: [{ songId: SONG, partId: 'g2', order: 'easy', forms: {} }],
      log: [practised('octaves', 1, [118, 8, 8, 6])],
    },
  ]
}
