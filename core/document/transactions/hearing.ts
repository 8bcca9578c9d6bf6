// Taking over what was heard in a recording, as one change: bars, sections, returns, chords, key, feel,
// tuning, as many of them as are asked for. What a person has set stays: only sections without a name of
// their own are named, only stretches without chords get chords.
import { leastIndex } from 'd3-array'
import { z } from 'zod'
import { ok, refuse, type Result } from '../../result'
import { secondsToTicks } from '../../time/beat-grid'
import { beatTicks, isCompound } from '../../time/meter'
import { barStarts, isUnnamed, mainSource, sectionPlaces, songTimeMap } from '../form'
import { withoutChords } from '../harmony'
import {
  bandTuningSchema,
  idSchema,
  SECTION_KINDS,
  songSchema,
  tuningSchema,
  type Section,
  type Song,
} from '../schema'
import { retunePart } from './band'
import { splitSection } from './form'
import { beatsArgs } from './beats-args'
import { withKey } from '../song-key'
import { setBeats } from './grid'
import { define, withEntity } from './transaction'

const seconds = z.number().min(0).max(36_000)
const heardSection = z.strictObject({
  startSeconds: seconds,
  id: idSchema,
  name: z.string().min(1).max(80),
  kind: z.enum(SECTION_KINDS),
  returnsStartSeconds: seconds.optional(),
  shiftSemitones: z.int().min(-12).max(12).optional(),
  /** The first of the song: it starts with the first bar. */ opens: z.boolean().optional(),
})
const heardChord = z.strictObject({
  startSeconds: seconds,
  endSeconds: seconds,
  symbol: z.string().min(1).max(24),
  confidence: z.number().min(0).max(1),
})

export const acceptHeard = define(
  z.strictObject({
    beats: beatsArgs.optional(),
    sections: z.array(heardSection).max(1000).optional(),
    chords: z.array(heardChord).max(20_000).optional(),
    chordSectionIds: z.array(idSchema).max(1000).optional(),
    key: songSchema.shape.key.optional(),
    meter: songSchema.shape.meter.optional(),
    feel: songSchema.shape.feel.optional(),
    tuning: z
      .strictObject({
        offsetCents: z.number().min(-100).max(100),
        parts: z.array(z.strictObject({ partId: idSchema, tuning: tuningSchema })).max(40),
        band: bandTuningSchema.optional(),
      })
      .optional(),
    words: z.string().max(120),
  }),
  (args) => `accept ${args.words}`,
  (song, args): Result<Song> => {
    let next = song
    const step = (result: Result<Song>): Result<Song> => {
      if (result.ok) next = result.value
      return result
    }
    if (args.meter) next = { ...next, meter: args.meter }
    if (args.beats) {
      const done = step(setBeats.apply(next, args.beats))
      if (!done.ok) return done
    }
    if (args.sections) {
      const done = step(placeSections(next, args.sections))
      if (!done.ok) return done
    }
    if (args.chords) next = placeChords(next, args.chords, args.chordSectionIds)
    if (args.key) next = withKey(next, args.key)
    if (args.feel) next = { ...next, feel: args.feel }
    if (args.tuning) {
      const source = mainSource(next)
      if (source)
        next = {
          ...next,
          sources: withEntity(next.sources, source.id, { ...source, offsetCents: args.tuning.offsetCents }),
        }
      const { band } = args.tuning
      if (band) next = { ...next, bandTuning: band }
      for (const part of args.tuning.parts) {
        const done = step(retunePart.apply(next, part))
        if (!done.ok) return done
      }
    }
    return ok(next)
  },
)

/** A start is moved to the bar line nearest to it, at most this far away. */
const NEAR_SECONDS = 1.5

/**
 * The bar whose start lies nearest to a moment, if it is near; the first bar takes whatever lies before
 * it.
 */
function nearestBar(starts: readonly number[], wanted: number): number | undefined {
  const best = leastIndex(starts, (a, b) => Math.abs(a - wanted) - Math.abs(b - wanted))
  if (best === undefined) return undefined
  return best === 0 || Math.abs(starts[best]! - wanted) <= NEAR_SECONDS ? best : undefined
}

type HeardSection = z.infer<typeof heardSection>

/** Cuts the form where one section was heard to begin, or names the section that begins there. */
function cutSection(song: Song, section: HeardSection, bar: number, taken: ReadonlySet<string>) {
  const place = sectionPlaces(song).findLast((entry) => entry.firstBar <= bar)
  if (!place) return ok({ song, id: undefined })
  const { name, kind } = section
  const own = place.section
  if (place.firstBar === bar) {
    const sections = isUnnamed(own)
      ? withEntity(song.sections, own.id, { ...own, name, kind })
      : song.sections
    return ok({ song: { ...song, sections }, id: own.id })
  }
  if (!isUnnamed(own) && !taken.has(own.id)) return ok({ song, id: undefined })
  const atBar = bar - place.firstBar
  const split = splitSection.apply(song, { sectionId: own.id, atBar, newId: section.id, name, kind })
  return split.ok ? ok({ song: split.value, id: section.id }) : split
}

