// Renders the demo recordings and writes the song files and the truth. Needs Debian's fluid-soundfont-gm
// and vorbis-tools; the results are committed, so only someone who changes a score runs it: npx tsx
// demo/render.ts [song …]
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync, mkdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { gridThroughAlignment } from '../core/suggest/second-source'
import { alignRecordings, chromaFrames } from '../core/hear/alignment'
import { quietJob } from '../core/hear/job'
import { choosePulse } from '../core/hear/pulse-choice'
import { takeIn } from '../core/hear/features/feature-extraction'
import { must } from '../core/result'
import { transact } from '../core/editing/transact'
import { mainSource, sectionPlaces, songTimeMap } from '../core/document/form'
import { nodeFft } from '../node/fft'
import { coldKiln } from './cold-kiln'
import { excused } from './excuses'
import { ticksToSeconds } from '../core/time/beat-grid'
import { openBank } from '../core/sound/bank'
import { writeWav } from '../core/sound/wav'
import { mix } from './mix'
import { ninthPlatform } from './ninth-platform'
import { performBand, type Stem } from './perform-band'
import { NOT_SHIPPED, saltOnTheSignal } from './salt-on-the-signal'
import { buildScore, type Score, type SongPlan } from './score'

const RATE = 44_100
const file = readFileSync('/usr/share/sounds/sf2/FluidR3_GM.sf2')
const bank = await openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer)
mkdirSync('demo/songs', { recursive: true })
mkdirSync('demo/truth', { recursive: true })

function truthOf(score: Score, stems: Stem[]) {
  const map = songTimeMap(score.song)!
  const beats = score.beats.filter((beat) => !beat.free)
  const round = (value: number): number => Math.round(value * 1e4) / 1e4
  const seconds = (tick: number): number => round(ticksToSeconds(map, tick))
  const gaps = beats
    .slice(1)
    .map((beat, index) => beat.seconds - beats[index]!.seconds)
    .sort((a, b) => a - b)
  return {
    title: score.plan.title,
    beats: beats.map((beat) => round(beat.seconds)),
    downbeats: beats.filter((beat) => beat.one).map((beat) => round(beat.seconds)),
    tempo: round(60 / gaps[gaps.length >> 1]!),
    key: score.song.key,
    tuningCents: score.plan.tapeCents,
    chords: sectionPlaces(score.song).flatMap(({ section, startTicks }) =>
      section.harmony.map((chord) => ({
        start: seconds(startTicks + chord.startTicks),
        end: seconds(startTicks + chord.startTicks + chord.lengthTicks),
        label: chord.symbol,
      })),
    ),
    sections: sectionPlaces(score.song).map(({ section, startTicks, lengthTicks }) => ({
      start: seconds(startTicks),
      end: seconds(startTicks + lengthTicks),
      label: section.name.replace(/ \d+$/, ''),
    })),
    notes: Object.fromEntries(
      stems.map((stem) => [
        stem.name,
        stem.events.map((event) => [
          round(event.startSeconds),
          round(event.endSeconds - event.startSeconds),
          round(event.midi),
        ]),
      ]),
    ),
  }
}

/** A song file as a user would have it: charted whole, but for what the demo leaves open. */
function shipped({ song }: Score): Score['song'] {
  const without = <T>(table: Record<string, T>, drop: (row: T) => boolean): Record<string, T> =>
    Object.fromEntries(Object.entries(table).filter(([, row]) => !drop(row)))
  return {
    ...song,
    placements: without(
      song.placements,
      (placement) => placement.kind === 'figure' && NOT_SHIPPED.has(placement.figureId),
    ),
    figures: without(song.figures, (figure) => NOT_SHIPPED.has(figure.id)),
  }
}

