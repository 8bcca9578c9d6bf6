import type { Page } from '@playwright/test'
import { COLOURS, expect, openDemo, saved, test, violations } from './support'
import { pick } from './pick'

const SALT = 'salt-on-the-signal'
/** A figure as it is stored. */
const figure = (page: Page, name: string) =>
  page.evaluate(async (wanted) => {
    const open = indexedDB.open('synchorda')
    const db = await new Promise<IDBDatabase>((resolve) => {
      open.onsuccess = () => resolve(open.result)
    })
    const all = <T>(table: string): Promise<T[]> =>
      new Promise((resolve) => {
        const got = db.transaction(table).objectStore(table).getAll()
        got.onsuccess = () => resolve(got.result as T[])
      })
    interface Stored {
      name: string
      lengthTicks: number
      content: {
        notes: { string: number; fret: number; marks: { kind: string }[] }[]
        strokes: { dead: boolean; direction: string }[]
        grips: unknown[]
        mutes: unknown[]
      }
      derivedFrom?: object
      variationOf?: { replacedBars: number[] }
      pattern?: { patternId: string; ownBars: number[] }
      eased?: object
    }
    const [rows, journal] = [
      await all<{ songId: string; song: { figures: Record<string, Stored> } }>('snapshots'),
      await all<{ songId: string; patch: { table: string; id: string; after?: Stored }[] }>('journal'),
    ]
    const figures: Record<string, Stored | undefined> = {
      ...rows.find((row) => row.songId === 'salt-on-the-signal')!.song.figures,
    }
    for (const entry of journal)
      for (const change of entry.patch) if (change.table === 'figures') figures[change.id] = change.after
    return Object.values(figures).find((one) => one?.name === wanted)
  }, name)
const frets = async (page: Page, name: string): Promise<string> =>
  (await figure(page, name))!.content.notes.map((note) => `${note.string}/${note.fret}`).join(' ')
async function call(page: Page, text: string): Promise<void> {
  await page.keyboard.press('l')
  await expect(page.getByTestId('call').locator(':focus')).toBeVisible()
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
}
const tab = (page: Page, name: string) => page.getByTestId(`tab-${name}`).click()

test('an eight-bar riff with slurs and mutes by keyboard alone, in under two minutes', async ({ page }) => {
  test.slow()
  await openDemo(page, 'chart?figure=intro-riff')
  await expect(page.getByTestId('board')).toBeVisible()
  const started = Date.now()
  await page.keyboard.press('n')
  await expect(page.getByLabel('Name of the figure')).toHaveValue(/^Figure /)
  await page.keyboard.press('l')
  const line = 'low E open palm firm open palm firm, A 2 hammer 4, low E open palm firm, A 5 pull 4, low E 3'
  const other = 'G 7 7, 7 hammer 9 pull 7, B 8 bend 2 for 2, G 7'
  // As fast as a practised typist, not as fast as a machine.
  for (const [index, text] of [
    line,
    'same again but last note 5',
    other,
    'same again',
    line,
    'same again but last note A 2',
    other,
    'low E open for 8',
  ].entries()) {
    if (index) await page.keyboard.press('Shift+Enter')
    await page.keyboard.type(text, { delay: 55 })
  }
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('call-problem')).toContainText('would hold')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'tie over into a new bar' })).toBeFocused()
  await page.keyboard.press('Enter')
  await saved(page)
  expect(Date.now() - started).toBeLessThan(120_000)
  const name = await page.getByLabel('Name of the figure').inputValue()
  const stored = (await figure(page, name))!
  expect(stored.lengthTicks).toBe(8 * 40_320)
  expect(stored.content.notes.length).toBe(54)
  expect(
    stored.content.notes.filter((note) =>
      note.marks.some((mark) => mark.kind === 'hammer-on' || mark.kind === 'pull-off'),
    ).length,
  ).toBe(14)
  expect(
    stored.content.notes.filter((note) => note.marks.some((mark) => mark.kind === 'palm mute')).length,
  ).toBe(12)
})

