import { withBrowser } from './serve'
const jobs: { name: string; text: string; url?: string; size?: [number, number]; dark?: boolean; after?: string }[] = JSON.parse(process.argv[2]!)
await withBrowser(4790, async (browser, address) => {
  for (const job of jobs) {
    const page = await browser.newPage({ viewport: { width: job.size?.[0] ?? 1280, height: job.size?.[1] ?? 800 }, colorScheme: job.dark ? 'dark' : 'light' })
    page.on('console', (m) => { if (m.type() === 'error') console.log('console', m.text()) })
    page.on('pageerror', (e) => console.log('pageerror', e.message))
    await page.goto(address); await page.getByTestId('song').first().waitFor()
    await page.goto(address + (job.url ?? '/song/salt-on-the-signal/chart?figure=intro-riff'))
    await page.getByTestId('board').waitFor()
    await page.waitForTimeout(600)
    await page.keyboard.press('l')
    for (const [i, part] of job.text.split('⏎').entries()) { if (i) await page.keyboard.press('Enter'); await page.keyboard.type(part, { delay: 3 }) }
    await page.waitForTimeout(300)
    for (const key of (job.after ?? '').split(' ').filter(Boolean)) { if (key.startsWith('#')) await page.getByTestId(key.slice(1)).first().click(); else await page.keyboard.press(key); await page.waitForTimeout(250) }
    await page.waitForTimeout(400)
    await page.screenshot({ path: `/tmp/shots/${job.name}.png` })
    await page.close()
  }
})
