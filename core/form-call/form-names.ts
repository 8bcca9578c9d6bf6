// Sections, parts and figures as they are called when one talks about a song: "verse 2", "the last chorus",
// "guitar 2", "everyone".
import { SECTION_KINDS, type Figure, type Part, type Section, type Song } from '../document/schema'
import { NUMBER_WORDS, ordinalOf } from '../call/vocabulary'

/** The form as a call sees it: the song and the cell at the cursor. */
export interface FormContext {
  song: Song
  sectionId?: string | undefined
  partId?: string | undefined
  newId: () => string
  /** A chord as it is typed, as it sounds. */
  sounding: (symbol: string) => string
}

/** A call in small letters, numbers in figures, without what carries nothing. */
export function plainWords(call: string): string {
  const words = call.toLowerCase().replaceAll(/[“”"]/g, '').replaceAll(/\s+/g, ' ').trim()
  return words.replaceAll(/[a-z-]+/g, (word) => {
    const number = NUMBER_WORDS.indexOf(word)
    return number > 0 ? String(number) : word
  })
}

const escaped = (name: string): string => name.replaceAll(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`)
/** Whether a name stands in the words, as whole words. */
const says = (words: string, name: string): boolean =>
  name.trim() !== '' && new RegExp(`(^|[^a-z0-9])${escaped(name.toLowerCase())}($|[^a-z0-9])`).test(words)

const longestFirst = <T extends { name: string }>(list: readonly T[]): T[] =>
  list.toSorted((a, b) => b.name.length - a.name.length)

const inOrder = (song: Song): Section[] => song.sectionOrder.flatMap((id) => song.sections[id] ?? [])

/** "last chorus", "second verse": the one of its kind. */
function byOrdinal(words: string, all: readonly Section[]): Section | undefined {
  for (const kind of SECTION_KINDS) {
    const match = new RegExp(`(last|final|\\w+) ${kind}s?\\b`).exec(words)
    const of = all.filter((section) => section.kind === kind)
    if (!match || of.length === 0) continue
    const which = match[1] ?? ''
    if (/last|final/.test(which)) return of.at(-1)
    const number = ordinalOf(which)
    if (number !== undefined) return of[number - 1]
  }
  return undefined
}

export interface Named<T> {
  found: T[]
  /** Taken from the cursor, or the first of several. */
  assumed: boolean
}

/** The sections the words speak of; the one at the cursor for "here" and where a kind fits it. */
export function sectionsNamed(words: string, { song, sectionId }: FormContext): Named<Section> {
  const all = inOrder(song)
  const here = all.find((section) => section.id === sectionId)
  if (/\b(here|this section|this part)\b/.test(words) && here) return { found: [here], assumed: false }
  const named = longestFirst(all).find((section) => says(words, section.name))
  const ordinal = byOrdinal(words, all)
  const plural = SECTION_KINDS.find(
    (kind) =>
      new RegExp(`\\b(every|each|all|all the|the) ${kind}(e?s)?\\b`).test(words) &&
      new RegExp(`\\b(every|each|all)( the)? ${kind}|${kind}e?s\\b`).test(words),
  )
  if (plural) return { found: all.filter((section) => section.kind === plural), assumed: false }
  if (ordinal) return { found: [ordinal], assumed: false }
  if (named) return { found: [named], assumed: false }
  const kind = SECTION_KINDS.find((one) => says(words, one))
  if (kind === undefined) return { found: [], assumed: false }
  if (here?.kind === kind) return { found: [here], assumed: false }
  const of = all.filter((section) => section.kind === kind)
  return { found: of.slice(0, 1), assumed: of.length > 1 }
}

/** The parts the words speak of; all for "everyone". */
export function partsNamed(words: string, { song }: FormContext): Part[] {
  const all = song.partOrder.flatMap((id) => song.parts[id] ?? [])
  if (/\b(everyone|everybody|everything|the band|all of us|whole band)\b/.test(words)) return all
  let rest = words
  const found: Part[] = []
  for (const part of longestFirst(all)) {
    if (!says(rest, part.name)) continue
    found.push(part)
    rest = rest.replace(part.name.toLowerCase(), ' ')
  }
  if (found.length) return all.filter((part) => found.includes(part))
  const bass = /\b(the )?bass\b/.test(words) ? all.filter((part) => part.role === 'bass') : []
  return bass
}

/** The figure of a part that is named, the longest name first. */
export function figureNamed(
  words: string,
  { song }: FormContext,
  partId: string | undefined,
): Figure | undefined {
  const of = Object.values(song.figures).filter((figure) => partId === undefined || figure.partId === partId)
  return longestFirst(of).find((figure) => says(words, figure.name))
}
