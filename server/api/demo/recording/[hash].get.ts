/** Name of the shipped recording with this hash, as JSON; empty for any other. */
export default defineEventHandler(async (event) => {
  const hash = getRouterParam(event, 'hash') ?? ''
  if (!/^[0-9a-f]{64}$/.test(hash)) throw createError({ statusCode: 400, statusMessage: 'No such recording' })
  const names = await useStorage('assets:analyses').getItem<Record<string, string>>('recordings.json')
  if (!names?.[hash]) {
    setResponseStatus(event, 204)
    return null
  }
  return { name: names[hash] }
})
