import {
  expect,
  heardLevel,
  openDemo,
  saved,
  songFromRecording,
  tapSound,
  test,
  unheardWav,
  violations,
} from './support'

test('a whole song is laid out, checked and named in under two minutes, by keys', async ({ page }) => {
  await tapSound(page)
  await openDemo(page, 'listen', 'ninth-platform')
  const started = Date.now()
  const headings = page.getByTestId('section-heading')
  await expect(page.getByTestId('accept-all')).toBeVisible({ timeout: 30_000 })
  await expect(headings).toHaveText([
    'Intro',
    'Verse 1',
    'Chorus 1',
    'Verse 2',
    'Chorus 2',
    /.+/,
    'Chorus 3',
    /.+/,
  ])
  // Suggestions look like suggestions: nothing is in the document yet.
  await expect(page.getByTestId('undo')).toBeDisabled()
  await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })

  // A doubtful chord: its rivals, heard against the record.
  await page.getByTestId('sheet').click({ position: { x: 300, y: 110 } })
  await expect(page.getByTestId('heard-bar')).toContainText('Bar ')
  await page.keyboard.press('q')
  await expect.poll(() => heardLevel(page), { timeout: 15_000 }).toBeGreaterThan(0.003)
  await page.keyboard.press('Space')
  await page.getByRole('button', { name: 'Why these chords?' }).click()
  await expect(page.getByRole('img', { name: /Strength of the twelve pitch classes/ })).toBeVisible()
  expect(await violations(page)).toEqual([])

  // Everything at once, one change, one undo.
  await page.keyboard.press('a')
  await expect(page.getByTestId('sums')).toContainText('nothing missing')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(
    /Undo: accept what was heard: bars, 8 sections, chords, G major/,
  )
  await expect(page.getByText('G major').first()).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('sums')).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByTestId('sums')).toBeVisible()

  // Named as one likes.
  await headings.nth(5).click()
  await page.getByTestId('section-name').locator('input').fill('Break in six')
  await page.getByTestId('section-name').locator('input').press('Enter')
  await expect(headings.nth(5)).toHaveText('Break in six')
  await saved(page)
  expect(Date.now() - started).toBeLessThan(120_000)
})

test(
  'an unknown recording is listened to in the background; what a person sets ' +
    'stays, and the rest is found again around it',
  async ({ page }) => {
    await songFromRecording(page, 'Unheard', await unheardWav('ninth-platform', { from: 9, to: 52 }))
    await page.getByRole('link', { name: /Listen/ }).click()
    await page.getByRole('button', { name: 'Stop', exact: true }).click({ timeout: 30_000 })
    await expect(page.getByTestId('suggestions')).toHaveCount(0)
    await page.getByTestId('listen').click()
    await expect(page.getByTestId('accept-chords')).toBeVisible({ timeout: 60_000 })

    // One section with its chords; the rest stays open.
    await page.getByTestId('sheet').click({ position: { x: 300, y: 30 } })
    await page.keyboard.press('j')
    await expect(page.getByTestId('undo')).toHaveAccessibleName(
      /accept what was heard: bars, the section at 0:0\d, its chords/,
    )
    await page.getByTestId('section-heading').first().click()
    await page.getByTestId('section-name').locator('input').fill('My verse')
    await page.getByTestId('section-name').locator('input').press('Enter')
    await expect(page.getByTestId('section-heading').first()).toHaveText('My verse')
    await page.keyboard.press('a')
    await expect(page.getByTestId('section-heading').first()).toHaveText('My verse')

    // A fixed one: every bar is found again around it, as one change.
    await page.getByTestId('sheet').click({ position: { x: 300, y: 30 } })
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('1')
    await expect(page.getByTestId('undo')).toHaveAccessibleName('Undo: this is the one', { timeout: 60_000 })
    await page.keyboard.press('Control+z')
    await expect(page.getByTestId('undo')).not.toHaveAccessibleName('Undo: this is the one')
    await saved(page)
  },
)

test('another recording is laid beside the first, told apart, and heard at the same place', async ({
  page,
}) => {
  await tapSound(page)
  await openDemo(page, 'listen', 'cold-kiln')
  await expect(page.getByText('sounds a whole step lower')).toBeVisible()
  await expect(page.getByText(/faster: 80 against 76/)).toBeVisible()
  await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })
  await page.getByTestId('sheet').click({ position: { x: 420, y: 190 } })
  const place = await page.getByTestId('place').textContent()
  await page.keyboard.press('o')
  await expect(page.getByRole('button', { name: 'Cold Kiln (live take)' })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })
  await expect(page.getByTestId('place')).toHaveText(place!)
  await page.keyboard.press('Space')
  await expect.poll(() => heardLevel(page), { timeout: 15_000 }).toBeGreaterThan(0.005)
  await page.keyboard.press('o')
  await expect(page.getByRole('button', { name: /Cold Kiln \(studio/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await page.keyboard.press('Space')
})

test('a recording of one’s own is compared with the one laid out', async ({ page }) => {
  await songFromRecording(page, 'Two takes', await unheardWav('ninth-platform', { from: 9, to: 45 }))
  await page.getByRole('link', { name: /Listen/ }).click()
  await page.getByTestId('accept-bars').click({ timeout: 60_000 })
  await page.getByTestId('other-recording').setInputFiles({
    name: 'cellar.wav',
    mimeType: 'audio/wav',
    buffer: await unheardWav('ninth-platform', { from: 9, to: 45, speed: 2 ** (-2 / 12) }),
  })
  await expect(page.getByText('sounds a whole step lower')).toBeVisible({ timeout: 90_000 })
  await expect(page.getByText(/slower: 9\d against 10\d/)).toBeVisible()
  await saved(page)
})
