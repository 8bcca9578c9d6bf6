import { describe, expect, it } from 'vitest'
import { strFromU8, strToU8 } from 'fflate'
import { everyMarkSong } from '../../tests/support/every-mark'
import { dice, type Dice } from '../../tests/support/random-transactions'
import { must } from '../result'
import { exportSong, importFile } from './formats'
import { songFromScore } from './score/to-song'
import { workedMs } from '../../tests/support/working-time'

const SONG = everyMarkSong()
const FILES = { 'a.musicxml': 1500, 'a.mxl': 1000, 'a.mid': 2500 } as const
const LONGEST_MS = 2000

/** Bytes changed where they stand: the file stays as long as it was. */
function changed(bytes: Uint8Array, roll: Dice): Uint8Array {
  const list = Uint8Array.from(bytes)
  for (let times = 1 + roll.below(4); times > 0; times--) list[roll.below(list.length)] = roll.below(128)
  return list
}

/** A byte changed, some left out, some twice, the end cut off. */
function mutated(bytes: Uint8Array, roll: Dice): Uint8Array {
  const list = Array.from(bytes)
  for (let times = 1 + roll.below(6); times > 0; times--) {
    const at = roll.below(list.length)
    const what = roll.below(5)
    if (what === 0) list[at] = roll.below(256)
    if (what === 1) list.splice(at, 1 + roll.below(40))
    if (what === 2) list.splice(at, 0, ...list.slice(at, at + 1 + roll.below(60)))
    if (what === 3) list.splice(at, 0, ...Array.from({ length: 1 + roll.below(4) }, () => roll.below(256)))
    if (what === 4 && roll.below(8) === 0) list.length = Math.max(1, at)
  }
  return Uint8Array.from(list)
}

/** Numbers and words of a score put where others stood: still XML, no sense. */
function reworded(bytes: Uint8Array, roll: Dice): Uint8Array {
  const others = ['-1', '0', '99999999999', 'NaN', '1e308', '', 'TAB', '3/4', '0.0001', '&lt;b&gt;']
  const text = strFromU8(bytes)
  let left = 1 + roll.below(5)
  return strToU8(
    text.replaceAll(/>([^<>\s]+)</g, (whole) =>
      left > 0 && roll.below(400) === 0 && left-- ? `>${others[roll.below(others.length)]}<` : whole,
    ),
  )
}

describe('a damaged file', () => {
  it.each(Object.entries(FILES))(
    'is read or refused in a sentence, soon, and makes only songs that open again: %s',
    (name, count) => {
      const format = { musicxml: 'musicxml', mxl: 'mxl', mid: 'midi' } as const
      const whole = must(
        exportSong(SONG, format[name.slice(2) as keyof typeof format], { sectionId: 'verse' }),
      ).bytes
      const roll = dice(name.length)
      let made = 0
      for (let round = 0; round < count; round++) {
        const gently = name.endsWith('musicxml') ? reworded : changed
        const bytes = (round % 2 ? gently : mutated)(whole, roll)
        const began = workedMs()
        const read = importFile(bytes, name)
        if (read.ok) {
          const song = songFromScore(read.value.score, { id: 'x', sourceName: name })
          made += song.ok ? 1 : 0
          if (!song.ok) expect(song.refusal.message).toMatch(/^This score makes no song/)
        } else expect(read.refusal.message).toMatch(/[.)”:]$/)
        expect(workedMs() - began).toBeLessThan(LONGEST_MS)
      }
      expect(made).toBeGreaterThan(name.endsWith('mxl') ? 0 : count / 20)
    },
    180_000,
  )
})

describe('a file made to take long', () => {
  /** One track of events, 96 ticks a quarter. */
  function track(events: readonly (readonly number[])[]): Uint8Array {
    const body = Uint8Array.from([...events.flat(), 0, 0xff, 0x2f, 0])
    const size = [24, 16, 8, 0].map((shift) => (body.length >>> shift) & 255)
    const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, ...size]
    return Uint8Array.from([...head, ...body])
  }
  const times = (count: number, event: (index: number) => number[]): number[][] =>
    Array.from({ length: count }, (_, index) => event(index))

  it.each([
    [
      'one key begun again and again, then let go as often',
      [...times(25_000, () => [0, 0x90, 60, 90]), ...times(25_000, () => [0, 0x80, 60, 0])],
    ],
    [
      'notes that all begin at once',
      [
        ...times(5000, (index) => [0, 0x90, 40 + (index % 40), 90]),
        [96, 0x90, 1, 1],
        ...times(5000, (index) => [0, 0x80, 40 + (index % 40), 0]),
      ],
    ],
    [
      'a line of five thousand notes',
      times(5000, (index) => [index % 2 ? 24 : 0, index % 2 ? 0x80 : 0x90, 45 + ((index >> 1) % 30), 90]),
    ],
  ])('does not: %s', (_, events) => {
    const began = workedMs()
    const read = importFile(track(events), 'a.mid')
    if (read.ok) expect(songFromScore(read.value.score, { id: 'x', sourceName: 'a' }).ok).toBe(true)
    expect(workedMs() - began).toBeLessThan(LONGEST_MS)
  })
})