test('the call line shows what it understands, points at what it does not, and mends it', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=intro-riff')
  await page.keyboard.press('l')
  await page.keyboard.type('G 7 9')
  await expect(page.getByTestId('call')).toContainText('2 of 16 eighths')
  await page.keyboard.type(' hamer 11,')
  await expect(page.getByTestId('call-problem')).toContainText('“hamer” is not a word')
  await page.getByTestId('call').getByRole('button', { name: 'hammer' }).click()
  await expect(page.getByTestId('call-text')).toHaveValue('G 7 9 hammer 11,')
  await page.keyboard.press('Enter')
  await saved(page)
  expect(await frets(page, 'Intro riff')).toMatch(/^3\/7 3\/9 3\/11 6\/0/)
  for (const [text, sentence] of [
    ['e 5 and e 7 ', /two notes on one string/i],
    ['G 30 ', /highest is 22/],
    ['G 7 B hammer 9 ', /stays on its string/],
    ['E open bend 2 ', /cannot be bent/],
  ] as const) {
    await page.getByTestId('call-text').fill(text)
    await expect(page.getByTestId('call-problem')).toContainText(sentence)
    await page.keyboard.press('Enter')
  }
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('undo')).toBeDisabled()
})

test('grips are found for a chord, tried, and eased when they are too wide', async ({ page }) => {
  await openDemo(page, 'chart?figure=rain')
  await tab(page, 'grip')
  await expect(page.getByTestId('other-grips').getByRole('button')).toHaveCount(8)
  await page.getByTestId('grip-chord').locator('input').fill('F#m7/E')
  await expect(page.getByTestId('other-grips').getByRole('button', { name: /Grip 002222/ })).toBeVisible()
  await page
    .getByTestId('other-grips')
    .getByRole('button', { name: /Grip 002222/ })
    .click()
  await expect(page.getByRole('heading', { name: 'F♯m7/E' })).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: 'A6/E' })).toBeVisible()
  await page.getByTestId('grip-text').locator('input').fill('x-5-9-x-10-x')
  await page.getByTestId('grip-text').locator('input').press('Enter')
  await expect(page.getByTestId('caution')).toContainText('stop at pain')
  await expect(page.getByText('easier:')).toBeVisible()
  await page.getByTestId('grip-text').locator('input').fill('123456')
  await page.getByTestId('grip-text').locator('input').press('Enter')
  await expect(page.getByTestId('caution')).toContainText('No hand holds this')
  await page.getByTestId('lay-progression').click()
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/grips for the song’s chords/)
})

test('a line is explained, found elsewhere, taken and given back', async ({ page }) => {
  await openDemo(page, 'chart?figure=solo-lead')
  await expect(page.getByTestId('scales')).toContainText('E')
  await page.getByTestId('find-paths').click()
  await expect(page.getByTestId('paths').getByRole('listitem').first()).toContainText(/frets \d+ to \d+/)
  const before = await frets(page, 'Twin solo')
  await page.getByTestId('paths').getByRole('button').first().click()
  await page.getByTestId('take-path').click()
  await saved(page)
  expect(await frets(page, 'Twin solo')).not.toBe(before)
  await expect(page.getByTestId('undo')).toHaveAccessibleName(
    /the same line elsewhere in Twin solo and 1 that follow it/,
  )
  await page.keyboard.press('Control+z')
  await saved(page)
  expect(await frets(page, 'Twin solo')).toBe(before)
})

test('a harmony line is made, kept, and follows its first line', async ({ page }) => {
  await openDemo(page, 'chart?figure=octaves')
  await page.keyboard.press('n')
  await expect(page.getByLabel('Name of the figure')).toHaveValue(/^Figure /)
  await call(page, 'G 7 9 11 12')
  await tab(page, 'second')
  await page.getByTestId('make-harmony').click()
  await page.getByTestId('keep-harmony').click()
  await expect(page.getByLabel('Name of the figure')).toHaveValue(/third below/)
  await expect(page.getByTestId('harmony-check')).toContainText('4 of 4 notes keep to it')
  const name = await page.getByLabel('Name of the figure').inputValue()
  const before = await frets(page, name)
  await page.getByRole('button', { name: 'Go to it' }).click()
  await call(page, 'G 9 11 12 14')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/and 1 that follow it/)
  await saved(page)
  expect(await frets(page, name)).not.toBe(before)
})

