// A written score as MusicXML 4.0 (score-partwise, as the W3C community group's specification of 2021 has
// it): every part on a tablature staff, the form unrolled as it is played.
import { strToU8, zipSync } from 'fflate'
import { dropped, type Dropped, type WrittenScore } from '../score/written-score'
import { measuresOf, partListNode } from './write-part'
import { element, writeXml } from './xml'

const DOCTYPE =
  '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" ' +
  '"http://www.musicxml.org/dtds/partwise.dtd">'

/** Who wrote it, in the words by which our own files are known again. */
export const SOFTWARE = 'Synchorda'

/** The text of a `.musicxml` file. */
export function writeMusicXml(score: WrittenScore): string {
  const ids = score.parts.map((_, index) => `P${index + 1}`)
  const root = element(
    'score-partwise',
    [
      element('work', [element('work-title', score.title)]),
      element('identification', [
        ...(score.artist ? [element('creator', score.artist, { type: 'artist' })] : []),
        element('encoding', [element('software', SOFTWARE)]),
      ]),
      element(
        'part-list',
        score.parts.map((part, index) => partListNode(part, ids[index]!)),
      ),
      ...score.parts.map((part, index) =>
        element('part', measuresOf({ score, part, leads: index === 0 }), { id: ids[index]! }),
      ),
    ],
    { version: '4.0' },
  )
  return writeXml(root, DOCTYPE)
}

const SCORE_PATH = 'score.musicxml'
export const CONTAINER_PATH = 'META-INF/container.xml'

/** The same, packed as a `.mxl` file: a zip whose container names the score in it. */
export function writeMxl(score: WrittenScore): Uint8Array {
  const container = writeXml(
    element('container', [
      element('rootfiles', [
        element('rootfile', [], {
          'full-path': SCORE_PATH,
          'media-type': 'application/vnd.recordare.musicxml+xml',
        }),
      ]),
    ]),
    '',
  )
  return zipSync({
    [CONTAINER_PATH]: strToU8(container),
    [SCORE_PATH]: strToU8(writeMusicXml(score)),
  })
}

/** What the format does not hold, or holds only beside its own words. */
export function musicXmlDropped(score: WrittenScore): Dropped[] {
  const notes = score.parts.flatMap((part) => part.notes)
  const past = notes.filter(({ startTicks, lengthTicks }) => startTicks + lengthTicks > score.endTicks)
  return dropped([
    {
      what: 'lengths past the last bar',
      count: past.length,
      why: 'a score ends with its last bar: they are cut there',
    },
  ])
}
