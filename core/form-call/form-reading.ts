// What reading a call over the form gives, and the names it is said with.
import { listed } from '../words/words'
import type { CallError } from '../call/reading'
import type { Part, Section } from '../document/schema'
import type { ArgsOf } from '../document/transactions'
import { sectionsNamed, type FormContext } from './form-names'

export type Change = Omit<ArgsOf<'enterFormCall'>, 'what'>
export type FormReading =
  | {
      ok: true
      /** What Enter will do, in a sentence. */
      says: string
      /** What was not said and was taken from the cursor or the first of several. */
      assumed: string[]
      change: Change
    }
  | { ok: false; error: CallError }

const EMPTY: Change = { figures: [], cells: [], sections: [], returns: [] }
export const understood = (says: string, change: Partial<Change>, assumed: string[] = []): FormReading => ({
  ok: true,
  says,
  assumed,
  change: { ...EMPTY, ...change },
})
export const refused = (call: string, message: string, suggestions: string[] = []): FormReading => ({
  ok: false,
  error: { at: 0, end: call.length, message, suggestions },
})

export const namesOf = (list: readonly { name: string }[]): string => listed(list.map((one) => one.name))

export const here = (context: FormContext): Section | undefined =>
  context.sectionId === undefined ? undefined : context.song.sections[context.sectionId]
export const partHere = (context: FormContext): Part | undefined =>
  context.partId === undefined ? undefined : context.song.parts[context.partId]

/** The sections spoken of, else the one at the cursor. */
export function sectionsOr(words: string, context: FormContext, assumed: string[]): Section[] {
  const named = sectionsNamed(words, context)
  if (named.assumed) assumed.push(`in ${namesOf(named.found)}`)
  if (named.found.length) return named.found
  const section = here(context)
  if (section) assumed.push(`in ${section.name}, where the cursor is`)
  return section ? [section] : []
}
