// The shipped sounds, and one note played on them, for tests that measure what is rendered.
import { readFileSync } from 'node:fs'
import { openBank, type Bank } from '../../core/sound/bank'
import type { SoundingEvent } from '../../core/score/sounding-event'

export function shippedBank(): Promise<Bank> {
  const file = readFileSync('public/sound/bank.sf3')
  return openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
}
export const soundingNote = (over: Partial<SoundingEvent> = {}): SoundingEvent => ({
  string: 3,
  startSeconds: 0.1,
  endSeconds: 1.2,
  midi: 57,
  curve: [],
  loudness: 0.7,
  sound: 'clean',
  slurred: false,
  dead: false,
  harmonic: false,
  vibrato: 'none',
  releaseSeconds: 0.09,
  ...over,
})