function placeSections(song: Song, heard: readonly HeardSection[]): Result<Song> {
  const grid = mainSource(song)?.grid
  if (!grid) return refuse('no-grid', 'Accept the bars first: sections start on bar lines.')
  const starts = grid.bars.map((bar) => bar.beatSeconds[0]!)
  let next = song
  const idAt = new Map<number, string>()
  for (const section of heard) {
    // A pickup belongs to the section it leads into: the first section starts with the first bar.
    const bar = section.opens ? 0 : nearestBar(starts, section.startSeconds)
    if (bar === undefined) continue
    const cut = cutSection(next, section, bar, new Set(idAt.values()))
    if (!cut.ok) return cut
    next = cut.value.song
    if (cut.value.id) idAt.set(section.startSeconds, cut.value.id)
  }
  return ok(heard.reduce((made, section) => markReturn(made, section, idAt), next))
}

/** Marks a section as the return of another, where both were placed and nothing says otherwise yet. */
function markReturn(song: Song, section: HeardSection, idAt: ReadonlyMap<number, string>): Song {
  const { startSeconds, returnsStartSeconds, shiftSemitones = 0 } = section
  const own = idAt.get(startSeconds)
  const target = returnsStartSeconds === undefined ? undefined : idAt.get(returnsStartSeconds)
  const entry = own === undefined ? undefined : song.sections[own]
  if (!entry || entry.returns || target === undefined || target === own || !song.sections[target]) return song
  const returns = { sectionId: target, shiftSemitones, withDifferences: true }
  return { ...song, sections: withEntity(song.sections, entry.id, { ...entry, returns }) }
}

type PlacedChord = z.infer<typeof heardChord> & { from: number; to: number }
type Place = ReturnType<typeof sectionPlaces>[number]

/** The nearest half of a beat (third in compound meters) within a section. */
function snapTo({ section, startTicks }: Place, tick: number): number {
  const inside = tick - startTicks
  const starts = barStarts(section)
  const at = starts.findLastIndex((start, index) => start <= inside + 1 && index < section.bars.length)
  const { meter, free } = section.bars[Math.max(0, at)]!
  const step = beatTicks(meter) / (!free && isCompound(meter) ? 3 : 2)
  return Math.round(inside / step) * step
}

/** Whether a chord leads into what begins at a tick: up to a beat early, and mostly sounding after it. */
const leadsInto = ({ from, to }: PlacedChord, tick: number, beat: number): boolean =>
  from < tick && tick - from <= beat && to - tick > tick - from

/**
 * The chords of a section: those that begin in it, the one that leads into it from up to a beat before, and
 * the one that goes on into it for a beat or more. What leads into the next section is the next section's.
 */
function sectionHarmony(placed: readonly PlacedChord[], place: Place, beat: number, isLast: boolean) {
  const { startTicks, lengthTicks } = place
  const end = startTicks + lengthTicks
  const belongs = (chord: PlacedChord): boolean => {
    if (chord.from >= startTicks) return chord.from < end && (isLast || !leadsInto(chord, end, beat))
    return leadsInto(chord, startTicks, beat) || Math.min(chord.to, end) - startTicks >= beat
  }
  const beginning = (chord: PlacedChord): number =>
    chord.from >= startTicks || leadsInto(chord, startTicks, beat) ? snapTo(place, chord.from) : 0
  return placed
    .filter(belongs)
    .map((chord) => ({
      // Before the song's first tick there is no bar to be early in.
      startTicks: Math.max(0 - Math.min(beat, startTicks), beginning(chord)),
      symbol: chord.symbol,
      confidence: chord.confidence,
    }))
    .filter(
      (chord, index, list) => (list[index + 1]?.startTicks ?? Number.POSITIVE_INFINITY) > chord.startTicks,
    )
    .map((chord, index, list) => ({
      ...chord,
      lengthTicks: Math.round((list[index + 1]?.startTicks ?? lengthTicks) - chord.startTicks),
    }))
    .filter((chord) => chord.lengthTicks > 0 && chord.symbol !== 'N')
}

/** Heard chords cut to the stretches of a section in which nobody has set one. */
function intoGaps(section: Section, heard: Section['harmony'], least: number): Section['harmony'] {
  if (section.harmony.length === 0) return heard
  return withoutChords(section, least).flatMap(({ from, to }) =>
    heard.flatMap((chord) => {
      const start = Math.max(chord.startTicks, from)
      const end = Math.min(chord.startTicks + chord.lengthTicks, to)
      return end - start >= least / 2 ? [{ ...chord, startTicks: start, lengthTicks: end - start }] : []
    }),
  )
}

/** Chords go to their sections at the nearest half of a beat (third in compound meters). */
function placeChords(
  song: Song,
  chords: readonly z.infer<typeof heardChord>[],
  only: readonly string[] | undefined,
): Song {
  const map = songTimeMap(song)
  if (!map) return song
  const placed = chords.map((chord) => ({
    ...chord,
    from: secondsToTicks(map, chord.startSeconds),
    to: secondsToTicks(map, chord.endSeconds),
  }))
  const beat = beatTicks(song.meter)
  let { sections } = song
  const places = sectionPlaces(song)
  for (const place of places) {
    const { section } = place
    if (only && !only.includes(section.id)) continue
    const heard = intoGaps(section, sectionHarmony(placed, place, beat, place === places.at(-1)), beat)
    if (heard.length === 0) continue
    const harmony = [...section.harmony, ...heard].sort((a, b) => a.startTicks - b.startTicks)
    sections = withEntity(sections, section.id, { ...section, harmony })
  }
  return sections === song.sections ? song : { ...song, sections }
}
