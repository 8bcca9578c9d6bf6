// A small dense network: two layers, tanh between. Its weights are fitted by tools/fit.ts on songs made
// for it and kept beside the code that uses them.

import { rowProduct } from '../product'

/** Row-major weights; `mean` and `deviation` scale the inputs. */
export interface NetWeights {
  inputs: number
  hidden: number
  outputs: number
  mean: number[]
  deviation: number[]
  first: number[]
  second: number[]
}
export type Net = (input: ArrayLike<number>, out?: Float64Array) => Float64Array

/** Layers hold a bias as the last weight of each row. Returns raw scores (logits). */
export function network(weights: NetWeights): Net {
  const { inputs, hidden, outputs } = weights
  const first = Float64Array.from(weights.first)
  const second = Float64Array.from(weights.second)
  const mean = Float64Array.from(weights.mean)
  const scale = Float64Array.from(weights.deviation, (value) => 1 / value)
  const scaled = new Float64Array(inputs)
  const middle = new Float64Array(hidden)
  return (input, out = new Float64Array(outputs)) => {
    for (let i = 0; i < inputs; i++) scaled[i] = (input[i]! - mean[i]!) * scale[i]!
    for (let h = 0; h < hidden; h++) {
      const row = h * (inputs + 1)
      middle[h] = Math.tanh(first[row + inputs]! + rowProduct(first, row, scaled))
    }
    for (let o = 0; o < outputs; o++) {
      const row = o * (hidden + 1)
      out[o] = second[row + hidden]! + rowProduct(second, row, middle)
    }
    return out
  }
}
