// The sheet is given out as it is now, or not at all.
import { readFileSync } from 'node:fs'
import { readWav } from '../../core/sound/wav'
import { pick } from './pick'
import { expect, openDemo, songOf, test, violations } from './support'

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

test('the sheet is what is asked for, and printed on its paper', async ({ page }) => {
  await openDemo(page, 'handout')
  const pages = page.locator('.paper-page')
  await expect(pages).toHaveCount(8, { timeout: 30_000 })
  // Every part is in the form, however many there are.
  for (const name of ['Guitar 1', 'Guitar 2', 'Guitar 3', 'Acoustic', 'Bass'])
    await expect(pages.first().locator('text', { hasText: name }).nth(1)).toBeAttached()
  await expect(page.locator('.paper-page text', { hasText: /^as Verse chug, but bar 4$/ })).toBeAttached()
  await pick(page.getByTestId('sheet-scope'), 'grips only')
  await expect(pages.locator('text', { hasText: /^Verse chug$/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Letter' }).click()
  const paper = page.evaluate(
    () =>
      new Promise<string>((resolve) => {
        window.print = () =>
          resolve(
            document.adoptedStyleSheets
              .flatMap(({ cssRules }) => [...cssRules].map((rule) => rule.cssText))
              .join(),
          )
      }),
  )
  await expect(page.getByTestId('print')).toBeEnabled({ timeout: 30_000 })
  await page.getByTestId('print').click()
  expect(await paper).toMatch(/@page \{.*size: letter/)
})

test('a song goes out in open formats, and a part comes in as one step', async ({ page }, info) => {
  await openDemo(page, 'handout')
  await page.keyboard.press('2')
  const saved = async (): Promise<string> => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByTestId('export').click()])
    const path = info.outputPath(file.suggestedFilename())
    await file.saveAs(path)
    return path
  }
  const score = await saved()
  await expect(page.getByTestId('file-report')).toContainText('98 bars, 13 sections, 100 chords')
  expect(readFileSync(score, 'utf8')).toContain('<score-partwise version="4.0">')
  await pick(page.getByTestId('format'), 'MIDI')
  const midi = await saved()
  await expect(page.getByTestId('file-report')).toContainText('186 dead strokes: they have no pitch')
  expect(readFileSync(midi, 'latin1').slice(0, 4)).toBe('MThd')

  await page.getByTestId('part-file').setInputFiles(score)
  await expect(page.getByTestId('bring-in')).toBeVisible()
  expect(await violations(page)).toEqual([])
  // Nothing has changed by looking at it.
  await expect(page.getByTestId('undo')).toBeDisabled()
  await pick(page.getByTestId('onto'), 'a new part')
  await expect(page.getByText('1653 notes in')).toBeVisible()
  await page.getByTestId('bring-in').click()
  await expect(page.getByTestId('bring-in')).toHaveCount(0)
  const parts = async (): Promise<number> => (await songOf(page)).partOrder.length
  await expect.poll(parts).toBe(6)
  await page.keyboard.press('Control+z')
  await expect.poll(parts).toBe(5)
  await page.getByTestId('part-file').setInputFiles({
    name: 'broken.musicxml',
    mimeType: 'text/xml',
    buffer: Buffer.from('<score-partwise><part>'),
  })
  await expect(page.getByRole('alert')).toContainText('no sound XML')
})

test('a track to play along to is saved as WAV, as long as it says', async ({ page }, info) => {
  await openDemo(page, 'handout')
  await page.keyboard.press('3')
  expect(await violations(page)).toEqual([])
  await pick(page.getByTestId('backing-from'), 'Intro')
  await pick(page.getByTestId('backing-to'), 'Intro')
  // The record goes along, slower and in its own pitch.
  await page.getByLabel('with the record itself').check()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByTestId('backing').click()])
  const path = info.outputPath('track.wav')
  await file.saveAs(path)
  const { channels, sampleRate } = readWav(readFileSync(path))!
  // Four bars and one counted in, at 118, and the end fading.
  expect(channels[0]!.length / sampleRate).toBeGreaterThan(11)
  expect(channels[0]!.length / sampleRate).toBeLessThan(13.5)
  const top = channels[0]!.reduce((highest, value) => Math.max(highest, Math.abs(value)), 0)
  expect(top).toBeGreaterThan(0.2)
  expect(top).toBeLessThan(0.9)
})
