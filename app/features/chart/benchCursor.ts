// The cursor on the bench: on a row (grips, a string, the hand) at a step, and what stands there.
import { stepTicks } from '#core/time/meter'
import { figureContent } from '#core/document/figure-content'
import { gripAt, noteAt, strokeAt } from '#core/document/figure-edit'
import { storeContent } from '#core/document/figure-layers'
import { EMPTY_CONTENT, type Content, type Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'

export type BenchRow = 'grips' | 'hand' | number

export function useBenchCursor(figure: Ref<Figure | undefined>) {
  const store = useSong()
  const row = ref<BenchRow>(6)
  const tick = ref(0)

  const part = computed(() => (figure.value ? store.song?.parts[figure.value.partId] : undefined))
  const strings = computed(() => part.value?.tuning.openMidi.length ?? 6)
  // The lowest string there is, on a bass as on a guitar.
  watch(
    strings,
    (count) => {
      if (typeof row.value === 'number' && row.value > count) row.value = count
    },
    { immediate: true },
  )
  const step = computed(() =>
    figure.value ? stepTicks(figure.value.meter, figure.value.feel.subdivision) : 5040,
  )
  /** Which form of the figure is on the bench. */
  const form = ref<'exact' | 'eased'>('exact')
  const showForm = (next: 'exact' | 'eased'): void => {
    form.value = next
  }
  watch(
    () => figure.value?.id,
    () => showForm('exact'),
  )
  const eased = computed(() => form.value === 'eased' && figure.value?.eased !== undefined)
  /** What is heard: with what it takes from its base and its pattern. */
  const content = computed<Content>(() =>
    figure.value && store.song
      ? figureContent(store.song, figure.value, eased.value ? 'eased' : 'exact')
      : EMPTY_CONTENT,
  )
  const note = computed(() =>
    typeof row.value === 'number' ? noteAt(content.value, row.value, tick.value) : undefined,
  )
  const stroke = computed(() => strokeAt(content.value, tick.value))
  const grip = computed(() => gripAt(content.value, tick.value))

  /**
   * Enters a next content for the form on the bench; a figure that stands on others keeps only what
   * differs. `more` goes with it as one step.
   */
  function edit(
    what: string,
    next: Content,
    more: Partial<Pick<Figure, 'lengthTicks' | 'meter' | 'feel'>> = {},
  ): boolean {
    const shape = figure.value
    if (!shape || !store.song) return false
    return store.run('changeFigure', {
      figureId: shape.id,
      what,
      set: {
        ...more,
        ...(eased.value ? { eased: next } : storeContent(store.song, { ...shape, ...more }, next)),
      },
    })
  }
  const rows = computed<BenchRow[]>(() => [
    'grips',
    ...Array.from({ length: strings.value }, (_, index) => index + 1),
    'hand',
  ])
  function moveRow(by: number): void {
    const at = rows.value.indexOf(row.value)
    row.value = rows.value[Math.max(0, Math.min(rows.value.length - 1, at + by))]!
  }
  function moveTick(by: number): void {
    if (figure.value)
      tick.value = Math.max(
        0,
        Math.min(
          figure.value.lengthTicks - step.value,
          (Math.round(tick.value / step.value) + by) * step.value,
        ),
      )
  }
  function go(nextRow: BenchRow, nextTick: number): void {
    row.value = nextRow
    if (figure.value) tick.value = Math.max(0, Math.min(figure.value.lengthTicks - step.value, nextTick))
  }

  return {
    figure,
    row,
    tick,
    part,
    strings,
    step,
    form,
    showForm,
    eased,
    content,
    note,
    stroke,
    grip,
    edit,
    moveRow,
    moveTick,
    go,
  }
}
export type BenchCursor = ReturnType<typeof useBenchCursor>
