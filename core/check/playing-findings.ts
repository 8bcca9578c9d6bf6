// What no hand can play as it is written: grips out of reach, notes that lie over each other on
// a string, leaps between notes that follow at once.
import { markOf } from '../marks/marks-of'
import { gripFacts } from '../neck/grips/grip'
import { lineProblems } from '../neck/lines/line-problems'
import { inTimeOrder } from '../neck/lines/line'
import { AT_ONCE_TICKS, FARTHEST_SHIFT } from '../neck/lines/overdub'
import { handAdvice } from '../neck/hand-advice'
import { figureContent } from '../document/figure-content'
import type { Content, Figure, Grip, Note, Song } from '../document/schema'
import { figureWords, finding, type Finding } from './finding'

export const playingFindings = (song: Song): Finding[] =>
  Object.values(song.figures).flatMap((figure) => figurePlaying(song, figure))

function figurePlaying(song: Song, figure: Figure): Finding[] {
  const part = song.parts[figure.partId]!
  const content = figureContent(song, figure)
  const at = (startTicks: number) => ({ partId: part.id, figureId: figure.id, startTicks })
  const where = (tick: number): string => `“${figure.name}”, ${figureWords(figure, tick)}`
  const found: Finding[] = []
  for (const span of content.grips) {
    const { caution } = gripFacts(song, part, span.grip, 'shape')
    if (caution !== undefined)
      found.push(finding(['reach', 'look'], `${where(span.startTicks)}: ${caution}`, at(span.startTicks)))
  }
  for (const { startTicks, text } of lineProblems(content, part))
    found.push(
      finding(['playing', 'wrong'], `${where(startTicks)}: ${text}.`, at(startTicks), { facts: [text] }),
    )
  for (const { kind, startTicks, words, facts } of handAdvice(content, part))
    if (kind === 'stretch')
      found.push(finding(['reach', 'look'], `${where(startTicks)}: ${words}.`, at(startTicks), { facts }))
  for (const { startTicks, text } of slidShapes(content))
    found.push(
      finding(['playing', 'look'], `${where(startTicks)}: ${text}`, at(startTicks), { facts: [text] }),
    )
  for (const { note, words } of [...overlaps(content), ...leaps(content)])
    found.push(
      finding([words.kind, words.severity], `${where(note.startTicks)}: ${words.text}`, at(note.startTicks), {
        facts: [note.string, note.fret],
      }),
    )
  return found
}

/** A hand that slides keeps its shape: every finger goes the same way along the neck. */
function slidShapes({ grips, strokes }: Content): { startTicks: number; text: string }[] {
  const heldAt = (tick: number): Grip | undefined =>
    grips.findLast(({ startTicks, lengthTicks }) => startTicks <= tick && tick < startTicks + lengthTicks)
      ?.grip
  return strokes.flatMap((stroke, index) => {
    const { startTicks } = stroke
    const before = strokes[index - 1]
    const how = markOf(stroke, 'slide')?.how
    if (!before || (how !== 'legato' && how !== 'shift')) return []
    const [from, to] = [heldAt(before.startTicks), heldAt(startTicks)]
    const ways = new Set(
      to?.strings.flatMap(({ fret }, string) => {
        const left = from?.strings[string]?.fret
        return fret && left ? [fret - left] : []
      }),
    )
    if (ways.size === 1 && !ways.has(0)) return []
    const text =
      ways.has(0) && ways.size === 1 ? 'the grip slid to is the same' : 'the grip slid to is another shape'
    return [{ startTicks, text: `${text}: a slide moves every finger by the same frets.` }]
  })
}

interface Said {
  note: Note
  words: { kind: 'overlapping notes' | 'leap'; severity: 'wrong' | 'look'; text: string }
}

/** A string sounds one note at a time. */
function overlaps({ notes }: Content): Said[] {
  const last = new Map<number, Note>()
  return inTimeOrder(notes).flatMap((note): Said[] => {
    const before = last.get(note.string)
    last.set(note.string, note)
    if (!before || before.startTicks + before.lengthTicks <= note.startTicks) return []
    const text = `two notes on string ${note.string} at once: frets ${before.fret} and ${note.fret}.`
    return [{ note, words: { kind: 'overlapping notes', severity: 'wrong', text } }]
  })
}

/** A shift along the neck farther than a hand goes between two notes that follow at once. */
function leaps({ notes }: Content): Said[] {
  const line = inTimeOrder(notes.filter(({ fret }) => fret > 0))
  return line.flatMap((note, index): Said[] => {
    const before = line[index - 1]
    const slid = note.marks.some(({ kind }) => kind.startsWith('slide'))
    if (!before || slid || note.startTicks - before.startTicks > AT_ONCE_TICKS) return []
    const frets = Math.abs(note.fret - before.fret)
    if (frets <= FARTHEST_SHIFT || note.startTicks === before.startTicks) return []
    const text =
      `from fret ${before.fret} to ${note.fret} within an eighth: no hand is there in time; ` +
      'was it overdubbed, or does it lie elsewhere on the neck?'
    return [{ note, words: { kind: 'leap', severity: 'look', text } }]
  })
}
