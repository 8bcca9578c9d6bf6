// export SONG --format F --out FILE, import FILE --out SONG.json [--into SONG --part NAME]: open formats both
// ways, with what is held and what is left out.
import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import type { Result } from '../core/result'
import { transact } from '../core/editing/transact'
import type { Part, Song } from '../core/document/schema'
import { pageSvg } from '../core/engrave/svg'
import { engraveSheet } from '../core/engrave/sheet'
import type { Paper, SheetOptions, SheetPage } from '../core/engrave/sheet-blocks'
import { droppedWords, FORMATS, heldWords, isFormat } from '../core/exchange/format-names'
import { exportSong, importFile, type Imported } from '../core/exchange/formats'
import {
  PITCH_SIDES,
  TIMINGS,
  type ImportAnswers,
  type ImportQuestion,
} from '../core/exchange/import-questions'
import { cellsOf, takeIntoSong } from '../core/exchange/score/into-song'
import type { Scope } from '../core/exchange/score/from-song'
import { songFromScore } from '../core/exchange/score/to-song'
import { Complaint, type Answer, type Flags } from './answer'
import { writeOut } from './write-out'

const OTHERS = ['svg', 'pdf', 'wav'] as const

/** The value of a result; a refusal becomes a complaint in its own words. */
function valueOf<T>(result: Result<T>): T {
  if (!result.ok) throw new Complaint(result.refusal.message)
  return result.value
}

function partNamed(song: Song, name: string): Part {
  const found = Object.values(song.parts).find((part) => part.name.toLowerCase() === name.toLowerCase())
  if (found) return found
  const names = Object.values(song.parts).map((part) => part.name)
  throw new Complaint(`There is no part “${name}”: ${names.join(', ') || 'the song has none'}.`)
}

function scopeOf(song: Song, { part, section }: Flags): Scope {
  const found =
    section && Object.values(song.sections).find(({ name }) => name.toLowerCase() === section.toLowerCase())
  if (section && !found) throw new Complaint(`There is no section “${section}”.`)
  return {
    ...(part ? { partIds: [partNamed(song, part).id] } : {}),
    ...(found ? { sectionId: found.id } : {}),
  }
}

/** Writes a song in a format and says what the file holds. */
export async function exportFile(song: Song, flags: Flags): Promise<Answer> {
  const { format = '', out } = flags
  if (out === undefined) throw new Complaint('export wants --out and a file name.')
  const scope = scopeOf(song, flags)
  if (isFormat(format)) {
    const { bytes, held, dropped } = valueOf(exportSong(song, format, scope))
    writeOut(out, bytes)
    const lost = dropped.map(droppedWords)
    return {
      data: { format, out, bytes: bytes.length, held, dropped },
      words: [
        `${FORMATS[format].words}: ${heldWords(held)}`,
        ...lost.map((words) => `left out: ${words}`),
      ].join('\n'),
    }
  }
  if (format === 'wav') return exportWav(song, scope, out)
  if (format === 'svg' || format === 'pdf') return exportSheet(song, scope, { format, out })
  throw new Complaint(`--format is one of ${[...Object.keys(FORMATS), ...OTHERS].join(', ')}.`)
}

/** The chart as sound, brought to one loudness: the parts and the section asked for. */
async function exportWav(song: Song, { partIds, sectionId }: Scope, out: string): Promise<Answer> {
  const { backingTrack } = await import('../core/sound/backing-track')
  const { openBank } = await import('../core/sound/bank')
  const { writeWav } = await import('../core/sound/wav')
  const file = readFileSync(new URL('../public/sound/bank.sf3', import.meta.url))
  const bytes = file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer
  const { channels, sampleRate, seconds } = backingTrack(await openBank(bytes), song, {
    partIds: partIds ?? song.partOrder,
    speed: 1,
    countInBars: 0,
    click: false,
    times: 1,
    sampleRate: 44_100,
    ...(sectionId ? { fromSectionId: sectionId, toSectionId: sectionId } : {}),
  })
  writeOut(out, writeWav(channels, sampleRate))
  return {
    data: { format: 'wav', out, seconds, dropped: [] },
    words: `${seconds.toFixed(1)} seconds of sound`,
  }
}

function sheetOptions(song: Song, { partIds, sectionId }: Scope): SheetOptions {
  return {
    paper: 'A4' satisfies Paper,
    partIds: partIds ?? song.partOrder,
    naming: 'shape',
    strings: 'letters',
    form: 'exact',
    ...(sectionId ? { sectionId } : {}),
  }
}

