/** What was heard in a shipped recording, by the hash of its file; empty for any other. */
export default defineEventHandler(async (event) => {
  const hash = getRouterParam(event, 'hash') ?? ''
  if (!/^[0-9a-f]{64}$/.test(hash)) throw createError({ statusCode: 400, statusMessage: 'No such recording' })
  const analysis = await useStorage('assets:analyses').getItem(`${hash}.json`)
  // A recording of the user's own is not known here: that is no error.
  if (!analysis) {
    setResponseStatus(event, 204)
    return null
  }
  return analysis
})
