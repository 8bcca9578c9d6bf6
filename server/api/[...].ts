/** Addresses with an answer, and the one method each of them takes. */
const KNOWN: readonly [RegExp, string][] = [
  [/^\/api\/analyse\/?$/, 'POST'],
  [/^\/api\/demo(\/[^/]+)?\/?$/, 'GET'],
  [/^\/api\/demo\/(analysis|recording)\/[^/]+\/?$/, 'GET'],
]

/** What no other route answers: a known address with another method, or no address at all. */
export default defineEventHandler((event) => {
  const known = KNOWN.find(([path]) => path.test(event.path.split('?')[0]!))
  if (!known) throw createError({ statusCode: 404, statusMessage: 'There is nothing at this address' })
  setResponseHeader(event, 'Allow', known[1])
  throw createError({ statusCode: 405, statusMessage: `This address takes ${known[1]} only` })
})
