// The bars of a MusicXML score in the order in which they are played.
import { keyOfSignature, MODES, type Key, type Mode } from '../../music/pitch'
import { barTicks, TICKS_PER_QUARTER, type Meter } from '../../time/meter'
import type { WrittenBar } from '../score/written-score'
import type { PartMeasures } from './read-part'
import { FREE_TIME, IN_TIME } from './write-part'
import { childOf, childrenOf, numberOf, textOf, type XmlNode } from './xml'

const MOST_SECTION = 80
const UNITS = [2, 4, 8, 16] as const
const isUnit = (unit: number | undefined): unit is Meter['unit'] => UNITS.some((one) => one === unit)
const MOST_BEATS = 32

/** The meter said in a measure; one that cannot be counted here is passed over. */
function meterIn(measure: XmlNode): Meter | undefined {
  const time = childrenOf(measure, 'attributes')
    .map((node) => childOf(node, 'time'))
    .find(Boolean)
  const beats = textOf(time, 'beats')
    .split('+')
    .reduce((sum, text) => sum + Number(text), 0)
  const unit = numberOf(time, 'beat-type')
  return time && Number.isInteger(beats) && beats >= 1 && beats <= MOST_BEATS && isUnit(unit)
    ? { beats, unit }
    : undefined
}

function keyIn(measure: XmlNode): Key | undefined {
  const node = childrenOf(measure, 'attributes')
    .map((attributes) => childOf(attributes, 'key'))
    .find(Boolean)
  const fifths = numberOf(node, 'fifths')
  if (fifths === undefined || !Number.isInteger(fifths) || Math.abs(fifths) > 7) return undefined
  const mode = MODES.find((one) => one === textOf(node, 'mode')) ?? ('major' satisfies Mode)
  const key = keyOfSignature(fifths, mode)
  return /^[A-G](#{0,2}|b{0,2})$/.test(key.tonic) ? key : undefined
}

/** A bar shorter or longer than its meter says, as a pickup is. */
function meterOfLength(lengthTicks: number): Meter | undefined {
  const unit = ([4, 8, 16] as const).find((one) => lengthTicks % ((TICKS_PER_QUARTER * 4) / one) === 0)
  const beats = unit && (lengthTicks * unit) / (TICKS_PER_QUARTER * 4)
  return beats && beats <= MOST_BEATS ? { beats, unit } : undefined
}

const sameKey = (a: Key, b: Key | undefined): boolean => a.tonic === b?.tonic && a.mode === b.mode

/** Whether time is free from here on, as it was before where nothing is said. */
function isFree(words: readonly string[], before: boolean): boolean {
  if (words.includes(IN_TIME)) return false
  return before || words.includes(FREE_TIME)
}

/** The bars of a score as they are played: their lengths, meters, sections and keys. */
export function barsOf(
  measures: readonly XmlNode[],
  order: readonly number[],
  read: readonly PartMeasures[],
): WrittenBar[] {
  let meter: Meter = { beats: 4, unit: 4 }
  let [startTicks, free] = [0, false]
  const meters = measures.map((measure) => (meter = meterIn(measure) ?? meter))
  let key: Key | undefined
  const keys = measures.map((measure) => (key = keyIn(measure) ?? key))
  let sung: Key | undefined
  return order.map((index, place): WrittenBar => {
    const own = read[0]?.[place]
    free = isFree(own?.words ?? [], free)
    const nominal = meters[index] ?? meter
    const filled = Math.max(...read.map((part) => part[place]?.lengthTicks ?? 0))
    const short = filled > 0 && (measures[index]?.attributes.implicit === 'yes' || filled > barTicks(nominal))
    const actual = (short ? meterOfLength(filled) : undefined) ?? nominal
    const lengthTicks = barTicks(actual)
    const now = keys[index]
    const changed = now && !sameKey(now, sung)
    if (changed) sung = now
    const bar = {
      startTicks,
      lengthTicks,
      meter: actual,
      free,
      ...(own?.rehearsal ? { section: own.rehearsal.slice(0, MOST_SECTION) } : {}),
      ...(changed ? { key: now } : {}),
    }
    startTicks += lengthTicks
    return bar
  })
}
