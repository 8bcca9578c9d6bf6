// The call line takes what people say: on the bench, on the map and in Listen.
import type { Page } from '@playwright/test'
import { expect, goWithin, openDemo, recordingReady, saved, songOf, test, violations } from './support'

interface StoredNote {
  string: number
  fret: number
  startTicks: number
  marks: { kind: string; semitones?: number }[]
}
async function notesOf(page: Page, figureId: string): Promise<StoredNote[]> {
  const song = await songOf(page)
  return song.figures[figureId]!.content.notes as StoredNote[]
}
const places = (notes: readonly StoredNote[]): string =>
  notes.map((note) => `${note.string}/${note.fret}`).join(' ')

async function newFigure(page: Page, bars: number): Promise<string> {
  await page.getByTestId('new-figure').click()
  await expect(page.getByTestId('board')).toBeFocused()
  const id = new URL(page.url()).searchParams.get('figure')!
  const field = page.getByLabel('bars', { exact: true })
  await field.fill(String(bars))
  await field.press('Tab')
  await saved(page)
  await page.getByTestId('board').focus()
  return id
}

test('an eight-bar riff as told to a student, its second pass by reference, in two minutes', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=intro-riff')
  const started = Date.now()
  const id = await newFigure(page, 8)
  const say = async (text: string): Promise<void> => {
    await page.keyboard.type(text, { delay: 45 })
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('call-text')).toHaveValue('')
  }
  await page.keyboard.press('l')
  await say(
    'okay so open low E three times, palm muted, then 3 on the A, hammer on to 5, open low E twice, rest',
  )
  await say('two dead notes on the low E, then 3, 5 on the A, slide up to 7, and 5, 7 on the D')
  await say('bend the 9 on the G a whole step and let it down, then 7 on the G, 9 on the D')
  await say('7 on the D, pull off to 5, then 7 on the A with vibrato, and let that last one ring')
  // What was entered last, again, with another ending.
  await say('same again, but finish on 7 of the D')
  await saved(page)
  expect(Date.now() - started).toBeLessThan(120_000)
  const notes = await notesOf(page, id)
  const kinds = notes.flatMap((note) => note.marks.map((mark) => mark.kind))
  for (const kind of ['palm mute', 'hammer-on', 'pull-off', 'slide', 'bend', 'dead', 'vibrato', 'let ring'])
    expect(kinds).toContain(kind)
  expect(places(notes.slice(-6))).toBe('4/7 4/5 5/7 4/7 4/5 4/7')
  // One step to undo, named by the call.
  await expect(page.getByTestId('undo')).toHaveAttribute('aria-label', /same again, but finish on 7 of the D/)
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await saved(page)
  expect(places((await notesOf(page, id)).slice(-3))).toBe('4/7 4/5 5/7')
})

test('what was assumed is shown on the strings, and turned by a click or a key', async ({ page }) => {
  await openDemo(page, 'chart?figure=intro-riff')
  await page.keyboard.press('l')
  await page.keyboard.type('so 10 on the B, 12 on the E, blorp')
  const choice = page.getByTestId('call-choice')
  await expect(choice).toContainText('on the high E')
  await expect(page.getByTestId('call-sentence')).toContainText('10 on the B, then 12 on the high E')
  await page.keyboard.press('Alt+1')
  await expect(choice).toContainText('on the low E')
  await expect(page.getByTestId('call-sentence')).toContainText('12 on the low E')
  await choice.click()
  await expect(choice).toContainText('on the high E')
  // Words that carry nothing are dim, words that were not understood underlined.
  await expect(page.locator('.under .empty').first()).toHaveText('so')
  await expect(page.locator('.under .unknown')).toHaveText('blorp')
  expect(await violations(page)).toEqual([])
})

