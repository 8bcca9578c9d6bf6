/** One shipped song file. */
export default defineEventHandler(async (event) => {
  const name = getRouterParam(event, 'name') ?? ''
  if (!/^[a-z0-9-]{1,60}$/.test(name)) throw createError({ statusCode: 400, statusMessage: 'No such song' })
  const song = await useStorage('assets:demo').getItem(`${name}.json`)
  if (!song) throw createError({ statusCode: 404, statusMessage: 'No such song' })
  return song
})
