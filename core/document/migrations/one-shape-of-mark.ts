// From version 7 to 8: notes had `articulations` and a field for the accent, strokes a field for each of
// their marks, spans a kind and a pressure. All of them bear marks now, and the tremolo arm is no bar.
type Plain = Record<string, unknown>
const isPlain = (value: unknown): value is Plain => typeof value === 'object' && value !== null

const each = (list: unknown, change: (entry: Plain) => Plain): unknown =>
  Array.isArray(list) ? list.map((entry: unknown) => (isPlain(entry) ? change(entry) : entry)) : list
const rows = (table: unknown, change: (row: Plain) => Plain): unknown =>
  isPlain(table)
    ? Object.fromEntries(Object.entries(table).map(([id, row]) => [id, isPlain(row) ? change(row) : row]))
    : table

const said = (kind: string, is: unknown): Plain[] => (is === true ? [{ kind }] : [])
const renamed = (mark: Plain): Plain => (mark.kind === 'bar' ? { ...mark, kind: 'arm' } : mark)

// What has its marks already came into the journal after the song was stored: it stays as it is.
function noteMarks(old: Plain): Plain {
  if (!Array.isArray(old.articulations)) return old
  const { articulations, accent, ...note } = old
  return { ...note, marks: [...(each(articulations, renamed) as unknown[]), ...said('accent', accent)] }
}
function strokeMarks(old: Plain): Plain {
  if ('marks' in old) return old
  const { accent, dead, choke, staccato, palmMute, slide, ...stroke } = old
  return {
    ...stroke,
    marks: [
      ...said('accent', accent),
      ...said('dead', dead),
      ...said('choke', choke),
      ...said('staccato', staccato),
      ...(palmMute === undefined ? [] : [{ kind: 'palm mute', pressure: palmMute }]),
      ...(isPlain(slide) ? [{ kind: 'slide', ...slide }] : []),
    ],
  }
}
function spanMark(old: Plain): Plain {
  if ('mark' in old) return old
  const { kind, pressure, ...span } = old
  return { ...span, mark: kind === 'palm mute' ? { kind, pressure: pressure ?? 'medium' } : { kind } }
}

const content = (old: unknown): unknown =>
  isPlain(old)
    ? {
        ...old,
        notes: each(old.notes, noteMarks),
        strokes: each(old.strokes, strokeMarks),
        mutes: each(old.mutes, spanMark),
      }
    : old
const figure = (old: Plain): Plain => ({
  ...old,
  content: content(old.content),
  ...(old.eased === undefined ? {} : { eased: content(old.eased) }),
})
const reading = (old: Plain): Plain =>
  old.content === undefined ? old : { ...old, content: content(old.content) }

const BEARERS: Readonly<Record<string, (row: Plain) => Plain>> = {
  figures: figure,
  patterns: (pattern) => ({ ...pattern, strokes: each(pattern.strokes, strokeMarks) }),
  doubts: (doubt) => ({ ...doubt, readings: each(doubt.readings, reading) }),
}

/** The song with every mark in the one shape. */
export const withOneShapeOfMark = (song: Plain): Plain => ({
  ...song,
  ...Object.fromEntries(Object.entries(BEARERS).map(([table, change]) => [table, rows(song[table], change)])),
})

/** A change as it was stored, with every mark in the one shape: undo may still come back to it. */
export function changeWithOneShapeOfMark<C extends { table: string; before?: unknown; after?: unknown }>(
  stored: C,
): C {
  const present = BEARERS[stored.table]
  if (!present) return stored
  const side = (name: 'before' | 'after'): object =>
    isPlain(stored[name]) ? { [name]: present(stored[name]) } : {}
  return { ...stored, ...side('before'), ...side('after') }
}
