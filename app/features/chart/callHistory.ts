// Earlier calls, the newest last: arrow up brings them back.
import { useSessionStorage } from '@vueuse/core'

/** How many calls are kept for arrow up. */
const MOST_KEPT = 60

export function useCallHistory(text: Ref<string>) {
  const said = useSessionStorage<string[]>('calls', [])
  let at = said.value.length
  let unfinished = ''

  function keep(): void {
    said.value = [...said.value.filter((call) => call !== text.value), text.value].slice(-MOST_KEPT)
    at = said.value.length
    unfinished = ''
  }
  function go(by: number): boolean {
    const next = at + by
    if (next < 0 || next > said.value.length) return false
    if (at === said.value.length) unfinished = text.value
    at = next
    text.value = said.value[at] ?? unfinished
    return true
  }
  /** The call before, when the caret is in the first line; true when there was one. */
  const back = (caret: number): boolean => !text.value.slice(0, caret).includes('\n') && go(-1)
  /** The call after, when the caret is in the last line. */
  const forth = (caret: number): boolean => !text.value.slice(caret).includes('\n') && go(1)
  return { keep, back, forth }
}
