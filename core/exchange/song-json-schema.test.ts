import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { SCHEMA_VERSION } from '../document/schema'
import { everyMarkSong } from '../../tests/support/every-mark'
import { songJsonSchema } from './song-json-schema'

type Schema = Record<string, unknown>
const at = (schema: unknown, ...path: string[]): Schema =>
  path.reduce<unknown>((inner, key) => (inner as Schema)[key], schema) as Schema

describe('the song document for other readers', () => {
  it('is described in docs as it is read here (npm run schema)', () => {
    expect(JSON.parse(readFileSync('docs/song.schema.json', 'utf8'))).toEqual(songJsonSchema())
    expect(readFileSync('docs/song-file.md', 'utf8')).toContain(`version ${SCHEMA_VERSION}`)
  })

  it('names every table of a song, and nothing else is allowed in one', () => {
    const schema = songJsonSchema()
    expect(Object.keys(at(schema, 'properties')).sort()).toEqual(
      expect.arrayContaining(Object.keys(everyMarkSong()).sort()),
    )
    expect(schema.additionalProperties).toBe(false)
    const note = at(
      schema,
      'properties',
      'figures',
      'additionalProperties',
      'properties',
      'content',
      'properties',
      'notes',
    )
    expect(Object.keys(at(note, 'items', 'properties'))).toEqual(
      expect.arrayContaining(['string', 'fret', 'startTicks', 'lengthTicks', 'marks']),
    )
  })
})
