// Thin: unpack the task, call the core, report, honour cancel. What was taken in of a recording stays here
// for further questions.
import loadFft from '@echogarden/pffft-wasm/simd'
import type { DoubtReading, Part, Place, Song } from '#core/document/schema'
import { recordingCheck, type RecordingCheck } from '#core/check/recording/recording-check'
import { proveDoubt, type Excerpt } from '#core/doubts/evidence'
import { alignRecordings, chromaFrames, type Alignment } from '#core/hear/alignment'
import type { Given } from '#core/hear/analysis'
import { analyse } from '#core/hear/analyse'
import { draftPlaces, type OnString } from '#core/neck/lines/draft-places'
import { draftNotes, type DraftNote } from '#core/hear/draft/draft'
import { sideAccents } from '#core/hear/draft/accents'
import { kickAccents } from '#core/hear/draft/kick'
import type { DraftSide } from '#core/hear/draft/side-spectra'
import type { DraftWish } from '#core/hear/draft/strokes'
import { interpret } from '#core/hear/interpret'
import { choosePulse } from '#core/hear/pulse-choice'
import { Cancelled, type JobContext } from '#core/hear/job'
import { outlineOf } from '#core/hear/features/waveform'
import type { Recording } from '#core/hear/features/recording'
import type { Key } from '#core/music/pitch'
import { pffft } from '#core/hear/features/spectrum'
import { takeIn, type Sound } from '#core/hear/features/feature-extraction'

export type AnalysisTask =
  | { want: 'outline'; mono: Float32Array; sampleRate: number }
  | { want: 'analysis'; recording: Recording; given: Given }
  | { want: 'again'; given: Given }
  | { want: 'alignment'; first: Recording; second: Recording }
  | { want: 'draft'; recording: Recording; wish: DraftWish; part: Part; key: Key }
  | { want: 'kick'; recording: Recording }
  | { want: 'accents'; recording: Recording; side: DraftSide }
  | { want: 'recording check'; song: Song; nameShift: number; recording?: Recording | undefined }
  | { want: 'proof'; song: Song; place: Place; readings: DoubtReading[]; nameShift: number; excerpt: Excerpt }
/** A note that is heard, on its string. */
export type PlacedDraft = DraftNote & OnString
export interface Compared {
  alignment: Alignment
  /** The second recording's own beats and tuning. */ beats: number[]
  tuningCents: number
}
let cancelled = false
let sound: Sound | undefined
let againstRecording: RecordingCheck | undefined
let told = 0
let run = 0

const job: JobContext = {
  isCancelled: () => cancelled,
  report: (stage, fraction) => {
    if (performance.now() - told > 80) {
      told = performance.now()
      self.postMessage({ run, kind: 'progress', stage, fraction })
    }
  },
  // A message can only be heard between tasks.
  pause: () =>
    new Promise<void>((resolve) => {
      const channel = new MessageChannel()
      channel.port1.onmessage = () => {
        channel.port1.close()
        resolve()
      }
      channel.port2.postMessage(0)
    }),
  found: (value) => self.postMessage({ run, kind: 'found', value }),
}

async function answer(task: AnalysisTask): Promise<unknown> {
  switch (task.want) {
    case 'outline':
      return outlineOf(task.mono, task.sampleRate)
    case 'analysis':
      return analyse(task.recording, pffft(await loadFft()), job, task.given, (taken) => {
        sound = taken
      })
    case 'again':
      return sound ? interpret(sound, task.given, job) : undefined
    case 'draft':
      return placedDraft(task)
    case 'kick':
      return kickAccents(task.recording, pffft(await loadFft()), job)
    case 'accents':
      return sideAccents(task.recording, task.side, pffft(await loadFft()), job)
    case 'recording check': {
      if (task.recording) againstRecording = recordingCheck(task.recording, pffft(await loadFft()))
      return againstRecording?.(task.song, job, task.nameShift) ?? []
    }
    case 'proof':
      return proveDoubt(task, task.excerpt, pffft(await loadFft()), job)
    case 'alignment':
      return aligned(task.first, task.second)
  }
}

async function placedDraft(task: Extract<AnalysisTask, { want: 'draft' }>): Promise<PlacedDraft[]> {
  const notes = await draftNotes(task.recording, task.wish, pffft(await loadFft()), job)
  const places = draftPlaces(notes, task.part, task.key)
  return notes.flatMap((note, index): PlacedDraft[] => {
    const place = places[index]
    return place ? [{ ...note, ...place }] : []
  })
}

async function aligned(one: Recording, other: Recording): Promise<Compared> {
  const makeFft = pffft(await loadFft())
  const [first, second] = [await takeIn(one, makeFft, job), await takeIn(other, makeFft, job)]
  const alignment = await alignRecordings(
    chromaFrames(first.pitches, first.durationSeconds),
    chromaFrames(second.pitches, second.durationSeconds),
    job,
  )
  const beats = choosePulse(second.tracks, second.onsets)?.beats ?? []
  return { alignment, beats, tuningCents: second.tuning.cents ?? 0 }
}

let busy: Promise<void> = Promise.resolve()
self.onmessage = ({
  data,
}: MessageEvent<{ kind: 'start'; run: number; task: AnalysisTask } | { kind: 'cancel' }>) => {
  if (data.kind === 'cancel') {
    cancelled = true
    return
  }
  busy = busy.then(() => work(data.run, data.task))
}

async function work(number: number, task: AnalysisTask): Promise<void> {
  cancelled = false
  run = number
  try {
    self.postMessage({ run, kind: 'done', value: await answer(task) })
  } catch (error) {
    self.postMessage(
      error instanceof Cancelled
        ? { run, kind: 'cancelled' }
        : { run, kind: 'failed', message: error instanceof Error ? error.message : String(error) },
    )
  }
}
