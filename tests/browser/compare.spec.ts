import { expect, openDemo, saved, songOf, test } from './support'
import { pick } from './pick'

const SALT = 'salt-on-the-signal'

test('sections, passes and parts stand one under the other, walked through by keys', async ({ page }) => {
  await openDemo(page, 'prove')
  await page.keyboard.press('c')
  await expect(page).toHaveURL(/compare$/)
  const rows = page.getByTestId('compare-rows').locator('> li')
  await expect(page.getByTestId('compare-sum')).toContainText(/bars? differs?\.|are the same/)
  await pick(page.getByTestId('compare-part'), 'Guitar 1')
  await pick(page.getByTestId('compare-section'), 'Verse 1')
  await pick(page.getByTestId('compare-other-section'), 'Chorus 1')
  await expect(page.getByTestId('compare-sum')).toContainText('differ')
  await expect(rows.first()).toContainText('instead of')
  await expect(rows.nth(0)).toHaveAttribute('aria-current', 'true')
  await page.getByRole('heading', { name: 'Compare' }).click()
  await page.keyboard.press('ArrowDown')
  await expect(rows.nth(1)).toHaveAttribute('aria-current', 'true')
  await page.keyboard.press('1')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Stop')
  await page.keyboard.press('1')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Play')
  await page.getByTestId('compare-passes').click()
  await expect(page.getByText(/above\s*Pass 1/)).toBeVisible()
  await page.getByTestId('compare-parts').click()
  await expect(page.getByText(/below\s*Verse 1, Guitar 2/)).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/prove$/)
})

test('a written chart is typed, kept, and where it differs becomes a doubt that the record measures', async ({
  page,
}) => {
  await openDemo(page, 'compare')
  await page.getByTestId('compare-written').click()
  await page.getByTestId('new-chart').click()
  await page.getByTestId('chart-text').locator('textarea').first().fill('Verse:\nEm | G | C | D\nla la la')
  await page.keyboard.press('Tab')
  await expect(page.getByText('Line 3: “la la la” is not a line of chords.')).toBeVisible()
  await pick(page.getByTestId('compare-section'), 'Verse 1')
  const differing = page.getByTestId('compare-rows').locator('> li', { hasText: 'instead of' })
  await expect(differing.first()).toBeVisible()
  await saved(page)
  await page.reload()
  await page.getByTestId('compare-written').click()
  await expect(page.getByTestId('chart-text').locator('textarea').first()).toHaveValue(/Em \| G/)
  // One from a file of another program stands beside it, as one step.
  await page.getByTestId('chart-file').setInputFiles({
    name: 'book.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Verse 1:\n| Em | Am | C | D |'),
  })
  await expect(page.getByTestId('chart-text').locator('textarea').first()).toHaveValue(/\| Em \| Am \|/)
  const named = async (name: string): Promise<boolean> =>
    Object.values((await songOf(page, SALT)).sources).some((source) => source.name === name)
  await expect.poll(() => named('book.txt')).toBe(true)
  await page.keyboard.press('Control+z')
  await expect.poll(() => named('book.txt')).toBe(false)
  await pick(page.getByTestId('compare-section'), 'Verse 1')
  await differing.first().getByTestId('doubt-bar').click()
  await expect(page).toHaveURL(/prove/)
  await expect(page.getByTestId('doubt')).toContainText('Verse 1')
  await expect(page.getByTestId('reading-2')).toContainText('Written chart')
  await expect(page.getByTestId('verdict-1')).not.toBeEmpty({ timeout: 20_000 })
  await saved(page)
  const song = await songOf(page, SALT)
  const made = Object.values(song.doubts).find(({ question }) => question.includes('as Written chart has it'))
  expect(made!.readings.map(({ claim }) => claim?.kind)).toEqual(['chord', 'chord'])
})