test('a slip is asked about, an error is said once, and a long call is seen whole', async ({ page }) => {
  await openDemo(page, 'chart?figure=intro-riff')
  await page.keyboard.press('l')
  await page.keyboard.type('A minor, 3 on the A, 2 on the D, open G, 1 on the B')
  await expect(page.getByTestId('call-slip')).toContainText('is the name meant, or the frets?')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('call-asks')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('call-text')).toHaveValue('')
  await page.keyboard.type('hamer 7 on the G')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/is not a word of the call line/)).toHaveCount(1)
  const one = (await page.getByTestId('call-text').boundingBox())!.height
  await page.getByTestId('call-text').fill('7 on the G, 9 on the G, then 8 on the B, '.repeat(6))
  await expect
    .poll(async () => (await page.getByTestId('call-text').boundingBox())!.height)
    .toBeGreaterThan(one * 2.5)
})

test('earlier calls come back by arrow up, and what can be said is searched by example', async ({ page }) => {
  await openDemo(page, 'chart?figure=intro-riff')
  await page.keyboard.press('l')
  await page.keyboard.type('7 on the G')
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowUp')
  await expect(page.getByTestId('call-text')).toHaveValue('7 on the G')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('call-text')).toHaveValue('')
  await page.getByTestId('call-words').click()
  await page.getByTestId('call-words-search').locator('input').fill('whole step')
  await expect(page.getByTestId('call-example').first()).toContainText('bend the 8 on the B a whole step')
  expect(await violations(page)).toEqual([])
  await page.getByTestId('call-example').first().click()
  await expect(page.getByTestId('call-text')).toHaveValue('bend the 8 on the B a whole step')
})

async function goes(page: Page, where: string): Promise<void> {
  await page.getByTestId('call-goes').click()
  await page.getByRole('option', { name: where }).click()
  await expect(page.getByTestId('call-goes')).toContainText(where)
}
test('a call goes after this, on top of it, into a variation, and the choice stays', async ({ page }) => {
  await openDemo(page, 'chart?figure=intro-riff')
  const id = await newFigure(page, 1)
  const say = async (text: string): Promise<void> => {
    await page.getByTestId('call-text').fill(text)
    await page.getByTestId('call-text').press('Enter')
    await expect(page.getByTestId('call-text')).toHaveValue('')
    await saved(page)
  }
  const now = async () => (await songOf(page)).figures[id]!
  await goes(page, 'after this')
  await say('7 on the G, nine times')
  expect(await now()).toMatchObject({ lengthTicks: 3 * 40_320 })
  expect((await now()).content.notes[0]).toMatchObject({ startTicks: 40_320 })
  await goes(page, 'on top of this')
  await page.getByTestId('board').focus()
  for (let step = 0; step < 30; step++) await page.keyboard.press('ArrowLeft')
  await say('open high E, nine times')
  expect((await now()).content.notes.length).toBe(18)
  await goes(page, 'as a variation')
  await say('12 on the G')
  await expect(page).not.toHaveURL(new RegExp(`figure=${id}`))
  const other = new URL(page.url()).searchParams.get('figure')!
  expect((await songOf(page)).figures[other]!.variationOf?.figureId).toBe(id)
  await page.getByRole('button', { name: 'Undo: call “12 on the G”' }).click()
  await expect.poll(async () => (await songOf(page)).figures[other]).toBeUndefined()
  await page.getByRole('button', { name: 'Redo: call “12 on the G”' }).click()
  await expect.poll(async () => (await songOf(page)).figures[other]).toBeDefined()
  await page.reload()
  await expect(page.getByTestId('call-goes')).toContainText('as a variation')
})

test('the map and Listen take calls over the form', async ({ page }) => {
  await openDemo(page, 'map')
  await page.keyboard.press('l')
  await page.keyboard.type('bass rests in every chorus')
  await expect(page.getByTestId('form-call')).toContainText('Bass rests in Chorus 1, Chorus 2 and Chorus 3')
  await page.keyboard.press('Enter')
  await saved(page)
  await expect(page.getByTestId('cell-chorus2-b')).toContainText('rests')
  await page.keyboard.type('frobnicate')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('form-call')).toContainText('no call over the form')
  await page.keyboard.press('Escape')
  expect(await violations(page)).toEqual([])
  await page.getByTestId('undo').click()
  await expect(page.getByTestId('cell-chorus2-b')).not.toContainText('rests')
  await openDemo(page, 'listen')
  await page
    .getByTestId('form-call-text')
    .locator('input')
    .fill('in verse 2: 8 bars of G, D, Em, C, two each')
  await page.getByTestId('form-call-text').locator('input').press('Enter')
  await saved(page)
  const { harmony } = (await songOf(page)).sections.verse2!
  expect(harmony.map((chord) => chord.startTicks / 40_320)).toEqual([0, 2, 4, 6])
})

