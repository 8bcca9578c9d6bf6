// npm run shots: the main views with the demo song, as committed in docs/screenshots.
import { mkdirSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { withBrowser } from './serve'

const SONG = '/song/salt-on-the-signal'
const VIEWS: { name: string; path: string; act?: (page: Page) => Promise<void> }[] = [
  { name: 'shelf', path: '/' },
  { name: 'setup', path: `${SONG}/setup` },
  {
    name: 'listen',
    path: `${SONG}/listen`,
    act: async (page) => {
      const box = (await page.getByTestId('sheet').boundingBox())!
      await page.mouse.move(box.x + 178, box.y + 190)
      await page.mouse.down()
      await page.mouse.move(box.x + 510, box.y + 190, { steps: 5 })
      await page.mouse.up()
      await page.mouse.move(10, 400)
    },
  },
  {
    name: 'listen-heard',
    path: '/song/ninth-platform/listen',
    act: async (page) => {
      await page.getByTestId('accept-all').waitFor()
      const box = (await page.getByTestId('sheet').boundingBox())!
      await page.mouse.click(box.x + 270, box.y + 190)
      await page.mouse.move(10, 400)
      await page.getByRole('button', { name: 'Why these bars?' }).click()
    },
  },
  {
    name: 'map',
    path: `${SONG}/map`,
    act: async (page) => {
      await page.getByTestId('cell-verse1-g1').click({ position: { x: 20, y: 46 } })
    },
  },
  {
    name: 'chart',
    path: `${SONG}/chart?figure=verse-chug`,
    act: async (page) => {
      await page.getByTestId('board').focus()
      for (let row = 0; row < 6; row++) await page.keyboard.press('ArrowUp')
      for (let step = 0; step < 16; step++) await page.keyboard.press('ArrowRight')
    },
  },
  {
    name: 'chart-notes',
    path: `${SONG}/chart?figure=intro-riff`,
    act: async (page) => {
      await page.getByTestId('board').focus()
      await page.keyboard.press('ArrowUp')
      for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight')
      await page.getByTestId('find-paths').click()
      await page.getByTestId('paths').getByRole('button').first().waitFor()
      await page.keyboard.press('l')
      await page.keyboard.type('G 7 hammer 9, B 8 bend 2, ', { delay: 5 })
    },
  },
  {
    name: 'chart-call',
    path: `${SONG}/chart?figure=intro-riff`,
    act: async (page) => {
      await page.keyboard.press('l')
      await page.keyboard.press('Control+a')
      await page.keyboard.type(
        'okay so 7 on the G, hammer on to 9, bend the 8 on the B and let it down, then 10 on the E',
        { delay: 5 },
      )
    },
  },
  {
    name: 'chart-compare',
    path: `${SONG}/chart?figure=verse-chug-fill`,
    act: async (page) => {
      await page.getByTestId('tab-compare').click()
    },
  },
  { name: 'prove', path: `${SONG}/prove` },
  { name: 'compare', path: `${SONG}/compare` },
  { name: 'teach', path: `${SONG}/teach` },
  {
    name: 'stand',
    path: `${SONG}/stand?part=g1`,
    act: async (page) => {
      for (let bar = 0; bar < 17; bar++) await page.keyboard.press('PageDown')
    },
  },
  { name: 'handout', path: `${SONG}/handout` },
]

/** The dark is shown of these; all of it is looked at by the tests. */
const IN_THE_DARK = new Set(['listen', 'chart', 'prove', 'teach', 'stand'])

mkdirSync('docs/screenshots', { recursive: true })
await withBrowser(3211, async (browser, address) => {
  for (const scheme of ['light', 'dark'] as const) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: scheme })
    const page = await context.newPage()
    page.setDefaultTimeout(15_000)
    await page.goto(address)
    await page.locator('[data-test=song]').nth(2).waitFor()
    for (const view of VIEWS) {
      if (scheme === 'dark' && !IN_THE_DARK.has(view.name)) continue
      await page.goto(address + view.path)
      await page.waitForTimeout(600)
      await page.getByText('loading the recording').waitFor({ state: 'detached' })
      await view.act?.(page)
      await page.waitForTimeout(500)
      await page.screenshot({ path: `docs/screenshots/${view.name}${scheme === 'dark' ? '-dark' : ''}.png` })
    }
    await context.close()
  }
})
