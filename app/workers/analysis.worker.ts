// Thin: unpack the task, call the core, report, honour cancel.
import loadFft from '@echogarden/pffft-wasm/simd'
import { analyse } from '#core/listen/analyse'
import { Cancelled } from '#core/listen/job'
import { outlineOf } from '#core/listen/outline'
import { pffft } from '#core/listen/spectrum'

interface Task { mono: Float32Array; sampleRate: number; want: 'outline' | 'beats' }
let cancelled = false

self.onmessage = async ({ data }: MessageEvent<{ kind: 'start'; task: Task } | { kind: 'cancel' }>) => {
  if (data.kind === 'cancel') { cancelled = true; return }
  const { mono, sampleRate, want } = data.task
  let told = 0
  const job = {
    isCancelled: () => cancelled,
    report: (stage: string, fraction: number) => { if (performance.now() - told > 80) { told = performance.now(); self.postMessage({ kind: 'progress', stage, fraction }) } },
    // A message can only be heard between tasks.
    pause: () => new Promise<void>((resolve) => { const channel = new MessageChannel(); channel.port1.onmessage = () => { channel.port1.close(); resolve() }; channel.port2.postMessage(0) }),
  }
  try {
    if (want === 'outline') {
      const outline = outlineOf(mono, sampleRate)
      self.postMessage({ kind: 'done', value: outline }, { transfer: [outline.peaks.buffer, outline.lows.buffer] })
    } else self.postMessage({ kind: 'done', value: await analyse({ mono, sampleRate }, pffft(await loadFft()), job) })
  } catch (error) {
    self.postMessage(error instanceof Cancelled ? { kind: 'cancelled' } : { kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
