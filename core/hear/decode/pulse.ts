// Which of several possible pulses is the beat: the same music can be read at half, double, a third of or
// three times its tempo. Each reading is described by what happens at twelve places within its beats and by
// what returns every two, three and four of them; a small fitted network compares.
import type { BeatTrack } from './beats'
import { network, type NetWeights } from '../models/net'
import type { OnsetStrength } from '../features/onset-strength'
import weights from '../models/pulse.json'

const PLACES = 12
const CURVES = ['low', 'mid', 'high', 'change'] as const
/** Place 1/12 beyond a beat catches sounds a little late. */
const PULSE_INPUTS = CURVES.length * PLACES + 3 * 6 + 3

function peakAround(curve: Float32Array, frame: number, reach: number): number {
  let best = 0
  for (
    let t = Math.max(0, Math.round(frame - reach));
    t <= Math.min(curve.length - 1, Math.round(frame + reach));
    t++
  )
    best = Math.max(best, curve[t]!)
  return best
}

/** What a reading of the pulse sounds like, for the network. At least 8 beats. */
export function pulseProfile(
  { beatFrames, framesPerSecond }: BeatTrack,
  onsets: OnsetStrength,
): Float64Array {
  const out = new Float64Array(PULSE_INPUTS)
  const count = beatFrames.length - 1
  CURVES.forEach((name, curveIndex) => {
    const curve = onsets[name]
    let total = 0
    for (let beat = 0; beat < count; beat++) {
      const gap = beatFrames[beat + 1]! - beatFrames[beat]!
      for (let place = 0; place < PLACES; place++) {
        const value = peakAround(curve, beatFrames[beat]! + (gap * place) / PLACES, gap / PLACES / 2 + 0.5)
        out[curveIndex * PLACES + place]! += value
        total += value
      }
    }
    for (let place = 0; place < PLACES; place++)
      out[curveIndex * PLACES + place]! *= PLACES / Math.max(1e-6, total)
  })
  const lags = [1, 2, 3, 4, 6, 8]
  ;(['low', 'mid', 'change'] as const).forEach((name, row) => {
    const values = Float64Array.from({ length: count }, (_, beat) =>
      peakAround(onsets[name], beatFrames[beat]!, 4),
    )
    const mean = values.reduce((sum, value) => sum + value, 0) / count
    const spread = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / count + 1e-6
    lags.forEach((lag, column) => {
      let sum = 0
      for (let beat = 0; beat + lag < count; beat++)
        sum += (values[beat]! - mean) * (values[beat + lag]! - mean)
      out[CURVES.length * PLACES + row * lags.length + column] = sum / Math.max(1, count - lag) / spread
    })
  })
  const gaps = beatFrames
    .slice(1)
    .map((frame, beat) => frame - beatFrames[beat]!)
    .sort((a, b) => a - b)
  const octaves = Math.log2((60 * framesPerSecond) / (gaps[gaps.length >> 1] ?? 50) / 112)
  const base = CURVES.length * PLACES + 3 * lags.length
  out[base] = octaves
  out[base + 1] = octaves * octaves
  // How evenly the beats lie: a wrong reading stumbles.
  out[base + 2] =
    gaps.length > 4
      ? Math.log((gaps[Math.floor(gaps.length * 0.9)]! + 1) / (gaps[Math.floor(gaps.length * 0.1)]! + 1))
      : 0
  return out
}

const net = network(weights as NetWeights)
/** How much this reading sounds like the beat, as the logarithm of odds. */
export const pulseScore = (track: BeatTrack, onsets: OnsetStrength): number =>
  net(pulseProfile(track, onsets))[0]!
