// A track to play along to, rendered whole: chosen parts, at any speed, from a section to another, as often
// as wanted, after a count-in, with or without a click, with the record only where it is handed in. Brought
// to one loudness, and never over full scale.
import type { Song } from '../document/schema'
import { songTimeMap } from '../document/form'
import { ticksToSeconds } from '../time/beat-grid'
import { beatTicks, TICKS_PER_QUARTER } from '../time/meter'
import { soundPart } from '../score/sound-song'
import { timelineOf } from '../timeline/timeline'
import type { SoundingEvent } from '../score/sounding-event'
import type { Bank } from './bank'
import { click } from './click'
import { levelTo } from './levelled'
import { SamplePlayer } from './player'

export interface BackingWish {
  /** The parts that are heard. */
  partIds: readonly string[]
  /** 1 is the tempo of the song. */
  speed: number
  countInBars: number
  click: boolean
  /** From the start of one section to the end of another; the whole song where none is named. */
  fromSectionId?: string
  toSectionId?: string
  /** So many times. */
  times: number
  sampleRate: number
}
export interface BackingTrack {
  channels: [Float32Array, Float32Array]
  sampleRate: number
  seconds: number
  /** Decibels it was turned up or down by. */
  gainDb: number
}

/** What rings at the end may fade. */
const TAIL_SECONDS = 2
const BLOCK = 16_384
/** Where nothing is laid over a record: 120 quarters a minute. */
const STRAIGHT_SECONDS = 0.5
const PART_GAIN = 0.6

interface Stretch {
  /** Seconds of the song. */
  from: number
  to: number
  /** Of the beats in it, and whether each is the first of its bar. */
  beats: { seconds: number; one: boolean }[]
  /** Seconds of a beat of the count-in, and how many make a bar. */
  beatSeconds: number
  beatsPerBar: number
}

/** Seconds a track will last. */
export const backingSeconds = (song: Song, wish: BackingWish): number => lengthOf(stretchOf(song, wish), wish)

function lengthOf(stretch: Stretch, wish: BackingWish): number {
  return leadOf(stretch, wish) + (wish.times * (stretch.to - stretch.from)) / wish.speed + TAIL_SECONDS
}
const leadOf = ({ beatSeconds, beatsPerBar }: Stretch, { countInBars, speed }: BackingWish): number =>
  (countInBars * beatsPerBar * beatSeconds) / speed

function stretchOf(song: Song, { fromSectionId, toSectionId }: BackingWish): Stretch {
  const map = songTimeMap(song)
  const toSeconds = (tick: number): number =>
    map ? ticksToSeconds(map, tick) : (tick / TICKS_PER_QUARTER) * STRAIGHT_SECONDS
  const { places, bars, endTicks } = timelineOf(song)
  const first = places.find(({ section }) => section.id === fromSectionId)
  const last = places.find(({ section }) => section.id === toSectionId)
  const fromTick = first?.startTicks ?? 0
  const toTick = Math.max(fromTick, last ? last.startTicks + last.lengthTicks : endTicks)
  const inside = bars.filter(({ startTicks }) => startTicks >= fromTick && startTicks < toTick)
  const beats = inside.flatMap(({ startTicks, lengthTicks, sectionId, barInSection }) => {
    const bar = song.sections[sectionId]!.bars[barInSection]!
    const step = bar.free ? lengthTicks : beatTicks(bar.meter)
    return Array.from({ length: Math.max(1, Math.round(lengthTicks / step)) }, (_, beat) => ({
      seconds: toSeconds(startTicks + beat * step),
      one: beat === 0,
    }))
  })
  const start = inside[0]
  const counted = start ? song.sections[start.sectionId]!.bars[start.barInSection]!.meter : song.meter
  const step = beatTicks(counted)
  return {
    from: toSeconds(fromTick),
    to: toSeconds(toTick),
    beats,
    beatSeconds: toSeconds(fromTick + step) - toSeconds(fromTick),
    beatsPerBar: Math.round((start?.lengthTicks ?? step) / step),
  }
}

/** An event moved to where it sounds in the track. */
function placed(event: SoundingEvent, at: (seconds: number) => number, speed: number): SoundingEvent {
  return {
    ...event,
    startSeconds: at(event.startSeconds),
    endSeconds: at(event.endSeconds),
    curve: event.curve.map((point) => ({ ...point, seconds: point.seconds / speed })),
  }
}

