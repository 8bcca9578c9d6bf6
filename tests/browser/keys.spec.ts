// The help list and the keyboard are one: every key it names is answered, each key stands once.
import type { Page } from '@playwright/test'
import { expect, goWithin, openDemo, test } from './support'

/** The same on every step: they are pressed on one. */
const SHARED = ['Everywhere', 'Playing', 'Marking']
const STEPS = ['setup', 'listen', 'map', 'chart?figure=octaves', 'prove', 'teach', 'handout']
/** As the keyboard sends it. */
const pressed = (key: string): string => key.replace('mod', 'Control').replace(/(^|\+)([A-Z])$/, '$1$2')

async function helpKeys(page: Page): Promise<{ key: string; group: string }[]> {
  await page.keyboard.press('?')
  const list = page.getByTestId('help-keys')
  await expect(list).toBeVisible()
  const keys = await list.locator('kbd').evaluateAll((all) =>
    all.map((kbd) => ({
      key: (kbd as HTMLElement).dataset.key ?? '',
      group: kbd.closest('section')?.querySelector('h3')?.textContent ?? '',
    })),
  )
  await page.getByRole('button', { name: 'Close' }).click()
  await expect(list).toBeHidden()
  return keys
}

/** Back at an address, and whatever a key has opened closed again, also what opens or leads away late. */
async function backAt(page: Page, address: URL): Promise<void> {
  const isThere = (href: string): boolean =>
    location.href === href && !document.querySelector('.v-overlay--active')
  if (await page.evaluate(isThere, address.href)) return
  await expect(async () => {
    if (page.url() !== address.href) await goWithin(page, address.pathname + address.search)
    const question = page.getByTestId('question-no')
    if (await question.isVisible()) await question.click()
    if (await page.locator('.v-overlay--active').count()) await page.keyboard.press('Escape')
    await page.locator('h1').first().click({ trial: true, timeout: 1000 })
    expect(page.url()).toBe(address.href)
  }).toPass({ timeout: 30_000 })
}

/** Presses a key, which the application has to answer. */
async function answers(page: Page, key: string): Promise<void> {
  await page.evaluate(() => {
    ;(document.activeElement as HTMLElement | null)?.blur()
    Object.assign(window, { answered: undefined })
  })
  await page.keyboard.press(pressed(key))
  await expect
    .poll(() => page.evaluate(() => (window as { answered?: boolean }).answered), {
      message: key,
      timeout: 5000,
    })
    .toBe(true)
}

for (const step of STEPS)
  test(`every key that help names is answered on ${step.split('?')[0]}`, async ({ page }) => {
    // Forty keys, each waited for.
    test.setTimeout(300_000)
    await page.addInitScript(() => {
      window.print = () => undefined
      HTMLInputElement.prototype.click = () => undefined
      HTMLAnchorElement.prototype.click = () => undefined
      window.addEventListener('keydown', (event) => {
        setTimeout(() => Object.assign(window, { answered: event.defaultPrevented }))
      })
    })
    await openDemo(page, step)
    const named = await helpKeys(page)
    expect(named.length).toBeGreaterThan(10)
    expect(new Set(named.map(({ key }) => key)).size).toBe(named.length)
    const keys = named.filter(({ group }) => step === 'map' || !SHARED.includes(group)).map(({ key }) => key)
    const address = new URL(page.url())
    for (const key of keys.filter((each) => each !== '?')) {
      // What the key before leads to may come late, and take this one: then it is pressed again.
      await expect(async () => {
        await backAt(page, address)
        await answers(page, key)
      }).toPass({ timeout: 40_000 })
      await page.keyboard.press('Escape')
    }
  })

test('Space plays, except on a control that space operates; arrows on a slider move the slider', async ({
  page,
}) => {
  await openDemo(page, 'map')
  const play = page.getByTestId('play')
  await page.keyboard.press('Space')
  await expect(play).toHaveAccessibleName('Stop')
  await page.keyboard.press('Space')
  await expect(play).toHaveAccessibleName('Play')
  await page.getByRole('button', { name: 'What the keys do' }).focus()
  await page.keyboard.press('Space')
  await expect(page.getByTestId('help-keys')).toBeVisible()
  await page.getByTestId('help-words').click()
  await page.getByTestId('help-search').locator('input').fill('hammered')
  await expect(page.getByText('the next fret is hammered on')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  await expect(play).toHaveAccessibleName('Play')
  const speed = page.locator('.speed input[type=range]')
  await speed.focus()
  const before = Number(await speed.inputValue())
  await page.keyboard.press('ArrowLeft')
  expect(Number(await speed.inputValue())).toBeLessThan(before)
})
