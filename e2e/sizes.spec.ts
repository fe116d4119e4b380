import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { test } from './application'
import { faults } from './faults'
import { addLongNamed, renameAll } from './long-names'
import { open } from './steps'

const stations = ['brief', 'patch', 'levels', 'line-up', 'proof', 'roll', 'gear']
const sizes = [
  { width: 390, height: 844, targetPx: 44 },
  { width: 768, height: 1024, targetPx: 20 },
  { width: 1024, height: 768, targetPx: 20 },
  { width: 1280, height: 800, targetPx: 20 },
  { width: 1920, height: 1080, targetPx: 20 },
]
const phone = sizes[0]!

/** At every size in turn, by day and by night, each fault with the sizes at which it is met. */
async function faultsAt(page: Page, which = sizes): Promise<string[]> {
  const met = new Map<string, string[]>()
  for (const { width, height, targetPx } of which) {
    await page.setViewportSize({ width, height })
    await page.waitForTimeout(250)
    for (const fault of await page.evaluate(faults, { targetPx }))
      met.set(fault, [...(met.get(fault) ?? []), String(width)])
  }
  return [...met].map(([fault, widths]) => `${widths.join(' ')}: ${fault}`)
}

/** The fullest page, and the one that is used on a phone. */
for (const station of ['levels', 'roll'])
  test(`${station}: everything can be hit, read and reached on a phone`, async ({ page }) => {
    await open(page, station)
    await page.waitForTimeout(500)
    expect(await faultsAt(page, [phone])).toEqual([])
  })

for (const station of stations)
  test(
    `${station}: everything can be hit, read and reached at every size, by day and night`,
    { tag: '@long' },
    async ({ page }) => {
      await open(page, station)
      await page.waitForTimeout(500)
      expect(await faultsAt(page)).toEqual([])
      await page.evaluate(() => document.documentElement.classList.add('night'))
      // colours take a moment to change, on a slow machine a long one
      await page.waitForTimeout(500)
      const { violations } = await new AxeBuilder({ page })
        .setLegacyMode()
        .withRules(['color-contrast'])
        .analyze()
      expect(violations.flatMap(({ nodes }) => nodes.map(({ html }) => html))).toEqual([])
    },
  )

test(
  'names of sixty letters, emoji and from right to left are in nobody\u2019s way',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'levels')
    await renameAll(page, new URL(page.url()).pathname.split('/')[2]!)
    for (const station of stations) {
      await open(page, station)
      await page.waitForTimeout(500)
      expect(await faultsAt(page, [sizes[0]!, sizes[3]!]), station).toEqual([])
    }
  },
)

test.describe('on a phone', () => {
  test.use({ viewport: { width: phone.width, height: phone.height }, hasTouch: true })
  const measured = (page: Page) => page.evaluate(faults, phone)

  test(
    'panels too: a link, a box, what may be added, a thing of the shelf, and the menu',
    { tag: '@long' },
    async ({ page }) => {
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
    },
  )

  test(
    'a list that is opened stays on the screen, however long the names in it',
    { tag: '@long' },
    async ({ page }) => {
      await addLongNamed(page)
      await page.goto('/')
      for (const list of ['Heard with? Find on the shelf', 'From which socket', 'Into which socket']) {
        await page.getByRole('combobox', { name: list }).tap()
        await expect(page.getByRole('option').first()).toBeVisible()
        expect(await page.evaluate(() => document.documentElement.scrollWidth), list).toBe(phone.width)
        await page.keyboard.press('Escape')
        await expect(page.getByRole('option')).toHaveCount(0)
      }
    },
  )
})
