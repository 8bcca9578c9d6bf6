// Thin: grips, progressions, paths, harmony lines, merged parts and adaptations, off the main thread. One question at a time; the core answers in milliseconds.
import type { Key } from '#core/music/pitch'
import { adaptLine, type ForeignNote } from '#core/playing/adapt-line'
import { bassLine, type BassKind } from '#core/playing/bass-line'
import { easedGrips } from '#core/playing/eased-grip'
import { gripProgression, gripsFor, type GripWishes } from '#core/playing/grip-search'
import { harmonyLine, type ChordAt, type HarmonyRule } from '#core/playing/harmony-line'
import { mergeParts } from '#core/playing/merge-parts'
import { findPaths, type PathNote, type PathWishes } from '#core/playing/path'
import type { Content, Grip, Part } from '#core/song/schema'
import type { Hand } from '#core/playing/hand'

export type PlayingTask =
  | { want: 'grips'; symbol: string; part: Part; wishes: GripWishes }
  | { want: 'progression'; symbols: string[]; part: Part; wishes: GripWishes }
  | { want: 'eased'; grip: Grip; part: Part; key: Key; hand: Hand }
  | { want: 'paths'; notes: PathNote[]; part: Part; key: Key; wishes: PathWishes }
  | { want: 'harmony'; content: Content; from: Part; to: Part; rule: HarmonyRule; chords: ChordAt[] }
  | { want: 'adapt'; notes: ForeignNote[]; part: Part; key: Key; options: { stepTicks: number; lengthTicks?: number } }
  | { want: 'merge'; first: Content; second: Content; parts: { first: Part; second: Part }; hand: Hand }
  | { want: 'bass'; chords: ChordAt[]; part: Part; key: Key; options: { kind: BassKind; stepTicks: number; lengthTicks: number } }

function answer(task: PlayingTask): unknown {
  switch (task.want) {
    case 'grips': return gripsFor(task.symbol, task.part, task.wishes)
    case 'progression': return gripProgression(task.symbols, task.part, task.wishes)
    case 'eased': return easedGrips(task.grip, task.part, task.key, task.hand)
    case 'paths': return findPaths(task.notes, task.part, task.key, task.wishes)
    case 'harmony': return harmonyLine(task.content, task.from, task.to, task.rule, task.chords)
    case 'adapt': return adaptLine(task.notes, task.part, task.key, task.options)
    case 'merge': return mergeParts(task.first, task.second, task.parts, task.hand)
    case 'bass': return bassLine(task.chords, task.part, task.key, task.options)
  }
}

self.onmessage = ({ data }: MessageEvent<{ kind: 'start'; run: number; task: PlayingTask } | { kind: 'cancel' }>) => {
  if (data.kind === 'cancel') return
  try { self.postMessage({ run: data.run, kind: 'done', value: answer(data.task) }) } catch (error) {
    self.postMessage({ run: data.run, kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
