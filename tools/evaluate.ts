// npm run evaluate [-- demo|house|other|records] [name …], or -- --recordings FOLDER [--only r0]:
// scores the analysis with the standard measures on the demo songs and on songs made for it, which nothing
// was fitted to: in two families of sound, and as dense and ugly as records. Prints a table, the means, the
// calibration of chords and sections, and time as a multiple of real time; --means FILE writes the means as
// JSON. Or on real recordings of which the click is known.
import { readFileSync, writeFileSync } from 'node:fs'
import { mean } from 'd3-array'
import { RECORD_WISHES, WISHES } from '../demo/evaluation/compose'
import { canRender, material } from '../demo/evaluation/render'
import type { Truth } from '../demo/evaluation/perform'
import type { Analysis } from '../core/hear/analysis'
import { analyse } from '../core/hear/analyse'
import { quietJob } from '../core/hear/job'
import { symbolLabel } from '../core/hear/decode/chord-labels'
import {
  boundaryScore,
  chordScores,
  keyScore,
  matchScore,
  pairwiseScore,
  tempoScore,
  tuningError,
} from '../core/hear/metrics'
import { calibration } from './calibration'
import { tellingBeginnings } from '../core/suggest/sections-sure'
import { decodeAudio } from '../node/decode'
import { evaluateRecordings } from './evaluate-recordings'
import { nodeFft } from '../node/fft'

const makeFft = await nodeFft()
const asked = process.argv.slice(2)
const after = (option: string): string | undefined =>
  asked.includes(option) ? asked[asked.indexOf(option) + 1] : undefined
const recordings = after('--recordings')
if (recordings !== undefined) {
  await evaluateRecordings(recordings, after('--only') ?? '', makeFft)
  process.exit()
}
const FAMILIES = ['demo', 'house', 'other', 'records'] as const
type Family = (typeof FAMILIES)[number]
const isFamily = (word: string): word is Family => (FAMILIES as readonly string[]).includes(word)
const meansFile = after('--means')
const words = asked.filter((word) => !word.startsWith('--') && word !== meansFile)
const families = words.some(isFamily) ? words.filter(isFamily) : FAMILIES
const names = words.filter((word) => !isFamily(word))

/** A section begins where one does when it is so near. */
const NEAR_SECONDS = 0.5

type Scored = Pick<Truth, 'beats' | 'downbeats' | 'tempo' | 'key' | 'tuningCents' | 'chords' | 'sections'>
const MEASURES: [string, (truth: Scored, found: Analysis) => number][] = [
  ['beats', (truth, found) => matchScore(truth.beats, found.beats).f],
  ['ones', (truth, found) => matchScore(truth.downbeats, found.downbeats).f],
  ['tempo', (truth, found) => tempoScore(truth.tempo, found.tempo, false)],
  ['±octave', (truth, found) => tempoScore(truth.tempo, found.tempo, true)],
  ['key', (truth, found) => keyScore(truth.key, found.key).exact],
  ['key w.', (truth, found) => keyScore(truth.key, found.key).weighted],
  ['cents off', (truth, found) => tuningError(truth.tuningCents, found.tuningCents)],
  ['root', (truth, found) => chordScores(truth.chords, found.chords ?? []).root],
  ['maj/min', (truth, found) => chordScores(truth.chords, found.chords ?? []).majmin],
  ['sevenths', (truth, found) => chordScores(truth.chords, found.chords ?? []).sevenths],
  ['exact', (truth, found) => chordScores(truth.chords, found.chords ?? []).exact],
  ['bnd 0.5', (truth, found) => boundaryScore(truth.sections, found.sections ?? [], 0.5)],
  ['bnd 3', (truth, found) => boundaryScore(truth.sections, found.sections ?? [], 3)],
  ['labels', (truth, found) => pairwiseScore(truth.sections, found.sections ?? [])],
]
const row = (name: string, values: (string | number)[]): string =>
  name.padEnd(30) +
  values
    .map((value) =>
      (typeof value === 'number' ? value.toFixed(Math.abs(value) >= 10 ? 0 : 2) : value).padStart(9),
    )
    .join('')

