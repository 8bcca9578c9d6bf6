// All transactions by name, and the one way to run them.
import { ok, refuse, type Result } from '../../result'
import { diffSongs, type Patch } from '../patch'
import type { Song } from '../schema'
import * as band from './band'
import * as chart from './chart'
import * as doubts from './doubts'
import * as facts from './facts'
import * as form from './form'
import * as grid from './grid'
import * as hearing from './hearing'
import type { Transaction } from './transaction'

export const transactions = { ...facts, ...grid, ...hearing, ...form, ...band, ...chart, ...doubts }
export type TransactionName = keyof typeof transactions
export type ArgsOf<Name extends TransactionName> = (typeof transactions)[Name] extends Transaction<infer Args> ? Args : never

export interface Applied { song: Song; patch: Patch; label: string }

/** Validates, applies and returns the next document with the patch that leads there (invert it to undo), or says why not. */
export function transact<Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Result<Applied> {
  const transaction = transactions[name] as unknown as Transaction<ArgsOf<Name>>
  const parsed = transaction.schema.safeParse(args)
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!
    return refuse('arguments', `That cannot be entered: ${issue.path.join(' ')} ${issue.message.toLowerCase()}.`)
  }
  const label = transaction.label(parsed.data, song)
  const result = transaction.apply(song, parsed.data)
  if (!result.ok) return result
  return ok({ song: result.value, patch: diffSongs(song, result.value), label })
}
