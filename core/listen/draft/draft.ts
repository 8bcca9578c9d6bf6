// What does the record play here? A draft of a stretch for one player: his side, his register, beginnings and
// the notes between them. A line is one note at a time; where several stand together, chords.
import { mean } from 'd3-array'
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { beginnings, loudness } from './beginnings'
import { combs, levelsOf, salienceOf, soundingIn, type Range, type Sounding } from './salience'
import { sideSpectra, type DraftSide, type SideSpectra } from './side-spectra'

export interface DraftNote {
  startSeconds: number
  endSeconds: number
  midi: number
  /** 0 to 1. */
  confidence: number
}
export interface DraftWish extends Range {
  side: DraftSide
  /** Seconds of the recording. */
  from: number
  to: number
}

/** So much around the stretch is listened to, so that what begins at its border is heard whole. */
const MARGIN_SECONDS = 0.4
/** A note is looked at after its beginning, when its pick has gone, and for so long. */
const AFTER_SECONDS = 0.035
const LOOK_SECONDS = 0.22
/** A second note this strong beside the first makes a chord of it. */
const CHORD_SHARE = 0.6
/** Of a chord, notes down to this share of its strongest. */
const KEPT_SHARE = 0.5
/** A stretch in which so many beginnings are chords is played in chords. */
const CHORDS_SHARE = 0.4
const MOST_NOTES = 6
/** Fainter than this beside the stretch's usual, nothing is said to sound. */
const FAINT = 0.28

/** Throws `Cancelled` when the job is. */
export async function draftNotes(
  recording: { channels: readonly Float32Array[]; sampleRate: number },
  wish: DraftWish,
  makeFft: MakeFft,
  job: JobContext,
): Promise<DraftNote[]> {
  const { sampleRate } = recording
  const first = Math.max(0, Math.round((wish.from - MARGIN_SECONDS) * sampleRate))
  const last = Math.round((wish.to + MARGIN_SECONDS) * sampleRate)
  const piece = { sampleRate, channels: recording.channels.slice(0, 2).map((one) => one.slice(first, last)) }
  const offset = first / sampleRate
  const long = await sideSpectra(
    piece,
    { side: wish.side, windowSeconds: 0.093, hopSeconds: 0.01 },
    makeFft,
    job,
  )
  const short = await sideSpectra(
    piece,
    { side: wish.side, windowSeconds: 0.023, hopSeconds: 0.005 },
    makeFft,
    job,
  )
  const all = combs(wish, long)
  const heard = frameLevels(long)
  const starts = withPitchChanges(beginnings(short), heard, all)
  const end = heard.length / long.framesPerSecond
  const looks = starts.map((start, index) =>
    lookAt(heard, long, all, { start, next: starts[index + 1] ?? end }),
  )
  const inChords = looks.filter(isChord)
  const chords = inChords.length > CHORDS_SHARE * looks.length
  const usual = mean(looks, ({ notes }) => notes[0]?.salience ?? 0) ?? 0
  const notes = looks.flatMap((look) => notesOf(look, { chords, usual }))
  return lasting(notes, heard, all, long.framesPerSecond)
    .map((note) => ({
      ...note,
      startSeconds: note.startSeconds + offset,
      endSeconds: note.endSeconds + offset,
    }))
    .filter(({ startSeconds }) => startSeconds >= wish.from - 0.02 && startSeconds < wish.to)
}

/** Semitones to the overtones of a note: there a second note may be none. */
const OVERTONES = new Set([12, 19, 24, 28, 31, 34, 36])

/** Whether a second note stands beside the strongest. */
function isChord({ notes }: Look): boolean {
  const [first, ...others] = notes
  if (!first) return false
  const second = others.find(({ midi }) => !OVERTONES.has(midi - first.midi))
  return second !== undefined && second.salience > CHORD_SHARE * first.salience
}

/** Levels of each frame against the loudest around it. */
function frameLevels({ frames }: SideSpectra): Float32Array[] {
  const top = loudness(frames)
  return frames.map((frame) => levelsOf(frame, top))
}

interface Look {
  start: number
  end: number
  notes: Sounding[]
}

function lookAt(
  heard: readonly Float32Array[],
  { framesPerSecond }: SideSpectra,
  all: ReturnType<typeof combs>,
  { start, next }: { start: number; next: number },
): Look {
  const from = Math.round((start + AFTER_SECONDS) * framesPerSecond)
  const to = Math.max(from + 1, Math.round(Math.min(next - 0.02, start + LOOK_SECONDS) * framesPerSecond))
  const frames = heard.slice(from, to)
  const levels = new Float32Array(heard[0]?.length ?? 0)
  for (const frame of frames)
    for (let bin = 0; bin < levels.length; bin++) levels[bin]! += frame[bin]! / frames.length
  return { start, end: next, notes: soundingIn(levels, all, MOST_NOTES, 0.35) }
}

function notesOf(
  { start, end, notes }: Look,
  { chords, usual }: { chords: boolean; usual: number },
): DraftNote[] {
  const [first] = notes
  if (!first || first.salience < FAINT * usual) return []
  const kept = chords ? notes.filter(({ salience }) => salience > KEPT_SHARE * first.salience) : [first]
  return kept.map(({ midi, salience }) => ({
    startSeconds: start,
    endSeconds: end,
    midi,
    confidence: Math.round(100 * Math.min(1, salience / (usual * 1.5))) / 100,
  }))
}

/** Beginnings where only the pitch changes: a slur, a hammer. */
function withPitchChanges(
  starts: readonly number[],
  heard: readonly Float32Array[],
  all: ReturnType<typeof combs>,
): number[] {
  const best = heard.map((levels) => {
    let [top, midi] = [0.08, 0]
    for (const comb of all) {
      const own = salienceOf(levels, comb)
      if (own > top) [top, midi] = [own, comb.midi]
    }
    return midi
  })
  const added: number[] = []
  const HOLD = 6
  for (let t = HOLD; t < best.length - HOLD; t++) {
    const [before, after] = [best.slice(t - HOLD, t), best.slice(t, t + HOLD)]
    const steady = (list: number[]): boolean => list.every((midi) => midi === list[0] && midi !== 0)
    if (!steady(before) || !steady(after) || before[0] === after[0]) continue
    const seconds = t / 100
    if ([...starts, ...added].every((start) => Math.abs(start - seconds) > 0.09)) added.push(seconds)
  }
  return [...starts, ...added].sort((a, b) => a - b)
}

/** Each note until it has faded or the next one begins. */
function lasting(
  notes: readonly DraftNote[],
  heard: readonly Float32Array[],
  all: ReturnType<typeof combs>,
  framesPerSecond: number,
): DraftNote[] {
  return notes.map((note) => {
    const comb = all.find(({ midi }) => midi === note.midi)!
    const from = Math.round((note.startSeconds + 0.05) * framesPerSecond)
    const to = Math.round(note.endSeconds * framesPerSecond)
    const begun = salienceOf(heard[Math.min(from, heard.length - 1)]!, comb)
    let end = to
    for (let t = from + 2; t < to; t++)
      if (salienceOf(heard[t]!, comb) < 0.25 * begun) {
        end = t
        break
      }
    return {
      ...note,
      endSeconds: Math.max(note.startSeconds + 0.06, Math.min(note.endSeconds, end / framesPerSecond)),
    }
  })
}
