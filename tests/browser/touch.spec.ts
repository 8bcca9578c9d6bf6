// A tablet: figures are moved by their handle with a finger, and everywhere else a finger scrolls.
import type { CDPSession, Locator } from '@playwright/test'
import { clearCell, expect, openDemo, test } from './support'

test.use({ hasTouch: true, isMobile: true, viewport: { width: 1024, height: 1500 } })

async function middleOf(place: Locator): Promise<{ x: number; y: number }> {
  const box = (await place.boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}

async function dragWithFinger(finger: CDPSession, from: Locator, to: Locator): Promise<void> {
  const [start, end] = [await middleOf(from), await middleOf(to)]
  const touch = (type: string, touchPoints: { x: number; y: number }[]) =>
    finger.send('Input.dispatchTouchEvent', { type: type as 'touchStart', touchPoints })
  await touch('touchStart', [start])
  for (let step = 1; step <= 8; step++)
    await touch('touchMove', [
      { x: start.x + ((end.x - start.x) * step) / 8, y: start.y + ((end.y - start.y) * step) / 8 },
    ])
  await touch('touchEnd', [])
}

test('a figure is dragged to another section with a finger', async ({ page, context }) => {
  await openDemo(page, 'map')
  const cell = (section: string) => page.getByTestId(`cell-${section}-b`)
  await clearCell(page, 'solo-b')
  const finger = await context.newCDPSession(page)
  await dragWithFinger(finger, cell('verse2').locator('[data-handle]'), cell('solo'))
  await expect(cell('solo')).toHaveText(/Root eighths ×2/)
  await expect(cell('verse2')).toHaveText('not charted')
  await page.getByTestId('undo').click()
  await expect(cell('verse2')).toHaveText(/Root eighths ×2/)
})
