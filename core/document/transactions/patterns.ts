// Hand patterns.
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { figureContent } from '../figure-content'
import { patternProblem } from '../invariants/figures'
import { idSchema as id, patternSchema } from '../schema'
import { define, missing, withEntity } from './transaction'

export const setPattern = define(
  z.strictObject({ pattern: patternSchema }),
  ({ pattern }, song) => `${song.patterns[pattern.id] ? 'change' : 'new'} hand pattern "${pattern.name}"`,
  (song, { pattern }) => {
    const problem = patternProblem(pattern)
    if (problem) return refuse('pattern', `The hand pattern ${problem}.`)
    return ok({ ...song, patterns: withEntity(song.patterns, pattern.id, pattern) })
  },
)

/** Removes a pattern; figures that follow it keep what they play. */
export const removePattern = define(
  z.strictObject({ patternId: id }),
  (args, song) => `remove hand pattern "${song.patterns[args.patternId]?.name ?? ''}"`,
  (song, args) => {
    if (!song.patterns[args.patternId]) return missing('pattern')
    const figures = Object.fromEntries(
      Object.entries(song.figures).map(([figureId, figure]) => {
        if (figure.pattern?.patternId !== args.patternId) return [figureId, figure]
        const { pattern: _gone, ...rest } = figure
        return [figureId, { ...rest, content: figureContent(song, figure) }]
      }),
    )
    return ok({ ...song, figures, patterns: withEntity(song.patterns, args.patternId, undefined) })
  },
)