interface Song {
  name: string
  truth: Scored
  channels: Float32Array[]
  sampleRate: number
}
/** Records are rendered with the bank that nothing was fitted to. */
const soundsOf = (family: 'house' | 'other' | 'records') => (family === 'records' ? 'other' : family)
async function* songs(family: Family): AsyncGenerator<Song> {
  if (family === 'demo') {
    for (const name of ['salt-on-the-signal', 'ninth-platform']) {
      const truth = JSON.parse(readFileSync(`demo/truth/${name}.json`, 'utf8')) as Scored
      yield {
        name,
        truth: {
          ...truth,
          chords: truth.chords.map((chord) => ({ ...chord, label: symbolLabel(chord.label) })),
        },
        ...(await decodeAudio(readFileSync(`public/demo/${name}.ogg`))),
      }
    }
    return
  }
  for (const wish of family === 'records' ? RECORD_WISHES : WISHES)
    if (names.length === 0 || names.includes(wish.name)) yield material(wish, soundsOf(family))
}

/** Seconds of chords, right in root and quality; beginnings of sections, right within half a second. */
const [ofChords, ofBeginnings] = [calibration(), calibration()]

/** So much of a chord as it was heard is what is played there. */
function addChord(truth: Scored, chord: NonNullable<Analysis['chords']>[number]): void {
  const withoutBass = (label: string): string => label.replace(/\/.*/, '')
  const inside = truth.chords
    .filter((other) => other.end > chord.start && other.start < chord.end)
    .map((other) => ({
      start: Math.max(other.start, chord.start),
      end: Math.min(other.end, chord.end),
      label: withoutBass(other.label),
    }))
  const length = chord.end - chord.start
  const said = { start: chord.start, end: chord.end, label: withoutBass(chord.label) }
  ofChords.add(chord.confidence, length, inside.length ? chordScores(inside, [said]).exact * length : 0)
}

function addBeginnings(truth: Scored, sections: NonNullable<Analysis['sections']>): void {
  for (const { start, confidence } of tellingBeginnings(sections)) {
    const right = truth.sections.some((section) => Math.abs(section.start - start) < NEAR_SECONDS)
    ofBeginnings.add(confidence, 1, Number(right))
  }
}

for (const family of families) {
  if (family !== 'demo' && !canRender(soundsOf(family))) {
    console.log(`\n${family}: its sound bank is not on this machine (package timgm6mb-soundfont)`)
    continue
  }
  console.log(`\n${row(family, [...MEASURES.map(([name]) => name), '× real'])}`)
  const columns: number[][] = Array.from({ length: MEASURES.length + 1 }, () => [])
  for await (const { name, truth, channels, sampleRate } of songs(family)) {
    const started = performance.now()
    const found = await analyse({ channels, sampleRate }, makeFft, quietJob)
    const values = [
      ...MEASURES.map(([, measure]) => measure(truth, found)),
      channels[0]!.length / sampleRate / ((performance.now() - started) / 1000),
    ]
    values.forEach((value, index) => {
      if (!Number.isNaN(value)) columns[index]!.push(value)
    })
    for (const chord of found.chords ?? []) addChord(truth, chord)
    addBeginnings(truth, found.sections ?? [])
    console.log(
      row(name.replace(/ \(.*/, ''), values),
      truth.tempo.toFixed(0),
      found.tempo?.toFixed(0),
      truth.key.tonic,
      truth.key.mode.slice(0, 3),
      found.key?.tonic,
      found.key?.mode.slice(0, 3),
      found.sections?.map((section) => section.label[0]).join(''),
      '|',
      truth.sections.map((section) => section.label[0]).join(''),
    )
  }
  const means = columns.map((column) => mean(column) ?? Number.NaN)
  console.log(row('mean', means))
  if (meansFile) {
    const named = MEASURES.map(([name], index) => [name, means[index]])
    writeFileSync(meansFile, JSON.stringify(Object.fromEntries(named)))
  }
}
ofChords.print('chords said with this confidence, and how many of those were right', 's')
ofBeginnings.print('sections said to begin with this confidence, and how many of those did', 'sections')
