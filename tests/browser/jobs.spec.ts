// Three jobs of a guitar teacher from nothing: a song that nobody has begun, charted so that it can be
// taught.
import type { Page } from '@playwright/test'
import { pick } from './pick'
import { clickSong, expect, openDemo, saved, songFromRecording, songOf, test, violations } from './support'
import type { Figure, Song } from '../../core/document/schema'

async function newSong(page: Page, title: string): Promise<string> {
  await songFromRecording(page, title, Buffer.from(clickSong().wav))
  return /song\/([^/]+)\//.exec(page.url())![1]!
}
async function addPart(page: Page, tuning: string): Promise<void> {
  const before = await page.getByRole('button', { name: /^Remove / }).count()
  await page.getByTestId('add-part').click()
  await expect(page.getByRole('button', { name: /^Remove / })).toHaveCount(before + 1)
  await pick(page.getByTestId('tuning'), tuning)
  await saved(page)
}
async function call(page: Page, ...lines: string[]): Promise<void> {
  await page.getByTestId('board').focus()
  await page.keyboard.press('l')
  for (const line of lines) {
    await page.keyboard.type(line)
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('call-text')).toHaveValue('')
  }
  await page.keyboard.press('Escape')
  await saved(page)
}
async function chart(page: Page, id: string): Promise<void> {
  await page.goto(`/song/${id}/chart`)
  await page.getByTestId('first-figure').click()
  await expect(page.getByTestId('board')).toBeFocused()
}
const figuresOf = async (page: Page, id: string): Promise<Figure[]> =>
  Object.values((await songOf(page, id)).figures)
const tab = (page: Page, name: string): Promise<void> => page.getByTestId(`tab-${name}`).click()

test('a plucked ballad half a step down: shapes, fingers for each other, the sheet after a reload', async ({
  page,
}) => {
  const id = await newSong(page, 'Harbour Lamp')
  await addPart(page, 'Half step down')
  await page.getByTestId('rig-gain').locator('input').fill('clean, a little room')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/rig of/)
  await saved(page)
  await chart(page, id)
  await call(page, 'C for a bar, then Am for a bar')
  await tab(page, 'hand')
  await page.getByTestId('finger-grips').click()
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/fingers chosen for the next shapes/)
  await saved(page)
  const [figure] = await figuresOf(page, id)
  expect(figure!.content.grips).toHaveLength(2)
  const fingers = figure!.content.grips.map(({ grip }) => grip.strings.map((one) => one.finger ?? ''))
  // Of C and Am first and second finger stay.
  expect(fingers[0]!.filter((finger, string) => finger && finger === fingers[1]![string])).toHaveLength(2)
  await page.reload()
  await expect(page.getByTestId('board')).toContainText('Am', { timeout: 20_000 })
  await page.goto(`/song/${id}/handout`)
  await expect(page.getByText(/clean, a little room/).first()).toBeVisible({ timeout: 20_000 })
})

test('a twin harmony in drop D: two lines on two strings, one note as it is played', async ({ page }) => {
  const id = await newSong(page, 'Paper Lantern')
  await addPart(page, 'Dropped low string to D')
  await chart(page, id)
  await call(page, 'B 12, 13, 15, high E 12')
  await tab(page, 'second')
  await page.getByTestId('third-voice').click()
  const wish = page.getByTestId('neck-wish')
  await wish.getByRole('button', { name: 'on string 2' }).click()
  await wish.getByRole('button', { name: 'on string 3' }).click()
  await page.getByTestId('make-harmony').click()
  await expect(page.getByTestId('beside')).toBeVisible()
  await page.getByTestId('keep-harmony').click()
  await expect(page.getByLabel('Name of the figure')).toHaveValue(/third below on strings 2 and 3/)
  await saved(page)
  const lines = (await figuresOf(page, id)).filter(({ derivedFrom }) => derivedFrom)
  expect(lines.map(({ derivedFrom }) => derivedFrom!.interval)).toEqual([-3, -5])
  for (const { content } of lines) for (const { string } of content.notes) expect([2, 3]).toContain(string)
  // One note as the player has it, typed at the note; the rest goes on following.
  const exception = page.getByTestId('exception-here').locator('input')
  await exception.fill('-5')
  await exception.press('Enter')
  await expect(page.getByTestId('followed-rule')).toContainText('as he plays it')
  await saved(page)
  const first = (await figuresOf(page, id)).find(({ derivedFrom }) => derivedFrom?.interval === -3)!
  expect(first.derivedFrom!.exceptions).toMatchObject([{ startTicks: 0, semitones: -5 }])
  await page.keyboard.press('Control+z')
  await saved(page)
  expect((await figuresOf(page, id)).flatMap(({ derivedFrom }) => derivedFrom?.exceptions ?? [])).toEqual([])
})

