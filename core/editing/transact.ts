// The one way to change a song: arguments checked, the transaction applied, reactions run, the result held
// against the schema and the rules of the document. Pages, command line and tests all come through here.
import { ok, refuse, type Result } from '../result'
import { songProblem } from '../document/invariants'
import { diffSongs, type Patch } from '../document/patch'
import { shapeProblem } from '../document/shape'
import type { Song } from '../document/schema'
import { transactions, type ArgsOf, type TransactionName } from '../document/transactions'
import type { Transaction } from '../document/transactions/transaction'
import { issueWords } from '../document/issue-words'
import { consequencesOf } from './consequences'
import { REACTIONS } from './reactions'

export interface Applied {
  song: Song
  patch: Patch
  /** What was asked for, by itself: "remove Guitar 2". */
  asked: string
  /** The same with what goes along: what undo calls it. */
  label: string
  /** What goes or changes along with it, a sentence each: to be asked before, and named in the label. */
  consequences: string[]
}

/**
 * Validates, applies and returns the next document with the patch that leads there (invert it to undo), or
 * says why not. What it returns can always be read again.
 */
export function transact<Name extends TransactionName>(
  song: Song,
  name: Name,
  args: ArgsOf<Name>,
): Result<Applied> {
  if (!Object.hasOwn(transactions, name)) return refuse('unknown', `There is no change called “${name}”.`)
  const transaction = transactions[name] as unknown as Transaction<ArgsOf<Name>>
  const parsed = transaction.schema.safeParse(args)
  if (!parsed.success)
    return refuse('arguments', `That cannot be entered: ${issueWords(parsed.error.issues[0]!)}.`)
  const applied = transaction.apply(song, parsed.data)
  if (!applied.ok) return applied
  const settled = react(song, applied.value)
  if (!settled.ok) return settled
  const patch = diffSongs(song, settled.value)
  // The shape first: the rules rely on it.
  const problem = shapeProblem(patch) ?? songProblem(settled.value)?.message
  if (problem) return refuse('rule', `That is not possible: ${problem}.`)
  const consequences = consequencesOf(song, settled.value, parsed.data)
  const remade = followersRemade(applied.value, settled.value)
  const asked = `${transaction.label(parsed.data, song)}${remade ? ` and ${remade} that follow it` : ''}`
  return ok({
    song: settled.value,
    patch,
    asked,
    label: consequences.length ? `${asked}, with ${withCount(consequences)}` : asked,
    consequences,
  })
}

/** Lines that were made anew because what they follow changed. */
function followersRemade(asked: Song, settled: Song): number {
  if (asked.figures === settled.figures) return 0
  const figures = Object.values(settled.figures)
  return figures.filter((figure) => figure.derivedFrom && asked.figures[figure.id] !== figure).length
}

const withCount = (consequences: readonly string[]): string =>
  consequences.length === 1 ? consequences[0]! : `${consequences[0]!} and ${consequences.length - 1} more`

function react(before: Song, after: Song): Result<Song> {
  let next = after
  for (const reaction of REACTIONS) {
    const result = reaction(before, next)
    if (!result.ok) return result
    next = result.value
  }
  return ok(next)
}
