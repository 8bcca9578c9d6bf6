// What was set stays where it sounds: a recording is laid out by hand, corrected in every way, and the
// second of every chord and section compared.
import type { Page } from '@playwright/test'
import type { Song } from '../../core/document/schema'
import { mostMoved } from '../support/moments'
import { pick } from './pick'
import { expect, openDemo, recordingReady, saved, songOf, test } from './support'

const SONG = 'ninth-platform'

async function undo(page: Page): Promise<void> {
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('undo')).not.toHaveAccessibleName(/pulse|the one|tap/)
  await saved(page)
}
const bars = (song: Song): number =>
  Object.values(song.sections).reduce((sum, section) => sum + section.bars.length, 0)

/** Everything heard is taken over; one section is counted in three. */
async function layOut(page: Page): Promise<Song> {
  await openDemo(page, 'listen', SONG)
  await recordingReady(page)
  await page.getByTestId('accept-all').click()
  await saved(page)
  await page.getByTestId('section-heading').nth(3).click()
  await pick(page.getByRole('dialog').getByRole('combobox', { name: 'Meter' }), '3/4')
  await page.getByRole('button', { name: 'Done' }).click()
  await saved(page)
  return songOf(page, SONG)
}
/** The place of a bar of a ruled line, at a beat of it. */
async function clickBeat(page: Page, line: number, bar: number, beat: number): Promise<void> {
  const box = (await page.getByTestId('section-heading').nth(line).boundingBox())!
  const sheet = (await page.getByTestId('sheet').boundingBox())!
  const width = (sheet.width - 172) / 8
  await page.mouse.click(sheet.x + 172 + width * (bar + beat / 4) + 1, box.y + 30)
}

test('corrections move the grid under what was set', async ({ page }) => {
  test.setTimeout(180_000)
  const laid = await layOut(page)
  const sheet = page.getByTestId('sheet')
  const corrected = async (what: string, within = 0.02): Promise<Song> => {
    await expect(page.getByTestId('undo')).toHaveAccessibleName(/pulse|the one|tap/)
    await saved(page)
    const song = await songOf(page, SONG)
    const moved = mostMoved(laid, song)
    expect(moved.by, `${what}: ${moved.what}`).toBeLessThan(within)
    return song
  }
  expect(Object.values(laid.sections).some((section) => section.bars[0]!.meter.beats === 3)).toBe(true)

  await page.getByRole('button', { name: 'Double' }).click()
  expect(bars(await corrected('doubled'))).toBeGreaterThan(1.9 * bars(laid))
  await undo(page)
  await page.getByRole('button', { name: 'Halve' }).click()
  await corrected('halved')
  await undo(page)

  await clickBeat(page, 1, 1, 1)
  await page.keyboard.press('1')
  const shifted = await corrected('the one')
  expect(bars(shifted)).toBeGreaterThanOrEqual(bars(laid))
  const inThree = (song: Song): number =>
    Object.values(song.sections).flatMap((section) => section.bars.filter((bar) => bar.meter.beats === 3))
      .length
  expect(inThree(shifted)).toBeGreaterThanOrEqual(inThree(laid) - 1)
  await undo(page)
  await clickBeat(page, 1, 1, 2)
  await page.keyboard.press('!')
  await corrected('the one from here')
  await undo(page)

  await clickBeat(page, 2, 0, 0)
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  for (let tap = 0; tap < 12; tap++) {
    await page.waitForTimeout(430)
    await page.keyboard.press('t')
  }
  await page.keyboard.press('Space')
  await page.keyboard.press('Enter')
  // Taps are not where the beats were: chords among them go with the beats, by up to a beat; all else stays.
  const tapped = await corrected('tapped', 0.6)
  const outside = (song: Song): string[] => {
    const last = song.sectionOrder.slice(4).map((id) => song.sections[id]!)
    return last.map((section) => JSON.stringify([section.harmony, section.bars]))
  }
  expect(outside(tapped)).toEqual(outside(laid))
  await undo(page)

  expect(mostMoved(laid, await songOf(page, SONG)).by).toBe(0)
  await expect(sheet).toBeVisible()
})

