// A figure said as one says it to a student: "7 on the G, hammer on to 9, then 8 on the B with vibrato". What
// these words cannot say exactly is said in the exact words instead, so that what is spoken is always
// understood back as the same content.
import { same } from '../same'
import type { Mark, Content, Note } from '../document/schema'
import { bendWords } from './said/bend-amount'
import { speak } from './speak'
import type { SpeakOptions, SpokenLine } from './speech'
import { callString } from './strings'
import { noteValueName } from './vocabulary'

const MOVE_WORDS: Partial<Record<Mark['kind'], string>> = {
  'hammer-on': 'hammer on to',
  'pull-off': 'pull off to',
}
const BEND_ENDS: Partial<Record<string, string>> = {
  plain: '',
  'bend and hold': ' and hold it',
  'bend and release': ' and release',
}

/** A mark in words behind its note; undefined when it is a movement, null when there are no such words. */
function markWords(mark: Mark): string | null | undefined {
  switch (mark.kind) {
    case 'hammer-on':
    case 'pull-off':
    case 'dead':
      return undefined
    case 'slide':
      return mark.how === 'legato' ? undefined : null
    case 'bend': {
      const end = BEND_ENDS[mark.shape]
      return end === undefined ? null : `, bend it ${bendWords(mark.semitones)}${end}`
    }
    case 'vibrato':
      return mark.width === 'wide' ? ' with wide vibrato' : ' with vibrato'
    case 'let ring':
      return ', let it ring'
    case 'palm mute':
      return mark.pressure === 'medium' ? ' palm muted' : ` palm muted ${mark.pressure}`
    case 'staccato':
      return ' staccato'
    default:
      return null
  }
}

const has = (note: Note, kind: Mark['kind']): boolean => note.marks.some((mark) => mark.kind === kind)

/** A note reached by a movement; it stays on its string, which has been named. Null where it does not. */
function movedWords(note: Note, string: string | undefined, after: string): string | null | undefined {
  const move = note.marks.find((mark) => mark.kind in MOVE_WORDS || mark.kind === 'slide')
  if (!move) return undefined
  if (string !== undefined) return null
  return `${MOVE_WORDS[move.kind] ?? 'slide to'} ${note.fret === 0 ? 'open' : note.fret}${after}`
}

/** One note; `string` is named where it changes. Null where these words do not reach. */
function noteWords(note: Note, string: string | undefined): string | null {
  const marks = note.marks.map(markWords)
  if (has(note, 'accent') || note.finger || note.pick || marks.includes(null)) return null
  const on = string === undefined ? '' : ` on the ${string}`
  const after = marks.filter(Boolean).join('')
  if (has(note, 'dead')) return note.fret === 0 && note.marks.length === 1 ? `dead note${on}` : null
  const moved = movedWords(note, string, after)
  if (moved !== undefined) return moved
  if (note.fret === 0) return string === undefined ? `open${after}` : `open ${string}${after}`
  return `${note.fret}${on}${after}`
}

interface Spoken {
  clauses: string[]
  string: number | undefined
  cursor: number
}

/** A length that is not the step: "for a quarter". */
function lengthWords(ticks: number, step: number): string | null {
  if (ticks === step) return ''
  const name = noteValueName(ticks)
  return name === undefined
    ? null
    : ` for ${name.startsWith('e') ? 'an' : 'a'} ${name === 'halves' ? 'half' : name.replace(/s$/, '')}`
}

/** Everything that begins at one time. */
function momentWords(notes: readonly Note[], spoken: Spoken, options: SpeakOptions): string | null {
  const length = lengthWords(notes[0]!.lengthTicks, options.stepTicks)
  if (length === null || notes.some((note) => note.lengthTicks !== notes[0]?.lengthTicks)) return null
  const words = notes.map((note) => {
    const stays = notes.length === 1 && note.string === spoken.string
    return noteWords(note, stays ? undefined : callString(options.letters, note.string, options.strings))
  })
  if (words.includes(null)) return null
  const changes = spoken.string !== undefined && (notes.length > 1 || notes[0]?.string !== spoken.string)
  return `${changes ? 'then ' : ''}${words.join(' with ')}${length}`
}

/** The notes of a content in one sentence; undefined where these words do not reach. */
export function saidWords(notes: readonly Note[], options: SpeakOptions): string | undefined {
  const starts = [...new Set(notes.map((note) => note.startTicks))]
  const spoken: Spoken = { clauses: [], string: undefined, cursor: starts[0] ?? 0 }
  for (const tick of starts) {
    for (; spoken.cursor + options.stepTicks <= tick; spoken.cursor += options.stepTicks)
      spoken.clauses.push('rest')
    if (spoken.cursor !== tick) return undefined
    const here = notes.filter((note) => note.startTicks === tick).sort((a, b) => b.string - a.string)
    const words = momentWords(here, spoken, options)
    if (words === null) return undefined
    spoken.clauses.push(words)
    spoken.string = here.length === 1 ? here[0]?.string : undefined
    spoken.cursor = tick + here[0]!.lengthTicks
  }
  return spoken.clauses.join(', ')
}

/**
 * The call-outs of a content as one says them, where they are understood back as exactly that; else in the
 * exact words. `understand` reads a call from the beginning of the figure.
 */
export function speakSaid(
  content: Content,
  options: SpeakOptions,
  understand: (call: string) => Content | undefined,
): SpokenLine[] {
  const exact = speak(content, options)
  const only = content.grips.length + content.strokes.length + content.mutes.length === 0
  const [first] = content.notes
  if (!only || first?.startTicks !== 0) return exact
  const text = saidWords(content.notes, options)
  const back = text === undefined ? undefined : understand(text)
  if (text === undefined || !back || !sameContent(back, content)) return exact
  return [{ layer: 'notes', startTicks: 0, text }]
}

const bare = (content: Content): unknown =>
  content.notes
    .map(({ id: _id, ...note }) => note)
    .sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
    .map((note) => [
      note.startTicks,
      note.lengthTicks,
      note.string,
      note.fret,
      note.marks,
      note.pick,
      note.finger,
    ])
/** Whether two contents play the same notes, whatever their ids. */
const sameContent = (a: Content, b: Content): boolean =>
  same(bare(a), bare(b)) && a.strokes.length + a.grips.length === b.strokes.length + b.grips.length
