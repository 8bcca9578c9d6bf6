import type { SoundingEvent } from '#core/playing/sounding-event'
import type { SoundPort } from '#platform/audio-engine'

let worker: Worker | undefined

/** The sound worker, started early so that the bank is read before the first key press. */
export function warmSound(): Worker {
  if (worker) return worker
  worker = new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module' })
  void fetch('/sound/bank.sf3').then((answer) => answer.arrayBuffer()).then((bytes) => worker?.postMessage({ kind: 'bank', bytes }, [bytes])).catch(() => undefined)
  return worker
}

/** Reads the samples a song needs before they are played: one event of each sound, pitch and loudness. */
export function prepareSound(events: readonly SoundingEvent[]): void {
  const kinds = new Map(events.map((event) => [`${event.sound}/${Math.round(event.midi)}/${Math.round(event.loudness * 8)}/${event.harmonic}`, event]))
  warmSound().postMessage({ kind: 'prepare', events: [...kinds.values()].map((event) => ({ ...event, curve: [] })) })
}

export function soundPort(): SoundPort {
  const port = warmSound()
  return {
    start: (plan, run) => port.postMessage({ kind: 'start', run, plan: toRaw(plan) }),
    more: (frames) => port.postMessage({ kind: 'more', frames }),
    onBlocks: (receive) => { port.addEventListener('message', ({ data }) => { if (data.kind === 'blocks') receive(data.run, data.names, data.blocks) }) },
    dispose: () => { port.terminate(); worker = undefined },
  }
}
