// Fits a core/hear network: stochastic gradient descent with Adam (Kingma and Ba 2015). Groups of inputs
// share one softmax: each group is a choice among (input row, output) pairs, of which one is right; a group
// with one row and one output is a yes-or-no question with its target.
import { seededRandom } from '../demo/random'
import type { NetWeights } from '../core/hear/models/net'
import { rowProduct } from '../core/hear/product'

export interface Group {
  rows: ArrayLike<number>[]
  /** Index row × outputs + output of the right pair, rows × outputs for "none". */ right: number
  weight?: number
  /** For yes-or-no groups. */ target?: number
}
export interface Shape {
  hidden: number
  outputs: number
  /** Whether "none of these" is an answer, with a weight of its own. */ none?: boolean
  /** Whether each group is a yes-or-no question. */ binary?: boolean
  rounds: number
  rate: number
  decay: number
  seed: number
  log?: (text: string) => void
}
export type Fitted = NetWeights & { none: number }

/** Groups whose errors are summed before the weights move. */
const BATCH = 32
/** Errors smaller than this are not carried back. */
const NEGLIGIBLE = 1e-4

function scaleOf(groups: readonly Group[], inputs: number): { mean: Float64Array; deviation: Float64Array } {
  const mean = new Float64Array(inputs)
  const deviation = new Float64Array(inputs)
  let count = 0
  for (const { rows } of groups)
    for (const row of rows) {
      count++
      for (let i = 0; i < inputs; i++) {
        mean[i]! += row[i]!
        deviation[i]! += row[i]! ** 2
      }
    }
  for (let i = 0; i < inputs; i++) {
    mean[i]! /= count
    deviation[i] = Math.sqrt(Math.max(1e-6, deviation[i]! / count - mean[i]! ** 2))
  }
  return { mean, deviation }
}

/** All weights in one row: first layer, second, "none". Layers hold a bias as the last of each row. */
interface Layout {
  inputs: number
  hidden: number
  outputs: number
  /** Where the second layer begins, and how many weights there are. */
  second: number
  size: number
}
function layoutOf(inputs: number, { hidden, outputs }: Shape): Layout {
  const second = hidden * (inputs + 1)
  return { inputs, hidden, outputs, second, size: second + outputs * (hidden + 1) + 1 }
}

function firstWeights({ inputs, hidden, second, size }: Layout, random: () => number): Float64Array {
  const gauss = (): number => (random() + random() + random() + random() - 2) * 1.7
  return Float64Array.from({ length: size }, (_, i) => {
    if (i < second) return gauss() / Math.sqrt(inputs)
    return i < size - 1 ? (gauss() / Math.sqrt(hidden)) * 0.3 : 0
  })
}

/** What passes through the network for one row of a group: kept, for the way back. */
interface Passed {
  scaled: Float64Array
  middle: Float64Array
}

function forward(w: Float64Array, { scaled, middle }: Passed, layout: Layout, logits: Float64Array): void {
  const { inputs, hidden, outputs, second } = layout
  for (let h = 0; h < hidden; h++) {
    const base = h * (inputs + 1)
    middle[h] = Math.tanh(w[base + inputs]! + rowProduct(w, base, scaled))
  }
  for (let o = 0; o < outputs; o++) {
    const base = second + o * (hidden + 1)
    logits[o] = w[base + hidden]! + rowProduct(w, base, middle)
  }
}

/** Adds to the gradient what the errors of one row's outputs say; `back` is room to work in. */
function backward(
  weights: { w: Float64Array; g: Float64Array },
  { scaled, middle }: Passed,
  layout: Layout,
  errors: { deltas: Float64Array; back: Float64Array },
): void {
  const { inputs, hidden, outputs, second } = layout
  const { w, g } = weights
  const { deltas, back } = errors
  back.fill(0)
  let any = false
  for (let o = 0; o < outputs; o++) {
    const delta = deltas[o]!
    if (Math.abs(delta) < NEGLIGIBLE) continue
    any = true
    const base = second + o * (hidden + 1)
    for (let h = 0; h < hidden; h++) {
      g[base + h]! += delta * middle[h]!
      back[h]! += delta * w[base + h]!
    }
    g[base + hidden]! += delta
  }
  if (!any) return
  for (let h = 0; h < hidden; h++) {
    const delta = back[h]! * (1 - middle[h]! * middle[h]!)
    const base = h * (inputs + 1)
    for (let i = 0; i < inputs; i++) g[base + i]! += delta * scaled[i]!
    g[base + inputs]! += delta
  }
}

/** `logits` become the errors; the loss is given back. */
function errorsOf(logits: Float64Array, group: Group, binary: boolean): number {
  const weight = group.weight ?? 1
  if (binary) {
    const p = 1 / (1 + Math.exp(-logits[0]!))
    const target = group.target ?? 0
    logits[0] = weight * (p - target)
    return -weight * (target * Math.log(p + 1e-12) + (1 - target) * Math.log(1 - p + 1e-12))
  }
  let top = Number.NEGATIVE_INFINITY
  for (const value of logits) top = Math.max(top, value)
  let sum = 0
  for (let k = 0; k < logits.length; k++) sum += logits[k] = Math.exp(logits[k]! - top)
  const loss = -weight * Math.log(logits[group.right]! / sum + 1e-12)
  for (let k = 0; k < logits.length; k++)
    logits[k] = weight * (logits[k]! / sum - (k === group.right ? 1 : 0))
  return loss
}

