// What a part is played through in a section, and what follows from it: a delay's milliseconds at the
// measured tempo, a knob by the clock, the whole in lines for a box on the sheet.
import { counted } from '../words/words'
import { ticksToSeconds } from '../time/beat-grid'
import { sectionPlaces, songTimeMap } from '../document/form'
import { TICKS_PER_QUARTER } from '../time/meter'
import type { Effect, Part, Rig, Song } from '../document/schema'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from './tempo'

export const EMPTY_RIG: Rig = { pickup: '', gain: '', effects: [] }

/** What a part is played through in a section: the section's own rig, else the part's. */
export const rigOf = (part: Part, sectionId: string | undefined): Rig | undefined =>
  part.sectionRigs?.find((one) => one.sectionId === sectionId)?.rig ?? part.rig

/** Lengths a delay in time is set to, in ticks. */
export const DELAY_VALUES = [
  { title: 'quarter', ticks: TICKS_PER_QUARTER },
  { title: 'dotted eighth', ticks: (TICKS_PER_QUARTER * 3) / 4 },
  { title: 'eighth', ticks: TICKS_PER_QUARTER / 2 },
  { title: 'eighth triplet', ticks: TICKS_PER_QUARTER / 3 },
  { title: 'sixteenth', ticks: TICKS_PER_QUARTER / 4 },
  { title: 'quarter triplet', ticks: (TICKS_PER_QUARTER * 2) / 3 },
  { title: 'dotted quarter', ticks: (TICKS_PER_QUARTER * 3) / 2 },
  { title: 'half', ticks: TICKS_PER_QUARTER * 2 },
] as const

/** How long a length of the chart lasts in a section, in milliseconds: as measured there, else at 100. */
export function millisecondsIn(song: Song, sectionId: string | undefined, ticks: number): number {
  const map = songTimeMap(song)
  const places = sectionPlaces(song)
  const place = places.find(({ section }) => section.id === sectionId)
  const startTicks = place?.startTicks ?? 0
  const lengthTicks = place?.lengthTicks ?? places.reduce((sum, one) => sum + one.lengthTicks, 0)
  if (!map || lengthTicks === 0) return Math.round(ticks * STRAIGHT_MAP_SECONDS_PER_TICK * 1000)
  const seconds = ticksToSeconds(map, startTicks + lengthTicks) - ticksToSeconds(map, startTicks)
  return Math.round((seconds * 1000 * ticks) / lengthTicks)
}

/** "9 o’clock", "half past 1"; all the way down and up are said so. */
export function clockWords(clock: number): string {
  if (clock <= 7) return 'all the way down'
  if (clock >= 17) return 'all the way up'
  const hour = Math.floor(clock)
  const name = hour > 12 ? hour - 12 : hour
  return clock === hour ? `${name} o’clock` : `half past ${name}`
}

const NAMES: Record<Effect['kind'], string> = {
  drive: 'drive',
  compressor: 'compressor',
  filter: 'fixed filter',
  octave: 'octave',
  delay: 'delay',
  modulation: 'modulation',
  reverb: 'reverb',
  other: 'effect',
}

function delayWords(song: Song, sectionId: string | undefined, effect: Effect): string | undefined {
  if (!effect.delayTicks) return undefined
  const value = DELAY_VALUES.find(({ ticks }) => ticks === effect.delayTicks)?.title ?? 'own length'
  const repeats = effect.repeats ? `, ${counted(effect.repeats, 'repeat')}` : ''
  return `${value}, ${millisecondsIn(song, sectionId, effect.delayTicks)} ms${repeats}`
}

function octaveWords(semitones: number): string {
  const size = Math.abs(semitones)
  const octaves = size === 12 ? 'an octave' : `${size / 12} octaves`
  const distance = size % 12 === 0 ? octaves : `${size} half steps`
  return `${distance} ${semitones < 0 ? 'below' : 'above'}`
}

/** "delay: dotted eighth, 412 ms, 3 repeats; mix 12 o’clock" */
export function effectWords(song: Song, sectionId: string | undefined, effect: Effect): string {
  const facts = [
    effect.words,
    effect.kind === 'delay' ? delayWords(song, sectionId, effect) : undefined,
    effect.kind === 'octave' && effect.semitones ? octaveWords(effect.semitones) : undefined,
    effect.kind === 'filter' && effect.cutoffHz ? `dull above ${effect.cutoffHz} Hz` : undefined,
  ].filter(Boolean)
  const knobs = effect.knobs.map(({ name, clock }) => `${name} ${clockWords(clock)}`).join(', ')
  const all = [facts.join(', '), knobs].filter(Boolean).join('; ')
  return all ? `${NAMES[effect.kind]}: ${all}` : NAMES[effect.kind]
}

/** The rig in lines: pickup and gain, the striking hand, then the effects in order. Empty for no rig. */
export function rigLines(song: Song, part: Part, sectionId: string | undefined): string[] {
  const rig = rigOf(part, sectionId)
  if (!rig) return []
  const first = [
    rig.pickup && `${rig.pickup} pickup`,
    rig.gain && `gain ${rig.gain}`,
    rig.strike &&
      `with ${rig.strike === 'pick' || rig.strike === 'thumb' ? `the ${rig.strike}` : rig.strike}`,
    rig.feedback && 'let it feed back (mind the loudness)',
  ].filter(Boolean)
  return [
    ...(first.length ? [first.join(', ')] : []),
    ...rig.effects.map((effect) => effectWords(song, sectionId, effect)),
  ]
}
