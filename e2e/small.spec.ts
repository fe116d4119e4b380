import { expect, type Page } from '@playwright/test'
import { test } from './application'
import { open } from './steps'

/** Runs in the page: what a thumb cannot hit, what cannot be read, and what lies beyond the edge. */
function faults(): string[] {
  const seen = (element: Element) => {
    const { width, height } = element.getBoundingClientRect()
    const style = getComputedStyle(element)
    return width > 1 && height > 1 && style.visibility !== 'hidden' && !element.closest('.sr-only, .skip')
  }
  const named = (element: Element) =>
    `${element.tagName.toLowerCase()}.${String(element.className).split(' ')[0]} "${(element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 30)}"`
  const found: string[] = []
  const targets = 'a, button, input, select, textarea, summary, [role=slider], [role=combobox], [role=radio]'
  for (const target of [...document.querySelectorAll(targets)].filter(seen)) {
    // a box to tick is hit by its label, a list by its frame, a word in a sentence as it stands
    const frame =
      target.closest('label') ?? target.closest('.p-select') ?? (target.closest('.joined') ? target : target)
    if (target.matches('.term, [aria-hidden=true], input[type=file]')) continue
    const { width, height, left, right } = frame.getBoundingClientRect()
    if (height < 43.5 || width < 43.5)
      found.push(`small ${Math.round(width)}x${Math.round(height)}: ${named(target)}`)
    if (left < -1 || right > innerWidth + 1) found.push(`beyond the edge: ${named(target)}`)
  }
  const texts = [...document.querySelectorAll('main *, header *, footer *')].filter(
    (element) =>
      seen(element) &&
      [...element.childNodes].some((node) => node.nodeType === 3 && node.textContent?.trim()),
  )
  for (const text of texts) {
    const size = parseFloat(getComputedStyle(text).fontSize)
    if (size < 11.9) found.push(`letters of ${size} px: ${named(text)}`)
  }
  if (document.documentElement.scrollWidth > innerWidth + 1)
    found.push(`the page is ${document.documentElement.scrollWidth} px wide`)
  return [...new Set(found)]
}

const stations = ['brief', 'patch', 'levels', 'proof', 'roll', 'gear']

const measured = (page: Page) => page.evaluate(faults)

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  for (const station of stations)
    test(`${station}: everything can be hit, read and reached`, async ({ page }) => {
      await open(page, station)
      await expect(page.getByRole('button', { name: 'Menu', exact: true })).toBeVisible()
      await page.waitForTimeout(500)
      expect(await measured(page)).toEqual([])
    })

  test('panels too: a link, a box, what may be added, a thing of the shelf, and the menu', async ({
    page,
  }) => {
    await open(page, 'patch')
    await page.getByRole('button', { name: 'Link Recorder to Camera' }).tap()
    await expect(page.getByRole('complementary', { name: 'Selected link' })).toBeVisible()
    expect(await measured(page)).toEqual([])
    await page.getByRole('button', { name: /^Recorder Two-track/ }).tap()
    await expect(page.getByRole('complementary', { name: 'Selected box' })).toBeVisible()
    expect(await measured(page)).toEqual([])
    await page.getByRole('button', { name: 'Menu', exact: true }).tap()
    await page.getByRole('menuitem', { name: 'Gear' }).tap()
    await page
      .getByRole('button', { name: /^Two-track recorder/ })
      .first()
      .tap()
    await expect(page.getByRole('textbox', { name: 'Name' })).toBeVisible()
    // a menu that is still closing is not yet the page
    await expect(page.getByRole('menuitem')).toHaveCount(0)
    expect(await measured(page)).toEqual([])
    await page.getByRole('button', { name: 'Menu', exact: true }).tap()
    await page.getByRole('menuitem', { name: 'Find' }).tap()
    await page.getByRole('textbox', { name: 'Find' }).fill('headroom')
    await page.getByRole('button', { name: /headroom/ }).tap()
    await expect(page.getByRole('dialog', { name: 'Terms' })).toContainText('before something clips')
  })
})
