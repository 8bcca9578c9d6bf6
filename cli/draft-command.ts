// draft IN.wav --from S --to S: what one player plays there, as notes with their places on the strings.
import { existsSync, readFileSync } from 'node:fs'
import { z } from 'zod'
import { draftPlaces, type OnString } from '../core/neck/lines/draft-places'
import { draftNotes, type DraftNote } from '../core/hear/draft/draft'
import { DRAFT_SIDES, type DraftSide } from '../core/hear/draft/side-spectra'
import { measureTuning } from '../core/hear/features/tuning'
import { quietJob } from '../core/hear/job'
import { soundingMidi } from '../core/document/part-pitch'
import { nodeFft } from '../node/fft'
import { Complaint, type Answer, type Flags } from './answer'
import { keyFrom, partFrom, stretchFrom, whole } from './flag-values'
import { recordingPiece } from './read-recording'

/** So much around the stretch tells the tuning of the record, seconds. */
const TUNING_SECONDS = 12

const beatsSchema = z.object({
  beats: z.array(z.number()).min(2),
  tuningCents: z.number().optional(),
})

/** What an analysis says that helps: its beats, and how far the record is off. */
function knownFrom(path: string | undefined): z.infer<typeof beatsSchema> | undefined {
  if (path === undefined) return undefined
  if (!existsSync(path)) throw new Complaint(`There is no readable file ${path}.`)
  try {
    return beatsSchema.parse(JSON.parse(readFileSync(path, 'utf8')))
  } catch {
    throw new Complaint(`${path} is no analysis: make one with analyse IN.wav --out ${path}.`)
  }
}

/** Beats counted from the first, between beats by their share; undefined outside of them. */
function beatAt(beats: readonly number[] | undefined, seconds: number): number | undefined {
  if (!beats) return undefined
  const next = beats.findIndex((beat) => beat > seconds)
  if (next < 1) return undefined
  const [before, after] = [beats[next - 1]!, beats[next]!]
  return next - 1 + (seconds - before) / (after - before)
}

const rounded = (value: number): number => Math.round(value * 1000) / 1000

/** "131.42  string 2 fret 12  0.70". */
function lineOf(note: DraftNote & Partial<OnString>): string {
  const { startSeconds, string = '–', fret = '–', confidence } = note
  return `${startSeconds.toFixed(2)}  string ${string} fret ${fret}  ${confidence.toFixed(2)}`
}

export async function draft(path: string, flags: Flags): Promise<Answer> {
  const { from, to } = stretchFrom(flags, 'draft')
  const side = (flags.side ?? 'all') as DraftSide
  if (!DRAFT_SIDES.includes(side)) throw new Complaint(`--side is one of ${DRAFT_SIDES.join(', ')}.`)
  const part = partFrom(flags)
  const open = part.tuning.openMidi.map((_, index) => soundingMidi(part, index + 1, 0))
  const low = whole(flags, 'low', Math.min(...open), [21, 100])
  const high = whole(flags, 'high', Math.max(...open) + part.instrument.fretCount, [low + 1, 108])
  const known = knownFrom(flags.beats)
  const sound = await recordingPiece(path, from - TUNING_SECONDS, to + TUNING_SECONDS)
  const makeFft = await nodeFft()
  const tuningCents = known?.tuningCents ?? (await measured(sound, makeFft))
  const heard = await draftNotes(
    sound,
    { side, low, high, tuningCents, from: from - sound.offset, to: to - sound.offset },
    makeFft,
    quietJob,
  )
  const notes = heard.map((note) => ({
    ...note,
    startSeconds: rounded(note.startSeconds + sound.offset),
    endSeconds: rounded(note.endSeconds + sound.offset),
  }))
  const places = draftPlaces(notes, part, keyFrom(flags.key) ?? { tonic: 'C', mode: 'major' })
  const data = notes.map((note, index) => {
    const beat = beatAt(known?.beats, note.startSeconds)
    return { ...note, ...places[index], ...(beat === undefined ? {} : { beat: rounded(beat) }) }
  })
  return {
    data: { notes: data },
    words: data.map(lineOf).join('\n') || 'Nothing is heard there.',
  }
}

async function measured(
  { channels, sampleRate }: { channels: readonly Float32Array[]; sampleRate: number },
  makeFft: Awaited<ReturnType<typeof nodeFft>>,
): Promise<number> {
  const [left, right = left] = channels as [Float32Array, Float32Array | undefined]
  const mono = left.map((value, i) => 0.5 * (value + (right[i] ?? 0)))
  return (await measureTuning(mono, sampleRate, makeFft, quietJob)).cents ?? 0
}