test('a variation keeps only what differs, and one pass plays it', async ({ page }) => {
  await openDemo(page, 'chart?figure=root-eighths')
  await tab(page, 'compare')
  await page.getByTestId('new-variation').click()
  await expect(page.getByLabel('Name of the figure')).toHaveValue('Root eighths, changed')
  await call(page, 'at bar 2, low E 3')
  await expect(page.getByTestId('from-base')).toContainText('string 4 fret 3 instead of 0')
  await saved(page)
  expect((await figure(page, 'Root eighths, changed'))!.variationOf!.replacedBars).toEqual([1])
  await page.getByRole('button', { name: 'Go to the base' }).click()
  await tab(page, 'compare')
  await pick(page.getByRole('combobox', { name: 'Pass 3 in Verse 1' }), 'Root eighths, changed')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/change "Root eighths" in Verse 1/)
  await expect(page.getByTestId('same-bar')).toContainText('Verse 2')
  await saved(page)
  await page.goto(`/song/${SALT}/map`)
  await expect(page.getByTestId('cell-verse1-b')).toContainText('Root eighths, changed')
})

test('a hand pattern is learned once and followed elsewhere', async ({ page }) => {
  await openDemo(page, 'chart?figure=half-strum')
  await tab(page, 'hand')
  await page.getByLabel('Name for a hand pattern').fill('Three and half')
  await page.getByTestId('learn-pattern').click()
  await expect(page.getByTestId('follow-pattern')).toContainText('Three and half')
  await saved(page)
  await page.goto(`/song/${SALT}/chart?figure=three-step`)
  await tab(page, 'hand')
  await pick(page.getByTestId('follow-pattern'), 'Three and half')
  await expect(page.getByText('2 figures follow it')).toBeVisible()
  await pick(page.getByTestId('school'), 'all down')
  await expect(page.getByTestId('wrong-ways')).toContainText('against it')
  await page.getByRole('button', { name: 'Turn them' }).click()
  await expect(page.getByTestId('wrong-ways')).toHaveCount(0)
  await saved(page)
  expect((await figure(page, 'Three-step'))!.pattern!.ownBars.length).toBeGreaterThan(0)
})

test('a grip too wide for the hand is eased, or one finger moves in time on the counts said', async ({
  page,
}) => {
  await openDemo(page, 'chart?figure=rain')
  await tab(page, 'grip')
  await page.keyboard.press('l')
  await page.keyboard.type('hold 1x3x6x for 8, pluck 6 4 2 4 6 4 2 4')
  await page.keyboard.press('Enter')
  await page.getByTestId('board').focus()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByTestId('caution')).toContainText('stop at pain')
  await expect(page.getByText(/to string 2 fret 6 on 2 of bar 1/)).toBeVisible()
  await page.getByTestId('move-in-time').click()
  await expect(page.getByTestId('caution')).toHaveCount(0)
  await saved(page)
  const starts = ((await figure(page, 'Rain arpeggio'))!.content.grips as { startTicks: number }[]).map(
    (span) => span.startTicks,
  )
  expect(starts.filter((start) => start < 40_320)).toEqual([0, 10_080, 20_160, 30_240])
  await page.getByTestId('undo').click()
  await page.getByRole('button', { name: 'xx3x6x' }).first().click()
  await expect(page.getByTestId('caution')).toHaveCount(0)
})