test('a chord in the hand is named, moved, divided and taken away, and stays over a reload', async ({
  page,
}) => {
  await openDemo(page, 'listen', SONG)
  await page.getByTestId('accept-all').click()
  await saved(page)
  const chords = async () => {
    const song = await songOf(page, SONG)
    return song.sectionOrder.flatMap((id) => song.sections[id]!.harmony)
  }
  const before = await chords()
  // The first doubtful one: it has rivals.
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Tab')
  const panel = page.getByTestId('chord-in-hand')
  await expect(panel).toBeVisible()
  await page.keyboard.press('Shift+w')
  const renamed = async (): Promise<number> =>
    (await chords()).filter((chord, index) => chord.symbol !== before[index]!.symbol).length
  await expect.poll(renamed).toBe(1)

  await panel.getByTestId('chord-name').fill('c sharp')
  await panel.getByTestId('chord-name').press('Enter')
  await expect(page.getByText(/is no chord I know/)).toBeVisible()
  await panel.getByTestId('chord-name').fill('F#m7')
  await panel.getByTestId('chord-name').press('Enter')
  const typed = async (): Promise<boolean> =>
    (await chords()).some((chord) => /m7$/.test(chord.symbol) && chord.confidence === undefined)
  await expect.poll(typed).toBe(true)

  const count = (await chords()).length
  await page.keyboard.press('/')
  await expect.poll(async () => (await chords()).length).toBe(count + 1)
  await page.keyboard.press('Alt+ArrowLeft')
  await page.keyboard.press('x')
  await expect.poll(async () => (await chords()).length).toBe(count)
  await saved(page)
  const after = await chords()
  await page.reload()
  await saved(page)
  expect(await chords()).toEqual(after)
  for (let step = 0; step < 5; step++) await page.keyboard.press('Control+z')
  await expect.poll(chords).toEqual(before)
})

test('doubtful chords are gone through with Tab, and what is set is not offered again', async ({ page }) => {
  await openDemo(page, 'listen', SONG)
  await page.getByTestId('accept-all').click()
  await saved(page)
  await page.getByTestId('sheet').focus()
  await page.keyboard.press('Tab')
  const name = page.getByTestId('chord-name')
  await expect(name).toBeVisible()
  const where = page.getByTestId('chord-in-hand').locator('.mono').first()
  const first = await where.textContent()
  await page.keyboard.press('Tab')
  await expect(where).not.toHaveText(first!)
  const before = await songOf(page, SONG)
  await page.getByTestId('hear-inside').click()
  await expect(page.getByText(/every chord there is set, so nothing is offered/)).toBeVisible({
    timeout: 60_000,
  })
  expect((await songOf(page, SONG)).sections).toEqual(before.sections)
})

test('a section begins by the beat, returns half of another, and has a kind of its own', async ({ page }) => {
  await openDemo(page, 'listen', SONG)
  await page.getByTestId('accept-all').click()
  await saved(page)
  await page.getByTestId('section-heading').nth(3).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByTestId('beat-earlier').click()
  await expect(dialog.getByText('lead-in of 1 beats')).toBeVisible()
  await pick(dialog.getByRole('combobox', { name: 'Returns' }), 'Verse 1')
  await pick(dialog.getByRole('combobox', { name: 'What of it' }), 'its second half')
  await dialog.getByRole('button', { name: 'other', exact: true }).click()
  await dialog.getByTestId('own-kind').getByRole('textbox').fill('call and answer')
  await dialog.getByTestId('own-kind').getByRole('textbox').press('Tab')
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect
    .poll(async () => Object.values((await songOf(page, SONG)).sections).some(({ ownKind }) => ownKind))
    .toBe(true)
  const song = await songOf(page, SONG)
  const section = song.sections[song.sectionOrder[3]!]!
  expect(section).toMatchObject({ kind: 'other', ownKind: 'call and answer' })
  expect(section.pickupTicks).toBeGreaterThan(0)
  expect(section.returns?.firstBar).toBeGreaterThan(0)
  await expect(page.getByText('begins a beat before')).toBeVisible()
})

test('a loop is dragged from the first bar of a section, and the handle beside it moves the section', async ({
  page,
}) => {
  await openDemo(page, 'listen', SONG)
  await page.getByTestId('accept-all').click()
  await saved(page)
  const laid = await songOf(page, SONG)
  const heading = (await page.getByTestId('section-heading').nth(1).boundingBox())!
  const sheet = (await page.getByTestId('sheet').boundingBox())!
  const drag = async (fromX: number, toX: number, y: number): Promise<void> => {
    await page.mouse.move(sheet.x + fromX, heading.y + y)
    await page.mouse.down()
    await page.mouse.move(sheet.x + toX, heading.y + y, { steps: 6 })
    await page.mouse.up()
  }
  const bar = (sheet.width - 172) / 8
  await drag(175, 172 + 2.1 * bar, 25)
  await expect(page.getByTestId('loop-menu')).not.toContainText('off')
  expect((await songOf(page, SONG)).sections).toEqual(laid.sections)
  await drag(166, 172 + 1.05 * bar, 8)
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/move the start of Verse 1/)
})

test('other ways to count are heard before one is taken', async ({ page }) => {
  await openDemo(page, 'listen', SONG)
  await page.getByTestId('accept-all').click()
  await saved(page)
  const laid = await songOf(page, SONG)
  await recordingReady(page)
  await page.keyboard.press('v')
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Hear', pressed: true })).toHaveCount(1)
  expect((await songOf(page, SONG)).sources).toEqual(laid.sources)
  await page.keyboard.press('Shift+v')
  await expect.poll(async () => bars(await songOf(page, SONG)) / bars(laid)).toBeLessThan(0.7)
  const halved = await songOf(page, SONG)
  expect(mostMoved(laid, halved).by).toBeLessThan(0.02)
})
