import { expect, type Locator } from '@playwright/test'

/**
 * Chooses from a select of the library: opens its list, goes through it to the option of that name, takes
 * it. The list draws only what is near and scrolls to what is chosen when it gets to it: on a busy machine
 * that may take an option away again after it was found, so finding and taking are tried together.
 */
export async function pick(field: Locator, option: string): Promise<void> {
  const frame = field.locator('xpath=ancestor-or-self::div[contains(@class, "v-select")][1]')
  const page = field.page()
  const choice = page.getByRole('option', { name: option, exact: true })
  const list = page.getByRole('listbox')
  await expect(async () => {
    if (!(await list.isVisible())) await frame.click({ timeout: 3000 })
    await expect(list).toBeVisible({ timeout: 3000 })
    if (!(await choice.isVisible())) await list.evaluate(scrollOn)
    await choice.click({ timeout: 1500 })
  }).toPass({ timeout: 45_000, intervals: [100] })
  await expect(list).toBeHidden()
}

/** A little further, and from the end to the beginning: an option drawn late was gone past. */
function scrollOn(list: Element): void {
  if (list.scrollTop + list.clientHeight >= list.scrollHeight - 2) list.scrollTo(0, 0)
  else list.scrollBy(0, 150)
}