interface Made {
  plan: SongPlan
  score: Score
  stems: Stem[]
  hash: string
  channels: [Float32Array, Float32Array]
}
/** Plays and encodes one recording. */
function record(
  plan: SongPlan,
  name: string,
  sound: { reverbSeconds: number; quality: string } = { reverbSeconds: 1.3, quality: '4' },
): Made {
  const draft = buildScore(plan, { hash: '0'.repeat(64) })
  const stems = performBand(draft, { timingSeconds: 0.0055 })
  const [left, right] = mix(bank, stems, {
    sampleRate: RATE,
    seconds: draft.endSeconds + 2,
    targetRms: 0.17,
    drive: 1.15,
    reverbSeconds: sound.reverbSeconds,
  })
  const encoded = spawnSync('oggenc', ['-Q', '-s', '1', '-q', sound.quality, '-o', '-', '-'], {
    input: writeWav([left, right], RATE),
    maxBuffer: 1 << 28,
  })
  if (encoded.status !== 0) throw new Error(String(encoded.stderr))
  writeFileSync(`public/demo/${name}.ogg`, encoded.stdout)
  const hash = createHash('sha256').update(encoded.stdout).digest('hex')
  const score = buildScore(plan, { hash, durationSeconds: Math.round((left.length / RATE) * 1000) / 1000 })
  writeFileSync(`demo/truth/${name}.json`, `${JSON.stringify(truthOf(score, stems))}\n`)
  console.log(
    name,
    `${(encoded.stdout.length / 1e6).toFixed(2)} MB`,
    `${(left.length / RATE).toFixed(1)} s`,
    `${score.song.sectionOrder.length} sections`,
  )
  return { plan, score, stems, hash, channels: [left, right] }
}
function renderSong(plan: SongPlan, song: (score: Score) => Score['song']): void {
  const { score } = record(plan, plan.id)
  writeFileSync(`demo/songs/${plan.id}.json`, `${JSON.stringify(excused(song(score)))}\n`)
}

/**
 * Two recordings of one song: the live take's beats are found by laying it beside the studio recording, as
 * a user would.
 */
async function renderColdKiln(): Promise<void> {
  const studio = record(coldKiln(false), 'cold-kiln', { reverbSeconds: 1.1, quality: '3' })
  const live = record(coldKiln(true), 'cold-kiln-live', { reverbSeconds: 2.1, quality: '3' })
  const makeFft = await nodeFft()
  const taken = async ({ channels }: Made) => takeIn({ channels, sampleRate: RATE }, makeFft, quietJob)
  const [first, second] = [await taken(studio), await taken(live)]
  const alignment = await alignRecordings(
    chromaFrames(first.pitches, first.durationSeconds),
    chromaFrames(second.pitches, second.durationSeconds),
    quietJob,
  )
  const durationSeconds = Math.round((live.channels[0].length / RATE) * 1000) / 1000
  const source = {
    id: 'live',
    kind: 'live take' as const,
    name: 'Cold Kiln (live take)',
    rank: 2,
    offsetSemitones: alignment.semitones,
    offsetCents: second.tuning.cents ?? 0,
    offsetSeconds: 0,
    audioHash: live.hash,
    durationSeconds,
    grid: gridThroughAlignment(
      mainSource(studio.score.song)!.grid!,
      alignment,
      durationSeconds,
      choosePulse(second.tracks, second.onsets)?.beats,
    ),
  }
  const song = must(transact(studio.score.song, 'addSource', { source })).song
  writeFileSync('demo/songs/cold-kiln.json', `${JSON.stringify(excused(song))}\n`)
  console.log(
    'the live take sounds',
    alignment.semitones,
    'semitones from the studio recording, likeness',
    alignment.likeness.toFixed(2),
    JSON.stringify(alignment.only),
  )
}

/** `--charts`: only the song file, over the recording that is there: for a change that does not sound. */
function rewriteChart(plan: SongPlan, song: (score: Score) => Score['song']): void {
  const hash = createHash('sha256')
    .update(readFileSync(`public/demo/${plan.id}.ogg`))
    .digest('hex')
  const { durationSeconds } = mainSource(
    JSON.parse(readFileSync(`demo/songs/${plan.id}.json`, 'utf8')) as Score['song'],
  )!
  const score = buildScore(plan, { hash, ...(durationSeconds ? { durationSeconds } : {}) })
  writeFileSync(`demo/songs/${plan.id}.json`, `${JSON.stringify(excused(song(score)))}\n`)
}

const chartsOnly = process.argv.includes('--charts')
const wanted = process.argv.slice(2).filter((word) => !word.startsWith('--'))
if (chartsOnly) {
  rewriteChart(saltOnTheSignal, shipped)
  process.exit(0)
}
const want = (id: string): boolean => wanted.length === 0 || wanted.includes(id)
if (want('cold-kiln')) await renderColdKiln()
if (want('salt-on-the-signal')) renderSong(saltOnTheSignal, shipped)
// Recording only: what a newcomer starts from has no form, no parts, no beats.
if (want('ninth-platform'))
  renderSong(ninthPlatform, ({ song }) => {
    const { grid: _grid, ...source } = song.sources.record!
    return {
      ...song,
      key: { tonic: 'C', mode: 'major' },
      keyUnknown: true,
      feel: { subdivision: 'eighths', swing: { ratio: 0.5, level: 'eighths' } },
      sources: { record: { ...source, offsetCents: 0 } },
      sections: {},
      sectionOrder: [],
      parts: {},
      partOrder: [],
      figures: {},
      placements: {},
    }
  })
