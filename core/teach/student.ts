// A student: the hand, the level, the plans, the log. Students stand beside the songs, in the browser and in
// files of their own; of a song they keep only its id and what was chosen for its figures.
import { z } from 'zod'
import { USUAL_HAND } from '../neck/hand'
import { refuse, ok, type Result } from '../result'

export const LEVELS = ['beginner', 'improver', 'advanced'] as const
export type Level = (typeof LEVELS)[number]

const MOST_PLANS = 500
const MOST_PRACTICES = 20_000
const id = z.string().min(1).max(80)
const day = z.iso.date()
/** Beats a minute, whatever a beat is: halves and doubles of a count are in it. */
const TEMPO = { min: 5, max: 2000 }
const ROUNDS = { min: 1, max: 10_000 }
/** Nobody practises one figure for longer at a time. */
const MINUTES = { min: 0, max: 600 }
const bounded = ({ min, max }: Bounds) => z.number().min(min).max(max)
const tempo = bounded(TEMPO)

interface Bounds {
  min: number
  max: number
}
export const practiceSchema = z.strictObject({
  id,
  songId: id,
  figureId: id,
  day,
  /** Beats a minute that were reached clean, and the goal. */
  reached: tempo,
  goal: tempo,
  rounds: z.int().min(ROUNDS.min).max(ROUNDS.max),
  cleanRounds: z.int().min(0).max(ROUNDS.max),
  minutes: bounded(MINUTES),
  /** Played by the simulated student. */
  simulated: z.boolean().optional(),
})
export type Practice = z.infer<typeof practiceSchema>
export const lessonPlanSchema = z.strictObject({
  songId: id,
  partId: id,
  order: z.union([
    z.enum(['song', 'used', 'rhythm', 'easy']),
    z.strictObject({ figureIds: z.array(id).max(2000) }),
  ]),
  forms: z.record(id, z.enum(['exact', 'eased'])),
})
export type LessonPlan = z.infer<typeof lessonPlanSchema>
export const studentSchema = z.strictObject({
  id,
  name: z.string().min(1).max(80),
  level: z.enum(LEVELS),
  /** What the hand spans comfortably from the first to the fourth finger, mm. */
  handMm: z.number().min(50).max(160),
  plans: z.array(lessonPlanSchema).max(MOST_PLANS),
  log: z.array(practiceSchema).max(MOST_PRACTICES),
})
export type Student = z.infer<typeof studentSchema>

const within = (value: number, { min, max }: Bounds): number =>
  Number.isFinite(value) ? Math.min(max, Math.max(min, value)) : min

/** A practice with every number inside its bounds: what was measured strangely is no reason to lose it. */
const boundedPractice = (practice: Practice): Practice => ({
  ...practice,
  reached: within(practice.reached, TEMPO),
  goal: within(practice.goal, TEMPO),
  rounds: Math.round(within(practice.rounds, ROUNDS)),
  cleanRounds: Math.round(within(practice.cleanRounds, { ...ROUNDS, min: 0 })),
  minutes: within(practice.minutes, MINUTES),
})

export interface Salvaged {
  student: Student
  /** What could not be read and is not in it, a clause each. Empty when all of it was sound. */
  leftOut: string[]
}

/** A student out of a row that may be damaged: everything that can be read of it, and what cannot. */
export function salvageStudent(row: unknown): Salvaged | undefined {
  const read = studentSchema.safeParse(row)
  if (read.success) return { student: read.data, leftOut: [] }
  const raw = (typeof row === 'object' && row !== null ? row : {}) as Record<string, unknown>
  const known = id.safeParse(raw.id)
  if (!known.success) return undefined
  const { shape } = studentSchema
  const name = shape.name.safeParse(raw.name)
  const level = shape.level.safeParse(raw.level)
  const hand = shape.handMm.safeParse(raw.handMm)
  const plans = readable(raw.plans, (plan) => lessonPlanSchema.safeParse(plan).data)
  const log = readable(raw.log, salvagePractice)
  return {
    student: {
      id: known.data,
      name: name.success ? name.data : 'A student',
      level: level.success ? level.data : 'improver',
      handMm: hand.success ? hand.data : USUAL_HAND.cautionMm,
      plans: plans.kept.slice(-MOST_PLANS),
      log: log.kept.slice(-MOST_PRACTICES),
    },
    leftOut: [
      ...(name.success ? [] : ['the name']),
      ...(level.success ? [] : ['the level']),
      ...(hand.success ? [] : ['the span of the hand']),
      ...counted(plans.lost, 'plan'),
      ...counted(log.lost, 'entry of the log', 'entries of the log'),
    ],
  }
}

function salvagePractice(entry: unknown): Practice | undefined {
  const sound = practiceSchema.safeParse(entry)
  if (sound.success) return sound.data
  if (typeof entry !== 'object' || entry === null) return undefined
  return practiceSchema.safeParse(boundedPractice(entry as Practice)).data
}

function readable<T>(rows: unknown, read: (row: unknown) => T | undefined): { kept: T[]; lost: number } {
  if (!Array.isArray(rows)) return { kept: [], lost: rows === undefined ? 0 : 1 }
  const kept = rows.map(read).filter((row): row is Awaited<T> & T => row !== undefined)
  return { kept, lost: rows.length - kept.length }
}
const counted = (count: number, one: string, many = `${one}s`): string[] =>
  count === 0 ? [] : [`${count} ${count === 1 ? one : many}`]

const FILE_KIND = 'synchorda student'
const fileSchema = z.strictObject({
  kind: z.literal(FILE_KIND),
  version: z.literal(1),
  student: studentSchema,
})

export const writeStudentFile = (student: Student): string =>
  `${JSON.stringify({ kind: FILE_KIND, version: 1, student }, undefined, 2)}\n`

/** A student from a file; a sentence that says what is wrong where it is none. */
export function readStudentFile(text: string): Result<Student> {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    return refuse(
      'student-file',
      'This is not a student’s file: it cannot be read as one. Choose another file.',
    )
  }
  const read = fileSchema.safeParse(value)
  if (read.success) return ok(read.data.student)
  const [first] = read.error.issues
  const where = first?.path.join('.') || 'its kind'
  return refuse(
    'student-file',
    `This is not a student’s file this version can read (${where}). Nothing was changed.`,
  )
}

export const planFor = ({ plans }: Student, songId: string, partId: string): LessonPlan =>
  plans.find((plan) => plan.songId === songId && plan.partId === partId) ?? {
    songId,
    partId,
    order: 'used',
    forms: {},
  }

export const withPlan = (student: Student, plan: LessonPlan): Student => ({
  ...student,
  plans: [
    ...student.plans.filter(({ songId, partId }) => songId !== plan.songId || partId !== plan.partId),
    plan,
  ].slice(-MOST_PLANS),
})

/** A practice noted in the log, its numbers bounded; when the log is full, the oldest entries make room. */
export const withPractice = (student: Student, practice: Practice): Student => ({
  ...student,
  log: [...student.log, boundedPractice(practice)].slice(-MOST_PRACTICES),
})
