import { expect, type Locator } from '@playwright/test'

/**
 * Chooses from a select of the library: opens its list, goes through it to the option of that name, takes
 * it.
 */
export async function pick(field: Locator, option: string): Promise<void> {
  await field.locator('xpath=ancestor-or-self::div[contains(@class, "v-select")][1]').click()
  const page = field.page()
  const choice = page.getByRole('option', { name: option, exact: true })
  const list = page.getByRole('listbox')
  await expect(list).toBeVisible()
  await expect(async () => {
    if (!(await choice.isVisible())) await list.evaluate((element) => element.scrollBy(0, 150))
    await expect(choice).toBeVisible({ timeout: 100 })
  }).toPass({ timeout: 8000 })
  await choice.click()
  await expect(list).toBeHidden()
}
