// npm run evaluate: scores the analysis against the truth of the demo songs, and of the same scores rendered drier, faster and with other sounds.
import { readFileSync, existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { evaluationSongs } from '../demo/evaluation-songs'
import { analyse } from '../core/listen/analyse'
import { quietJob } from '../core/listen/job'
import { matchScore, tempoScore } from '../core/listen/scores'
import { readWav, writeWav } from '../core/sound/wav'
import { decodeAudio } from './decode'
import { nodeFft } from './fft'

const makeFft = await nodeFft()
interface Truth { title: string; beats: number[]; downbeats: number[]; tempo: number }

mkdirSync('.cache', { recursive: true })
const songs: { name: string; truth: Truth; mono: Float32Array; sampleRate: number }[] = []
for (const name of ['salt-on-the-signal', 'ninth-platform']) {
  songs.push({ name, truth: JSON.parse(readFileSync(`demo/truth/${name}.json`, 'utf8')) as Truth, ...(await decodeAudio(readFileSync(`public/demo/${name}.ogg`))) })
}
for (const song of evaluationSongs()) {
  const path = `.cache/${song.name}.wav`
  if (!existsSync(path)) writeFileSync(path, writeWav([await song.render()], 22_050))
  songs.push({ name: song.name, truth: song.truth, ...readWav(readFileSync(path))! })
}

const row = (cells: (string | number)[]): string => cells.map((cell, index) => (typeof cell === 'number' ? cell.toFixed(3) : cell).padEnd(index === 0 ? 28 : 11)).join('')
console.log(row(['song', 'beats F', 'ones F', 'tempo', 'tempo±8ve', '× real time']))
const sums = [0, 0, 0, 0, 0]
for (const { name, truth, mono, sampleRate } of songs) {
  const started = performance.now()
  const found = await analyse({ mono, sampleRate }, makeFft, quietJob)
  const speed = mono.length / sampleRate / ((performance.now() - started) / 1000)
  const values = [matchScore(truth.beats, found.beats).f, matchScore(truth.downbeats, found.downbeats).f, tempoScore(truth.tempo, found.tempo, false), tempoScore(truth.tempo, found.tempo, true), speed]
  values.forEach((value, index) => { sums[index]! += value / songs.length })
  console.log(row([name, ...values]), `${truth.tempo.toFixed(1)} / ${found.tempo}`)
}
console.log(row(['mean', ...sums]))
