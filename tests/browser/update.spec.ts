// A new version arrives while somebody works: it is offered, and taking it loses nothing.
import { createServer, type Server } from 'node:http'
import { expect, saved, test } from './support'

const MAIN = Number(process.env.PORT ?? 3123)
const PORT = MAIN + 2
/** The same application, whose service worker can be made a newer one. */
let appended = ''
let server: Server

test.use({ baseURL: `http://127.0.0.1:${PORT}`, serviceWorkers: 'allow' })
test.beforeAll(async () => {
  server = createServer((request, response) => {
    void fetch(`http://127.0.0.1:${MAIN}${request.url}`).then(async (answer) => {
      const body = Buffer.from(await answer.arrayBuffer())
      const {
        'content-encoding': _packed,
        'content-length': _length,
        ...headers
      } = Object.fromEntries(answer.headers)
      response.writeHead(answer.status, { ...headers, 'cache-control': 'no-store' })
      response.end(request.url === '/sw.js' ? Buffer.concat([body, Buffer.from(appended)]) : body)
    })
  })
  await new Promise<void>((resolve) => server.listen(PORT, '127.0.0.1', resolve))
})
test.afterAll(() => {
  server.close()
  server.closeAllConnections()
})

test('a new version is offered; what is typed and what undo reaches survive taking it', async ({ page }) => {
  await page.goto('/')
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await page.goto('/song/salt-on-the-signal/chart?figure=verse-chug')
  await page.getByTestId('board').click({ position: { x: 60, y: 190 } })
  await page.keyboard.press('r')
  await saved(page)
  await page.getByTestId('call-text').fill('G 7 7, hammer 7 9')
  appended = '\n// a newer one'
  await page.evaluate(() => navigator.serviceWorker.getRegistration().then((one) => one?.update()))
  await expect(page.getByTestId('update')).toBeVisible()
  await expect(page.getByTestId('call-text')).toHaveValue('G 7 7, hammer 7 9')
  await Promise.all([page.waitForEvent('load'), page.getByRole('button', { name: 'Use it now' }).click()])
  await expect(page.getByTestId('call-text')).toHaveValue('G 7 7, hammer 7 9')
  await expect(page.getByTestId('undo')).toHaveAccessibleName(/Undo: .*let ring/)
  await page.getByTestId('undo').click()
  await saved(page)
  await expect(page.getByTestId('undo')).toHaveAccessibleName('Nothing to undo')
  await expect(page.getByTestId('update')).toHaveCount(0)
})
