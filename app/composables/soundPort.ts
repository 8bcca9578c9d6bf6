import type { SoundPort } from '#platform/audio-engine'

let worker: Worker | undefined

/** The sound worker, started early so that the bank is read before the first key press. */
export function warmSound(): Worker {
  if (worker) return worker
  worker = new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module' })
  void fetch('/sound/bank.sf3').then((answer) => answer.arrayBuffer()).then((bytes) => worker?.postMessage({ kind: 'bank', bytes }, [bytes])).catch(() => undefined)
  return worker
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
