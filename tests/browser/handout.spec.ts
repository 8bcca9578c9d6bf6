// The sheet is given out as it is now, or not at all.
import { expect, openDemo, test } from './support'

test('a sheet whose engraving was stopped is not given out, and can be engraved again', async ({ page }) => {
  await openDemo(page, 'handout')
  const pdf = page.getByTestId('pdf')
  await expect(pdf).toBeEnabled({ timeout: 30_000 })
  // Stopped as soon as it can be, however fast the sheet is made.
  await page.evaluate(() => {
    const stop = new MutationObserver(() => {
      const button = document.querySelector<HTMLElement>('[data-test="engraving"] button')
      if (!button) return
      stop.disconnect()
      button.click()
    })
    stop.observe(document.body, { childList: true, subtree: true })
  })
  await page.getByRole('group', { name: 'Parts on the sheet' }).getByRole('button').first().click()
  await expect(page.getByTestId('engrave')).toBeVisible()
  await expect(pdf).toBeDisabled()
  await expect(page.getByTestId('print')).toBeDisabled()
  await page.getByTestId('engrave').click()
  await expect(pdf).toBeEnabled({ timeout: 30_000 })
  await expect(page.getByTestId('engrave')).toHaveCount(0)
})
