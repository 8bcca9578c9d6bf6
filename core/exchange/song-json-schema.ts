// What a song document looks like, for readers that are not ours: JSON Schema (draft 2020-12), made from the
// schemas that read it.
import '../zod-plain'
import { z } from 'zod'
import { SCHEMA_VERSION, songSchema } from '../document/schema'

export function songJsonSchema(): Record<string, unknown> {
  return {
    ...z.toJSONSchema(songSchema, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }),
    title: `Song document, version ${SCHEMA_VERSION}`,
  }
}
