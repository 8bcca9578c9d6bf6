// Work must not be lost: what goes wrong in a browser with disks, windows and addresses, and what is left
// then.
import type { Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { expect, openDemo, openShelf, recordingReady, restIn, saved, test } from './support'

const SALT = 'salt-on-the-signal'
const undo = (page: Page) => page.getByTestId('undo')

/** From now on the database refuses every new row, or takes them again. */
const setDisk = (page: Page, full: boolean) =>
  page.evaluate((isFull) => {
    const store = IDBObjectStore.prototype as unknown as Record<string, unknown>
    store.realAdd ??= store.add
    store.add = isFull
      ? () => {
          throw new DOMException('full', 'QuotaExceededError')
        }
      : store.realAdd
  }, full)

test('a part that others stand on goes only after a question, and the song opens again', async ({ page }) => {
  await openDemo(page, 'setup')
  const remove = page.getByRole('button', { name: 'Remove Guitar 2', exact: true })
  await remove.click()
  await expect(page.getByTestId('question')).toContainText('from now on by itself')
  await page.getByTestId('question-no').click()
  await expect(undo(page)).toBeDisabled()
  await remove.click()
  await page.getByTestId('question-yes').click()
  await expect(undo(page)).toHaveAccessibleName(/^Undo: remove Guitar 2, with /)
  await saved(page)
  await page.reload()
  await expect(page.getByTestId('save-state')).toHaveText('saved')
  await expect(remove).toHaveCount(0)
  // Undo reaches back over the reload.
  await undo(page).click()
  await expect(remove).toBeVisible()
  await saved(page)
})

test('what a full disk did not take is not called saved, and is stored first when there is room', async ({
  page,
}) => {
  await openDemo(page, 'map')
  await setDisk(page, true)
  await restIn(page, 'bridge-g1')
  await expect(page.getByTestId('save-state')).toHaveText('not saved')
  await expect(page.getByTestId('notice')).toContainText('storage is full')
  await restIn(page, 'solo-g1')
  await expect(page.getByTestId('save-state')).toHaveText('not saved')
  await setDisk(page, false)
  await saved(page)
  await page.reload()
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
  await expect(page.getByTestId('cell-solo-g1')).toHaveText(/rests/)
})

test('a damaged song is shown as far as it can be read, and its last good state can be taken', async ({
  page,
}) => {
  await openDemo(page, 'map')
  await restIn(page, 'bridge-g1')
  await saved(page)
  await openShelf(page)
  await page.evaluate(async (songId) => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const opened = indexedDB.open('synchorda')
      opened.onsuccess = () => resolve(opened.result)
    })
    const patch = [{ table: 'song', id: 'partOrder', after: ['ghost'] }]
    const write = db.transaction('journal', 'readwrite').objectStore('journal')
    write.add({ songId, label: 'break it', patch, kind: 'do' })
    await new Promise((resolve) => (write.transaction.oncomplete = resolve))
    db.close()
  }, SALT)
  await page.goto(`/song/${SALT}/map`)
  await expect(page.getByTestId('trouble')).toContainText('break it')
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
  await expect(page.getByTestId('save-damaged')).toBeVisible()
  await page.getByTestId('last-good').click()
  await expect(page.getByTestId('trouble')).toHaveCount(0)
  await saved(page)
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
})

test('a window that no longer answers can be taken over, and follows then', async ({ page, context }) => {
  await openDemo(page, 'map')
  const second = await context.newPage()
  await second.goto(`/song/${SALT}/map`)
  await second.getByTestId('write-here').click()
  await expect(second.getByTestId('save-state')).toHaveText('saved')
  await restIn(second, 'bridge-g1')
  await saved(second)
  await expect(page.getByTestId('read-only')).toBeVisible()
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
})

test('a song removed in another window is said to be only here, and can be put back', async ({
  page,
  context,
}) => {
  await openDemo(page, 'map')
  const second = await context.newPage()
  await second.goto('/')
  await second.getByRole('button', { name: 'Remove Salt on the Signal' }).click()
  await second.getByRole('button', { name: 'Remove it' }).click()
  await expect(page.getByTestId('notice')).toContainText('only in this window')
  await restIn(page, 'bridge-g1')
  await expect(page.getByTestId('save-state')).toHaveText('not saved')
  await page.getByRole('button', { name: 'Put it back on the shelf' }).click()
  await saved(page)
  await page.reload()
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
})

