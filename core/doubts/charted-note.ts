// What is charted at a place that somebody doubts, and which seconds of the recording tell about it.
import type { Figure, Place, Song } from '../document/schema'
import { sectionPlaces, songTimeMap } from '../document/form'
import { ticksToSeconds } from '../time/beat-grid'
import { TICKS_PER_QUARTER } from '../time/meter'
import { notesWithin, songNotes, type SongNote } from '../score/song-notes'
import { firstPlayOf, timelineOf } from '../timeline/timeline'

/** The place in ticks of the song; a doubt without a length is about the beat from there. */
export function placeTicks(song: Song, place: Place, beat: number): { from: number; to: number } | undefined {
  const section = sectionPlaces(song).find((one) => one.section.id === place.sectionId)
  if (!section) return undefined
  const from = section.startTicks + place.startTicks
  return { from, to: from + (place.lengthTicks ?? beat) }
}

/** The first charted note of the place's part that begins in it, the highest of several. */
export function chartedNote(song: Song, place: Place, beat: number): SongNote | undefined {
  const ticks = placeTicks(song, place, beat)
  if (!ticks || place.partId === undefined) return undefined
  const notes = notesWithin(songNotes(song), ticks.from, ticks.to).filter(
    ({ part }) => part.id === place.partId,
  )
  const first = notes[0]?.startTicks
  return notes
    .filter(({ startTicks }) => startTicks === first)
    .sort((a, b) => b.midi - a.midi)
    .at(0)
}

/**
 * The seconds to listen to: of the note that is asked about where one is, else of the whole place. Undefined
 * where nothing is laid out.
 */
export function placeSeconds(
  song: Song,
  place: Place,
  midi: number | undefined,
): { start: number; end: number } | undefined {
  const map = songTimeMap(song)
  const ticks = placeTicks(song, place, TICKS_PER_QUARTER)
  if (!map || !ticks) return undefined
  const notes = notesWithin(songNotes(song), ticks.from, ticks.to)
  const note = notes.find((one) => one.part.id === place.partId && Math.round(one.midi) === midi)
  const { from, to } = note ? { from: note.startTicks, to: note.endTicks } : ticks
  return {
    start: ticksToSeconds(map, Math.max(0, from)),
    end: ticksToSeconds(map, Math.min(map.endTicks, Math.max(0, to))),
  }
}

/** A bar of the form, counted from 0, as a place; of one part where it is given. */
export function barPlace(song: Song, barIndex: number): Place | undefined {
  const bar = timelineOf(song).bars[barIndex]
  const section = bar && sectionPlaces(song).find((one) => one.section.id === bar.sectionId)
  if (!bar || !section) return undefined
  const { sectionId, startTicks, lengthTicks } = bar
  return { sectionId, startTicks: startTicks - section.startTicks, lengthTicks }
}

/** A tick of a figure where it is first played; undefined where it is played nowhere. */
export function figurePlace(
  song: Song,
  figure: Figure,
  at: { startTicks: number; lengthTicks: number },
): Place | undefined {
  const play = firstPlayOf(song, figure.id)
  const section = play && sectionPlaces(song).find((one) => one.section.id === play.placement.sectionId)
  if (!play || !section) return undefined
  const startTicks = play.startTicks + at.startTicks - section.startTicks
  if (startTicks >= section.lengthTicks) return undefined
  return {
    partId: figure.partId,
    sectionId: play.placement.sectionId,
    startTicks,
    lengthTicks: at.lengthTicks,
  }
}