/** Each time round: what begins in the stretch, from where that time begins. */
function rounds(events: readonly SoundingEvent[], stretch: Stretch, wish: BackingWish): SoundingEvent[] {
  const lead = leadOf(stretch, wish)
  const length = (stretch.to - stretch.from) / wish.speed
  const inside = events.filter(
    ({ startSeconds }) => startSeconds >= stretch.from - 0.03 && startSeconds < stretch.to,
  )
  return Array.from({ length: wish.times }, (_, round) => {
    const at = (seconds: number): number =>
      Math.max(0, lead + round * length + (seconds - stretch.from) / wish.speed)
    return inside.map((event) => placed(event, at, wish.speed))
  }).flat()
}

function clicks(stretch: Stretch, wish: BackingWish): SoundingEvent[] {
  const counted = wish.countInBars * stretch.beatsPerBar
  const countIn = Array.from({ length: counted }, (_, beat) =>
    click((beat * stretch.beatSeconds) / wish.speed, beat % stretch.beatsPerBar === 0),
  )
  const along = wish.click ? stretch.beats.map(({ seconds, one }) => click(seconds, one)) : []
  return [...countIn, ...rounds(along, stretch, wish)]
}

/** Seconds of the recording that a track is made of. */
export function backingSpan(song: Song, wish: BackingWish): { fromSeconds: number; toSeconds: number } {
  const { from, to } = stretchOf(song, wish)
  return { fromSeconds: from, toSeconds: to }
}

/** The stretch of the record, at the speed of the track. */
export interface RecordSound {
  channels: readonly Float32Array[]
  gain: number
}

/** Renders a track. `report` is told the share that is done. */
export function backingTrack(
  bank: Bank,
  song: Song,
  wish: BackingWish,
  { report = () => undefined, record }: { report?: (share: number) => void; record?: RecordSound } = {},
): BackingTrack {
  const stretch = stretchOf(song, wish)
  const { sampleRate } = wish
  const frames = Math.ceil(lengthOf(stretch, wish) * sampleRate)
  const channels: [Float32Array, Float32Array] = [new Float32Array(frames), new Float32Array(frames)]
  const stems = wish.partIds.flatMap((id) => {
    const part = song.parts[id]
    return part
      ? [{ pan: part.pan, gain: PART_GAIN, events: rounds(soundPart(song, id), stretch, wish) }]
      : []
  })
  const all = [...stems, { pan: 0, gain: PART_GAIN, events: clicks(stretch, wish) }]
  all.forEach((stem, index) => {
    renderInto(channels, bank, stem, { sampleRate, report: (share) => report((index + share) / all.length) })
  })
  if (record) addRecord(channels, record, stretch, wish)
  const gain = levelTo(channels, sampleRate)
  return { channels, sampleRate, seconds: frames / sampleRate, gainDb: 20 * Math.log10(gain) }
}

interface Stem {
  pan: number
  gain: number
  events: SoundingEvent[]
}

/** Constant power between left and right. */
function renderInto(
  channels: readonly [Float32Array, Float32Array],
  bank: Bank,
  { pan, gain, events }: Stem,
  { sampleRate, report }: { sampleRate: number; report: (share: number) => void },
): void {
  if (!events.length) return
  const sorted = events.toSorted((a, b) => a.startSeconds - b.startSeconds)
  const player = new SamplePlayer(bank, sorted, sampleRate)
  const angle = ((pan + 1) * Math.PI) / 4
  const [left, right] = [Math.cos(angle) * gain, Math.sin(angle) * gain]
  const block = new Float32Array(BLOCK)
  for (let at = 0; at < channels[0].length; at += BLOCK) {
    const part = block.subarray(0, Math.min(BLOCK, channels[0].length - at))
    part.fill(0)
    player.render(part)
    for (let frame = 0; frame < part.length; frame++) {
      channels[0][at + frame]! += part[frame]! * left
      channels[1][at + frame]! += part[frame]! * right
    }
    report(at / channels[0].length)
  }
}

function addRecord(
  channels: readonly [Float32Array, Float32Array],
  { channels: sound, gain }: RecordSound,
  stretch: Stretch,
  wish: BackingWish,
): void {
  const length = Math.round(((stretch.to - stretch.from) / wish.speed) * wish.sampleRate)
  const lead = Math.round(leadOf(stretch, wish) * wish.sampleRate)
  channels.forEach((out, side) => {
    const source = sound[side] ?? sound[0]
    if (!source) return
    for (let round = 0; round < wish.times; round++)
      for (let frame = 0; frame < length; frame++)
        out[lead + round * length + frame]! += (source[frame] ?? 0) * gain
  })
}
