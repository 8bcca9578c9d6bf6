// check SONG [--recording IN.wav]: what is missing, does not add up, cannot be played, is heard otherwise.
import type { Song } from '../core/document/schema'
import { checkSong } from '../core/check/check'
import { findingSeconds, placeWords, type Finding } from '../core/check/finding'
import { clock } from '../core/time/beat-grid'
import type { Answer } from './answer'

/** A finding as scripts get it: its place by ids, in words, and in seconds of the recording. */
function told(song: Song, { id, kind, severity, words, place, fix, excused }: Finding): object {
  const seconds = findingSeconds(song, place)
  return {
    id,
    kind,
    severity,
    place: {
      ...place,
      words: placeWords(song, place),
      ...(seconds === undefined ? {} : { seconds: Math.round(seconds * 1000) / 1000 }),
    },
    words,
    ...(fix ? { fix: { words: fix.words, transaction: fix.name, args: fix.args } } : {}),
    ...(excused === undefined ? {} : { excused }),
  }
}

function line(song: Song, { kind, words, place }: Finding): string {
  const seconds = findingSeconds(song, place)
  return `${seconds === undefined ? '' : `${clock(seconds)} `}${kind}: ${words}`
}

/** `damage` is what of the document could not be read at all; `heard` what a recording says against it. */
export function check(song: Song, damage: readonly string[] = [], heard: readonly Finding[] = []): Answer {
  const { open, excused } = checkSong(song, 0, heard)
  const damaged = damage.map((words): Finding => ({
    id: `damaged/${words}`,
    kind: 'damaged',
    severity: 'wrong',
    words,
    place: {},
  }))
  const all = [...damaged, ...open]
  const count = all.length === 1 ? '1 finding' : `${all.length} findings`
  const wanted = excused.length ? `, ${excused.length} excused` : ''
  return {
    data: {
      findings: all.map((one) => told(song, one)),
      excused: excused.map((one) => told(song, one)),
    },
    words: [
      ...all.map((one) => line(song, one)),
      all.length ? `${count}${wanted}` : `Nothing missing, everything adds up${wanted}.`,
    ].join('\n'),
  }
}
