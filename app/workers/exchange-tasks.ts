// What the playing worker answers about files: writing a song in an open format, reading one, rendering a
// track to play along to.
import type { Song } from '#core/document/schema'
import type { Format } from '#core/exchange/format-names'
import { exportSong, importFile } from '#core/exchange/formats'
import type { ImportAnswers } from '#core/exchange/import-questions'
import type { Scope } from '#core/exchange/score/from-song'
import { takeIntoSong, type TakeInWish } from '#core/exchange/score/into-song'
import { songFromScore, type SongFacts } from '#core/exchange/score/to-song'
import { writeChordText } from '#core/exchange/text/chord-text'
import type { WrittenScore } from '#core/exchange/score/written-score'
import { ok, refuse, type Result } from '#core/result'
import { backingTrack, type BackingWish, type RecordSound } from '#core/sound/backing-track'
import { openBank, type Bank } from '#core/sound/bank'
import { writeWav } from '#core/sound/wav'

type Report = (stage: string, fraction: number) => void

export interface BackingFile {
  bytes: Uint8Array
  seconds: number
}

let bank: Promise<Bank | undefined> | undefined
async function loadedBank(): Promise<Bank | undefined> {
  const answer = await fetch('/sound/bank.sf3').catch(() => undefined)
  return answer?.ok ? openBank(await answer.arrayBuffer()) : undefined
}

async function backing(
  task: { song: Song; wish: BackingWish; record: RecordSound | undefined },
  report: Report,
): Promise<Result<BackingFile>> {
  bank ??= loadedBank()
  const sounds = await bank
  if (!sounds) {
    bank = undefined
    return refuse('bank', 'The sounds could not be loaded. Reload the page and try again.')
  }
  const { song, wish, record } = task
  const track = backingTrack(sounds, song, wish, {
    report: (share) => report('rendering', share),
    ...(record ? { record } : {}),
  })
  return ok({ bytes: writeWav(track.channels, track.sampleRate), seconds: track.seconds })
}

/** The chords of a file as the text of a written chart. */
function chartText({ bytes, name }: { bytes: Uint8Array; name: string }): Result<string> {
  const read = importFile(bytes, name)
  if (!read.ok) return read
  const { score } = read.value
  if (!score.harmony.length) return refuse('chart', `There are no chords in ${name}.`)
  const made = songFromScore(score, { id: 'chart', sourceName: name })
  return made.ok ? ok(writeChordText(made.value.song)) : made
}

export const EXCHANGE_TASKS = {
  export: (task: { song: Song; format: Format; scope: Scope }) =>
    exportSong(task.song, task.format, task.scope),
  import: (task: { bytes: Uint8Array; name: string; answers?: ImportAnswers | undefined }, report: Report) =>
    importFile(task.bytes, task.name, {
      report: (share) => report('reading', share),
      answers: task.answers,
    }),
  'song of score': (task: { score: WrittenScore; facts: SongFacts }) => songFromScore(task.score, task.facts),
  'part of score': (task: { song: Song; score: WrittenScore; wish: TakeInWish }) =>
    takeIntoSong(task.song, task.score, task.wish),
  'chart text': chartText,
  backing,
}