/** Moves weights against their gradient: first and second moments with a rate that falls to nothing. */
function adam(size: number, totalSteps: number, { rate, decay }: Shape) {
  const m = new Float64Array(size)
  const v = new Float64Array(size)
  let step = 0
  return (w: Float64Array, g: Float64Array, members: number): void => {
    step++
    const now = rate * (0.5 + 0.5 * Math.cos((Math.PI * step) / totalSteps))
    const [first, second] = [1 - 0.9 ** step, 1 - 0.999 ** step]
    for (let i = 0; i < size; i++) {
      const gradient = g[i]! / members + decay * w[i]!
      m[i] = 0.9 * m[i]! + 0.1 * gradient
      v[i] = 0.999 * v[i]! + 0.001 * gradient * gradient
      w[i]! -= (now * (m[i]! / first)) / (Math.sqrt(v[i]! / second) + 1e-8)
    }
  }
}

function shuffle(order: number[], random: () => number): void {
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1))
    ;[order[i], order[j]] = [order[j]!, order[i]!]
  }
}

/** Four digits tell all there is. */
const rounded = (values: ArrayLike<number>): number[] =>
  Array.from(values, (value) => Number(value.toPrecision(4)))

/** Passes a group through the network and back: adds to the gradient `g`, gives back the loss. */
function learner(layout: Layout, scale: ReturnType<typeof scaleOf>, shape: Shape) {
  const { inputs, hidden, outputs, size } = layout
  const rooms: Passed[] = []
  const back = new Float64Array(hidden)
  const passed = (index: number, row: ArrayLike<number>): Passed => {
    const room = (rooms[index] ??= { scaled: new Float64Array(inputs), middle: new Float64Array(hidden) })
    for (let i = 0; i < inputs; i++) room.scaled[i] = (row[i]! - scale.mean[i]!) / scale.deviation[i]!
    return room
  }
  return (w: Float64Array, g: Float64Array, group: Group): number => {
    const count = group.rows.length
    const logits = new Float64Array(count * outputs + (shape.none ? 1 : 0))
    const of = (row: number): Float64Array => logits.subarray(row * outputs, (row + 1) * outputs)
    group.rows.forEach((row, index) => forward(w, passed(index, row), layout, of(index)))
    if (shape.none) logits[count * outputs] = w[size - 1]!
    const loss = errorsOf(logits, group, shape.binary ?? false)
    if (shape.none) g[size - 1]! += logits[count * outputs]!
    for (let row = 0; row < count; row++) backward({ w, g }, rooms[row]!, layout, { deltas: of(row), back })
    return loss
  }
}

/** One network, from one beginning. */
export function fitNet(groups: readonly Group[], shape: Shape): Fitted {
  const layout = layoutOf(groups[0]?.rows[0]?.length ?? 0, shape)
  const scale = scaleOf(groups, layout.inputs)
  const random = seededRandom(shape.seed)
  const w = firstWeights(layout, random)
  const g = new Float64Array(layout.size)
  const learn = learner(layout, scale, shape)
  const move = adam(layout.size, shape.rounds * Math.ceil(groups.length / BATCH), shape)
  const order = groups.map((_, index) => index)
  for (let round = 0; round < shape.rounds; round++) {
    shuffle(order, random)
    let loss = 0
    for (let at = 0; at < order.length; at += BATCH) {
      const members = order.slice(at, at + BATCH)
      g.fill(0)
      for (const index of members) loss += learn(w, g, groups[index]!)
      move(w, g, members.length)
    }
    if (round === shape.rounds - 1 || round % 5 === 0)
      shape.log?.(`seed ${shape.seed}, round ${round}: loss ${(loss / groups.length).toFixed(4)}`)
  }
  const { inputs, hidden, outputs, second, size } = layout
  return {
    inputs,
    hidden,
    outputs,
    mean: rounded(scale.mean),
    deviation: rounded(scale.deviation),
    first: rounded(w.subarray(0, second)),
    second: rounded(w.subarray(second, size - 1)),
    none: Number(w[size - 1]!.toPrecision(4)),
  }
}

/**
 * Networks fitted to the same examples from several beginnings as one, that says their mean: their hidden
 * units side by side. What a beginning brings by chance falls out.
 */
export function joinNets(nets: readonly Fitted[]): Fitted {
  const [one] = nets
  if (!one) throw new Error('no networks to join')
  const share = 1 / nets.length
  const second = Array.from({ length: one.outputs }, (_, o) => {
    const rows = nets.map((net) => net.second.slice(o * (net.hidden + 1), (o + 1) * (net.hidden + 1)))
    const bias = rows.reduce((sum, row) => sum + (row.at(-1) ?? 0), 0)
    return [...rows.flatMap((row) => row.slice(0, -1)), bias].map((weight) => weight * share)
  })
  return {
    ...one,
    hidden: nets.reduce((sum, net) => sum + net.hidden, 0),
    first: nets.flatMap((net) => net.first),
    second: rounded(second.flat()),
    none: Number((nets.reduce((sum, net) => sum + net.none, 0) * share).toPrecision(4)),
  }
}