test(
  'another song opened before the first has opened: the last one is shown and ' + 'holds the only lock',
  async ({ page }) => {
    await openShelf(page)
    for (let round = 0; round < 6; round++) {
      const last = await page.evaluate((at) => {
        const links = document.querySelectorAll<HTMLAnchorElement>('[data-test=song] a.open')
        const [first, then] = [links[at % 3]!, links[(at + 1) % 3]!]
        first.click()
        setTimeout(() => then.click(), at * 8)
        return then.href
      }, round)
      const id = /song\/([^/]+)/.exec(last)![1]!
      await page.waitForURL(`**/song/${id}/**`)
      await expect(page.getByTestId('save-state')).toHaveText('saved')
      await expect
        .poll(() => page.evaluate(async () => (await navigator.locks.query()).held!.map((lock) => lock.name)))
        .toEqual([`synchorda-song-${id}`])
      await expect(page.locator('header a')).toHaveAttribute('href', `/song/${id}/setup`)
      await page.goto('/')
      await expect(page.getByTestId('song')).toHaveCount(3)
    }
  },
)

test('addresses of things that are not there say so', async ({ page }) => {
  await openDemo(page, 'chart?figure=constructor')
  await expect(page.getByTestId('save-state')).toHaveText('saved')
  await page.keyboard.press('r')
  await page.goto('/song/constructor/map')
  await expect(page.getByTestId('trouble')).toContainText('not on this machine')
  await page.goto('/no/such/page')
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible()
})

test('what is typed at the call line is still there after a reload', async ({ page }) => {
  await openDemo(page, 'chart?figure=octaves')
  await page.keyboard.press('l')
  await page.keyboard.type('G seven, hammer n')
  await page.reload()
  await page.keyboard.press('l')
  await expect(page.locator('textarea').first()).toHaveValue('G seven, hammer n')
})

test('stopping while the sound card still wakes up keeps it stopped', async ({ page }) => {
  await page.addInitScript(() => {
    const wake = AudioContext.prototype.resume
    AudioContext.prototype.resume = function () {
      return new Promise((resolve) => setTimeout(() => void wake.call(this).then(resolve), 6000))
    }
    Object.defineProperty(AudioContext.prototype, 'state', { get: () => 'suspended' })
    const starts = { count: 0 }
    Object.assign(window, { soundStarts: starts })
    const post = Worker.prototype.postMessage
    Worker.prototype.postMessage = function (message: { kind?: string }, ...rest: never[]) {
      if (message?.kind === 'start' && 'plan' in message) starts.count++
      return post.call(this, message, ...(rest as []))
    }
  })
  await openDemo(page, 'map')
  const play = page.getByTestId('play')
  await play.click()
  // A recording that has just arrived stops it too: whatever it shows now, it is stopped by hand.
  await expect(async () => {
    if ((await play.getAttribute('aria-label')) === 'Stop') await play.click()
    await expect(play).toHaveAccessibleName('Play', { timeout: 200 })
  }).toPass({ timeout: 4000 })
  await page.waitForTimeout(7500)
  expect(
    await page.evaluate(() => (window as never as { soundStarts: { count: number } }).soundStarts.count),
  ).toBe(0)
  await expect(page.getByTestId('play')).toHaveAccessibleName('Play')
})

test('songs opened and closed leave one stretcher behind, not one each', async ({ page }) => {
  await page.addInitScript(() => {
    const made = { worklets: 0 }
    Object.assign(window, { made })
    window.AudioWorkletNode = class extends AudioWorkletNode {
      constructor(...args: ConstructorParameters<typeof AudioWorkletNode>) {
        super(...args)
        made.worklets++
      }
    }
  })
  await openShelf(page)
  for (let round = 0; round < 20; round++) {
    await page
      .getByTestId('song')
      .locator('a.open')
      .nth(round % 3)
      .click()
    await expect(page.getByTestId('save-state')).toHaveText('saved')
    if (round < 6) await page.waitForTimeout(500)
    await page.goBack()
    await expect(page.getByTestId('song')).toHaveCount(3)
  }
  const made = await page.evaluate(() => (window as never as { made: { worklets: number } }).made.worklets)
  expect(made).toBeLessThanOrEqual(1)
})

