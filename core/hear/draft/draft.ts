// What does the record play here? A draft of a stretch for one player: his side, his register, beginnings and
// the notes between them. A line is one note at a time; where several stand together, chords.
import { mean } from 'd3-array'
import type { JobContext } from '../job'
import type { MakeFft } from '../features/spectrum'
import { chordTones, toneCandidates } from './chord-tones'
import { salienceOf, type Comb } from './salience'
import { strokeLooks, type DraftWish, type StrokeLook, type Strokes } from './strokes'

export interface DraftNote {
  startSeconds: number
  endSeconds: number
  midi: number
  /** 0 to 1. */
  confidence: number
}
/** A second note this strong beside the first makes a chord of it. */
const CHORD_SHARE = 0.6
/** A stretch in which so many beginnings are chords is played in chords. */
const CHORDS_SHARE = 0.4
/** Fainter than this beside the stretch's usual, nothing is said to sound. */
const FAINT = 0.28

/** Throws `Cancelled` when the job is. */
export async function draftNotes(
  recording: { channels: readonly Float32Array[]; sampleRate: number },
  wish: DraftWish,
  makeFft: MakeFft,
  job: JobContext,
): Promise<DraftNote[]> {
  const strokes = await strokeLooks(recording, wish, makeFft, job)
  const { looks, offset } = strokes
  const chords = looks.filter(isChord).length > CHORDS_SHARE * looks.length
  const usual = mean(looks, ({ notes }) => notes[0]?.salience ?? 0) ?? 0
  const notes = looks.flatMap((look) => (chords ? chordOf(look, strokes.all, usual) : noteOf(look, usual)))
  return lasting(notes, strokes)
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
function isChord({ notes }: StrokeLook): boolean {
  const [first, ...others] = notes
  if (!first) return false
  const second = others.find(({ midi }) => !OVERTONES.has(midi - first.midi))
  return second !== undefined && second.salience > CHORD_SHARE * first.salience
}

const percent = (share: number): number => Math.round(100 * Math.min(1, share)) / 100

/** The strongest note of a stroke, or none where hardly anything sounds. */
function noteOf({ start, end, notes }: StrokeLook, usual: number): DraftNote[] {
  const [first] = notes
  if (!first || first.salience < FAINT * usual) return []
  const confidence = percent(first.salience / (usual * 1.5))
  return [{ startSeconds: start, endSeconds: end, midi: first.midi, confidence }]
}

function chordOf(
  { start, end, after, before, notes }: StrokeLook,
  all: readonly Comb[],
  usual: number,
): DraftNote[] {
  if ((notes[0]?.salience ?? 0) < FAINT * usual) return []
  return chordTones(toneCandidates(after, before, all)).map(({ midi, likely }) => ({
    startSeconds: start,
    endSeconds: end,
    midi,
    confidence: percent(likely),
  }))
}

/** Each note until it has faded or the next one begins. */
function lasting(notes: readonly DraftNote[], { heard, all, framesPerSecond }: Strokes): DraftNote[] {
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
