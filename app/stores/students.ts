import { defineStore } from 'pinia'
import {
  planFor,
  readStudentFile,
  studentSchema,
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
    const rows = await database.students.toArray().catch(() => [])
    const kept = rows.filter((row) => studentSchema.safeParse(row).success)
    all.value = kept.sort((a, b) => a.name.localeCompare(b.name))
    if (rows.length || preferences.values.studentsSeen) return
    preferences.set('studentsSeen', true)
    for (const student of demoStudents(new Date())) await keep(student)
  }

  /** Read anew: a backup was brought back. */
  async function reload(): Promise<void> {
    loaded.value = false
    await load()
  }

  /**
   * Changed here at once, so that what follows stands on it; then stored. What could not be stored is said:
   * it is in this window, and can be saved as a file.
   */
  async function keep(student: Student): Promise<void> {
    const others = all.value.filter(({ id }) => id !== student.id)
    all.value = [...others, student].sort((a, b) => a.name.localeCompare(b.name))
    problem.value = ''
    await database.students.put(plain(student)).catch(() => {
      problem.value = `${student.name} could not be stored and is in this window only: save the file now.`
    })
  }
  const choose = (id: string): void => preferences.set('studentId', id)
  async function add(name: string): Promise<void> {
    const handMm = preferences.values.handCautionMm
    const student: Student = { id: randomId(), name, level: 'improver', handMm, plans: [], log: [] }
    choose(student.id)
    await keep(student)
  }
  /** Gone from here when it is gone from the browser. */
  async function remove(id: string): Promise<void> {
    try {
      await database.students.delete(id)
      all.value = all.value.filter((student) => student.id !== id)
    } catch (error) {
      problem.value = storageRefusal(error).message
    }
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
  /** From a file, and here already: waits until somebody says that it takes the other's place. */
  const arriving = shallowRef<Student>()
  async function bringIn(text: string): Promise<void> {
    const read = readStudentFile(text)
    arriving.value = undefined
    problem.value = read.ok ? '' : read.refusal.message
    if (!read.ok) return
    if (all.value.some(({ id }) => id === read.value.id)) arriving.value = read.value
    else await arrive(read.value)
  }
  async function arrive(student = arriving.value): Promise<void> {
    arriving.value = undefined
    if (!student) return
    choose(student.id)
    await keep(student)
  }
  const sendAway = (): void => {
    arriving.value = undefined
  }
  return {
    all,
    chosen,
    problem,
    load,
    reload,
    choose,
    add,
    remove,
    change,
    setPlan,
    note,
    planOfPart,
    saveFile,
    bringIn,
    arriving,
    arrive: () => arrive(),
    sendAway,
  }
})
