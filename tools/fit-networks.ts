// The networks of core/hear: what each is asked, and how it is fitted. Sizes and decay were chosen on
// every fifth song, held out of the fit.
import { writeFileSync } from 'node:fs'
import { chordToneGroups } from './fit-draft'
import { keyGroups } from './fit-key'
import type { Lesson } from './fit-lessons'
import { fitNet, joinNets, type Group, type Shape } from './fit-net'

export const NETWORKS = ['key', 'pulse', 'bars', 'boundary', 'return', 'chords', 'chord-tones'] as const
type Network = (typeof NETWORKS)[number]
export const isNetwork = (name: string): name is Network => (NETWORKS as readonly string[]).includes(name)

/** Songs in 6/8 are few and the hardest to count: they weigh more. */
const COMPOUND_WEIGHT = 3
const yesNo = (input: number[], yes: boolean): Group => ({ rows: [input], right: 0, target: yes ? 1 : 0 })

function pulseGroups(lessons: readonly Lesson[]): Group[] {
  return lessons.flatMap(({ pulse, compound }) =>
    pulse
      .filter((readings) => readings.some(({ right }) => right))
      .map((readings) => ({
        rows: readings.map(({ profile }) => profile),
        right: readings.findIndex(({ right }) => right),
        weight: compound ? COMPOUND_WEIGHT : 1,
      })),
  )
}

interface Asked {
  groups: (lessons: readonly Lesson[]) => Group[] | Promise<Group[]>
  shape: Omit<Shape, 'log' | 'seed'>
  /**
   * How much songs as dense as records count beside the others. At full weight pulse and chords said more of
   * such songs and less of all others (docs/listening.md).
   */
  records: number
  /** Of so many of the others, the first ones; of all where it is not said. */
  plain?: number
  /** From so many beginnings it is fitted; what is written is their mean. */
  beginnings: number
}
const ASKED: Record<Network, Asked> = {
  key: {
    groups: keyGroups,
    shape: { hidden: 8, outputs: 2, rounds: 40, rate: 0.005, decay: 1e-3 },
    records: 0,
    beginnings: 1,
  },
  pulse: {
    groups: pulseGroups,
    shape: { hidden: 14, outputs: 1, rounds: 50, rate: 0.004, decay: 5e-3 },
    records: 0.3,
    plain: 120,
    beginnings: 5,
  },
  bars: {
    groups: (lessons) => lessons.flatMap(({ bars }) => bars.map(({ input, one }) => yesNo(input, one))),
    shape: { hidden: 24, outputs: 1, rounds: 20, rate: 0.003, decay: 1e-3, binary: true },
    records: 1,
    beginnings: 1,
  },
  boundary: {
    groups: (lessons) =>
      lessons.flatMap(({ boundaries }) => boundaries.map(({ input, yes }) => yesNo(input, yes))),
    shape: { hidden: 16, outputs: 1, rounds: 60, rate: 0.004, decay: 2e-3, binary: true },
    records: 1,
    beginnings: 1,
  },
  return: {
    groups: (lessons) => lessons.flatMap(({ returns }) => returns.map(({ input, yes }) => yesNo(input, yes))),
    shape: { hidden: 12, outputs: 1, rounds: 60, rate: 0.004, decay: 2e-3, binary: true },
    records: 1,
    beginnings: 1,
  },
  chords: {
    groups: (lessons) => lessons.flatMap(({ chords }) => chords),
    shape: { hidden: 32, outputs: 17, none: true, rounds: 24, rate: 0.004, decay: 1e-4 },
    records: 0.1,
    beginnings: 1,
  },
  'chord-tones': {
    records: 0,
    beginnings: 1,
    groups: chordToneGroups,
    shape: { hidden: 24, outputs: 1, rounds: 14, rate: 0.004, decay: 3e-4, binary: true },
  },
}

/** Examples of both kinds of songs, those of dense ones with their weight. */
async function examples({ groups, records, plain: count }: Asked, songs: readonly Heard[]): Promise<Group[]> {
  const of = (dense: boolean): Lesson[] =>
    songs.filter(({ record }) => record === dense).map(({ lesson }) => lesson)
  const plain = await groups(of(false).slice(0, count))
  if (records === 0) return plain
  const dense = await groups(of(true))
  return [...plain, ...dense.map((group) => ({ ...group, weight: records * (group.weight ?? 1) }))]
}

/** A song, of which kind it is, and what it teaches. */
interface Heard {
  record: boolean
  lesson: Lesson
}

/** Fits one network and writes its weights. */
export async function fitNetwork(name: Network, songs: readonly Heard[]): Promise<void> {
  const asked = ASKED[name]
  const list = await examples(asked, songs)
  console.log(`${name}: ${list.length} examples`)
  const log = (text: string): void => console.log(`${name}: ${text}`)
  const nets = Array.from({ length: asked.beginnings }, (_, index) =>
    fitNet(list, { ...asked.shape, seed: index + 1, log }),
  )
  const { none, ...weights } = joinNets(nets)
  const written = asked.shape.none ? { ...weights, none } : weights
  writeFileSync(`core/hear/models/${name}.json`, `${JSON.stringify(written)}\n`)
}
