// A student: the hand, the level, the plans, the log. Students stand beside the songs, in the browser and in
// files of their own; of a song they keep only its id and what was chosen for its figures.
import { z } from 'zod'
import { refuse, ok, type Result } from '../result'

export const LEVELS = ['beginner', 'improver', 'advanced'] as const
export type Level = (typeof LEVELS)[number]

const id = z.string().min(1).max(80)
const day = z.iso.date()
const tempo = z.number().min(10).max(400)
export const practiceSchema = z.strictObject({
  id,
  songId: id,
  figureId: id,
  day,
  /** Beats a minute that were reached clean, and the goal. */
  reached: tempo,
  goal: tempo,
  rounds: z.int().min(1).max(10_000),
  cleanRounds: z.int().min(0).max(10_000),
  minutes: z.number().min(0).max(600),
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
  plans: z.array(lessonPlanSchema).max(500),
  log: z.array(practiceSchema).max(20_000),
})
export type Student = z.infer<typeof studentSchema>

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
  ],
})
