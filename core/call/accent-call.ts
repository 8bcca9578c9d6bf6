// Accents of the band said on the call line: "accents of the voice on 1, the and of 2 and 4", "accents of the
// keys in bar 2 on 1 and 3".
import { FOLLOWED, type AccentLine, type Figure } from '../document/schema'
import { barTicks, tickOfCount } from '../time/meter'
import { numberOf } from './vocabulary'

export type AccentCall = { ok: true; of: AccentLine['of']; at: number[] } | { ok: false; message: string }

const SAID = /^\s*(?:the )?accents? of (?:the )?(\w+)\b(.*)$/is
const EXAMPLE = 'Accents of the voice on 1, the and of 2, 4.'

/** "1", "the and of 2", "the & of 2": a place in the bar, in ticks. */
function countSaid(words: string, figure: Figure): number | undefined {
  const match = /^(?:the )?(?:(and|&) of )?(?:the )?(\w+)( and| &)?$/.exec(words.trim())
  const beat = numberOf(match?.[2] ?? '')
  if (!match || beat === undefined) return undefined
  return tickOfCount(figure.meter, beat, (match[1] ?? match[3]) !== undefined)
}

/** Counts between commas and "and"; "the and of" is one word of its own. */
const countsIn = (words: string): string[] =>
  words
    .replaceAll(/\b(and|&) of\b/g, '& of')
    .split(/\s*(?:,\s*(?:and\s+)?|\sand\s)\s*/)
    .filter(Boolean)

/** The bars meant: the one that is named, else all. Undefined when there is no such bar. */
function barsMeant(words: string, bars: number): { only: number[]; rest: string } | undefined {
  const named = /\bin bar (\w+)\b/.exec(words)
  if (!named) return { only: Array.from({ length: bars }, (_, index) => index), rest: words }
  const bar = numberOf(named[1] ?? '')
  if (bar === undefined || bar < 1 || bar > bars) return undefined
  return { only: [bar - 1], rest: words.replace(named[0], '') }
}

const refused = (message: string): AccentCall => ({ ok: false, message })

/**
 * What a call says of accents, for every bar of the figure or the one it names; undefined for other calls.
 */
export function readAccentCall(call: string, figure: Figure): AccentCall | undefined {
  // Single spaces: the patterns here look for words around them.
  const match = SAID.exec(call.toLowerCase().replaceAll(/\s+/g, ' ').trim())
  if (!match) return undefined
  const of = FOLLOWED.find((one) => one === match[1])
  if (!of) return refused(`Whose? Accents are followed of ${FOLLOWED.join(', ')}.`)
  const bar = barTicks(figure.meter)
  const count = Math.ceil(figure.lengthTicks / bar)
  const meant = barsMeant(match[2] ?? '', count)
  if (!meant) return refused(`“${figure.name}” has bars 1 to ${count}.`)
  const said = /\bon\b(.*)$/.exec(meant.rest)?.[1]?.trim() ?? ''
  const words = countsIn(said)
  const counts = words.flatMap((one) => countSaid(one, figure) ?? [])
  if (words.length === 0) return refused(`On which counts? ${EXAMPLE}`)
  if (counts.length < words.length) return refused(`That is no count of this bar. ${EXAMPLE}`)
  const at = meant.only.flatMap((index) => counts.map((tick) => index * bar + tick))
  return { ok: true, of, at: at.filter((tick) => tick < figure.lengthTicks) }
}
