// All transactions by name. They are run by `transact` (editing), which adds what follows from them.
import * as band from './band'
import * as bringIn from './bring-in'
import * as doubts from './doubts'
import * as figures from './figures'
import * as placedFigures from './placed-figures'
import * as patterns from './patterns'
import * as placements from './placements'
import * as facts from './facts'
import * as form from './form'
import * as formCall from './form-call'
import * as grid from './grid'
import * as hearing from './hearing'
import type { Transaction } from './transaction'

export const transactions = {
  ...facts,
  ...grid,
  ...hearing,
  ...form,
  ...formCall,
  ...band,
  ...figures,
  ...placedFigures,
  ...patterns,
  ...placements,
  ...bringIn,
  ...doubts,
}
export type TransactionName = keyof typeof transactions
export type ArgsOf<Name extends TransactionName> =
  (typeof transactions)[Name] extends Transaction<infer Args> ? Args : never
