// The networks of core/listen: what each is asked, and how it is fitted. Sizes and decay were chosen on
// every fifth song, held out of the fit.
import { writeFileSync } from 'node:fs'
import { chordToneGroups } from './fit-draft'
import { keyGroups } from './fit-key'
import type { Lesson } from './fit-lessons'
import { fitNet, type Group } from './fit-net'

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

type Shape = Omit<Parameters<typeof fitNet>[1], 'log'>
interface Asked {
  groups: (lessons: readonly Lesson[]) => Group[] | Promise<Group[]>
  shape: Shape
  /**
   * Whether it learns from songs as dense as records too. With them, pulse and chords said more of such songs
   * and less of all others (docs/listening.md): what tells those apart is measured outside the networks.
   */
  records: boolean
}
const ASKED: Record<Network, Asked> = {
  key: {
    groups: keyGroups,
    shape: { hidden: 8, outputs: 2, rounds: 40, rate: 0.005, decay: 1e-3 },
    records: false,
  },
  pulse: {
    groups: pulseGroups,
    shape: { hidden: 14, outputs: 1, rounds: 50, rate: 0.004, decay: 3e-3 },
    records: false,
  },
  bars: {
    records: true,
    groups: (lessons) => lessons.flatMap(({ bars }) => bars.map(({ input, one }) => yesNo(input, one))),
    shape: { hidden: 24, outputs: 1, rounds: 20, rate: 0.003, decay: 1e-3, binary: true },
  },
  boundary: {
    records: true,
    groups: (lessons) =>
      lessons.flatMap(({ boundaries }) => boundaries.map(({ input, yes }) => yesNo(input, yes))),
    shape: { hidden: 16, outputs: 1, rounds: 60, rate: 0.004, decay: 2e-3, binary: true },
  },
  return: {
    records: true,
    groups: (lessons) => lessons.flatMap(({ returns }) => returns.map(({ input, yes }) => yesNo(input, yes))),
    shape: { hidden: 12, outputs: 1, rounds: 60, rate: 0.004, decay: 2e-3, binary: true },
  },
  chords: {
    records: false,
    groups: (lessons) => lessons.flatMap(({ chords }) => chords),
    shape: { hidden: 32, outputs: 17, none: true, rounds: 24, rate: 0.004, decay: 1e-4 },
  },
  'chord-tones': {
    records: false,
    groups: chordToneGroups,
    shape: { hidden: 24, outputs: 1, rounds: 14, rate: 0.004, decay: 3e-4, binary: true },
  },
}

/** Fits one network and writes its weights. */
export async function fitNetwork(
  name: Network,
  songs: readonly { record: boolean; lesson: Lesson }[],
): Promise<void> {
  const { groups, shape, records } = ASKED[name]
  const list = await groups(songs.filter(({ record }) => records || !record).map(({ lesson }) => lesson))
  console.log(`${name}: ${list.length} examples`)
  const { none, ...weights } = fitNet(list, { ...shape, log: (text) => console.log(`${name}: ${text}`) })
  const written = shape.none ? { ...weights, none } : weights
  writeFileSync(`core/listen/models/${name}.json`, `${JSON.stringify(written)}\n`)
}
