// Students in the browser's database. Every change is made to the row as it lies there, in one transaction:
// two windows that note practice at the same time both keep theirs.
import { salvageStudent, studentSchema, type Salvaged, type Student } from '#core/teach/student'
import { ok, refuse, type Result } from '#core/result'
import { issueWords } from '#core/document/issue-words'
import { database, storageRefusal } from './database'
import { plain } from './plain'

/** All students, damaged ones as far as they can be read. Rows without an id are none. */
export async function loadStudents(): Promise<Salvaged[]> {
  const rows: unknown[] = await database.students.toArray()
  return rows.flatMap((row) => salvageStudent(row) ?? [])
}

/** The row as it was stored, for keeping a copy of one that is damaged. */
export const storedStudent = (id: string): Promise<unknown> => database.students.get(id)

/** Puts a student there, in place of one of the same id. */
export const putStudent = (student: Student): Promise<Result<Student>> => written(() => student)

/**
 * Changes a student as it is stored now; one that is not there is made from `here`. What it becomes is held
 * against the schema before it is written.
 */
export const updateStudent = (
  here: Student,
  change: (student: Student) => Student,
): Promise<Result<Student>> =>
  written(async () => change(salvageStudent(await database.students.get(here.id))?.student ?? here))

async function written(make: () => Student | Promise<Student>): Promise<Result<Student>> {
  try {
    return await database.transaction('rw', database.students, async (): Promise<Result<Student>> => {
      const parsed = studentSchema.safeParse(await make())
      const [issue] = parsed.error?.issues ?? []
      if (!parsed.success)
        return refuse('student', `This cannot be kept${issue ? `: ${issueWords(issue)}` : ''}.`)
      await database.students.put(plain(parsed.data))
      return ok(parsed.data)
    })
  } catch (error) {
    const { code, message } = storageRefusal(error)
    return refuse(code, message)
  }
}
