// From any older file to the present schema. Each step is a pure function on plain data from version n to n
// + 1 and has a kept old file in ./kept that the tests run through the whole chain. Never edit a kept file
// or a shipped step.
import { ok, refuse, type Result } from '../../result'
import { FARTHEST_TICKS, MOST_FIGURE_TICKS } from '../../time/meter'
import { songProblem } from '../invariants'
import { issueWords } from '../issue-words'
import { withOneShapeOfMark } from './one-shape-of-mark'
import { SCHEMA_VERSION, songSchema, type Song } from '../schema'

type Plain = Record<string, unknown>
/**
 * `steps[n]` leads from version n to n + 1. Version 0 is the format of the first trials: swing as a bare
 * number, no spots.
 */
const steps: Record<number, (old: Plain) => Plain> = {
  0: (old) => {
    const { swing, ...rest } = old
    return {
      ...rest,
      schemaVersion: 1,
      feel: {
        subdivision: 'eighths',
        swing: { ratio: typeof swing === 'number' ? swing : 0.5, level: 'eighths' },
      },
      spots: old.spots ?? {},
      doubts: old.doubts ?? {},
    }
  },
  // Version 1 had no patterns; a figure could carry the bare name of one. Trills, grace notes and pinched
  // harmonics did not say how far.
  1: (old) => {
    const figures = mapTable(old.figures, ({ patternName: _gone, ...figure }) => ({
      ...figure,
      content: withAmounts(figure.content),
      ...(figure.eased ? { eased: withAmounts(figure.eased) } : {}),
    }))
    return { ...old, schemaVersion: 2, figures, patterns: old.patterns ?? {} }
  },
  // Version 2 could not say that nobody knows the key: a song without a chord in C major, where every song
  // began, is one of those.
  2: (old) => ({ ...old, schemaVersion: 3, ...(asItBegan(old) ? { keyUnknown: true } : {}) }),
  // Version 3 could excuse nothing that the check found.
  3: (old) => ({ ...old, schemaVersion: 4, excuses: {} }),
  // Version 4 had a tone note on a part: pickup, drive and filter in words, a delay in beats, an octave.
  4: (old) => ({ ...old, schemaVersion: 5, parts: mapTable(old.parts, withRig) }),
  // Version 5 knew no slid strokes, no scrapes and no accents of the band.
  5: (old) => ({ ...old, schemaVersion: 6 }),
  // Version 6 did not know how the band is tuned, and let anything last longer than the longest song.
  6: (old) => ({ ...(withinBounds(old) as Plain), schemaVersion: 7 }),
  // Version 7 said of a note, a stroke and a span in three ways what is done to it.
  7: (old) => withOneShapeOfMark({ ...old, schemaVersion: 8 }),
}

/** What was charted in a figure, whose events last no longer than the longest figure. */
const CONTENT = new Set(['grips', 'strokes', 'notes', 'mutes'])

/** The same data with every length and place cut to what can be played. */
function withinBounds(data: unknown, most = FARTHEST_TICKS): unknown {
  if (Array.isArray(data)) return data.map((entry) => withinBounds(entry, most))
  if (!isPlain(data)) return data
  const cut = (name: string, value: unknown): unknown => {
    if (typeof value === 'number' && name.endsWith('Ticks')) {
      const longest = name === 'lengthTicks' ? most : FARTHEST_TICKS
      return Math.max(-longest, Math.min(longest, value))
    }
    return withinBounds(value, CONTENT.has(name) ? MOST_FIGURE_TICKS : most)
  }
  return Object.fromEntries(Object.entries(data).map(([name, value]) => [name, cut(name, value)]))
}

/** A part's tone note as the first effects of its rig. */
function withRig({ tone, ...part }: Plain): Plain {
  if (!isPlain(tone)) return part
  const effect = (kind: string, facts: Plain): Plain => ({ id: kind, kind, words: '', knobs: [], ...facts })
  const effects = [
    ...(tone.filter ? [effect('filter', { words: tone.filter })] : []),
    ...(tone.octaveEffect === undefined ? [] : [effect('octave', { semitones: tone.octaveEffect })]),
    ...(tone.delayBeats
      ? [effect('delay', { delayTicks: Math.round(Number(tone.delayBeats) * 10080) })]
      : []),
  ]
  return { ...part, rig: { pickup: tone.pickup, gain: tone.drive, effects } }
}

function asItBegan({ key, sections }: Plain): boolean {
  const inC = isPlain(key) && key.tonic === 'C' && key.mode === 'major'
  const bare = (section: unknown): boolean =>
    isPlain(section) && Array.isArray(section.harmony) && section.harmony.length === 0
  return inC && isPlain(sections) && Object.values(sections).every(bare)
}

