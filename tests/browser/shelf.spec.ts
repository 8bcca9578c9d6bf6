// The shelf and the files that come to it: of other programs, and the whole of it.
import { readFileSync } from 'node:fs'
import { strToU8 } from 'fflate'
import { expect, openShelf, songOf, test, violations } from './support'

const SCORE = `<score-partwise version="4.0"><work><work-title>Paper Boat</work-title></work>
 <part-list><score-part id="P1"><part-name>Lead</part-name></score-part></part-list><part id="P1">
 <measure number="1"><attributes><divisions>1</divisions>
 <time><beats>4</beats><beat-type>4</beat-type></time></attributes>
 <direction><direction-type><rehearsal>Verse</rehearsal></direction-type></direction>
 <harmony><root><root-step>A</root-step></root><kind>minor</kind></harmony>
 <note><pitch><step>A</step><octave>3</octave></pitch><duration>4</duration>
  <notations><technical><string>3</string><fret>4</fret></technical></notations></note></measure>
 <measure number="2"><note><unpitched/><duration>4</duration></note></measure></part></score-partwise>`

test('a score of another program says what it cannot hold before it becomes a song', async ({ page }) => {
  await openShelf(page)
  const field = page.getByTestId('song-file')
  const score = { name: 'boat.musicxml', mimeType: 'text/xml', buffer: Buffer.from(strToU8(SCORE)) }
  await field.setInputFiles(score)
  const report = page.getByTestId('file-report')
  await expect(report).toContainText('2 bars, 1 section, 1 chord')
  expect(await violations(page)).toEqual([])
  await expect(report).toContainText('notes without a pitch: drums are not charted')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(report).toHaveCount(0)
  await expect(page.getByRole('link', { name: /Paper Boat/ })).toHaveCount(0)
  await field.setInputFiles(score)
  // Tablature and note disagree: what is taken is shown, and the other can be.
  const question = page.getByTestId('question-pitches')
  await expect(question).toContainText('fret 4 on string 3 is B3, the note is A3')
  await expect(question.getByLabel('the strings and frets')).toBeChecked()
  await question.getByLabel('the notes, laid on the neck anew').check()
  await expect(page.getByTestId('bring-make')).toBeEnabled()
  await page.getByTestId('bring-make').click()
  await page.waitForURL(/\/map/)
  const id = /song\/([^/]+)\//.exec(page.url())?.[1]
  const song = await songOf(page, id)
  expect(song.title).toBe('Paper Boat')
  const [note, ...more] = Object.values(song.figures)[0]!.content.notes
  const { tuning } = Object.values(song.parts)[0]!
  expect([tuning.openMidi[note!.string - 1]! + note!.fret, more]).toEqual([57, []])
  await page.reload()
  await expect(page.getByText('Paper Boat').first()).toBeVisible()
})

test('a file that is nothing to read is refused in a sentence', async ({ page }) => {
  await openShelf(page)
  await page.getByTestId('song-file').setInputFiles({
    name: 'letter.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Dear all,\nno chords here.'),
  })
  await expect(page.getByTestId('bring-problem')).toContainText('No line of chords was found')
})

test('the shelf is saved in one file and brought back, after what it would replace is shown', async ({
  page,
}, info) => {
  await openShelf(page)
  await page.keyboard.press('b')
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByTestId('backup-save').click()])
  const path = info.outputPath('shelf.zip')
  await file.saveAs(path)
  expect(readFileSync(path).subarray(0, 2).toString()).toBe('PK')
  await page.getByRole('button', { name: 'Close' }).click()
  await page
    .getByRole('button', { name: /^Remove/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  const songs = page.locator('.songs > li')
  await expect(songs).toHaveCount(2)
  await page.getByTestId('backup').click()
  await page.getByTestId('backup-file').setInputFiles(path)
  await expect(page.getByTestId('backup-here').locator('li')).toHaveCount(2)
  expect(await violations(page)).toEqual([])
  await page.getByTestId('restore-missing').click()
  await expect(page.getByTestId('backup-done')).toContainText('Brought back: 1 song')
  await page.getByRole('button', { name: 'Close' }).click()
  await expect(songs).toHaveCount(3)
  await page.getByTestId('backup').click()
  await page.getByTestId('backup-file').setInputFiles({
    name: 'x.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('PK nothing'),
  })
  await expect(page.getByRole('alert')).toContainText('not a backup of a shelf')
})
