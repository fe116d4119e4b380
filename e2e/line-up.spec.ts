import { expect, type Page } from '@playwright/test'
import { test } from './application'
import { accessible, open, verdict } from './steps'

const step = (page: Page, title: RegExp) =>
  page.locator('li', { has: page.locator('.head', { hasText: title }) })
const current = (page: Page) => page.locator('li.open')
const progress = (page: Page) => page.locator('.station-head .what')

/** Does the current step as its stand-in does, and waits until it is answered. */
async function answered(page: Page, button: RegExp): Promise<void> {
  const before = (await current(page).locator('.title').textContent()) ?? ''
  await current(page).getByRole('button', { name: button }).click()
  await expect(current(page).locator('.title')).not.toHaveText(before)
}

test.describe('Line-up', () => {
  test(
    'learns an unmarked camera from its stand-in, and Balance moves',
    { tag: '@long' },
    async ({ page }) => {
      await open(page, 'levels', 2)
      await expect(verdict(page)).toContainText('Distorted')
      await page.goto('/')
      await page.getByRole('button', { name: 'What to do with The tuning' }).first().click()
      await page.getByRole('menuitem', { name: 'Copy' }).click()
      await page.getByRole('link', { name: 'The tuning, copy' }).click()
      await expect(page).toHaveURL(/scene/)
      await page.getByRole('link', { name: /Line-up/ }).click()
      await expect(progress(page)).toContainText('0 of 16 done')
      await accessible(page)

      for (const _ of ['boom', 'recorder', 'pad']) await answered(page, /Seen/)
      await answered(page, /Read its meter/)
      await expect(step(page, /Boom: scratch it/)).toContainText('As planned.')
      // the hand on the keys is taken along to the next step
      await expect(current(page).locator('.head')).toBeFocused()
      // the tone of the recorder, read off its own meter
      await current(page)
        .getByRole('spinbutton', { name: /Reading of the meter/ })
        .fill('-30')
      await page.keyboard.press('Enter')
      await expect(current(page)).toContainText('record level 1 of 25')

      // the law appears point by point
      const points = page.locator('.law .point')
      for (let count = 1; count <= 5; count++) {
        await answered(page, /Record a clip/)
        await expect(points).toHaveCount(count)
      }
      await answered(page, /Record a clip/)
      await expect(step(page, /record five seconds of it/)).toContainText(
        /first amplifier overloads at −26\.\d dBu, 4\.\d dB earlier/,
      )
      await answered(page, /Record a clip/)
      await answered(page, /Record a clip/)

      const changes = page.locator('.changes')
      await expect(changes).toContainText('First amplifier, ceiling')
      await expect(changes).toContainText(/Balance asks for .*record level at \d+ of 25 instead of 1 of 25/)
      await expect(changes).toContainText('nothing overloads any more')
      await changes.getByRole('button', { name: 'Accept' }).click()
      await expect(changes).toContainText('The readings agree')

      // every scene with this camera is offered the better figures
      await open(page, 'line-up', 2)
      await page.getByRole('button', { name: 'Use them here' }).click()
      await expect(page.getByRole('button', { name: 'Use them here' })).toHaveCount(0)
      await page.getByRole('button', { name: 'Undo' }).click()
      await expect(page.getByRole('button', { name: 'Use them here' })).toBeVisible()
    },
  )

  test(
    'finds swapped channels by scratching, and the setting of a ride in at most five clips',
    { tag: '@long' },
    async ({ page }) => {
      await open(page, 'line-up', 7)
      await step(page, /Founder’s lapel: scratch it/)
        .locator('.head')
        .click()
      await current(page).getByRole('button', { name: 'Read its meter' }).click()
      await expect(step(page, /Founder’s lapel: scratch it/)).toContainText(
        'Swapped: it is on Camera, right, not on Camera, left.',
      )

      await step(page, /Trial under the real noise: founder/)
        .locator('.head')
        .click()
      for (let clip = 0; clip < 5; clip++) {
        if (
          await current(page)
            .getByText(/enough: what is still unknown/)
            .count()
        )
          break
        const heard = await current(page).locator('.trial li').count()
        await current(page).getByRole('button', { name: 'Record a clip' }).click()
        await expect(current(page).locator('.trial li')).toHaveCount(heard + 1)
      }
      await expect(current(page)).toContainText('Use Receiver: output level')
      await current(page).getByRole('button', { name: 'Use these settings' }).click()
      await expect(current(page).getByRole('button', { name: 'Use these settings' })).toHaveCount(0)
    },
  )

  test(
    'refuses a file without sound and takes a clip that is dropped',
    { tag: '@long' },
    async ({ page }) => {
      await open(page, 'line-up', 2)
      await step(page, /record level 25 of 25, tone at/)
        .locator('.head')
        .click()
      const picker = current(page).locator('input[type=file]')
      await picker.setInputFiles({ name: 'notes.wav', mimeType: 'audio/wav', buffer: Buffer.from('nothing') })
      await expect(page.locator('.notices')).toContainText('notes.wav')
      await current(page)
        .getByRole('spinbutton', { name: /Reading of the meter/ })
        .fill('loud')
      await page.keyboard.press('Enter')
      await expect(current(page).getByRole('alert')).toContainText('Type a number')
      await expect(progress(page)).toContainText(/^0 of/)
    },
  )
})
