// Taking over what was heard in a recording, as one change: bars, sections, returns, chords, key, feel,
// tuning, as many of them as are asked for. What a person has set stays: only sections without a name of
// their own are named, only sections without chords get chords.
import { z } from 'zod'
import { ok, refuse, type Result } from '../../result'
import { secondsToTicks } from '../../time/beat-grid'
import { beatTicks, isCompound } from '../../time/meter'
import { barStarts, isUnnamed, mainSource, sectionPlaces, songTimeMap } from '../form'
import { idSchema, SECTION_KINDS, songSchema, tuningSchema, type Song } from '../schema'
import { retunePart } from './band'
import { splitSection } from './form'
import { beatsArgs } from './beats-args'
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
    if (args.key) next = { ...next, key: args.key }
    if (args.feel) next = { ...next, feel: args.feel }
    if (args.tuning) {
      const source = mainSource(next)
      if (source)
        next = {
          ...next,
          sources: withEntity(next.sources, source.id, { ...source, offsetCents: args.tuning.offsetCents }),
        }
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

function placeSections(song: Song, heard: readonly z.infer<typeof heardSection>[]): Result<Song> {
  const grid = mainSource(song)?.grid
  if (!grid) return refuse('no-grid', 'Accept the bars first: sections start on bar lines.')
  const starts = grid.bars.map((bar) => bar.beatSeconds[0]!)
  const barAt = (wanted: number): number | undefined => {
    let best = 0
    starts.forEach((value, index) => {
      if (Math.abs(value - wanted) < Math.abs(starts[best]! - wanted)) best = index
    })
    return Math.abs(starts[best]! - wanted) <= NEAR_SECONDS || best === 0 ? best : undefined
  }
  let next = song
  const idAt = new Map<number, string>()
  for (const section of heard) {
    // A pickup belongs to the section it leads into: the first section starts with the first bar.
    const bar = section.opens ? 0 : barAt(section.startSeconds)
    if (bar === undefined) continue
    const place = sectionPlaces(next).findLast((entry) => entry.firstBar <= bar)
    if (!place) continue
    if (place.firstBar === bar) {
      if (isUnnamed(place.section))
        next = {
          ...next,
          sections: withEntity(next.sections, place.section.id, {
            ...place.section,
            name: section.name,
            kind: section.kind,
          }),
        }
      idAt.set(section.startSeconds, place.section.id)
    } else if (
      isUnnamed(place.section) ||
      heard.some((other) => idAt.get(other.startSeconds) === place.section.id)
    ) {
      const split = splitSection.apply(next, {
        sectionId: place.section.id,
        atBar: bar - place.firstBar,
        newId: section.id,
        name: section.name,
        kind: section.kind,
      })
      if (!split.ok) return split
      next = split.value
      idAt.set(section.startSeconds, section.id)
    }
  }
  for (const section of heard) {
    const [own, target] = [
      idAt.get(section.startSeconds),
      section.returnsStartSeconds === undefined ? undefined : idAt.get(section.returnsStartSeconds),
    ]
    const entry = own === undefined ? undefined : next.sections[own]
    if (!entry || target === undefined || target === own || entry.returns || !next.sections[target]) continue
    next = {
      ...next,
      sections: withEntity(next.sections, entry.id, {
        ...entry,
        returns: { sectionId: target, shiftSemitones: section.shiftSemitones ?? 0, withDifferences: true },
      }),
    }
  }
  return ok(next)
}

/**
 * Chords go to the section in which most of them sounds, at the nearest half of a beat (third in compound
 * meters); what is heard early stays early.
 */
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
  let sections = song.sections
  for (const place of sectionPlaces(song)) {
    const { section } = place
    if (section.harmony.length > 0 || (only && !only.includes(section.id))) continue
    const starts = barStarts(section)
    const end = place.startTicks + place.lengthTicks
    const snap = (tick: number): number => {
      const inside = tick - place.startTicks
      const bar =
        section.bars[
          Math.max(
            0,
            starts.findLastIndex((start, index) => start <= inside + 1 && index < section.bars.length),
          )
        ]!
      const step = bar.free
        ? beatTicks(bar.meter) / 2
        : beatTicks(bar.meter) / (isCompound(bar.meter) ? 3 : 2)
      return Math.round(inside / step) * step
    }
    const harmony = placed
      .filter((chord) => {
        const middle =
          (Math.max(chord.from, place.startTicks - beatTicks(song.meter)) + Math.min(chord.to, end)) / 2
        return middle >= place.startTicks && middle < end && chord.to > place.startTicks && chord.from < end
      })
      .map((chord) => ({
        startTicks: Math.max(-beatTicks(song.meter), snap(chord.from)),
        symbol: chord.symbol,
        confidence: chord.confidence,
      }))
      .filter(
        (chord, index, list) => index === list.length - 1 || list[index + 1]!.startTicks > chord.startTicks,
      )
      .map((chord, index, list) => ({
        ...chord,
        lengthTicks: Math.round((list[index + 1]?.startTicks ?? place.lengthTicks) - chord.startTicks),
      }))
      .filter((chord) => chord.lengthTicks > 0 && chord.symbol !== 'N')
    if (harmony.length) sections = withEntity(sections, section.id, { ...section, harmony })
  }
  return sections === song.sections ? song : { ...song, sections }
}
