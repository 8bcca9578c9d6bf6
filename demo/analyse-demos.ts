// Listens to the demo recordings as the application would and keeps the result beside the song files: npx
// tsx demo/analyse-demos.ts
import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { analyse } from '../core/hear/analyse'
import { quietJob } from '../core/hear/job'
import { decodeAudio } from '../node/decode'
import { nodeFft } from '../node/fft'

rmSync('demo/analyses', { recursive: true, force: true })
mkdirSync('demo/analyses', { recursive: true })
const names: Record<string, string> = {}
for (const name of readdirSync('public/demo').filter((file) => file.endsWith('.ogg'))) {
  const bytes = readFileSync(`public/demo/${name}`)
  const analysis = await analyse(await decodeAudio(bytes), await nodeFft(), quietJob)
  const hash = createHash('sha256').update(bytes).digest('hex')
  names[hash] = name
  writeFileSync(`demo/analyses/${hash}.json`, JSON.stringify(analysis))
  console.log(
    name,
    analysis.beats.length,
    'beats,',
    analysis.sections?.length,
    'sections,',
    analysis.chords?.length,
    'chords',
  )
}
writeFileSync('demo/analyses/recordings.json', JSON.stringify(names))
