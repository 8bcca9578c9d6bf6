// Licks of a figure: named, forgotten, put in at the cursor; by the panel and by the call line.
import { lickNotes } from '#core/explore/licks'
import { barTicks } from '#core/time/meter'
import type { Figure, Lick } from '#core/document/schema'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'

export function useLicks(bench: Bench, figure: () => Figure) {
  const store = useSong()
  const licks = (): Lick[] => figure().licks ?? []
  const write = (what: string, next: Lick[]): boolean =>
    store.run('changeFigure', { figureId: figure().id, what, set: { licks: plain(next) } })

  /** A name said again is the same lick at another place. */
  function name(lick: Omit<Lick, 'id'>): boolean {
    const others = licks().filter((one) => one.name.toLowerCase() !== lick.name.toLowerCase())
    return write(`name the lick “${lick.name}”`, [...others, { ...lick, id: randomId() }])
  }
  const forget = (lick: Lick): boolean =>
    write(
      `no longer name “${lick.name}”`,
      licks().filter(({ id }) => id !== lick.id),
    )

  /** The notes of a lick in place of what stands from the cursor on; the figure grows where it has to. */
  function putIn(from: Figure, lick: Lick): boolean {
    if (!store.song) return false
    const at = bench.tick.value
    const by = at - lick.startTicks
    const notes = lickNotes(store.song, from, lick).map((note) => ({
      ...note,
      id: randomId(),
      startTicks: note.startTicks + by,
    }))
    const end = at + lick.lengthTicks
    const content = bench.content.value
    const kept = content.notes.filter(({ startTicks }) => startTicks < at || startTicks >= end)
    const bar = barTicks(figure().meter)
    const lengthTicks = Math.max(figure().lengthTicks, Math.ceil(end / bar) * bar)
    return bench.edit(
      `put in “${lick.name}”`,
      { ...content, notes: [...kept, ...notes].sort((a, b) => a.startTicks - b.startTicks) },
      { lengthTicks },
    )
  }
  return { name, forget, putIn }
}
