// Calls over the form and its chords, as they are said on the map and while listening: "verse 2 as verse 1
// but the last bar", "chorus twice, second time up two frets", "guitar 2 rests here", "8 bars of G, D, Em,
// C, two each".
import { counted, timesWords } from '../words/words'
import { sectionTicks } from '../document/form'
import type { Figure, Section } from '../document/schema'
import { cellPlacements } from '../timeline/cells'
import { copiedCell, playedCell, repeatedCell, restCell, type Cell } from './form-changes'
import { figureNamed, partsNamed, plainWords, sectionsNamed, type FormContext } from './form-names'
import { here, namesOf, partHere, refused, sectionsOr, understood, type FormReading } from './form-reading'
import { harmonyRow } from './harmony-row'
import { landmarkCall } from './landmark-call'
import { rigCall } from './rig-call'

export type { FormContext, FormReading }
const RESTS = /\b(rests?|silent|tacet|doesn't play|does not play|lays? out|drops? out)\b/

/** "guitar 2 rests here", "everyone rests in the break". */
function rests(call: string, words: string, context: FormContext): FormReading | undefined {
  if (!RESTS.test(words)) return undefined
  const assumed: string[] = []
  const named = partsNamed(words, context)
  const own = partHere(context)
  const parts = named.length || !own ? named : [own]
  if (!named.length && own) assumed.push(`${own.name}, where the cursor is`)
  const sections = sectionsOr(words, context, assumed)
  if (!parts.length || !sections.length)
    return refused(call, 'Who rests, and where? Guitar 2 rests in verse 1.')
  const cells = sections.flatMap((section) => parts.map((part) => restCell(context, section, part.id)))
  return understood(
    `${namesOf(parts)} ${parts.length === 1 ? 'rests' : 'rest'} in ${namesOf(sections)}`,
    { cells },
    assumed,
  )
}

/** "but the last bar", "except the last two bars": how many bars at the end stay open. */
function openBars(words: string): number {
  const match = /\b(?:but|except|without|minus)(?: for)?(?: the)? last(?: (\d+))? bars?\b/.exec(words)
  if (!match) return 0
  return match[1] ? Number(match[1]) : 1
}

/** "verse 2 as verse 1 but the last bar": every part that plays there, or the parts named. */
function sameAs(call: string, words: string, context: FormContext): FormReading | undefined {
  const match =
    /^(.*?)\b(?:is |goes |plays )?(?:as|like|the same as|same as|just like|exactly like)\b(.*)$/.exec(words)
  if (!match) return undefined
  const assumed: string[] = []
  const [, before = '', after = ''] = match
  const to = sectionsOr(before, context, assumed)
  const [from] = sectionsNamed(after, context).found
  if (!from || !to.length) return refused(call, 'Which section is like which? Verse 2 as verse 1.')
  const targets = to.filter((section) => section.id !== from.id)
  if (!targets.length) return refused(call, `${from.name} is like itself already: say another section.`)
  const named = partsNamed(words, context)
  const all = context.song.partOrder.flatMap((id) => context.song.parts[id] ?? [])
  const parts = (named.length ? named : all).filter(
    (part) => cellPlacements(context.song, from.id, part.id).length > 0,
  )
  if (!parts.length) return refused(call, `Nothing is charted in ${from.name} yet.`)
  const open = openBars(words)
  const made = targets.flatMap((section) =>
    parts.map((part) => copiedCell(context, from, section, { partId: part.id, openBars: open })),
  )
  const order = context.song.sectionOrder
  const returns = targets
    .filter(
      (section) => !section.returns && order.indexOf(from.id) < order.indexOf(section.id) && !named.length,
    )
    .map((section) => ({
      sectionId: section.id,
      returns: { sectionId: from.id, shiftSemitones: 0, withDifferences: open > 0 },
    }))
  const left = open ? `, ${open === 1 ? 'its last bar' : `its last ${open} bars`} left open` : ''
  const plays = targets.length === 1 ? 'plays' : 'play'
  return understood(
    `${namesOf(targets)} ${plays} what ${from.name} plays (${namesOf(parts)})${left}`,
    { cells: made.map((one) => one.cell), figures: made.flatMap((one) => one.figures), returns },
    assumed,
  )
}

/** "second time up two frets": which way, and how far. */
const LATER =
  /\b(?:second|2nd|next|last) time\b.*?\b(up|down)\b(?: by)? (?:(\d+)|a) (?:frets?|half steps?|semitones?)/
const TIMES: Readonly<Record<string, number>> = { once: 1, twice: 2, thrice: 3 }
function timesIn(words: string): number | undefined {
  const match = /\b(once|twice|thrice|(\d+) times|x ?(\d+))\b/.exec(words)
  if (!match) return undefined
  return TIMES[match[1] ?? ''] ?? Number(match[2] ?? match[3])
}
/** "second time up two frets": frets from the second time on. */
function laterFrets(words: string): number {
  const match = LATER.exec(words)
  if (!match) return 0
  return Number(match[2] ?? 1) * (match[1] === 'down' ? -1 : 1)
}

/** "chorus twice", "chorus twice, second time up two frets". */
function soOften(call: string, words: string, context: FormContext): FormReading | undefined {
  const times = timesIn(words)
  if (times === undefined) return undefined
  if (times < 1 || times > 99) return refused(call, 'Say a number of times up to 99.')
  const assumed: string[] = []
  const sections = sectionsOr(words, context, assumed)
  if (!sections.length) return refused(call, 'Which section? Chorus twice.')
  const named = partsNamed(words, context)
  const frets = laterFrets(words)
  const parts =
    named.length || frets === 0 ? named : context.song.partOrder.flatMap((id) => context.song.parts[id] ?? [])
  if (!parts.length) {
    const change = sections.map((section) => ({ sectionId: section.id, set: { passes: times } }))
    return understood(`${namesOf(sections)} ${timesWords(times)}`, { sections: change }, assumed)
  }
  const cells = sections.flatMap((section) =>
    parts.flatMap((part) => repeatedCell(context, section, part.id, { times, laterFrets: frets }) ?? []),
  )
  if (!cells.length)
    return refused(
      call,
      `What is charted in ${namesOf(sections)} does not fit ${times} times: ` +
        'a longer section, or a shorter figure.',
    )
  const playing = parts.filter((part) => cells.some((cell) => cell.partId === part.id))
  const later = frets
    ? `, from the second time on ${counted(Math.abs(frets), 'fret')} ${frets > 0 ? 'up' : 'down'}`
    : ''
  return understood(`${namesOf(playing)} in ${namesOf(sections)} ${times} times${later}`, { cells }, assumed)
}

const figureWords = (figure: Figure, cells: readonly Cell[]): string => {
  const [first] = cells[0]?.placements ?? []
  const passes = first?.kind === 'figure' ? first.passes : 1
  return `“${figure.name}” ${timesWords(passes)}`
}
/** "guitar 1 plays verse chug in verse 2", "intro riff here, four times". */
function plays(call: string, words: string, context: FormContext): FormReading | undefined {
  const named = partsNamed(words, context)
  const figure =
    figureNamed(words, context, named[0]?.id ?? context.partId) ?? figureNamed(words, context, undefined)
  if (!figure) return undefined
  const assumed: string[] = []
  const rest = words.replace(figure.name.toLowerCase(), ' ')
  const sections = sectionsOr(rest, context, assumed)
  if (!sections.length) return refused(call, `Where is “${figure.name}” played? Say the section.`)
  const cells = sections.flatMap((section) => playedCell(context, section, figure, timesIn(words)) ?? [])
  if (cells.length < sections.length)
    return refused(call, `“${figure.name}” does not fit into ${namesOf(sections)} that often.`)
  const who = context.song.parts[figure.partId]?.name ?? ''
  return understood(`${who} plays ${figureWords(figure, cells)} in ${namesOf(sections)}`, { cells }, assumed)
}

/** "in the bridge: …", "… in verse 2": where chords are laid, and the words without it. */
function whereIn(call: string, context: FormContext): { row: string; sections: Section[] } {
  const where = /^\s*(?:in |for )?(?:the )?([\w\s-]+?)\s*:\s*|[,\s]+in (?:the )?([\w\s-]+)$/i.exec(call)
  const sections = where ? sectionsNamed(plainWords(where[1] ?? where[2] ?? ''), context).found : []
  return where && sections.length
    ? { row: call.replace(where[0], ''), sections }
    : { row: call, sections: [] }
}

/** "8 bars of G, D, Em, C, two each", "in the bridge: Am, F, C, G". */
function chords(call: string, context: FormContext): FormReading | undefined {
  const assumed: string[] = []
  const { row, sections: named } = whereIn(call, context)
  const own = here(context)
  const sections = named.length || !own ? named : [own]
  if (!named.length && own) assumed.push(`in ${own.name}, where the cursor is`)
  if (!sections.length) return undefined
  const rows = sections.map((section) => ({ section, row: harmonyRow(row, section, context) }))
  if (rows.some((one) => !one.row)) return undefined
  const short = rows.find(({ row: said, section }) => said && said.endTicks > sectionTicks(section))?.section
  if (short) return refused(call, `That is longer than ${short.name}, which has ${short.bars.length} bars.`)
  const change = rows.flatMap(({ section, row: said }) =>
    said ? [{ sectionId: section.id, set: { harmony: said.harmony } }] : [],
  )
  const symbols = rows[0]?.row?.symbols ?? []
  return understood(`${namesOf(sections)}: ${symbols.join(', ')}`, { sections: change }, assumed)
}

/** Longest call over the form that is read, in characters. */
const LONGEST = 400

/** Reads a call over the form. Never throws for what is typed. */
export function readFormCall(call: string, context: FormContext): FormReading {
  if (call.length > LONGEST) return refused(call, `A call over the form may have ${LONGEST} characters.`)
  const words = plainWords(call)
  const reading =
    rigCall(call, context) ??
    landmarkCall(call, words, context) ??
    rests(call, words, context) ??
    sameAs(call, words, context) ??
    plays(call, words, context) ??
    chords(call, context) ??
    soOften(call, words, context)
  return (
    reading ??
    refused(call, 'That is no call over the form: say what a section, a part or its chords do.', [
      'verse 2 as verse 1 but the last bar',
      'guitar 2 rests here',
      '8 bars of G, D, Em, C, two each',
      'cue “here we go” in verse 2, bar 3',
      'rig of guitar 1: bridge pickup, crunch, delay eighth',
    ])
  )
}
