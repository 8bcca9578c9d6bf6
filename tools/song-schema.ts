// `npm run schema`: writes docs/song.schema.json, the JSON Schema of a song document, from the schemas that
// read it. A unit test says when the file is no longer what the schemas say.
import { writeFileSync } from 'node:fs'
import { songJsonSchema } from '../core/exchange/song-json-schema'

writeFileSync('docs/song.schema.json', `${JSON.stringify(songJsonSchema(), null, 1)}\n`)
