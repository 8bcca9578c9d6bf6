import { defineStore } from 'pinia'
import {
  planFor,
  readStudentFile,
  withPlan,
  writeStudentFile,
  type LessonPlan,
  type Practice,
  type Student,
} from '#core/teach/student'
import { database, storageRefusal } from '#platform/database'
import { download, fileName, randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { demoStudents } from '../features/teach/demoStudents'
import { usePreferences } from './preferences'

/** The students of this teacher: beside the songs, in the browser and in files of their own. */
export const useStudents = defineStore('students', () => {
  const preferences = usePreferences()
  const all = shallowRef<readonly Student[]>([])
  const problem = ref('')
  const loaded = ref(false)
  const chosen = computed(
    () => all.value.find(({ id }) => id === preferences.values.studentId) ?? all.value[0],
  )

  /** Reads them once; the first time there are the two of the demo. */
  async function load(): Promise<void> {
    if (loaded.value) return
    loaded.value = true
    const kept = await database.students.toArray().catch(() => [])
    all.value = kept
    if (kept.length || preferences.values.studentsSeen) return
    preferences.set('studentsSeen', true)
    for (const student of demoStudents(new Date())) await keep(student)
  }

  /** Shown as kept only when it is. */
  async function keep(student: Student): Promise<boolean> {
    try {
      await database.students.put(plain(student))
    } catch (error) {
      problem.value = storageRefusal(error).message
      return false
    }
    problem.value = ''
    const others = all.value.filter(({ id }) => id !== student.id)
    all.value = [...others, student].sort((a, b) => a.name.localeCompare(b.name))
    return true
  }
  const choose = (id: string): void => preferences.set('studentId', id)
  async function add(name: string): Promise<void> {
    const handMm = preferences.values.handCautionMm
    const student: Student = { id: randomId(), name, level: 'improver', handMm, plans: [], log: [] }
    if (await keep(student)) choose(student.id)
  }
  async function remove(id: string): Promise<void> {
    await database.students.delete(id)
    all.value = all.value.filter((student) => student.id !== id)
  }
  const change = (set: Partial<Pick<Student, 'name' | 'level' | 'handMm'>>): void => {
    if (chosen.value) void keep({ ...chosen.value, ...set })
  }
  const setPlan = (plan: LessonPlan): void => {
    if (chosen.value) void keep(withPlan(chosen.value, plan))
  }
  const note = (practice: Practice): void => {
    if (chosen.value) void keep({ ...chosen.value, log: [...chosen.value.log, practice] })
  }
  const planOfPart = (songId: string, partId: string): LessonPlan | undefined =>
    chosen.value && planFor(chosen.value, songId, partId)

  function saveFile(): void {
    if (!chosen.value) return
    const type = 'application/json'
    download(
      new Blob([writeStudentFile(chosen.value)], { type }),
      `${fileName(chosen.value.name)}.json`,
      type,
    )
  }
  /** A file brought in; a student of the same id is replaced, which is said beforehand by `existing`. */
  async function bringIn(text: string): Promise<void> {
    const read = readStudentFile(text)
    if (!read.ok) {
      problem.value = read.refusal.message
      return
    }
    if (await keep(read.value)) choose(read.value.id)
  }
  return {
    all,
    chosen,
    problem,
    load,
    choose,
    add,
    remove,
    change,
    setPlan,
    note,
    planOfPart,
    saveFile,
    bringIn,
  }
})
