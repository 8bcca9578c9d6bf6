import type { Page } from '@playwright/test'
import { clearCell, COLOURS, expect, goWithin, openDemo, openShelf, saved, test, violations } from './support'

const undoName = (page: Page) => page.getByTestId('undo')
const beatsOf = (page: Page) =>
  page.evaluate(async () => {
    const open = indexedDB.open('synchorda')
    const db = await new Promise<IDBDatabase>((resolve) => {
      open.onsuccess = () => resolve(open.result)
    })
    const rows = await new Promise<
      { patch: { table: string; after?: { grid?: { bars: { beatSeconds: number[] }[] } } }[] }[]
    >((resolve) => {
      const all = db.transaction('journal').objectStore('journal').getAll()
      all.onsuccess = () => resolve(all.result)
    })
    return (
      rows
        .at(-1)!
        .patch.find((change) => change.table === 'sources')
        ?.after?.grid?.bars.flatMap((bar) => bar.beatSeconds).length ?? 0
    )
  })

test('beats are corrected by keys, and every correction can be taken back', async ({ page }) => {
  await openDemo(page, 'listen')
  const sheet = page.getByTestId('sheet')
  await expect(page.getByTestId('section-heading')).toHaveCount(13)
  await sheet.click({ position: { x: 500, y: 200 } })
  await page.keyboard.press(']')
  await expect(undoName(page)).toHaveAccessibleName('Undo: nudge a beat by 10 ms')
  await saved(page)
  const before = await beatsOf(page)
  await page.keyboard.press('Delete')
  // The section is a beat shorter: what no longer fits in it is named before it goes.
  await expect(page.getByTestId('question')).toContainText('no longer fit')
  await page.getByTestId('question-yes').click()
  await expect(undoName(page)).toHaveAccessibleName(/^Undo: remove a beat, with/)
  await saved(page)
  expect(await beatsOf(page)).toBe(before - 1)
  await page.keyboard.press('Control+z')
  await saved(page)
  await page.keyboard.press('i')
  await expect(undoName(page)).toHaveAccessibleName(/insert a beat|nudge/)
  await page.keyboard.press('2')
  await expect(undoName(page)).toHaveAccessibleName(/^Undo: this is the one/)
  for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z')
  await expect(page.getByTestId('undo')).toBeDisabled()
  await saved(page)
})

test('sections are split, merged and moved, and bars always add up', async ({ page }) => {
  await openDemo(page, 'listen')
  await expect(page.getByTestId('sums')).toContainText('98 bars')
  await page.getByTestId('sheet').hover({ position: { x: 760, y: 200 } })
  await page.keyboard.press('s')
  await page.getByTestId('section-name').locator('input').fill('Verse 1, second half')
  await page.getByTestId('section-name').locator('input').press('Enter')
  await expect(page.getByTestId('section-heading')).toHaveCount(14)
  await page.getByTestId('section-heading').nth(3).click()
  await page.getByRole('button', { name: 'Start a bar earlier' }).click()
  await expect(undoName(page)).toHaveAccessibleName(/move the start of Verse 1, second half by -1 bar/)
  await page.getByRole('button', { name: 'Merge into the one before' }).click()
  // What is charted stays where it sounds, whichever way the border goes: there is nothing to ask.
  await expect(page.getByTestId('question')).toHaveCount(0)
  await expect(page.getByTestId('section-heading')).toHaveCount(13)
  await expect(page.getByTestId('sums')).toContainText('98 bars')
})

