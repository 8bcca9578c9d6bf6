import { pitched } from '#core/neck/lines/line'
import type { Content, Note } from '#core/document/schema'

/** A figure's content with another line in place of its own; its dead notes stay. */
export function withLine(content: Content, line: readonly Note[]): Content {
  const own = new Set(pitched(content))
  const dead = content.notes.filter((note) => !own.has(note))
  return {
    ...content,
    notes: [...dead, ...line].sort((a, b) => a.startTicks - b.startTicks || b.string - a.string),
  }
}
