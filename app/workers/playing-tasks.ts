// Everything the playing worker answers, one row a question: what it is given and what it gives back are read
// off this table wherever it is asked.
import type { Content, Grip, Part, Song } from '#core/document/schema'
import { engraveSheet } from '#core/engrave/sheet'
import type { SheetOptions } from '#core/engrave/sheet-blocks'
import { easedGrips } from '#core/neck/grips/eased-grip'
import { fingerProgression } from '#core/neck/grips/finger-progression'
import { gripProgression, gripsFor, type GripWishes } from '#core/neck/grips/grip-search'
import { movableShapes } from '#core/neck/movable-shapes'
import type { Hand } from '#core/neck/hand'
import { adaptLine, type ForeignNote } from '#core/neck/lines/adapt-line'
import { bassLine, type BassKind } from '#core/neck/lines/bass-line'
import { harmonyLine } from '#core/neck/lines/harmony-line'
import type { ChordAt, HarmonyRule } from '#core/neck/lines/harmony-rule'
import { mergeParts } from '#core/neck/lines/merge-parts'
import { findPaths, type PathNote, type PathWishes } from '#core/neck/lines/path'
import type { Key } from '#core/music/pitch'
import { checkSong } from '#core/check/check'
import type { Finding } from '#core/check/finding'
import { loudnessOf } from '#core/sound/loudness'
import { EXCHANGE_TASKS } from './exchange-tasks'

/** Says how far a longer task is, 0 to 1. */
export type Report = (stage: string, fraction: number) => void

export const PLAYING_TASKS = {
  grips: (task: { symbol: string; part: Part; wishes: GripWishes }) =>
    gripsFor(task.symbol, task.part, task.wishes),
  progression: (task: { symbols: string[]; part: Part; wishes: GripWishes }) =>
    gripProgression(task.symbols, task.part, task.wishes),
  shapes: (task: { symbol: string; part: Part }) => movableShapes(task.symbol, task.part),
  fingers: (task: { grips: Grip[]; part: Part; hand: Hand }) =>
    fingerProgression(task.grips, task.part, task.hand),
  eased: (task: { grip: Grip; part: Part; key: Key; hand: Hand }) =>
    easedGrips(task.grip, task.part, task.key, task.hand),
  paths: (task: { notes: PathNote[]; part: Part; key: Key; wishes: PathWishes }) =>
    findPaths(task.notes, task.part, task.key, task.wishes),
  harmony: (task: { content: Content; from: Part; to: Part; rule: HarmonyRule; chords: ChordAt[] }) =>
    harmonyLine(task.content, task.from, task.to, task.rule, task.chords),
  adapt: (task: {
    notes: ForeignNote[]
    part: Part
    key: Key
    options: { stepTicks: number; lengthTicks?: number }
  }) => adaptLine(task.notes, task.part, task.key, task.options),
  merge: (task: { first: Content; second: Content; parts: { first: Part; second: Part }; hand: Hand }) =>
    mergeParts(task.first, task.second, task.parts, task.hand),
  bass: (task: {
    chords: ChordAt[]
    part: Part
    key: Key
    options: { kind: BassKind; stepTicks: number; lengthTicks: number }
  }) => bassLine(task.chords, task.part, task.key, task.options),
  check: (task: { song: Song; nameShift: number; heard: readonly Finding[] }) =>
    checkSong(task.song, task.nameShift, task.heard),
  loudness: (task: { channels: Float32Array[]; sampleRate: number }) =>
    loudnessOf(task.channels, task.sampleRate),
  sheet: (task: { song: Song; options: SheetOptions }, report: Report) =>
    engraveSheet(task.song, task.options, (fraction) => report('engraving', fraction)),
  ...EXCHANGE_TASKS,
}

type Tasks = typeof PLAYING_TASKS
export type PlayingWant = keyof Tasks
/** A question: its kind and what it is about. */
export type PlayingTask<Want extends PlayingWant = PlayingWant> = {
  [Kind in Want]: { want: Kind } & Parameters<Tasks[Kind]>[0]
}[Want]
/** The value of the answer; a refusal comes as one. */
export type PlayingAnswer<Want extends PlayingWant> =
  Awaited<ReturnType<Tasks[Want]>> extends infer Answer
    ? Answer extends { ok: true; value: infer Value }
      ? Value
      : Answer extends { ok: boolean }
        ? never
        : Answer
    : never
