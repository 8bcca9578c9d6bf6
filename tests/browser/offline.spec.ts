import { expect, openDemo, restIn, saved, test } from './support'

test.use({ serviceWorkers: 'allow' })

test('works without the network after the first load', async ({ page, context }) => {
  await openDemo(page, 'map')
  await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready
  })
  await page.waitForTimeout(1500)
  await context.setOffline(true)
  await page.reload()
  await expect(page.getByTestId('cell-verse1-g1')).toHaveText(/Verse chug/)
  await expect(page.getByText('recording not on this machine')).toHaveCount(0)
  await restIn(page, 'bridge-g1')
  await saved(page)
})
