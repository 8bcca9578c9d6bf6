// Every page at the sizes it is used at: nothing scrolls sideways, no control is cut off or covered by
// another.
import type { Page } from '@playwright/test'
import { expect, goWithin, openShelf, test } from './support'

const SIZES = [
  { name: 'tablet', width: 820, height: 1180 },
  { name: 'small laptop', width: 1280, height: 800 },
  { name: 'large screen', width: 1920, height: 1080 },
] as const
const STEPS = [
  'setup',
  'listen',
  'map',
  'chart?figure=verse-chug',
  'chart?figure=outro-lead',
  'prove',
  'compare',
  'teach',
  'handout',
] as const

/** Controls in view that a pointer cannot hit in their middle, and words that do not fit their button. */
const unreachable = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = []
    if (document.documentElement.scrollWidth > window.innerWidth)
      found.push(`the page is ${document.documentElement.scrollWidth} wide on ${window.innerWidth}`)
    for (const control of document.querySelectorAll<HTMLElement>(
      'button, a[href], select, input:not([type=hidden]):not([type=file])',
    )) {
      const box = control.getBoundingClientRect()
      const style = getComputedStyle(control)
      if (
        box.width < 2 ||
        box.height < 2 ||
        style.visibility === 'hidden' ||
        style.opacity === '0' ||
        control.closest('[inert], [aria-hidden=true]')
      )
        continue
      const said = control.getAttribute('aria-label') ?? control.textContent ?? ''
      const name = `${control.tagName.toLowerCase()} “${said.trim().slice(0, 40)}”`
      if (box.right > window.innerWidth + 1 || box.left < -1) {
        found.push(`${name} sticks out sideways`)
        continue
      }
      if (
        control.tagName === 'BUTTON' &&
        control.scrollWidth > control.clientWidth + 2 &&
        style.overflow !== 'hidden'
      )
        found.push(`${name} is wider than its box`)
      // What lies below the fold or under a strip that stays is scrolled to first, as a person would.
      const covering = (): Element | undefined => {
        const { left, top, width, height } = control.getBoundingClientRect()
        const hit = document.elementFromPoint(left + width / 2, top + height / 2)
        return hit === control ||
          control.contains(hit) ||
          hit?.contains(control) ||
          control.closest('label')?.contains(hit) ||
          hit?.closest('.v-field')?.contains(control)
          ? undefined
          : (hit ?? document.documentElement)
      }
      if (!covering()) continue
      control.scrollIntoView({ block: 'center', behavior: 'instant' })
      const hit = covering()
      if (hit)
        found.push(
          `${name} is covered by ${hit.tagName.toLowerCase()} ` +
            `“${(hit.textContent ?? '').trim().slice(0, 30)}”`,
        )
    }
    return found
  })

test('on a phone every control can be reached on the pages a student has in the hand', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await openShelf(page)
  expect(await unreachable(page), 'shelf').toEqual([])
  for (const step of ['prove', 'teach', 'stand']) {
    await goWithin(page, `/song/salt-on-the-signal/${step}`)
    await page.getByText('loading the recording').waitFor({ state: 'detached' })
    await page.waitForTimeout(300)
    expect(await unreachable(page), step).toEqual([])
  }
})

for (const { name, width, height } of SIZES) {
  test(`on a ${name} every control can be reached on every page`, async ({ page }) => {
    await page.setViewportSize({ width, height })
    await openShelf(page)
    expect(await unreachable(page), 'shelf').toEqual([])
    for (const step of STEPS) {
      await goWithin(page, `/song/salt-on-the-signal/${step}`)
      await expect(page.getByTestId('save-state')).toBeVisible()
      await page.getByText('loading the recording').waitFor({ state: 'detached' })
      await page.waitForTimeout(300)
      expect(await unreachable(page), step).toEqual([])
      if (!step.startsWith('chart')) continue
      for (const tab of ['line', 'hand', 'neck', 'second', 'compare', 'say']) {
        await page.getByTestId(`tab-${tab}`).click()
        await page.waitForTimeout(150)
        expect(await unreachable(page), `${step}, ${tab}`).toEqual([])
      }
    }
  })
}
