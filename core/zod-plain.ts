// Schemas are interpreted, never compiled: the page's policy forbids compiling, and probing for it would be
// reported as a breach on every page. Imported before the first schema is made.
import { z } from 'zod'

z.config({ jitless: true })