async function exportSheet(
  song: Song,
  scope: Scope,
  to: { format: 'svg' | 'pdf'; out: string },
): Promise<Answer> {
  const pages = engraveSheet(song, sheetOptions(song, scope))
  const files =
    to.format === 'svg' ? writeSvg(pages, song.title, to.out) : await writePdf(pages, song.title, to.out)
  return {
    data: { format: to.format, out: to.out, files, pages: pages.length, dropped: [] },
    words: `${pages.length} pages in ${files.join(', ')}`,
  }
}

/** The first page under the name asked for, further ones numbered. */
function writeSvg(pages: readonly SheetPage[], title: string, out: string): string[] {
  return pages.map((page, index) => {
    const name = index === 0 ? out : out.replace(/(\.[^.]*)?$/, (ending) => `-${index + 1}${ending}`)
    writeOut(name, pageSvg(page, title))
    return name
  })
}

async function writePdf(pages: readonly SheetPage[], title: string, out: string): Promise<string[]> {
  const { sheetPdf } = await import('../platform/pdf')
  const font = async (name: string): Promise<Uint8Array> =>
    readFileSync(new URL(`../public/fonts/${name}.ttf`, import.meta.url))
  writeOut(out, await sheetPdf(pages, title, font))
  return [out]
}

/** Reads a file into a new song, or a part of it into a song that is there. */
export async function importToSong(input: string, flags: Flags): Promise<Answer> {
  const { out, into } = flags
  if (out === undefined) throw new Complaint('import wants --out and a file name.')
  let bytes: Uint8Array
  try {
    bytes = readFileSync(input)
  } catch {
    throw new Complaint(`There is no readable file ${input}.`)
  }
  const answers = answersOf(flags)
  const read = valueOf(importFile(bytes, basename(input), { answers }))
  const { song, dropped } =
    into === undefined
      ? newSongOf(read, input)
      : takenInto((await import('./read-document')).readDocument(into), read, flags)
  writeOut(out, `${JSON.stringify(song, null, 1)}\n`)
  const lost = dropped.map(droppedWords)
  return {
    data: { out, held: read.held, dropped, questions: read.questions },
    words: [
      heldWords(read.held),
      ...lost.map((words) => `left out: ${words}`),
      ...read.questions.map(questionWords),
    ].join('\n'),
  }
}

/** What is said of a question where nobody can be asked: what was taken, and how to have it otherwise. */
function questionWords({ id, text, taken, options }: ImportQuestion): string {
  const others = options.map(({ value }) => `"${value}"`).join(', ')
  return `${text} Taken: ${taken}. Otherwise: --${id} ${others}`
}

function answersOf({ pitches, timing }: Flags): ImportAnswers {
  const one = <T extends string>(
    name: string,
    said: string | undefined,
    all: readonly T[],
  ): T | undefined => {
    const known = all.find((value) => value === said)
    if (said !== undefined && !known) throw new Complaint(`--${name} is one of ${all.join(', ')}.`)
    return known
  }
  return { pitches: one('pitches', pitches, PITCH_SIDES), timing: one('timing', timing, TIMINGS) }
}

function newSongOf(
  { score, dropped }: Imported,
  input: string,
): { song: Song; dropped: Imported['dropped'] } {
  const made = valueOf(songFromScore(score, { id: 'brought-in', sourceName: basename(input) }))
  return { song: made.song, dropped: [...dropped, ...made.dropped] }
}

function takenInto(
  song: Song,
  { score, dropped }: Imported,
  { part: name }: Flags,
): { song: Song; dropped: Imported['dropped'] } {
  const from =
    score.parts.find((part) => part.name.toLowerCase() === (name ?? '').toLowerCase()) ?? score.parts[0]
  if (!from) throw new Complaint('There is no part with notes in this file.')
  const partId = name === undefined ? `part-${song.partOrder.length + 1}-in` : partNamed(song, name).id
  const taken = valueOf(takeIntoSong(song, score, { from, partId, prefix: `in${Date.now().toString(36)}` }))
  const next = valueOf(
    transact(song, 'bringInPart', { part: taken.part, figures: taken.figures, cells: cellsOf(taken) }),
  )
  return { song: next.song, dropped: [...dropped, ...taken.dropped] }
}
