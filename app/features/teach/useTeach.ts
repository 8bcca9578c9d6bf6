// What the page of teaching works on: a part, the student's plan for it, its steps, the one that is chosen.
import { USUAL_HAND, type Hand } from '#core/neck/hand'
import { ORDERS, type Order } from '#core/teach/orders'
import { coverageCurve, planOf, type PlanStep } from '#core/teach/plan'
import { dueAgain } from '#core/teach/spaced-return'
import type { Form } from '#core/teach/teachables'
import { ticksToSeconds } from '#core/time/beat-grid'
import { sectionPlaces } from '#core/document/form'
import { playsOfPart } from '#core/timeline/timeline'
import { useSong } from '~/stores/song'
import { useStudents } from '~/stores/students'
import { useTransport } from '~/stores/transport'

export const todayIs = (): string => new Date().toISOString().slice(0, 10)

export function useTeach() {
  const store = useSong()
  const students = useStudents()
  const transport = useTransport()
  void students.load()
  const partId = ref('')
  watch(
    [() => students.chosen?.id, () => store.song?.id, () => store.parts.length],
    () => {
      const planned = students.chosen?.plans.find(({ songId }) => songId === store.song?.id)?.partId
      const wanted = [planned, partId.value].find((id) => id !== undefined && store.song?.parts[id])
      partId.value = wanted ?? store.parts[0]?.id ?? ''
    },
    { immediate: true },
  )
  const hand = computed((): Hand => {
    const { chosen } = students
    return chosen ? { name: chosen.name, cautionMm: chosen.handMm } : USUAL_HAND
  })
  const plan = computed(
    () =>
      students.planOfPart(store.song?.id ?? '', partId.value) ?? {
        songId: store.song?.id ?? '',
        partId: partId.value,
        order: 'used' as const,
        forms: {},
      },
  )
  const stepsIn = (order: typeof plan.value.order): PlanStep[] =>
    store.song && partId.value
      ? planOf(store.song, partId.value, { order, hand: hand.value, forms: plan.value.forms })
      : []
  const steps = computed(() => stepsIn(plan.value.order))
  const curve = computed(() => coverageCurve(steps.value))
  const songCurve = computed(() => coverageCurve(stepsIn('song')))
  const minutes = computed(() => steps.value.reduce((sum, step) => sum + step.minutes, 0))
  const chosenId = ref('')
  const chosen = computed(
    () => steps.value.find(({ figureId }) => figureId === chosenId.value) ?? steps.value[0],
  )
  const index = computed(() => steps.value.findIndex(({ figureId }) => figureId === chosen.value?.figureId))
  const due = computed(() => {
    const log = students.chosen?.log ?? []
    return dueAgain(log, store.song?.id ?? '', todayIs()).filter(
      ({ figureId }) => store.song?.figures[figureId],
    )
  })

  const setOrder = (order: Order): void => students.setPlan({ ...plan.value, order })
  const setForm = (figureId: string, form: Form): void =>
    students.setPlan({ ...plan.value, forms: { ...plan.value.forms, [figureId]: form } })
  const choosePart = (id: string): void => {
    partId.value = id
    students.setPlan(students.planOfPart(store.song?.id ?? '', id) ?? { ...plan.value, partId: id })
  }
  /** A step dragged, or moved by keys: from then on the order is the teacher's own. */
  function move(figureId: string, by: number): void {
    const ids = steps.value.map((step) => step.figureId)
    const at = ids.indexOf(figureId)
    const to = Math.max(0, Math.min(ids.length - 1, at + by))
    if (at < 0 || to === at) return
    ids.splice(to, 0, ...ids.splice(at, 1))
    chosenId.value = figureId
    students.setPlan({ ...plan.value, order: { figureIds: ids } })
  }
  const choose = (figureId: string): void => {
    chosenId.value = figureId
  }
  function step(by: number): void {
    const next = steps.value[Math.max(0, Math.min(steps.value.length - 1, index.value + by))]
    if (next) chosenId.value = next.figureId
  }

  /** Everything up to the chosen step, in its forms. */
  const known = computed(() => steps.value.slice(0, index.value + 1))
  /** Sections in which nothing but what is known is played. */
  const knownSections = computed(() => {
    const { song } = store
    if (!song) return []
    const ids = new Set(known.value.map(({ figureId }) => figureId))
    const plays = playsOfPart(song, partId.value).filter(({ figure }) => figure)
    return sectionPlaces(song)
      .filter(({ section }) => {
        const own = plays.filter(({ placement }) => placement.sectionId === section.id)
        return own.length > 0 && own.every(({ figure }) => ids.has(figure!.id))
      })
      .map(({ section }) => section.name)
  })
  function hearSoFar(): void {
    if (transport.playing && transport.scope.kind === 'so far') {
      transport.stop()
      return
    }
    transport.setLoop(undefined)
    transport.setScope({
      kind: 'so far',
      partId: partId.value,
      forms: Object.fromEntries(known.value.map(({ figureId, form }) => [figureId, form])),
    })
    void transport.play(firstKnownSeconds())
  }
  function firstKnownSeconds(): number {
    const places = known.value.map(({ figureId }) => transport.figurePlace(figureId)?.startTicks ?? 0)
    return store.map ? ticksToSeconds(store.map, Math.min(...places)) : 0
  }
  onBeforeUnmount(() => {
    if (transport.scope.kind === 'so far') transport.setScope({ kind: 'song' })
  })
  return {
    store,
    students,
    transport,
    partId,
    plan,
    hand,
    steps,
    curve,
    songCurve,
    minutes,
    choose,
    chosen,
    index,
    due,
    setOrder,
    setForm,
    choosePart,
    move,
    step,
    known,
    knownSections,
    hearSoFar,
    orders: ORDERS,
  }
}
export type Teach = ReturnType<typeof useTeach>
