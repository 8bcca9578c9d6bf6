import { describe, expect, it } from 'vitest'
import { network } from '../../core/hear/models/net'
import { fitNet, joinNets, type Group, type Shape } from '../../tools/fit-net'

const YES_NO: Shape = { hidden: 8, outputs: 1, binary: true, rounds: 300, rate: 0.02, decay: 1e-4, seed: 1 }
/** Either, but not both: no single layer can tell. */
const CORNERS: [number, number][] = [
  [0, 0],
  [0, 1],
  [1, 0],
  [1, 1],
]
const either: Group[] = CORNERS.map((row) => ({ rows: [row], right: 0, target: Number(row[0] !== row[1]) }))

describe('fitting a network', () => {
  it('learns what no straight line tells apart', () => {
    const net = network(fitNet(either, YES_NO))
    expect(CORNERS.map((row) => net(row)[0]! > 0)).toEqual([false, true, true, false])
  })
  it('learns to choose among rows, and when to choose none', () => {
    // The larger of two is right; where both are small, neither.
    const rows = Array.from({ length: 200 }, (_, k) => [Math.sin(k * 1.7), Math.sin(k * 2.9 + 1)])
    const pairs = rows.filter(([a = 0, b = 0]) => Math.abs(a - b) > 0.2)
    const groups = pairs.map(([a = 0, b = 0]): Group => {
      const larger = a > b ? 0 : 1
      return { rows: [[a], [b]], right: Math.max(a, b) < 0 ? 2 : larger }
    })
    const fitted = fitNet(groups, { ...YES_NO, binary: false, none: true, rounds: 60 })
    const net = network(fitted)
    const right = groups.filter(({ rows: [a, b], right }) => {
      const scores = [net(a!)[0]!, net(b!)[0]!, fitted.none]
      return scores.indexOf(Math.max(...scores)) === right
    })
    expect(right.length / groups.length).toBeGreaterThan(0.93)
  })
  it('gives the same weights again from the same beginning, others from another', () => {
    const shape = { ...YES_NO, rounds: 5 }
    expect(fitNet(either, shape)).toEqual(fitNet(either, shape))
    expect(fitNet(either, shape).first).not.toEqual(fitNet(either, { ...shape, seed: 2 }).first)
  })
  it('joins networks to one that says their mean, of every output', () => {
    const choices = [0, 1, 2, 3].map((k): Group => ({ rows: [[k, 3 - k]], right: k % 3 }))
    const nets = [1, 2, 3].map((seed) =>
      fitNet(choices, { hidden: 4, outputs: 3, none: true, rounds: 20, rate: 0.02, decay: 1e-4, seed }),
    )
    const one = joinNets(nets)
    const joined = network(one)([1.5, 0.2])
    for (let output = 0; output < 3; output++) {
      const mean = nets.reduce((sum, net) => sum + network(net)([1.5, 0.2])[output]! / nets.length, 0)
      expect(joined[output]).toBeCloseTo(mean, 3)
    }
    expect(one.none).toBeCloseTo((nets[0]!.none + nets[1]!.none + nets[2]!.none) / 3, 3)
  })
})
