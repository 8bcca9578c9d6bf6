import AxeBuilder from '@axe-core/playwright'
import { readFileSync } from 'node:fs'
import { pick } from './pick'
import { expect, openDemo, recordingReady, test } from './support'

test('a plan is ordered, dragged by keys, kept for the student, and heard so far', async ({ page }) => {
  await openDemo(page, 'teach')
  await recordingReady(page)
  const plan = page.getByTestId('plan').locator('> li')
  await expect(plan).toHaveCount(12)
  await expect(plan.first()).toContainText('Verse chug')
  await expect(page.getByTestId('due')).toContainText('Lift')
  await expect(page.getByTestId('coverage-chart')).toHaveAccessibleName(/after Verse chug 22 %/)
  await page.getByTestId('order-song').click()
  await expect(plan.first()).toContainText('Intro riff')
  await page.getByRole('heading', { name: 'The plan' }).click()
  await page.keyboard.press('Alt+ArrowDown')
  await page.keyboard.press('Alt+ArrowDown')
  await page.keyboard.press('Alt+ArrowUp')
  await expect(plan.nth(1)).toContainText('Intro riff')
  await expect(page.getByText('The order is your own')).toBeVisible()
  await page.reload()
  await expect(plan.nth(1)).toContainText('Intro riff')
  await recordingReady(page)
  await pick(page.getByTestId('student'), 'Tobin')
  await expect(plan.first()).not.toContainText('Intro riff')
  await page.getByRole('heading', { name: 'The plan' }).click()
  await page.keyboard.press('s')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Stop')
  await page.keyboard.press('s')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Play')
})

test('a step is practised on its ladder by keys, and what was reached is in the log after a reload', async ({
  page,
}) => {
  await openDemo(page, 'teach')
  await recordingReady(page)
  await page.getByTestId('plan').getByText('Chorus push', { exact: true }).click()
  const rungs = page.getByTestId('ladder').locator('li')
  await page.keyboard.press('p')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Stop')
  await expect(page.getByTestId('speed')).toHaveValue('50')
  for (let round = 0; round < 3; round++) await page.keyboard.press('1')
  await expect(rungs.nth(1)).toHaveAttribute('aria-current', 'step')
  await page.keyboard.press('2')
  await expect(page.getByTestId('trained')).toContainText('3 of 4 rounds clean')
  await page.keyboard.press('p')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Play')
  await expect(page.getByTestId('speed')).toHaveValue('100')
  const log = page.getByTestId('log')
  await expect(log).toContainText('practised once')
  await page.reload()
  await page.getByTestId('plan').getByText('Chorus push', { exact: true }).click()
  await expect(log.getByRole('img')).toHaveAccessibleName(/3 of 4 rounds clean/)
  await page.getByTestId('simulate').click()
  await expect(page.getByTestId('simulated')).toContainText('The simulated student played')
  await expect(log).toContainText('practised 2 times')
})

test('a student is added, saved as a file and brought in again; a wrong file is refused in words', async ({
  page,
}, info) => {
  await openDemo(page, 'teach')
  await page.getByTestId('new-student').locator('input').fill('Wren')
  await page.getByTestId('add-student').click()
  await expect(page.getByTestId('student')).toContainText('Wren')
  await page.getByTestId('hand-mm').locator('input').fill('70')
  await page.keyboard.press('Tab')
  const saving = page.waitForEvent('download')
  await page.getByTestId('save-student').click()
  const path = info.outputPath('wren.json')
  await (await saving).saveAs(path)
  expect(JSON.parse(readFileSync(path, 'utf8'))).toMatchObject({ student: { name: 'Wren', handMm: 70 } })
  await page.getByTestId('student-file').setInputFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"kind":"something else"}'),
  })
  await expect(page.getByRole('alert')).toContainText('Nothing was changed')
  await page.getByTestId('student-file').setInputFiles(path)
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.getByTestId('really-replace').click()
  await expect(page.getByTestId('student')).toContainText('Wren')
  await page.getByTestId('remove-student').click()
  await page.getByTestId('really-remove').click()
  await expect(page.getByTestId('student')).not.toContainText('Wren')
})

test('the stand turns by the foot and with the music, folds, and is big enough to read from afar', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await openDemo(page, 'teach')
  await recordingReady(page)
  await page.keyboard.press('v')
  const place = page.getByTestId('stand-place')
  await expect(place).toContainText('bar 1 of')
  for (const key of ['PageDown', 'ArrowRight', 'Enter']) await page.keyboard.press(key)
  await expect(place).toContainText('bar 4 of')
  await page.keyboard.press('PageUp')
  await expect(place).toContainText('bar 3 of')
  for (let bar = 0; bar < 7; bar++) await page.keyboard.press('PageDown')
  // Of a 13-inch screen 1280 pixels are 286 mm wide: 12 mm of a figure are 54 pixels.
  // Figures of this face are 0.66 of its size high.
  const size = await page.locator('.now .fret').first().getAttribute('font-size')
  expect(Number(size) * 0.66).toBeGreaterThanOrEqual(53.7)
  const before = await place.innerText()
  await page.keyboard.press('Space')
  await expect(place).not.toHaveText(before, { timeout: 10_000 })
  await page.keyboard.press('Space')
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  await page.keyboard.press('f')
  await expect(page.getByTestId('folded')).toContainText('Verse chug ×4, the 4th with the run')
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  // Its dark is its own.
  await page.keyboard.press('d')
  await expect(page.getByTestId('stand')).toHaveClass(/v-theme--dark/)
  await expect(page.locator('.v-application').first()).toHaveClass(/v-theme--light/)
  // One thing at a time: unfolded, then left.
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('folded')).toHaveCount(0)
  await expect(page).toHaveURL(/stand/)
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/teach$/)
})
