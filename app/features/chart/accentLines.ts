// The accents of the band a figure is played to: set, put in one by one, taken away.
import type { AccentLine, Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { useSong } from '~/stores/song'

export function useAccentLines(figure: () => Figure) {
  const store = useSong()
  const all = computed<AccentLine[]>(() => figure().accentLines ?? [])
  const lineOf = (of: AccentLine['of']): AccentLine | undefined => all.value.find((one) => one.of === of)
  const write = (what: string, accentLines: AccentLine[]): boolean =>
    store.run('changeFigure', { figureId: figure().id, what, set: { accentLines: plain(accentLines) } })

  /** In place of what was there of them; nothing left takes the line away. */
  function set(of: AccentLine['of'], ticks: readonly number[]): boolean {
    const others = all.value.filter((one) => one.of !== of)
    const at = [...new Set(ticks)].sort((a, b) => a - b)
    const line = { id: lineOf(of)?.id ?? randomId(), of, at }
    return write(`accents of the ${of}`, at.length ? [...others, line] : others)
  }
  const has = (of: AccentLine['of'], tick: number): boolean => lineOf(of)?.at.includes(tick) ?? false
  function toggle(of: AccentLine['of'], tick: number): boolean {
    const at = lineOf(of)?.at ?? []
    return set(of, has(of, tick) ? at.filter((one) => one !== tick) : [...at, tick])
  }
  const remove = (line: AccentLine): boolean => set(line.of, [])
  return { all, set, has, toggle, remove }
}
