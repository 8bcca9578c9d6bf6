import { withBrowser } from './serve'
await withBrowser(4790, async (browser, address) => {
  for (const [name, url, text] of [['map', 'map', 'verse 2 as verse 1 but the last bar'], ['listen', 'listen', '4 bars of G, D, Em, C']] as const) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    page.on('pageerror', (e) => console.log('pageerror', e.message))
    page.on('console', (m) => { if (m.type() === 'error') console.log('console', m.text()) })
    await page.goto(address); await page.getByTestId('song').first().waitFor()
    await page.goto(`${address}/song/salt-on-the-signal/${url}`)
    await page.getByTestId('form-call-text').waitFor()
    await page.waitForTimeout(800)
    await page.keyboard.press('l'); await page.keyboard.type(text); await page.waitForTimeout(400)
    await page.screenshot({ path: `/tmp/shots/${name}.png` })
    await page.close()
  }
})
