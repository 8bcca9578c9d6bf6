// What the recording says against the chart: charted notes that are heard otherwise, charted bars in which it
// is silent, bars that are played and rested in.
import { mainSource, songTimeMap } from '../../document/form'
import type { Song } from '../../document/schema'
import { pitchScores, type AskedNote, type PitchScores } from '../../hear/evidence/pitch-scores'
import { barActivity, type BarActivity } from '../../hear/features/activity'
import { hear, type Recording } from '../../hear/features/recording'
import type { MakeFft } from '../../hear/features/spectrum'
import { measureSides, type Sides } from '../../hear/features/stereo-field'
import { measureTuning } from '../../hear/features/tuning'
import type { JobContext } from '../../hear/job'
import { ticksToSeconds, type TimeMap } from '../../time/beat-grid'
import { timelineOf } from '../../timeline/timeline'
import type { Finding } from '../finding'
import { chartedNotes } from './charted-notes'
import { silenceFindings } from './charted-silence'
import { heardOtherwise } from './heard-otherwise'

/** What the recording says against a song; notes are called `nameShift` semitones from how they sound. */
export type RecordingCheck = (song: Song, job: JobContext, nameShift?: number) => Promise<Finding[]>

/**
 * A check against one recording. What was heard of it is kept, so that after a change of the song only what
 * changed is listened to anew. Finds nothing in a song that is not laid out; throws `Cancelled` when its job
 * is.
 */
export function recordingCheck(recording: Recording, makeFft: MakeFft): RecordingCheck {
  let taken: Promise<Taken> | undefined
  const known = new Map<string, PitchScores | undefined>()
  return async (song, job, nameShift = 0) => {
    const map = songTimeMap(song)
    const source = mainSource(song)
    if (!map || !source) return []
    const notes = chartedNotes(song, map, source)
    if (notes.length === 0) return []
    taken ??= takeIn(recording, makeFft, job).catch((error: unknown) => {
      taken = undefined
      throw error
    })
    const { sides, tuningCents } = await taken
    const cents = nearestTurn(tuningCents ?? source.offsetCents, source.offsetCents)
    const asked = notes.flatMap((note) => note.asked)
    const fresh = asked.filter((note) => !known.has(keyOf(note, cents)))
    const scores = await pitchScores(recording, fresh, { cents, makeFft }, job)
    fresh.forEach((note, index) => known.set(keyOf(note, cents), scores[index]))
    const all = asked.map((note) => known.get(keyOf(note, cents)))
    const activity = sides ? activityOf(song, map, sides) : []
    return [...heardOtherwise(song, notes, all, nameShift), ...silenceFindings(song, activity)]
  }
}

const keyOf = ({ start, end, midi, pan }: AskedNote, cents: number): string =>
  [start.toFixed(4), end.toFixed(4), midi, pan, cents].join('/')

/** What is measured once of a recording; a mono one has no sides. */
interface Taken {
  sides: Sides | undefined
  tuningCents: number | undefined
}

async function takeIn(recording: Recording, makeFft: MakeFft, job: JobContext): Promise<Taken> {
  const { mono, side, sampleRate } = await hear(recording)
  const tuningCents = (await measureTuning(mono, sampleRate, makeFft, job)).cents
  const stereo = side && { middle: mono, side, sampleRate, tuningCents: tuningCents ?? 0 }
  return { tuningCents, sides: stereo && (await measureSides(stereo, makeFft, job)) }
}

/** A record 60 cents flat measures as 40 sharp: the turn nearest to what is known is meant. */
const nearestTurn = (measured: number, known: number): number =>
  measured + 100 * Math.round((known - measured) / 100)

/** Who plays in each bar of the form. */
function activityOf(song: Song, map: TimeMap, sides: Sides): BarActivity[] {
  const starts = timelineOf(song).bars.map(({ startTicks }) => ticksToSeconds(map, startTicks))
  return barActivity(sides, starts, ticksToSeconds(map, map.endTicks))
}
