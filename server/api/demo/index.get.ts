/** Names of the shipped songs. */
export default defineEventHandler(async () => {
  const keys = await useStorage('assets:demo').getKeys()
  return keys
    .filter((key) => key.endsWith('.json'))
    .map((key) => key.replace(/\.json$/, ''))
    .sort()
})
