import { liveQuery } from 'dexie'
import { defineStore } from 'pinia'
import {
  planFor,
  readStudentFile,
  withPlan,
  withPractice,
  writeStudentFile,
  type LessonPlan,
  type Practice,
  type Salvaged,
  type Student,
} from '#core/teach/student'
import type { Result } from '#core/result'
import { database, storageRefusal } from '#platform/database'
import { download, fileName, randomId } from '#platform/files'
import { loadStudents, putStudent, storedStudent, updateStudent } from '#platform/student-store'
import { demoStudents } from '../features/teach/demoStudents'
import { usePreferences } from './preferences'

/** The students of this teacher: beside the songs, in the browser and in files of their own. */
export const useStudents = defineStore('students', () => {
  const preferences = usePreferences()
  const all = shallowRef<readonly Student[]>([])
  /** Of students whose row is damaged what could not be read, by id. */
  const leftOut = shallowRef<ReadonlyMap<string, string[]>>(new Map())
  const problem = ref('')
  const loaded = ref(false)
  const chosen = computed(
    () => all.value.find(({ id }) => id === preferences.values.studentId) ?? all.value[0],
  )
  const damage = computed(() => leftOut.value.get(chosen.value?.id ?? '') ?? [])
  /** Changes on their way to the disk, by student: until they are there, what is here is newer. */
  const writing = new Map<string, number>()
  /** Students that could not be stored: they are in this window only. */
  const unstored = new Set<string>()

  /** Reads them once and follows what other windows make of them; at first there are two of the demo. */
  async function load(): Promise<void> {
    if (loaded.value) return
    loaded.value = true
    const rows = await loadStudents().catch(() => undefined)
    if (!rows) return
    show(rows)
    if (!rows.length && !preferences.values.studentsSeen) {
      preferences.set('studentsSeen', true)
      for (const student of demoStudents(new Date())) await stored(student, putStudent(student))
    }
    liveQuery(loadStudents).subscribe({ next: show, error: () => undefined })
  }

  /** What is stored, except where something newer is still on its way. */
  function show(rows: readonly Salvaged[]): void {
    const here = (id: string): boolean => (writing.get(id) ?? 0) > 0 || unstored.has(id)
    const kept = all.value.filter(({ id }) => here(id))
    const read = rows.filter(({ student }) => !here(student.id))
    all.value = sorted([...kept, ...read.map(({ student }) => student)])
    leftOut.value = new Map(
      read.filter((row) => row.leftOut.length).map((row) => [row.student.id, row.leftOut]),
    )
  }
  const sorted = (students: Student[]): Student[] => students.sort((a, b) => a.name.localeCompare(b.name))

  /**
   * Shown here at once, so that what follows stands on it; then as it was stored. What could not be stored is
   * said: it is in this window, and can be saved as a file.
   */
  async function stored(student: Student, write: Promise<Result<Student>>): Promise<void> {
    const { id } = student
    put(student)
    problem.value = ''
    writing.set(id, (writing.get(id) ?? 0) + 1)
    const result = await write
    writing.set(id, (writing.get(id) ?? 1) - 1)
    if (!result.ok) {
      unstored.add(id)
      problem.value =
        `${student.name} could not be stored and is in this window only: save the file now. ` +
        result.refusal.message
      return
    }
    unstored.delete(id)
    if (writing.get(id) === 0) put(result.value)
  }
  function put(student: Student): void {
    all.value = sorted([...all.value.filter(({ id }) => id !== student.id), student])
  }
  /** A change to the chosen student, here and to the row as it is stored now. */
  function change(make: (student: Student) => Student): void {
    const here = chosen.value
    if (here)
      void stored(make(here), unstored.has(here.id) ? putStudent(make(here)) : updateStudent(here, make))
  }

  const choose = (id: string): void => preferences.set('studentId', id)
  async function add(name: string): Promise<void> {
    const handMm = preferences.values.handCautionMm
    const student: Student = { id: randomId(), name, level: 'improver', handMm, plans: [], log: [] }
    choose(student.id)
    await stored(student, putStudent(student))
  }
  /** Gone from here when it is gone from the browser. */
  async function remove(id: string): Promise<void> {
    try {
      await database.students.delete(id)
      unstored.delete(id)
      all.value = all.value.filter((student) => student.id !== id)
    } catch (error) {
      problem.value = storageRefusal(error).message
    }
  }
  const setFacts = (set: Partial<Pick<Student, 'name' | 'level' | 'handMm'>>): void =>
    change((student) => ({ ...student, ...set }))
  const setPlan = (plan: LessonPlan): void => change((student) => withPlan(student, plan))
  const note = (practice: Practice): void => change((student) => withPractice(student, practice))
  const planOfPart = (songId: string, partId: string): LessonPlan | undefined =>
    chosen.value && planFor(chosen.value, songId, partId)

  const saveText = (text: string, name: string): void => {
    const type = 'application/json'
    download(new Blob([text], { type }), `${fileName(name)}.json`, type)
  }
  function saveFile(): void {
    if (chosen.value) saveText(writeStudentFile(chosen.value), chosen.value.name)
  }
  /** The row of a damaged student, as it lies in the browser. */
  async function saveAsStored(): Promise<void> {
    const { value } = chosen
    if (value)
      saveText(JSON.stringify(await storedStudent(value.id), undefined, 2), `${value.name} as stored`)
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
    await stored(student, putStudent(student))
  }
  const sendAway = (): void => {
    arriving.value = undefined
  }
  return {
    all,
    chosen,
    damage,
    problem,
    load,
    choose,
    add,
    remove,
    change: setFacts,
    setPlan,
    note,
    planOfPart,
    saveFile,
    saveAsStored,
    bringIn,
    arriving,
    arrive: () => arrive(),
    sendAway,
  }
})
