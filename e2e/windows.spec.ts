import { type Browser, expect, type Page } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled, verdict } from './steps'

const gain = (each: Page) => each.getByRole('slider', { name: 'Recorder, Gain 2' })

/** Turns the gain up by a step; gives where it stood. */
async function turnUp(page: Page): Promise<number> {
  const before = Number(await gain(page).getAttribute('aria-valuenow'))
  await gain(page).focus()
  await page.keyboard.press('ArrowUp')
  await expect(gain(page)).toHaveAttribute('aria-valuenow', String(before + 1))
  return before
}

/** A browser of its own: another device. */
async function device(browser: Browser, baseURL: string | undefined): Promise<Page> {
  return (await browser.newContext({ baseURL, serviceWorkers: 'block' })).newPage()
}

test(
  'what one device changes the others show without being asked',
  { tag: '@long' },
  async ({ page, browser, baseURL }) => {
    const phone = await device(browser, baseURL)
    await open(page, 'levels')
    await open(phone, 'levels')
    await expect(gain(phone)).toBeVisible()
    const before = Number(await gain(phone).getAttribute('aria-valuenow'))
    await gain(page).focus()
    await page.keyboard.press('ArrowUp')
    await settled(page)
    await expect(gain(phone)).toHaveAttribute('aria-valuenow', String(before + 1), { timeout: 5000 })
    // a take rolled on the phone is seen on the laptop
    await open(page, 'roll')
    await open(phone, 'roll')
    await phone.getByRole('button', { name: 'Roll take 1' }).click()
    await settled(phone)
    await expect(page.getByText('ROLLING', { exact: true })).toBeVisible({ timeout: 5000 })
    await phone.getByRole('button', { name: 'End take' }).click()
    await expect(page.getByRole('button', { name: 'Roll take 2' })).toBeVisible()
    await phone.context().close()
  },
)

for (const where of ['device', 'window'] as const)
  test(
    `what changes elsewhere while a page opens on another ${where} is shown too`,
    { tag: '@long' },
    async ({ page, browser, baseURL }) => {
      const other = await (where === 'device' ? device(browser, baseURL) : page.context().newPage())
      await open(page, 'levels')
      const before = Number(await gain(page).getAttribute('aria-valuenow'))
      await other.route(
        /\/api\/scenes\/[\w-]+$/,
        async (route) => {
          const older = await route.fetch()
          await gain(page).focus()
          await page.keyboard.press('ArrowUp')
          await settled(page)
          await route.fulfill({ response: older })
        },
        { times: 1 },
      )
      await open(other, 'levels')
      await expect(gain(other)).toHaveAttribute('aria-valuenow', String(before + 1))
      await other.close()
    },
  )

test(
  'a device that was away is told that the scene moved on, and keeps its change on top',
  { tag: '@long' },
  async ({ page, browser, baseURL }) => {
    await open(page, 'levels')
    const other = await device(browser, baseURL)
    await open(other, 'levels')
    await expect(gain(other)).toBeVisible()
    await other.context().setOffline(true)
    await gain(page).focus()
    await page.keyboard.press('ArrowUp')
    await settled(page)
    // what could not be fetched ahead is nothing to be told of
    await expect(other.getByText(/cannot be fetched|Something failed/)).toHaveCount(0)
    const peakTarget = other.getByRole('combobox', { name: 'Where peaks should lie' })
    await peakTarget.click()
    await other.getByRole('option', { name: /cautious/ }).click()
    await other.context().setOffline(false)
    const dialog = other.getByRole('dialog', { name: 'This scene was changed elsewhere' })
    await expect(dialog).toBeVisible()
    await expect(dialog.getByRole('listitem')).toHaveText([/plan: peak target cautious/])
    await expect(dialog.getByRole('row', { name: /Gain 2/ })).toBeVisible()
    await expect(other.getByRole('listbox')).toHaveCount(0)
    await accessible(other)
    await dialog.getByRole('button', { name: 'Apply mine on top' }).click()
    await settled(other)
    await expect(gain(other)).toHaveAttribute(
      'aria-valuenow',
      (await gain(page).getAttribute('aria-valuenow'))!,
    )
    await other.reload()
    await expect(other.getByRole('combobox', { name: 'Where peaks should lie' })).toContainText('cautious')
    await other.context().close()
  },
)

test(
  'a scene is worked with while the rest of the shelf is on its way',
  { tag: '@long' },
  async ({ page }) => {
    let release = (): void => undefined
    const held = new Promise<void>((resolve) => (release = resolve))
    await page.route(/\/api\/gear(\?|$)/, async (route) => {
      await held
      await route.continue()
    })
    await open(page, 'levels')
    await expect(verdict(page)).toContainText('headroom')
    const before = await turnUp(page)
    // kits compare the whole shelf, and Gear shows it: both wait, and say so
    await page.getByRole('radio', { name: 'kits' }).click()
    await expect(page.getByText('Each joined, powered and balanced: 0 %')).toBeVisible()
    await page.getByRole('link', { name: /Gear/ }).click()
    await expect(page.getByText('Reading the shelf')).toBeVisible()
    release()
    await expect(page.locator('h1')).toHaveText('Gear')
    await settled(page)
    await page.getByRole('link', { name: /Levels/ }).click()
    await expect(gain(page)).toHaveAttribute('aria-valuenow', String(before + 1))
    await page.keyboard.press('Control+z')
    await expect(gain(page)).toHaveAttribute('aria-valuenow', String(before))
    await settled(page)
  },
)

test(
  'a scene that is open stays so when the server goes before the shelf was read',
  { tag: '@long' },
  async ({ page }) => {
    let isAway = true
    await page.route(/\/api\/(gear|shoots)(\?|$)/, (route) => (isAway ? route.abort() : route.continue()))
    await open(page, 'levels')
    await expect(verdict(page)).toContainText('headroom')
    await turnUp(page)
    await page.getByRole('link', { name: /Gear/ }).click()
    await expect(page.getByText('The shelf cannot be read while the server is away.')).toBeVisible()
    isAway = false
    await expect(page.locator('h1')).toHaveText('Gear')
    await settled(page)
  },
)