test('figures are placed, dragged, copied and removed in the map', async ({ page }) => {
  await openDemo(page, 'map')
  const cell = (section: string, part: string) => page.getByTestId(`cell-${section}-${part}`)
  // All rows on screen: nothing scrolls while something is dragged.
  await page.setViewportSize({ width: 1280, height: 1500 })
  for (const name of ['outro-g1', 'solo-b', 'chorus3-g1']) await clearCell(page, name)
  await cell('outro', 'g1').click()
  await page.keyboard.press('p')
  await page
    .getByRole('button', { name: /Verse chug/ })
    .first()
    .click()
  await expect(cell('outro', 'g1')).toHaveText(/Verse chug ×4/)
  await page.keyboard.press('Shift+M')
  await expect(cell('outro', 'g1')).toHaveText(/Verse chug ×3.*not charted, 4 bars/)
  await page.keyboard.press('Delete')
  await expect(cell('outro', 'g1')).toHaveText('not charted')
  await cell('verse2', 'b').getByText('Root eighths').dragTo(cell('solo', 'b'))
  await expect(cell('solo', 'b')).toHaveText(/Root eighths ×2/)
  await expect(cell('verse2', 'b')).toHaveText('not charted')
  await cell('verse1', 'b').click()
  await page.keyboard.press('c')
  await cell('verse2', 'b').click()
  await page.keyboard.press('v')
  await expect(cell('verse2', 'b')).toHaveText(/Root eighths ×2/)
  await cell('chorus1', 'g1').click()
  await page.keyboard.press('w')
  await expect(cell('chorus3', 'g1')).toHaveText(/Chorus push/)
  await expect(undoName(page)).toHaveAccessibleName('Undo: copy Chorus 1 to its returns')
  await page.keyboard.press('ArrowDown')
  await expect(cell('verse2', 'g1')).toHaveAttribute('aria-selected', 'true')
  await cell('verse1', 'g1').getByText('Verse chug ×4').dragTo(cell('outro', 'b'))
  await expect(page.getByTestId('notice')).toContainText('same column')
})

test('a killed window loses nothing that was shown as saved', async ({ page, context }) => {
  await openDemo(page, 'chart?figure=verse-chug')
  const name = page.getByLabel('Name of the figure')
  await name.fill('Chug, renamed')
  await name.press('Tab')
  await saved(page)
  // No chance to say goodbye: the page is closed without running its handlers.
  await page.close({ runBeforeUnload: false })
  const again = await context.newPage()
  await again.goto('/song/salt-on-the-signal/chart?figure=verse-chug')
  await expect(again.getByLabel('Name of the figure')).toHaveValue('Chug, renamed')
})

test('names by shape or as sounding, strings by number or letter, everywhere', async ({ page }) => {
  await openDemo(page, 'chart?figure=verse-chug')
  await expect(page.getByRole('heading', { name: 'E5' })).toBeVisible()
  await page.goto('/song/salt-on-the-signal/setup')
  await page.getByTestId('as-sounding').click()
  await page.getByTestId('string-numbers').click()
  await page.getByRole('link', { name: /^Chart/ }).click()
  await expect(page.getByRole('heading', { name: 'E♭5' })).toBeVisible()
  await expect(page.getByTestId('board').locator('text', { hasText: /^6$/ }).first()).toBeVisible()
  await page.getByRole('link', { name: /Listen/ }).click()
  await expect(page.getByTestId('sheet').locator('text', { hasText: 'E♭m' }).first()).toBeVisible()
  await page.getByRole('link', { name: /Hand out/ }).click()
  await expect(page.locator('.paper-page text', { hasText: /^E♭5$/ }).first()).toBeVisible()
})

for (const scheme of ['light', 'dark'] as const) {
  test(`no accessibility violation on any view, ${scheme}`, async ({ page }) => {
    test.slow()
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' })
    await openShelf(page)
    const rules = scheme === 'dark' ? COLOURS : undefined
    expect(await violations(page, { rules })).toEqual([])
    for (const step of [
      'setup',
      'listen',
      'map',
      'chart?figure=verse-chug',
      'prove',
      'compare',
      'teach',
      'handout',
    ]) {
      await goWithin(page, `/song/salt-on-the-signal/${step}`)
      await expect(page.getByTestId('save-state')).toBeVisible()
      await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })
      expect(await violations(page, { rules }), step).toEqual([])
    }
    await page.keyboard.press('?')
    await expect(page.getByRole('heading', { name: 'What the keys do here' })).toBeVisible()
    expect(await violations(page, { rules }), 'help').toEqual([])
  })
}

test('dialogs say what they are and give the keys back when they close', async ({ page }) => {
  await openShelf(page)
  await page.keyboard.press('n')
  await expect(page.getByRole('dialog', { name: 'New song' })).toBeVisible()
  expect(await violations(page)).toEqual([])
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await openDemo(page, 'map')
  await page.keyboard.press('p')
  await expect(page.getByRole('dialog', { name: 'Place a figure' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('cell-intro-g1')).toHaveAttribute('aria-selected', 'true')
})

test('the policy of the page allows this origin only', async ({ page }) => {
  await page.goto('/')
  const policy = await page.locator('meta[http-equiv="Content-Security-Policy"]').getAttribute('content')
  expect(policy).toContain(`default-src 'self'`)
  expect(policy).not.toContain('unsafe-inline')
  expect(policy).not.toContain(`'unsafe-eval'`)
  expect(policy).not.toMatch(/https?:/)
})
