// Of npm run bench: how many times faster than it sounds a whole song is listened to, in a process that does
// nothing else, as in the application's worker. Prints the number.
import { readFileSync } from 'node:fs'
import { analyse } from '../core/hear/analyse'
import { quietJob } from '../core/hear/job'
import { decodeAudio } from '../node/decode'
import { nodeFft } from '../node/fft'

const recording = await decodeAudio(readFileSync('public/demo/salt-on-the-signal.ogg'))
const makeFft = await nodeFft()
const before = performance.now()
await analyse(recording, makeFft, quietJob)
const took = (performance.now() - before) / 1000
console.log((recording.channels[0]?.length ?? 0) / recording.sampleRate / took)
