// npm run evaluate -- --recordings FOLDER [--only r0]: scores the analysis on real recordings that were
// played to a known click. The folder holds a `truth.json` (a list of file, seconds, bpm, firstBeat, level;
// firstOne where the level is `known`; guitar, the track of a guitar alone) and the recordings it names.
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { mean } from 'd3-array'
import { z } from 'zod'
import { analyse } from '../core/hear/analyse'
import { clickScores } from '../core/hear/click-metrics'
import { quietJob } from '../core/hear/job'
import type { MakeFft } from '../core/hear/features/spectrum'
import { decodeAudio } from '../node/decode'
import { rootAgreement } from './lowest-note'

const recordingSchema = z.object({
  file: z.string(),
  guitar: z.string().optional(),
  seconds: z.number().positive(),
  bpm: z.number().positive(),
  firstBeat: z.number(),
  firstOne: z.number().optional(),
  level: z.enum(['known', 'unknown']),
})
type Recording = z.infer<typeof recordingSchema>

const COLUMNS = [
  'beats',
  'any level',
  'ones',
  'tempo',
  'refused',
  'roots',
  'sure',
  'chords',
  'sections',
  '× real',
]
type Row = (number | undefined)[]
const cell = (value: number | undefined): string => {
  if (value === undefined || Number.isNaN(value)) return '–'
  return value.toFixed(value >= 10 ? 0 : 2)
}
const line = (name: string, row: Row): string =>
  name.padEnd(14) + row.map((value) => cell(value).padStart(10)).join('')

async function rowOf(folder: string, truth: Recording, makeFft: MakeFft): Promise<Row> {
  const { channels, sampleRate } = await decodeAudio(readFileSync(join(folder, truth.file)))
  const began = performance.now()
  const found = await analyse({ channels, sampleRate }, makeFft, quietJob)
  const speed = truth.seconds / ((performance.now() - began) / 1000)
  const firstOne = truth.level === 'known' ? truth.firstOne : undefined
  const { beats, anyLevel, ones, tempo, refused } = clickScores({ ...truth, firstOne }, found)
  const chords = found.chords ?? []
  const guitar = truth.guitar && (await decodeAudio(readFileSync(join(folder, truth.guitar))))
  const samples = guitar && guitar.channels[0]
  const roots = samples && rootAgreement({ samples, sampleRate: guitar.sampleRate }, truth, chords, makeFft)
  const sure = mean(chords, ({ confidence }) => confidence)
  return [
    beats,
    anyLevel,
    ones,
    tempo,
    refused,
    roots || undefined,
    sure,
    chords.length,
    found.sections?.length ?? 0,
    speed,
  ]
}

/** Prints a line for each recording of the folder whose name begins with `only`, and the means. */
export async function evaluateRecordings(folder: string, only: string, makeFft: MakeFft): Promise<void> {
  const list = join(folder, 'truth.json')
  if (!existsSync(list)) {
    console.error(`${folder} has no truth.json that says which recordings there are and their click.`)
    process.exitCode = 1
    return
  }
  const recordings = z.array(recordingSchema).parse(JSON.parse(readFileSync(list, 'utf8')))
  console.log(`${''.padEnd(14)}${COLUMNS.map((name) => name.padStart(10)).join('')}`)
  const rows: Row[] = []
  for (const truth of recordings.filter(({ file }) => file.startsWith(only))) {
    const row = await rowOf(folder, truth, makeFft)
    rows.push(row)
    console.log(line(truth.file, row))
  }
  console.log(
    line(
      'mean',
      COLUMNS.map((_, column) => mean(rows, (row) => row[column])),
    ),
  )
}
