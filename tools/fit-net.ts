// Fits a core/listen network: stochastic gradient descent with Adam (Kingma and Ba 2015). Groups of inputs
// share one softmax: each group is a choice among (input row, output) pairs, of which one is right; a group
// with one row and one output is a yes-or-no question with its target.
import { seededRandom } from '../demo/random'
import type { NetWeights } from '../core/listen/models/net'

export interface Group {
  rows: ArrayLike<number>[]
  /** Index row × outputs + output of the right pair, rows × outputs for "none". */ right: number
  weight?: number
  /** For yes-or-no groups. */ target?: number
}

export function fitNet(
  groups: Group[],
  shape: {
    hidden: number
    outputs: number
    none?: boolean
    rounds: number
    rate?: number
    decay?: number
    seed?: number
    log?: (text: string) => void
    binary?: boolean
  },
): NetWeights & { none: number } {
  const { hidden, outputs } = shape
  const inputs = groups[0]!.rows[0]!.length
  const random = seededRandom(shape.seed ?? 1)
  const mean = new Float64Array(inputs)
  const square = new Float64Array(inputs)
  let count = 0
  for (const group of groups)
    for (const row of group.rows) {
      count++
      for (let i = 0; i < inputs; i++) {
        mean[i]! += row[i]!
        square[i]! += row[i]! ** 2
      }
    }
  for (let i = 0; i < inputs; i++) {
    mean[i]! /= count
    square[i] = Math.sqrt(Math.max(1e-6, square[i]! / count - mean[i]! ** 2))
  }
  const sizeFirst = hidden * (inputs + 1)
  const size = sizeFirst + outputs * (hidden + 1) + 1
  const w = new Float64Array(size)
  const gauss = (): number => (random() + random() + random() + random() - 2) * 1.7
  for (let i = 0; i < sizeFirst; i++) w[i] = gauss() / Math.sqrt(inputs)
  for (let i = sizeFirst; i < size - 1; i++) w[i] = (gauss() / Math.sqrt(hidden)) * 0.3
  const m = new Float64Array(size)
  const v = new Float64Array(size)
  const g = new Float64Array(size)
  const order = groups.map((_, index) => index)
  const batch = 32
  let step = 0
  const totalSteps = shape.rounds * Math.ceil(groups.length / batch)
  for (let round = 0; round < shape.rounds; round++) {
    for (let i = order.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1))
      ;[order[i], order[j]] = [order[j]!, order[i]!]
    }
    let loss = 0
    let hits = 0
    for (let at = 0; at < order.length; at += batch) {
      g.fill(0)
      const members = order.slice(at, at + batch)
      for (const index of members) {
        const group = groups[index]!
        const middles: Float64Array[] = []
        const scaledRows: Float64Array[] = []
        const logits: number[] = []
        for (const row of group.rows) {
          const scaled = new Float64Array(inputs)
          for (let i = 0; i < inputs; i++) scaled[i] = (row[i]! - mean[i]!) / square[i]!
          const middle = new Float64Array(hidden)
          for (let h = 0; h < hidden; h++) {
            const base = h * (inputs + 1)
            let sum = w[base + inputs]!
            for (let i = 0; i < inputs; i++) sum += w[base + i]! * scaled[i]!
            middle[h] = Math.tanh(sum)
          }
          for (let o = 0; o < outputs; o++) {
            const base = sizeFirst + o * (hidden + 1)
            let sum = w[base + hidden]!
            for (let h = 0; h < hidden; h++) sum += w[base + h]! * middle[h]!
            logits.push(sum)
          }
          middles.push(middle)
          scaledRows.push(scaled)
        }
        if (shape.none) logits.push(w[size - 1]!)
        let deltas: number[]
        const weight = group.weight ?? 1
        if (shape.binary) {
          const p = 1 / (1 + Math.exp(-logits[0]!))
          const target = group.target!
          loss -= weight * (target * Math.log(p + 1e-12) + (1 - target) * Math.log(1 - p + 1e-12))
          hits += weight * Number(p > 0.5 === target > 0.5)
          deltas = [weight * (p - target)]
        } else {
          const top = Math.max(...logits)
          const powers = logits.map((value) => Math.exp(value - top))
          const sum = powers.reduce((a, b) => a + b, 0)
          loss -= weight * Math.log(powers[group.right]! / sum + 1e-12)
          hits += weight * Number(logits[group.right] === top)
          deltas = powers.map((value, k) => weight * (value / sum - (k === group.right ? 1 : 0)))
        }
        if (shape.none) g[size - 1]! += deltas.at(-1)!
        group.rows.forEach((_, r) => {
          const middle = middles[r]!
          const back = new Float64Array(hidden)
          let any = 0
          for (let o = 0; o < outputs; o++) {
            const delta = deltas[r * outputs + o]!
            if (Math.abs(delta) < 1e-4) continue
            any++
            const base = sizeFirst + o * (hidden + 1)
            for (let h = 0; h < hidden; h++) {
              g[base + h]! += delta * middle[h]!
              back[h]! += delta * w[base + h]!
            }
            g[base + hidden]! += delta
          }
          if (any === 0) return
          const scaled = scaledRows[r]!
          for (let h = 0; h < hidden; h++) {
            const delta = back[h]! * (1 - middle[h]! ** 2)
            const base = h * (inputs + 1)
            for (let i = 0; i < inputs; i++) g[base + i]! += delta * scaled[i]!
            g[base + inputs]! += delta
          }
        })
      }
      step++
      const rate = (shape.rate ?? 0.004) * (0.5 + 0.5 * Math.cos((Math.PI * step) / totalSteps))
      const decay = shape.decay ?? 1e-4
      for (let i = 0; i < size; i++) {
        const gradient = g[i]! / members.length + decay * w[i]!
        m[i] = 0.9 * m[i]! + 0.1 * gradient
        v[i] = 0.999 * v[i]! + 0.001 * gradient * gradient
        w[i]! -= (rate * (m[i]! / (1 - 0.9 ** step))) / (Math.sqrt(v[i]! / (1 - 0.999 ** step)) + 1e-8)
      }
    }
    if (round === shape.rounds - 1 || round % 5 === 0)
      shape.log?.(
        `round ${round}: loss ${(loss / groups.length).toFixed(4)}, ` +
          `right ${((100 * hits) / groups.length).toFixed(1)} %`,
      )
  }
  const round4 = (values: ArrayLike<number>): number[] =>
    Array.from(values, (value) => Number(value.toPrecision(4)))
  return {
    inputs,
    hidden,
    outputs,
    mean: round4(mean),
    deviation: round4(square),
    first: round4(w.subarray(0, sizeFirst)),
    second: round4(w.subarray(sizeFirst, size - 1)),
    none: Number(w[size - 1]!.toPrecision(4)),
  }
}