test('two parts become one, and a line is taken over from a MIDI file', async ({ page }) => {
  await openDemo(page, 'chart?figure=rain')
  await tab(page, 'second')
  await pick(page.getByTestId('merge-with'), 'Bass: Root eighths')
  await expect(page.getByTestId('merged')).toContainText(/32 of 32 notes fit, an octave up/)
  await page.getByTestId('keep-merged').click()
  await expect(page.getByLabel('Name of the figure')).toHaveValue('Rain arpeggio and Root eighths')
  await expect(page.getByText('Everything of both parts fits.')).toBeVisible()
  await page.goto(`/song/${SALT}/chart?figure=verse-chug`)
  await tab(page, 'second')
  await pick(page.getByTestId('merge-with'), 'Guitar 2: Lift arpeggio')
  await expect(page.getByTestId('merged').locator('xpath=following-sibling::ul')).toContainText(
    /left out, the hand cannot be in two places: bar/,
  )
  await page.getByTestId('keep-merged').click()
  await expect(page.getByText(/Left out: bar/)).toBeVisible()
  const track = [0, 0x90, 76, 90, 0x60, 0x80, 76, 0, 0, 0x90, 79, 90, 0x60, 0x80, 79, 0, 0, 0xff, 0x2f, 0]
  const midi = Buffer.from([
    0x4d,
    0x54,
    0x68,
    0x64,
    0,
    0,
    0,
    6,
    0,
    0,
    0,
    1,
    0,
    0x60,
    0x4d,
    0x54,
    0x72,
    0x6b,
    0,
    0,
    0,
    track.length,
    ...track,
  ])
  await page
    .getByTestId('midi-file')
    .setInputFiles({ name: 'line.mid', mimeType: 'audio/midi', buffer: Buffer.from('no midi') })
  await expect(page.getByText('This is not a MIDI file')).toBeVisible()
  await page
    .getByTestId('midi-file')
    .setInputFiles({ name: 'line.mid', mimeType: 'audio/midi', buffer: midi })
  await page.getByTestId('keep-adapted').click()
  await saved(page)
  expect((await figure(page, 'Verse chug and Lift arpeggio'))!.content.notes).toHaveLength(2)
})

test('a figure is said back in the strings’ school and taken up again', async ({ page }) => {
  await openDemo(page, 'chart?figure=pickup')
  await tab(page, 'say')
  await expect(page.getByTestId('said')).toContainText('open low E')
  await page.getByTestId('said').getByRole('button').first().click()
  await expect(page.getByTestId('call-text')).toHaveValue(/open low E/)
  await page.keyboard.press('Escape')
  await page.goto(`/song/${SALT}/setup`)
  await page.getByTestId('string-numbers').click()
  await page.goto(`/song/${SALT}/chart?figure=pickup`)
  await tab(page, 'say')
  await expect(page.getByTestId('said')).toContainText('string 6')
})

test('a tuning that cannot sound everything lists what is lost before anything changes', async ({ page }) => {
  await openDemo(page, 'setup')
  await page.getByTestId('keep-sound').click()
  await page.getByTestId('tuning').click()
  await page.getByRole('option', { name: 'Standard', exact: true }).click()
  await expect(page.getByTestId('lost')).toContainText(/lies below the new tuning/)
  await expect(page.getByTestId('undo')).toBeDisabled()
  await page.getByRole('button', { name: 'Leave the tuning' }).click()
  await page.getByTestId('tuning').click()
  await page.getByRole('option', { name: 'Standard', exact: true }).click()
  await page.getByTestId('octave-nearer').click()
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/keeping the sound/)
  await page.getByTestId('undo').click()
  await page.getByTestId('tuning').click()
  await page.getByRole('option', { name: 'Whole step down', exact: true }).click()
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/keeping the sound/)
})

for (const scheme of ['light', 'dark'] as const) {
  test(`no accessibility violation on any page of what is known, ${scheme}`, async ({ page }) => {
    test.slow()
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' })
    await openDemo(page, 'chart?figure=solo-lead')
    for (const name of ['grip', 'line', 'hand', 'neck', 'second', 'compare', 'say']) {
      await tab(page, name)
      const inside = '.knows'
      expect(
        await violations(page, { rules: scheme === 'dark' ? COLOURS : undefined, inside }),
        name,
      ).toEqual([])
    }
  })
}
