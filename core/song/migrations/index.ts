// From any older file to the present schema. Each step is a pure function on plain data from version n to n + 1 and has a kept old file
// in ./kept that the tests run through the whole chain. Never edit a kept file or a shipped step.
import { ok, refuse, type Result } from '../../result'
import { brokenReference } from '../references'
import { SCHEMA_VERSION, songSchema, type Song } from '../schema'

type Plain = Record<string, unknown>
/** `steps[n]` leads from version n to n + 1. Version 0 is the format of the first trials: swing as a bare number, no spots. */
const steps: Record<number, (old: Plain) => Plain> = {
  0: (old) => {
    const { swing, ...rest } = old
    return { ...rest, schemaVersion: 1, feel: { subdivision: 'eighths', swing: { ratio: typeof swing === 'number' ? swing : 0.5, level: 'eighths' } }, spots: old.spots ?? {}, doubts: old.doubts ?? {} }
  },
  // Version 1 had no patterns; a figure could carry the bare name of one. Trills, grace notes and pinched harmonics did not say how far.
  1: (old) => {
    const figures = mapTable(old.figures, ({ patternName: _gone, ...figure }) => ({ ...figure, content: withAmounts(figure.content), ...(figure.eased ? { eased: withAmounts(figure.eased) } : {}) }))
    return { ...old, schemaVersion: 2, figures, patterns: old.patterns ?? {} }
  },
}

const isPlain = (value: unknown): value is Plain => typeof value === 'object' && value !== null
function mapTable(table: unknown, change: (row: Plain) => Plain): unknown {
  return isPlain(table) ? Object.fromEntries(Object.entries(table).map(([id, row]) => [id, isPlain(row) ? change(row) : row])) : table
}
const AMOUNTS: Record<string, Plain> = { trill: { frets: 2 }, grace: { frets: -2 }, 'pinched harmonic': { semitones: 12 } }
function withAmounts(content: unknown): unknown {
  if (!isPlain(content) || !Array.isArray(content.notes)) return content
  const dressed = (mark: unknown): unknown => (isPlain(mark) ? { ...AMOUNTS[String(mark.kind)], ...mark } : mark)
  return { ...content, notes: content.notes.map((note: unknown) => (isPlain(note) && Array.isArray(note.articulations) ? { ...note, articulations: note.articulations.map(dressed) } : note)) }
}

/** Reads plain data (from a file, the database, a message) as a song. A newer version is refused with code `newer`. */
export function readSong(data: unknown): Result<Song> {
  if (typeof data !== 'object' || data === null || !('schemaVersion' in data)) return refuse('not-a-song', 'This is not a Synchorda song.')
  let current = data as Plain
  const version = current.schemaVersion
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) return refuse('not-a-song', 'This song does not say which version it has.')
  if (version > SCHEMA_VERSION) return refuse('newer', `This song was saved by a newer Synchorda (version ${version}; this one reads up to ${SCHEMA_VERSION}).`)
  for (let at = version; at < SCHEMA_VERSION; at++) current = steps[at]!(current)
  const parsed = songSchema.safeParse(current)
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!
    return refuse('damaged', `The song is damaged at "${issue.path.join(' › ')}": ${issue.message}.`)
  }
  const broken = brokenReference(parsed.data)
  return broken ? refuse('damaged', `The song is damaged: ${broken}.`) : ok(parsed.data)
}

/**
 * What can be understood of a song from a newer version: entries this version does not know are left out. For reading only, never to be saved over.
 */
export function readNewerSong(data: unknown): Result<Song> {
  const copy = JSON.parse(JSON.stringify(data)) as Plain
  copy.schemaVersion = SCHEMA_VERSION
  for (let round = 0; round < 5; round++) {
    const parsed = songSchema.safeParse(copy)
    if (parsed.success) return brokenReference(parsed.data) ? refuse('newer', 'This song was saved by a newer Synchorda and cannot be read here.') : ok(parsed.data)
    const unknown = parsed.error.issues.filter((issue) => issue.code === 'unrecognized_keys')
    if (unknown.length === 0) break
    for (const issue of unknown) {
      const holder = issue.path.reduce<unknown>((at, key) => (at as Plain | undefined)?.[key as string], copy) as Plain | undefined
      if (holder) for (const key of issue.keys) Reflect.deleteProperty(holder, key)
    }
  }
  return refuse('newer', 'This song was saved by a newer Synchorda and cannot be read here: update this one.')
}
