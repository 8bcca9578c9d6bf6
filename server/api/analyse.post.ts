import type { H3Event } from 'h3'
import { letGo, wavBody } from '../analysis/body'
import { analyseAside } from '../analysis/run'

const ANSWERS = {
  busy: [503, 'Another recording is being listened to: send this one again in a while'],
  'too slow': [408, 'The recording did not come in time: send it again'],
  'too long': [504, 'Listening took too long and was given up'],
  died: [422, 'This recording could not be listened to'],
  unreadable: [400, 'Send a WAV file as the body'],
} as const

/**
 * For scripts on this machine: a WAV file as the body, what is heard in it as JSON, the same as from the
 * command line. The application never sends a recording here, and no other page may.
 */
export default defineEventHandler(async (event) => {
  try {
    return await analysisFor(event)
  } catch (error) {
    await letGo(event.node.req)
    throw error
  }
})

async function analysisFor(event: H3Event): Promise<unknown> {
  if (isForeign(event.headers)) throw createError({ statusCode: 403, statusMessage: 'Not for other pages' })
  const outcome = await analyseAside(() => wavBody(event.node.req))
  if ('analysis' in outcome) return outcome.analysis
  const [statusCode, statusMessage] = ANSWERS[outcome.failed]
  throw createError({ statusCode, statusMessage })
}

/** Sent by a page of another origin: browsers say so, scripts say nothing. */
function isForeign(headers: Headers): boolean {
  const site = headers.get('sec-fetch-site')
  if (site && site !== 'same-origin' && site !== 'none') return true
  const origin = headers.get('origin')
  if (!origin) return false
  return !URL.canParse(origin) || new URL(origin).host !== headers.get('host')
}
