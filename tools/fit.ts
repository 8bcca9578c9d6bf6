// npm run fit -- [key] [pulse] [bars] [boundary] [return] [chords] [chord-tones]: fits the small networks
// of core/hear on drawn songs (never on those that are measured), writes core/hear/models/*.json and
// says how each measure of the evaluation changes. Everything runs in two processes at once; what was heard
// is kept in .cache, so a second run is quick.
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { NETWORKS } from './fit-networks'

const SCRIPT = 'tools/fit-step.ts'
/** Measured before and after: songs and sounds that nothing is fitted to. */
const FAMILIES = ['other', 'records'] as const
const MEANS = '.cache/fit/means'

/** Runs a script of this folder beside this one; throws when it fails. */
function run(script: string, ...words: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [...process.execArgv, script, ...words], { stdio: 'inherit' })
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${words.join(' ')} failed`))))
  })
}
async function measure(when: 'before' | 'after'): Promise<void> {
  const file = (family: string): string => `${MEANS}-${when}-${family}.json`
  await Promise.all(FAMILIES.map((family) => run('tools/evaluate.ts', family, '--means', file(family))))
}
const meansOf = (when: 'before' | 'after', family: string): Record<string, number> =>
  JSON.parse(readFileSync(`${MEANS}-${when}-${family}.json`, 'utf8')) as Record<string, number>

const asked = process.argv.slice(2)
const networks = asked.length ? asked : [...NETWORKS]
await Promise.all([run(SCRIPT, 'hear', '0'), run(SCRIPT, 'hear', '1')])
await measure('before')
const rest = networks.filter((name) => name !== 'chords')
await Promise.all([
  ...(networks.includes('chords') ? [run(SCRIPT, 'fit', 'chords')] : []),
  ...(rest.length ? [run(SCRIPT, 'fit', ...rest)] : []),
])
await measure('after')
for (const family of FAMILIES) {
  const [before, after] = [meansOf('before', family), meansOf('after', family)]
  console.log(`\n${family.padEnd(12)}${'before'.padStart(8)}${'after'.padStart(8)}`)
  for (const [name, value] of Object.entries(after))
    console.log(name.padEnd(12) + (before[name] ?? 0).toFixed(3).padStart(8) + value.toFixed(3).padStart(8))
}
