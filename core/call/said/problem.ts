// What a call cannot be read past, with its place and what may have been meant.
import type { Span } from './items'

export class SaidProblem extends Error {
  constructor(
    readonly span: Span,
    message: string,
    readonly suggestions: readonly string[],
  ) {
    super(message)
  }
}

/** Something that has to be known before the call can be entered: a question, and no fault. */
export class SaidQuestion extends SaidProblem {}
