// Saving in order. What could not be written stays first, nothing later is written before it, and "saved"
// means that nothing is left. It tries again by itself, and whenever something new comes.
import type { Refusal, Result } from '#core/result'

export type SaveState = 'saved' | 'saving' | 'failed'

export interface Outbox<Entry> {
  add: (entry: Entry) => void
  /** Tries at once what waits. */
  retry: () => void
  /** Resolves when nothing is left, or when trying has failed. True: all is saved. */
  settled: () => Promise<boolean>
  readonly waiting: number
  /** Gives up what waits: it has been taken over by something else. */
  clear: () => void
}

const TRY_AGAIN_MS = 4000
/** Refusals that trying again cannot mend. */
const FINAL = new Set(['removed', 'taken-over'])

export function makeOutbox<Entry>(
  write: (entry: Entry) => Promise<Result<unknown>>,
  onState: (state: SaveState, refusal?: Refusal) => void,
): Outbox<Entry> {
  const waiting: Entry[] = []
  let running: Promise<boolean> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  async function drain(): Promise<boolean> {
    clearTimeout(timer)
    while (waiting.length > 0) {
      onState('saving')
      const entry = waiting[0]!
      const result = await write(entry)
      if (!result.ok) {
        onState('failed', result.refusal)
        if (!FINAL.has(result.refusal.code)) timer = setTimeout(() => void start(), TRY_AGAIN_MS)
        return false
      }
      // It may have been given up meanwhile.
      if (waiting[0] === entry) waiting.shift()
    }
    onState('saved')
    return true
  }
  function start(): Promise<boolean> {
    running ??= drain().finally(() => {
      running = undefined
    })
    return running
  }

  return {
    add(entry) {
      waiting.push(entry)
      void start()
    },
    retry: () => void start(),
    settled: () => (waiting.length === 0 && !running ? Promise.resolve(true) : start()),
    get waiting() {
      return waiting.length
    },
    clear() {
      clearTimeout(timer)
      waiting.length = 0
    },
  }
}