const isPlain = (value: unknown): value is Plain => typeof value === 'object' && value !== null
function mapTable(table: unknown, change: (row: Plain) => Plain): unknown {
  return isPlain(table)
    ? Object.fromEntries(Object.entries(table).map(([id, row]) => [id, isPlain(row) ? change(row) : row]))
    : table
}
const AMOUNTS: Record<string, Plain> = {
  trill: { frets: 2 },
  grace: { frets: -2 },
  'pinched harmonic': { semitones: 12 },
}
function withAmounts(content: unknown): unknown {
  if (!isPlain(content) || !Array.isArray(content.notes)) return content
  const dressed = (mark: unknown): unknown =>
    isPlain(mark) ? { ...AMOUNTS[String(mark.kind)], ...mark } : mark
  return {
    ...content,
    notes: content.notes.map((note: unknown) =>
      isPlain(note) && Array.isArray(note.articulations)
        ? { ...note, articulations: note.articulations.map(dressed) }
        : note,
    ),
  }
}

/** Deeper than any song: what is nested further is not looked into. */
const DEEPEST = 24

/** True when data is nested deeper than a song can be. Looks no deeper itself. */
function isTooDeep(data: unknown): boolean {
  let level: unknown[] = [data]
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return true
    level = level.flatMap((value) =>
      isPlain(value) ? Object.values(value).filter((inner) => typeof inner === 'object') : [],
    )
  }
  return false
}

const DAMAGED = 'The song is damaged: it is not put together as a song is.'

/** The data brought up to the present version; refused when a step finds nothing it can work with. */
function migrated(data: Plain, version: number): Result<Plain> {
  try {
    let current = data
    for (let at = version; at < SCHEMA_VERSION; at++) current = steps[at]!(current)
    return ok(current)
  } catch {
    return refuse('damaged', DAMAGED)
  }
}

/** The data in the present shape as far as its version can be told and its steps gone; else as it is. */
export function inPresentShape(data: Plain): Plain {
  const { schemaVersion: version } = data
  if (typeof version !== 'number' || !Object.hasOwn(steps, version) || isTooDeep(data)) return data
  const current = migrated(data, version)
  return current.ok ? current.value : data
}

/**
 * Reads plain data (from a file, the database, a message) as a song. A newer version is refused with code
 * `newer`.
 */
export function readSong(data: unknown): Result<Song> {
  if (!isPlain(data) || !Object.hasOwn(data, 'schemaVersion'))
    return refuse('not-a-song', 'This is not a Synchorda song.')
  const version = data.schemaVersion
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    return refuse('not-a-song', 'This song does not say which version it has.')
  if (version > SCHEMA_VERSION)
    return refuse(
      'newer',
      `This song was saved by a newer Synchorda ` +
        `(version ${version}; this one reads up to ${SCHEMA_VERSION}).`,
    )
  if (isTooDeep(data)) return refuse('damaged', DAMAGED)
  const current = migrated(data, version)
  if (!current.ok) return current
  const parsed = songSchema.safeParse(current.value)
  if (!parsed.success)
    return refuse('damaged', `The song is damaged: ${damageWords(parsed.error.issues[0]!)}.`)
  const broken = songProblem(parsed.data)
  return broken ? refuse('damaged', `The song is damaged: ${broken.message}.`) : ok(parsed.data)
}

/** Where the shape is not a song's, in words. */
function damageWords(issue: Parameters<typeof issueWords>[0]): string {
  const [table, id] = issue.path
  const where =
    table === undefined ? '' : `in its ${String(table)}${id === undefined ? '' : ` (${String(id)})`}, `
  return `${where}${issueWords(issue)}`
}

const UNREADABLE = 'This song was saved by a newer Synchorda and cannot be read here: update this one.'

/**
 * What can be understood of a song from a newer version: entries this version does not know are left out.
 * For reading only, never to be saved over.
 */
export function readNewerSong(data: unknown): Result<Song> {
  if (isTooDeep(data)) return refuse('newer', UNREADABLE)
  const copy = JSON.parse(JSON.stringify(data)) as Plain
  copy.schemaVersion = SCHEMA_VERSION
  for (let round = 0; round < 5; round++) {
    const parsed = songSchema.safeParse(copy)
    if (parsed.success) return songProblem(parsed.data) ? refuse('newer', UNREADABLE) : ok(parsed.data)
    const unknown = parsed.error.issues.filter((issue) => issue.code === 'unrecognized_keys')
    if (unknown.length === 0) break
    for (const issue of unknown) removeKeys(copy, issue.path, issue.keys)
  }
  return refuse('newer', UNREADABLE)
}

function removeKeys(data: Plain, path: readonly PropertyKey[], keys: readonly string[]): void {
  const holder = path.reduce<unknown>((at, key) => (at as Plain | undefined)?.[key as string], data)
  if (isPlain(holder)) for (const key of keys) Reflect.deleteProperty(holder, key)
}
