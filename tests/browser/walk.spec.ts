import { readFileSync } from 'node:fs'
import { readSongFile } from '../../core/exchange/song-file'
import { must } from '../../core/result'
import { expect, heardLevel, openShelf, saved, tapSound, test } from './support'

test('from a recording to a lesson sheet, and back from its file on another machine', async ({
  page,
  browser,
}, info) => {
  await tapSound(page)
  await openShelf(page)

  // Shelf
  await page.getByTestId('new-song').click()
  await page.getByTestId('new-title').locator('input').fill('Harbour <b>Steps</b>')
  await page.getByTestId('new-artist').locator('input').fill('The Sample Four')
  await page.getByTestId('audio-file').setInputFiles('public/demo/ninth-platform.ogg')
  await page.getByTestId('create').click()
  // A demo song has this recording: another song of it is only made when that is meant.
  await expect(page.getByTestId('new-problem')).toContainText('on the shelf already: “Ninth Platform” has it')
  await page.getByTestId('create').click()

  // Set up
  await expect(page).toHaveURL(/setup/, { timeout: 30_000 })
  await page.getByTestId('add-part').click()
  await expect(page.getByTestId('part-name').locator('input')).toHaveValue('Guitar 1')
  await page.getByTestId('tuning').click()
  await page.getByRole('option', { name: 'Half step down', exact: true }).click()
  await expect(page.getByRole('cell', { name: /turn down a half step; check: fret 5/ }).first()).toBeVisible()
  await page.getByTestId('key-tonic').click()
  await page.getByRole('option', { name: 'E', exact: true }).click()
  await page.getByTestId('string-numbers').click()
  await expect(page.getByRole('cell', { name: '6', exact: true })).toBeVisible()
  await expect(page.getByTestId('undo')).toHaveAccessibleName('Undo: change key')

  // Listen
  await page.getByRole('link', { name: /Listen/ }).click()
  await page.getByTestId('accept-bars').click({ timeout: 60_000 })
  await expect(page.getByTestId('sums')).toContainText('nothing missing')
  const sheet = page.getByTestId('sheet')
  await sheet.hover({ position: { x: 400, y: 112 } })
  await page.keyboard.press('s')
  await page.getByTestId('section-name').locator('input').fill('Verse 1')
  await page.getByRole('button', { name: 'verse', exact: true }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('section-heading')).toHaveText(['Whole song', 'Verse 1'])
  await page.keyboard.press('h')
  await expect(page.getByTestId('undo')).toHaveAccessibleName('Undo: halve the pulse')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/make Verse 1 a verse|rename/)

  // Map, then Chart by keys
  await page.getByRole('link', { name: /^Map/ }).click()
  await page
    .getByRole('rowheader', { name: /Verse 1/ })
    .getByRole('button')
    .click()
  await page.getByTestId('new-figure').click()
  await expect(page).toHaveURL(/chart\?figure=/)
  const board = page.getByTestId('board')
  await board.focus()
  await page.keyboard.press('g')
  await page.keyboard.type('022xxx')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'E5' })).toBeVisible()
  await board.focus()
  for (let row = 0; row < 7; row++) await page.keyboard.press('ArrowDown')
  for (const key of ['d', 'd', 'u', 'd']) await page.keyboard.press(key)
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('x')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('m')
  await page.keyboard.press('m')
  await page.keyboard.press('m')
  await page.keyboard.press('ArrowUp')
  for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight')
  await page.keyboard.type('3')
  await page.keyboard.press('b')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.type('5')
  await page.keyboard.press('h')
  await page.getByTestId('neck').click({ position: { x: 300, y: 20 } })
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/string 1 fret/)
  await saved(page)

  // Hear the figure alone
  await expect(page.getByText('loading the recording')).toHaveCount(0, { timeout: 30_000 })
  await page.getByTestId('hear-figure').click()
  await expect.poll(() => heardLevel(page), { timeout: 15_000 }).toBeGreaterThan(0.005)
  await page.getByTestId('play').click()

  // Hand out
  await page.getByRole('link', { name: /Hand out/ }).click()
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByTestId('pdf').click()])
  await pdf.saveAs(info.outputPath('sheet.pdf'))
  const sheetBytes = readFileSync(info.outputPath('sheet.pdf'))
  expect(sheetBytes.subarray(0, 5).toString()).toBe('%PDF-')
  await page.getByRole('button', { name: 'Song file' }).click()
  await page.getByLabel('with the recording inside').check()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-file').click()])
  const path = info.outputPath('harbour.zip')
  await file.saveAs(path)
  const written = must(readSongFile(readFileSync(path)))
  expect(written.recording?.bytes.length).toBe(readFileSync('public/demo/ninth-platform.ogg').length)
  const [figure] = Object.values(written.song.figures)
  expect(figure!.content.strokes.map((stroke) => [stroke.direction, stroke.marks])).toEqual([
    ['down', []],
    ['down', []],
    ['up', [{ kind: 'palm mute', pressure: 'firm' }]],
    ['down', [{ kind: 'dead' }]],
  ])
  expect(figure!.content.notes.map((note) => note.fret)).toContain(3)
  expect(figure!.content.notes.flatMap((note) => note.marks.map((mark) => mark.kind))).toEqual([
    'bend',
    'hammer-on',
  ])

  // Nothing saved is lost on reload; markup stays text
  await page.reload()
  await expect(page.getByText('Harbour <b>Steps</b>', { exact: true }).first()).toBeVisible()

  // Another machine
  const other = await browser.newContext()
  const away = await other.newPage()
  await openShelf(away)
  await away.getByTestId('song-file').setInputFiles(path)
  await expect(away).toHaveURL(/map/, { timeout: 30_000 })
  await away.getByRole('link', { name: /Hand out/ }).click()
  await away.getByRole('button', { name: 'Song file' }).click()
  const [again] = await Promise.all([away.waitForEvent('download'), away.getByTestId('save-file').click()])
  await again.saveAs(info.outputPath('again.zip'))
  expect(must(readSongFile(readFileSync(info.outputPath('again.zip')))).song).toEqual(written.song)
  await other.close()
})
