// Files that would cost more than they are worth: refused before the work, in a sentence, or read quickly.
// Each of these took from four seconds to two minutes.
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { importFile } from './formats'
import { songFromScore } from './score/to-song'
import { workedMs } from '../../tests/support/working-time'

/** Ample for a slow machine: what is quadratic takes longer than this by far. */
const MOST_MS = 8000
const score = (measures: string, parts = 1): Uint8Array => {
  const ids = Array.from({ length: parts }, (_, index) => `P${index}`)
  const listed = ids.map((id) => `<score-part id="${id}"><part-name>${id}</part-name></score-part>`)
  const written = ids.map((id) => `<part id="${id}">${measures}</part>`)
  return strToU8(
    `<?xml version="1.0"?><score-partwise><part-list>${listed.join('')}</part-list>` +
      `${written.join('')}</score-partwise>`,
  )
}
const ATTRIBUTES = '<attributes><divisions>2</divisions></attributes>'
const note = (duration: number, step = 'E'): string =>
  `<note><pitch><step>${step}</step><octave>3</octave></pitch><duration>${duration}</duration></note>`
const bars = (count: number, inner: (index: number) => string): string =>
  Array.from(
    { length: count },
    (_, index) => `<measure number="${index + 1}">${index ? '' : ATTRIBUTES}${inner(index)}</measure>`,
  ).join('')
const eighths = (index: number): string =>
  Array.from({ length: 8 }, (_, at) => note(1, 'CDEFGAB'[(index * 3 + at * 2) % 7])).join('')
const repeated = (times: number): string =>
  `<barline><repeat direction="backward" times="${times}"/></barline>`
const ending = (numbers: string): string => `<barline><ending number="${numbers}" type="start"/></barline>`

function midi(events: number[][]): Uint8Array {
  const body = [...events, [0, 0xff, 0x2f, 0]].flat()
  const length = [24, 16, 8, 0].map((shift) => (body.length >> shift) & 255)
  const header = [...strToU8('MThd'), 0, 0, 0, 6, 0, 0, 0, 1, 1, 0xe0, ...strToU8('MTrk'), ...length]
  return Uint8Array.from([...header, ...body])
}
const many = <T>(count: number, make: (index: number) => T): T[] =>
  Array.from({ length: count }, (_, index) => make(index))
/** A zip whose headers say that an entry is small. */
function lying(): Uint8Array {
  const zip = zipSync({ 'score.xml': new Uint8Array(300_000_000) })
  const view = new DataView(zip.buffer)
  for (let at = 0; at + 30 < zip.length; at++) {
    if (view.getUint32(at, true) === 0x04034b50) view.setUint32(at + 22, 1000, true)
    if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 1000, true)
  }
  return zip
}

const REFUSED: [what: string, file: string, make: () => Uint8Array, words: RegExp][] = [
  [
    'a million attributes',
    'a.musicxml',
    () => score(`<measure ${many(1e6, (at) => `a${at}="1"`).join(' ')}/>`),
    /damaged/,
  ],
  ['a million instructions', 'a.musicxml', () => strToU8('<?a b?>'.repeat(1e6)), /damaged/],
  ['tags without end', 'a.musicxml', () => score('<a'.repeat(2e6)), /damaged/],
  ['three million tags', 'a.musicxml', () => score('<a/>'.repeat(3e6)), /too large/],
  [
    'repeats of sixteen times',
    'a.musicxml',
    () =>
      score(
        bars(400, (at) => eighths(at) + repeated(16)),
        8,
      ),
    /320000 notes when its repeats are played out/,
  ],
  [
    'endings that are never reached',
    'a.musicxml',
    () => score(bars(3000, () => ending('16') + note(8) + repeated(16))),
    /leave no measure to play/,
  ],
  [
    'a packed container of 39 MB',
    'a.mxl',
    () => zipSync({ 'META-INF/container.xml': strToU8(`<a>${'<a/>'.repeat(9.7e6)}</a>`) }),
    /packed score is damaged/,
  ],
  ['a zip that lies about its size', 'a.mxl', lying, /too large when unpacked/],
]
const READ: [what: string, file: string, make: () => Uint8Array][] = [
  [
    'an ending on every bar',
    'a.musicxml',
    () => score(bars(3000, () => ending('1,2,3') + note(8) + repeated(2))),
  ],
  ['ten thousand short notes in a bar', 'a.musicxml', () => score(bars(1, () => eighths(1).repeat(1250)))],
  [
    '60,000 spaces between two chords',
    'a.txt',
    () => strToU8(`Verse:\nAm${' '.repeat(60_000)}F\n| Am | F |`),
  ],
  [
    'long notes under 100,000 bends',
    'a.mid',
    () =>
      midi([
        ...many(5000, (at) => [at % 50 ? 0 : 1, 0x90, 40 + (at % 50), 80]),
        ...many(100_000, (at) => [at % 40 ? 0 : 1, 0xe0, at % 128, 64]),
        ...many(5000, (at) => [at % 50 ? 0 : 1, 0x80, 40 + (at % 50), 0]),
      ]),
  ],
  [
    '100,000 meters',
    'a.mid',
    () =>
      midi([
        ...many(100_000, (at) => [1, 0xff, 0x58, 4, 1 + (at % 2), 4, 24, 8]),
        [0, 0x90, 60, 80],
        [10, 0x80, 60, 0],
      ]),
  ],
]

describe('a file that would cost too much', () => {
  it.each(REFUSED)('%s is refused before the work', (_, file, make, words) => {
    const bytes = make()
    const began = workedMs()
    const result = importFile(bytes, file)
    expect(result.ok ? 'read' : result.refusal.message).toMatch(words)
    expect(workedMs() - began).toBeLessThan(MOST_MS)
  })
  it.each(READ)('%s is read, and makes a song', (_, file, make) => {
    const bytes = make()
    const began = workedMs()
    const result = importFile(bytes, file)
    const made = result.ok ? songFromScore(result.value.score, { id: 'x', sourceName: file }) : result
    expect(made.ok ? 'made' : made.refusal.message).toBe('made')
    expect(workedMs() - began).toBeLessThan(MOST_MS)
  })
})
