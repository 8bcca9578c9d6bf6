// Starts the built application for a script and stops it again.
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { chromium, selectors, type Browser } from '@playwright/test'

selectors.setTestIdAttribute('data-test')

export async function withBrowser<T>(
  port: number,
  use: (browser: Browser, address: string) => Promise<T>,
): Promise<T> {
  if (!existsSync('.output/server/index.mjs')) throw new Error('Build first: npm run build')
  const server = spawn('node', ['.output/server/index.mjs'], {
    env: { ...process.env, PORT: String(port), HOST: '127.0.0.1' },
    stdio: 'ignore',
  })
  const address = `http://127.0.0.1:${port}`
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'],
  })
  try {
    for (let tries = 0; tries < 50; tries++) {
      if (
        await fetch(address).then(
          () => true,
          () => false,
        )
      )
        break
      await new Promise((resolve) => setTimeout(resolve, 200))
    }
    return await use(browser, address)
  } finally {
    await browser.close()
    server.kill()
  }
}
