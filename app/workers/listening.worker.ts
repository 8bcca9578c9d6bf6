// Thin: unpack the task, call the core, report, honour cancel. What was taken in of a recording stays with
// the session that asked, for further questions.
import loadFft from '@echogarden/pffft-wasm/simd'
import type { DoubtReading, Part, Place, Song } from '#core/document/schema'
import { recordingCheck, type RecordingCheck } from '#core/check/recording/recording-check'
import { proveDoubt, type Excerpt } from '#core/doubts/evidence'
import { alignRecordings, chromaFrames, type Alignment } from '#core/hear/alignment'
import type { Given as GivenByTeacher } from '#core/hear/analysis'
import { analyse } from '#core/hear/analyse'
import { draftPlaces, type OnString } from '#core/neck/lines/draft-places'
import { draftNotes, type DraftNote } from '#core/hear/draft/draft'
import { sideAccents } from '#core/hear/draft/accents'
import { kickAccents } from '#core/hear/draft/kick'
import type { DraftSide } from '#core/hear/draft/side-spectra'
import type { DraftWish } from '#core/hear/draft/strokes'
import { EARS_SIZE, type Ears } from '#core/hear/ears/ears'
import { interpret } from '#core/hear/interpret'
import { choosePulse } from '#core/hear/pulse-choice'
import type { JobContext } from '#core/hear/job'
import { outlineOf } from '#core/hear/features/waveform'
import { packedFft, type PackedFft } from '#core/hear/features/packed-fft'
import type { Recording } from '#core/hear/features/recording'
import type { Key } from '#core/music/pitch'
import { pffft } from '#core/hear/features/spectrum'
import { takeIn, type Sound } from '#core/hear/features/feature-extraction'
import { serve, type Answer, type DeskJob } from '#platform/worker-desk'
import { throughEars } from './through-ears'

export type ListeningTask =
  | { want: 'outline'; mono: Float32Array; sampleRate: number }
  | { want: 'analysis'; recording: Recording; given: GivenByTeacher }
  | { want: 'again'; given: GivenByTeacher }
  | { want: 'alignment'; first: Recording; second: Recording }
  | { want: 'draft'; recording: Recording; wish: DraftWish; part: Part; key: Key }
  | { want: 'kick'; recording: Recording }
  | { want: 'accents'; recording: Recording; side: DraftSide }
  | { want: 'recording check'; song: Song; nameShift: number; recording?: Recording | undefined }
  | { want: 'proof'; song: Song; place: Place; readings: DoubtReading[]; nameShift: number; excerpt: Excerpt }
  | { want: 'ears'; recording: Recording; ears: Ears; fromSeconds: number }
/** A note that is heard, on its string. */
export type PlacedDraft = DraftNote & OnString
export interface Compared {
  alignment: Alignment
  /** The second recording's own beats and tuning. */ beats: number[]
  tuningCents: number
}

let earsFft: PackedFft | undefined
const makeFft = async () => pffft(await loadFft())

/** Questions after which nothing is kept. */
type Once = Exclude<ListeningTask, { want: 'analysis' | 'again' | 'recording check' }>
async function answerOnce(task: Once, job: DeskJob): Promise<unknown> {
  switch (task.want) {
    case 'outline':
      return outlineOf(task.mono, task.sampleRate)
    case 'draft':
      return placedDraft(task, job)
    case 'kick':
      return kickAccents(task.recording, await makeFft(), job)
    case 'accents':
      return sideAccents(task.recording, task.side, await makeFft(), job)
    case 'proof':
      return proveDoubt(task, task.excerpt, await makeFft(), job)
    case 'alignment':
      return aligned(task.first, task.second, job)
    case 'ears':
      earsFft ??= packedFft(await loadFft(), EARS_SIZE)
      return throughEars(task, earsFft, job)
  }
}

/** One asker: what it had taken in of a recording stays. */
function openDesk(): Answer<ListeningTask> {
  let sound: Sound | undefined
  let againstRecording: RecordingCheck | undefined
  return async (task, job) => {
    switch (task.want) {
      case 'analysis':
        return analyse(task.recording, await makeFft(), job, task.given, (taken) => {
          sound = taken
        })
      case 'again':
        return sound ? interpret(sound, task.given, job) : undefined
      case 'recording check':
        if (task.recording) againstRecording = recordingCheck(task.recording, await makeFft())
        return againstRecording?.(task.song, job, task.nameShift) ?? []
      default:
        return answerOnce(task, job)
    }
  }
}

async function placedDraft(
  task: Extract<ListeningTask, { want: 'draft' }>,
  job: JobContext,
): Promise<PlacedDraft[]> {
  const notes = await draftNotes(task.recording, task.wish, await makeFft(), job)
  const places = draftPlaces(notes, task.part, task.key)
  return notes.flatMap((note, index): PlacedDraft[] => {
    const place = places[index]
    return place ? [{ ...note, ...place }] : []
  })
}

async function aligned(one: Recording, other: Recording, job: JobContext): Promise<Compared> {
  const fft = await makeFft()
  const [first, second] = [await takeIn(one, fft, job), await takeIn(other, fft, job)]
  const alignment = await alignRecordings(
    chromaFrames(first.pitches, first.durationSeconds),
    chromaFrames(second.pitches, second.durationSeconds),
    job,
  )
  const beats = choosePulse(second.tracks, second.onsets)?.beats ?? []
  return { alignment, beats, tuningCents: second.tuning.cents ?? 0 }
}

serve(self, openDesk)
