// Whole bars on the bench: selected with the mouse or by keys, copied from one figure into another, inserted,
// removed.
import { insertBars, putBars, removeBars, takeBars, type BarSpan } from '#core/document/figure-bars'
import type { Content } from '#core/document/schema'
import { barTicks } from '#core/time/meter'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import type { BenchCursor } from './benchCursor'

interface Copied {
  content: Content
  lengthTicks: number
  strings: number
}
/** What was copied last, also from another figure. */
const copied = shallowRef<Copied>()

const counted = (bars: number): string => (bars === 1 ? 'one bar' : `${bars} bars`)

export function useBenchBars(cursor: BenchCursor) {
  const store = useSong()
  const { figure, tick, strings, content, edit, go, row, eased } = cursor
  /** From bar to bar, counted from 0, both in it. */
  const selected = ref<{ first: number; last: number }>()
  const bar = computed(() => (figure.value ? barTicks(figure.value.meter) : 1))
  const barHere = computed(() => Math.floor(tick.value / bar.value))
  const count = computed(() => Math.ceil((figure.value?.lengthTicks ?? 0) / bar.value))
  watch([() => figure.value?.id, count], () => {
    selected.value = undefined
  })
  const say = (text: string, kind: 'refusal' | 'done' = 'refusal'): void => {
    store.notice = { text, kind }
  }

  function select(first: number, last = first): void {
    const within = (at: number): number => Math.max(0, Math.min(count.value - 1, at))
    selected.value = { first: within(Math.min(first, last)), last: within(Math.max(first, last)) }
  }
  /** The bar at the cursor; each further time one more behind it. */
  function selectMore(by: number): void {
    const now = selected.value
    if (!now) return select(barHere.value)
    if (by > 0) select(now.first, now.last + 1)
    else select(now.first, Math.max(now.first, now.last - 1))
  }
  const letGo = (): void => {
    selected.value = undefined
  }
  /** The bars that are meant: those selected, else the one at the cursor. */
  const span = computed<BarSpan>(() => {
    const { first, last } = selected.value ?? { first: barHere.value, last: barHere.value }
    const end = figure.value?.lengthTicks ?? bar.value
    return { from: first * bar.value, to: Math.min(end, (last + 1) * bar.value) }
  })
  const barsIn = ({ from, to }: BarSpan): number => Math.ceil((to - from) / bar.value)

  function copy(): void {
    const lengthTicks = span.value.to - span.value.from
    copied.value = { content: takeBars(content.value, span.value), lengthTicks, strings: strings.value }
    say(`${counted(barsIn(span.value))} copied: put the cursor where it goes and paste.`, 'done')
  }
  function paste(): void {
    const shape = figure.value
    const from = copied.value
    if (!shape) return
    if (!from) return say('Nothing is copied yet: select bars and copy them first.')
    if (from.strings !== strings.value)
      return say(`What is copied is for ${from.strings} strings: this part has ${strings.value}.`)
    const at = selected.value ? span.value.from : barHere.value * bar.value
    const left = Math.max(0, at + from.lengthTicks - shape.lengthTicks)
    const figureTicks = shape.lengthTicks
    const what = `paste ${counted(Math.ceil((from.lengthTicks - left) / bar.value))}`
    const next = putBars(content.value, from.content, {
      at,
      lengthTicks: from.lengthTicks,
      figureTicks,
      newId: randomId,
    })
    if (!edit(what, next)) return
    go(row.value, at)
    if (left > 0)
      say(
        `${counted(Math.ceil(left / bar.value))} had no room in “${shape.name}”: make it longer first.`,
        'done',
      )
  }
  /** Only a figure that stands by itself, in one form, can become longer or shorter in its middle. */
  function fixed(): string | undefined {
    const shape = figure.value
    if (shape?.variationOf) return `“${shape.name}” varies another figure and is as long as that one.`
    if (shape?.derivedFrom) return `“${shape.name}” follows another line and is as long as that one.`
    return shape?.eased ? 'This figure has an easier form of the same length: remove that first.' : undefined
  }
  function insert(): void {
    const shape = figure.value
    const problem = fixed()
    if (!shape || eased.value || problem) return say(problem ?? 'Insert bars in the exact form.')
    const at = span.value.from
    const lengthTicks = shape.lengthTicks + bar.value
    if (edit('insert a bar', insertBars(content.value, at, bar.value, randomId), { lengthTicks }))
      go(row.value, at)
  }
  function remove(): void {
    const shape = figure.value
    const problem = fixed()
    if (!shape || eased.value || problem) return say(problem ?? 'Remove bars in the exact form.')
    const gone = span.value
    const lengthTicks = shape.lengthTicks - (gone.to - gone.from)
    if (lengthTicks <= 0) return say('A figure keeps at least one bar: remove the figure instead.')
    const next = removeBars(content.value, gone, randomId)
    if (edit(`remove ${counted(barsIn(gone))}`, next, { lengthTicks })) go(row.value, gone.from)
  }
  return { selected, select, selectMore, letGo, span, copy, paste, insert, remove }
}
export type BenchBars = ReturnType<typeof useBenchBars>
