import { expect, openDemo, recordingReady, saved, songOf, test } from './support'

const SALT = 'salt-on-the-signal'

test('what is found is mended, taken back, and excused with a reason that stays', async ({ page }) => {
  await openDemo(page, 'prove')
  const list = page.getByTestId('prove-list')
  await expect(page.getByTestId('prove-sums')).toHaveText('4 open of 10')
  await list.getByText('Guitar 2 in Outro: 2 bars not charted').click()
  await page.keyboard.press('f')
  await expect(list.getByText('not charted')).toHaveCount(0)
  await page.getByTestId('undo').click()
  await list.getByText('Guitar 2 in Outro: 2 bars not charted').click()
  await page.keyboard.press('w')
  await page.keyboard.type('the run is left for the student to find')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('prove-sums')).toHaveText('3 open of 10')
  await saved(page)
  await page.reload()
  await page.getByTestId('show-done').click()
  await list.getByText('Guitar 2 in Outro').click()
  await expect(page.getByTestId('finding')).toContainText('Excused: the run is left for the student to find')
  await page.getByTestId('take-up').click()
  await expect(page.getByTestId('prove-sums')).toHaveText('4 open of 10')
  await page.getByTestId('show-open').click()
  await list.getByText('Guitar 2 in Outro').click()
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/map$/)
})

test('a doubt is marked on the bench, told in readings, measured, heard by three keys and settled', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=solo-lead')
  await page.getByTestId('board').focus()
  await page.keyboard.press('F2')
  await page.getByTestId('marked').click()
  await expect(page).toHaveURL(/prove/)
  const doubt = page.getByTestId('doubt')
  await expect(doubt).toContainText('Solo, bar 1')
  await doubt.getByTestId('question').locator('textarea').first().fill('B or D?')
  await page.keyboard.press('Tab')
  for (const words of ['B4', 'D']) {
    await doubt.getByTestId('new-reading').locator('input').fill(words)
    await page.keyboard.press('Enter')
  }
  // A solo that is played once has no such bar elsewhere; the chord of the pre-chorus has.
  await expect(page.getByTestId('doubt-elsewhere')).toHaveCount(0)
  // By shape B sounds B flat; the solo begins on it.
  await expect(page.getByTestId('verdict-1')).toContainText('the record says so')
  await expect(page.getByTestId('reading-2')).toContainText('D')
  await page.getByTestId('prove-sums').click()
  for (const key of ['2', '3', '4', '1']) {
    await page.keyboard.press(key)
    await expect(page.getByTestId('play')).toHaveAccessibleName('Stop')
  }
  await page.keyboard.press('1')
  await expect(page.getByTestId('play')).toHaveAccessibleName('Play')
  await page.keyboard.press('w')
  await page.keyboard.type('heard at half speed')
  await page.getByTestId('decide-1').click()
  await saved(page)
  const settled = Object.values((await songOf(page, SALT)).doubts).find(
    ({ question }) => question === 'B or D?',
  )
  expect(settled).toMatchObject({ status: 'settled', why: 'heard at half speed' })
  expect(settled!.readings[0]!.evidence.length).toBeGreaterThan(0)
  await page.reload()
  await page.getByTestId('show-doubts').click()
  await page.getByTestId('prove-list').getByText('B or D?').click()
  await expect(page.getByTestId('reading-1')).toContainText('decided')
  await page.getByTestId('undo').click()
  await expect(page.getByTestId('decide-1')).toBeVisible()
  await page.getByTestId('prove-list').getByText('The last chord of the pre-chorus').click()
  await expect(page.getByTestId('doubt-elsewhere')).toContainText('Pre-chorus 2, bar 4')
  await page.keyboard.press('f')
  await expect(page.getByText('A doubt is settled by taking one of its readings.')).toBeVisible()
})

test('the chart is held against the record: what is heard otherwise is mended, and stays mended', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=chorus-roots')
  await page.getByTestId('board').focus()
  // The bench begins on the lowest string there is. The fret of the first note, one too high.
  await page.keyboard.press('4')
  await saved(page)
  await page.getByRole('link', { name: 'Prove' }).click()
  await recordingReady(page)
  await page.keyboard.press('h')
  const list = page.getByTestId('prove-list')
  const wrong = list.getByText(/“Chorus roots” \(Bass\): .+ is charted \(bar 1, 1\), .+ is heard/)
  await wrong.click({ timeout: 60_000 })
  await expect(page.getByTestId('against-record')).toContainText('The record has one thing against the chart')
  await page.keyboard.press('f')
  await expect(wrong).toHaveCount(0)
  await expect(page.getByTestId('against-record')).toContainText('The record has nothing against the chart')
  await saved(page)
  const [first] = (await songOf(page, SALT)).figures['chorus-roots']!.content.notes
  expect(first).toMatchObject({ string: 4, fret: 3, startTicks: 0 })
  await page.getByTestId('undo').click()
  await expect(wrong).toHaveCount(1)
})

test('places are marked from Listen and Map, to be heard again or remarked on', async ({ page }) => {
  await openDemo(page, 'map')
  await page.keyboard.press('F4')
  await expect(page.getByTestId('marked')).toContainText('Opening')
  await saved(page)
  await openDemo(page, 'listen')
  await page.keyboard.press('Shift+F4')
  await page.getByTestId('marked').click()
  const note = page.getByTestId('note')
  await note.getByTestId('note-text').locator('textarea').first().fill('he stumbles here: leave it')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('prove-list')).toContainText('he stumbles here')
  await page.getByTestId('prove-list').getByText('no question yet').first().click()
  await page.getByTestId('note-done').locator('input').check()
  await saved(page)
  const spots = Object.values((await songOf(page, SALT)).spots)
  expect(spots.map(({ kind, done }) => `${kind ?? 'to hear'} ${done}`).sort()).toEqual([
    'remark false',
    'remark false',
    'to hear false',
    'to hear true',
  ])
})

test('what the record plays is drafted on the strings, note by note, and taken as one step', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=solo-lead')
  await page.getByTestId('tab-line').click()
  await page.getByTestId('hear-draft').click()
  const notes = page.getByRole('group', { name: 'Notes that are heard' }).getByRole('button')
  await expect(notes.first()).toBeVisible()
  const heard = await notes.count()
  expect(heard).toBeGreaterThan(25)
  await notes.first().click()
  await expect(page.getByTestId('keep-draft')).toHaveText(`Take ${heard - 1} notes`)
  await page.getByTestId('keep-draft').click()
  await saved(page)
  const content = (await songOf(page, SALT)).figures['solo-lead']!.content
  expect(content.notes).toHaveLength(heard - 1)
  // As it is charted: most of it lies at the twelfth fret.
  expect(content.notes.filter(({ fret }) => fret >= 12).length).toBeGreaterThan(20)
  await page.getByTestId('undo').click()
  await saved(page)
  expect((await songOf(page, SALT)).figures['solo-lead']!.content.notes.length).not.toBe(heard - 1)
})