test('a riff on I, moved to IV on the strings, its usual ending named and found again', async ({ page }) => {
  const id = await newSong(page, 'Copper Road')
  await addPart(page, 'Standard')
  await chart(page, id)
  await call(page, 'low E 5, 8, A 5, 7, 5, 7, low E 8, 5')
  await tab(page, 'neck')
  await expect(page.getByTestId('zone-scale')).toContainText('minor pentatonic')
  await page
    .getByTestId('zones')
    .getByRole('button', { name: /lowest the root/ })
    .click()
  await tab(page, 'compare')
  await page.getByTestId('board').focus()
  await page.keyboard.press('Home')
  await page.getByTestId('lick-name').locator('input').fill('the turn')
  await page.getByTestId('keep-lick').click()
  await expect(page.getByTestId('licks')).toContainText('8 notes')
  await page.getByTestId('new-variation').click()
  await tab(page, 'line')
  await page.getByTestId('to-fourth').click()
  await saved(page)
  await tab(page, 'compare')
  await page.getByRole('button', { name: 'Go to the base' }).click()
  await tab(page, 'compare')
  await expect(page.getByTestId('licks')).toContainText('5 half steps higher')
  const moved = (await figuresOf(page, id)).find(({ variationOf }) => variationOf)!
  expect(moved.content.notes.slice(0, 4).map(({ string, fret }) => `${string}/${fret}`)).toEqual([
    '5/5',
    '5/8',
    '4/5',
    '4/7',
  ])
  expect(await violations(page)).toEqual([])
})

test('on the map a pass differs, the rig of a section is its own, a landmark stands at its bar', async ({
  page,
}) => {
  await openDemo(page, 'map')
  const cell = page.getByTestId('cell-verse1-b')
  await cell.click({ position: { x: 30, y: 14 } })
  await page.getByRole('button', { name: /A pass differs/ }).click()
  await expect(page.getByTestId('pass-dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('e')
  const rig = page.getByTestId('rig-dialog')
  await rig.getByRole('button', { name: 'Add an effect' }).click()
  await page
    .getByRole('listitem')
    .filter({ hasText: /^octave$/ })
    .click()
  await expect(rig.getByTestId('effect-octave')).toBeVisible()
  await expect(rig).toContainText('its own rig')
  expect(await violations(page)).toEqual([])
  await page.keyboard.press('Escape')
  await page.keyboard.press('Shift+F2')
  await page.getByTestId('marked').click()
  await page.getByTestId('note-text').locator('textarea').first().fill('the light goes out')
  await page.keyboard.press('Tab')
  await saved(page)
  const song: Song = await songOf(page)
  expect(song.parts.b!.sectionRigs).toMatchObject([
    { sectionId: 'verse1', rig: { effects: [{ kind: 'octave' }] } },
  ])
  expect(Object.values(song.spots)).toContainEqual(
    expect.objectContaining({ kind: 'landmark', landmark: 'cue words', text: 'the light goes out' }),
  )
  await openMap(page)
  await expect(page.getByRole('row', { name: /^Verse 1 / })).toContainText('cue “the light goes out”')
})
const openMap = (page: Page): Promise<unknown> => page.goto('/song/salt-on-the-signal/map')
