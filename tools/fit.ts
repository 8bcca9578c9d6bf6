// npm run fit -- [key] [pulse] [bars] [boundary] [return] [chords]: fits the small networks of core/listen on
// drawn songs (never on those that are measured) and writes core/listen/models/*.json. Two processes hear
// the songs between them; what they heard is kept in .cache, so a second run is quick.
import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { fittedWishes, lessonOf, type Lesson } from './fit-lessons'
import { keyGroups } from './fit-key'
import { fitNet, type Group } from './fit-net'

const HALF = 'half'
const wanted = new Set(process.argv.slice(2))
const want = (name: string): boolean => wanted.size === 0 || wanted.has(name)

const songs = fittedWishes()
const isHalf = process.argv[2] === HALF
/** The other half of the songs is heard by another process. */
const other = isHalf
  ? undefined
  : spawn(process.execPath, [...process.execArgv, process.argv[1]!, HALF], { stdio: 'inherit' })
for (const [index, song] of songs.entries())
  if (index % 2 === (isHalf ? 1 : 0)) {
    await lessonOf(song)
    if (index % 20 === 0) console.log(`${index} of ${songs.length} songs heard`)
  }
if (isHalf) process.exit(0)
await new Promise<void>((resolve, reject) => {
  if (other?.exitCode === 0) resolve()
  other?.on('exit', (code) => (code === 0 ? resolve() : reject(new Error('half of the songs was not heard'))))
})
const lessons: Lesson[] = []
for (const song of songs) lessons.push(await lessonOf(song))
const log = (text: string): void => console.log(text)
const write = (name: string, weights: object): void =>
  writeFileSync(`core/listen/models/${name}.json`, `${JSON.stringify(weights)}\n`)

if (want('key')) {
  const groups = keyGroups()
  console.log(`key: ${groups.length} songs`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 8,
    outputs: 2,
    rounds: 40,
    rate: 0.005,
    decay: 1e-3,
    log,
  })
  write('key', weights)
}
if (want('pulse')) {
  // Songs in 6/8 are few and the hardest to count: they weigh more.
  const groups: Group[] = lessons.flatMap(({ pulse, compound }) =>
    pulse
      .filter((chunk) => chunk.some((entry) => entry.right))
      .map((chunk) => ({
        rows: chunk.map((entry) => entry.profile),
        right: chunk.findIndex((entry) => entry.right),
        weight: compound ? 3 : 1,
      })),
  )
  console.log(`pulse: ${groups.length} stretches`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 14,
    outputs: 1,
    rounds: 50,
    rate: 0.004,
    decay: 3e-3,
    log,
  })
  write('pulse', weights)
}
if (want('bars')) {
  const groups: Group[] = lessons.flatMap(({ bars }) =>
    bars.map(({ input, one }) => ({ rows: [input], right: 0, target: one ? 1 : 0 })),
  )
  console.log(`bars: ${groups.length} beats`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden: 16,
    outputs: 1,
    rounds: 30,
    rate: 0.003,
    decay: 1e-3,
    binary: true,
    log,
  })
  write('bars', weights)
}
const yesNo = (name: 'boundaries' | 'returns', file: string, hidden: number): void => {
  const groups: Group[] = lessons.flatMap((lesson) =>
    lesson[name].map(({ input, yes }) => ({
      rows: [name === 'returns' && input.length === 9 ? input.filter((_, index) => index !== 1) : input],
      right: 0,
      target: yes ? 1 : 0,
    })),
  )
  console.log(`${name}: ${groups.length}`)
  const { none: _none, ...weights } = fitNet(groups, {
    hidden,
    outputs: 1,
    rounds: 60,
    rate: 0.004,
    decay: 2e-3,
    binary: true,
    log,
  })
  write(file, weights)
}
if (want('boundary')) yesNo('boundaries', 'boundary', 8)
if (want('return')) yesNo('returns', 'return', 6)
if (want('chords')) {
  const groups = lessons.flatMap(({ chords }) => chords)
  console.log(`chords: ${groups.length} spans`)
  const weights = fitNet(groups, {
    hidden: 32,
    outputs: 17,
    none: true,
    rounds: 24,
    rate: 0.004,
    decay: 1e-4,
    log,
  })
  write('chords', weights)
}