/** Rows of a table of the browser's database. */
const rowsOf = <T>(page: Page, table: string): Promise<T[]> =>
  page.evaluate(async (name) => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const opened = indexedDB.open('synchorda')
      opened.onsuccess = () => resolve(opened.result)
    })
    const got = db.transaction(name).objectStore(name).getAll()
    const rows = await new Promise<unknown[]>((resolve) => (got.onsuccess = () => resolve(got.result)))
    db.close()
    return rows as never
  }, table)

test('a shelf restored while a song is open elsewhere leaves that song to its window, and says so', async ({
  page,
  context,
}) => {
  await openDemo(page, 'map')
  const second = await context.newPage()
  await openShelf(second)
  await second.getByTestId('backup').click()
  const saving = second.waitForEvent('download')
  await second.getByTestId('backup-save').click()
  const file = await (await saving).path()
  await restIn(page, 'bridge-g1')
  await saved(page)
  await second.getByTestId('backup-file').setInputFiles({
    name: 'shelf.synchorda-shelf.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(file),
  })
  await second.getByTestId('restore-all').click()
  await expect(second.getByTestId('backup-done')).toContainText('2 songs')
  await expect(second.getByRole('alert')).toContainText('Salt on the Signal”: it is open in another window')
  // The window goes on, and all of it is there after a reload.
  await restIn(page, 'solo-g1')
  await saved(page)
  await page.reload()
  for (const cell of ['bridge-g1', 'solo-g1'])
    await expect(page.getByTestId(`cell-${cell}`)).toHaveText(/rests/)
})

test('the recording of a song that was removed elsewhere is there when it is put back', async ({
  page,
  context,
}) => {
  await openDemo(page, 'listen')
  await recordingReady(page)
  const stored = (await rowsOf<{ hash: string }>(page, 'audio')).map(({ hash }) => hash)
  expect(stored.length).toBeGreaterThan(0)
  const second = await context.newPage()
  await second.goto('/')
  await second.getByRole('button', { name: 'Remove Salt on the Signal' }).click()
  await second.getByRole('button', { name: 'Remove it' }).click()
  await page.getByRole('button', { name: 'Put it back on the shelf' }).click()
  await saved(page)
  expect((await rowsOf<{ hash: string }>(page, 'audio')).map(({ hash }) => hash)).toEqual(stored)
  // Removed with no window on it, it takes its recording along.
  await openShelf(page)
  await page.getByRole('button', { name: 'Remove Salt on the Signal' }).click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect.poll(() => rowsOf(page, 'audio')).toEqual([])
})

test('what two windows note for one student is all kept, and a damaged student is shown', async ({
  page,
  context,
}) => {
  await openDemo(page, 'teach')
  const second = await context.newPage()
  await second.goto(`/song/${SALT}/teach`)
  await expect(second.getByTestId('student')).toBeVisible()
  type Row = { id: string; log: { id: string }[] }
  const logOf = async (): Promise<number> =>
    (await rowsOf<Row>(page, 'students')).find(({ id }) => id === 'demo-ines')!.log.length
  const before = await logOf()
  for (const window of [page, second, page]) {
    await window.getByTestId('simulate').click()
    await expect(window.getByTestId('simulated')).toContainText('The simulated student played')
  }
  await expect.poll(logOf).toBe(before + 3)
  await page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const opened = indexedDB.open('synchorda')
      opened.onsuccess = () => resolve(opened.result)
    })
    const table = db.transaction('students', 'readwrite').objectStore('students')
    const got = table.get('demo-ines')
    await new Promise((resolve) => (got.onsuccess = resolve))
    table.put({ ...(got.result as object), handMm: 'wide' })
    await new Promise((resolve) => (table.transaction.oncomplete = resolve))
    db.close()
  })
  await page.reload()
  await expect(page.getByTestId('student-damaged')).toContainText('the span of the hand')
  await expect(page.getByTestId('student')).toContainText('Ines')
})