test('grips slide, bends are kept, licks and accents are said; all of it is there after a reload', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=intro-riff')
  const id = await newFigure(page, 2)
  const field = page.getByTestId('call-text')
  const say = async (text: string): Promise<void> => {
    await field.fill(text)
    await field.press('Enter')
    await expect(field).toHaveValue('')
  }
  await say('hold 577655, down, slide the whole chord up two frets')
  await say(
    'bend the 7 on the B a whole step and hold it, 8 on the high E, release the B, ' +
      '5 on the low E, pick scrape',
  )
  await field.fill('accents of the voice on 9')
  await field.press('Enter')
  await expect(page.getByTestId('call-problem')).toContainText('no count of this bar')
  await say('accents of the voice on 1, the and of 2')
  await say('call bar 1 the turn')
  await saved(page)
  await page.reload()
  await expect(page.locator('.board svg text', { hasText: 'voice' })).toBeVisible()
  const figure = (await songOf(page)).figures[id]!
  expect(figure.content.strokes.map(({ marks }) => marks)).toEqual([[], [{ kind: 'slide', how: 'legato' }]])
  expect(figure.content.notes.flatMap(({ marks }) => marks.map(({ kind }) => kind))).toEqual([
    'bend',
    'bend',
    'scrape',
  ])
  expect(figure.accentLines).toMatchObject([{ of: 'voice', at: [0, 15_120, 40_320, 55_440] }])
  expect(figure.licks).toMatchObject([{ name: 'the turn', startTicks: 0, lengthTicks: 40_320 }])
  // The hand row slides by key, and undo takes back one call at a time.
  await page.getByTestId('board').focus()
  await page.keyboard.press('Home')
  for (let row = 0; row < 8; row++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('s')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/slide the grip/)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/the turn/)
})

test('landmarks and rigs are said on the map; who stands right is listened for under a figure', async ({
  page,
}) => {
  await openDemo(page, 'map')
  const field = page.getByTestId('form-call-text').locator('input')
  for (const [text, says] of [
    ['cue “here we go” in verse 2, bar 3 on 4', 'cue words “here we go” in Verse 2, bar 3'],
    ['rig of guitar 1 in the bridge: neck pickup, crunch, delay dotted eighth', 'Rig of Guitar 1 in Bridge'],
  ] as const) {
    await field.fill(text)
    await expect(page.getByTestId('form-call')).toContainText(says)
    await field.press('Enter')
    await expect(field).toHaveValue('')
  }
  await saved(page)
  const song = await songOf(page)
  expect(Object.values(song.spots).filter(({ text }) => text === 'here we go')).toHaveLength(1)
  expect(song.parts.g1!.sectionRigs!.at(-1)!.rig).toMatchObject({
    pickup: 'neck',
    effects: [{ delayTicks: 7560 }],
  })
  await recordingReady(page)
  await goWithin(page, '/song/salt-on-the-signal/chart?figure=octaves')
  await page.getByRole('tab', { name: 'Compare' }).click()
  const panel = page.getByTestId('accents')
  await panel.getByTestId('accents-who').click()
  await page.getByRole('option', { name: 'who stands right' }).click()
  await panel.getByTestId('hear-accents').click()
  await expect(page.getByTestId('accents-words')).toContainText('strokes fall on who stands right', {
    timeout: 30_000,
  })
  await panel.getByTestId('keep-accents').click()
  await expect(panel.getByTestId('accent-line')).toContainText('keys')
  await saved(page)
})
