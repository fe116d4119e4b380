import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, verdict } from './steps'

test('it opens on a verdict, without reading or an account', async ({ page, application }) => {
  const strangers: string[] = []
  page.on(
    'request',
    (request) =>
      !request.url().startsWith(`http://127.0.0.1:${application.port}`) &&
      !request.url().startsWith('data:') &&
      !request.url().startsWith('blob:') &&
      strangers.push(request.url()),
  )
  const refused: string[] = []
  page.on(
    'response',
    (response) => response.status() >= 400 && refused.push(`${response.status()} ${response.url()}`),
  )
  // lists are read once more when the page begins to hear of changes
  const hears = page.waitForResponse(/\/api\/changes/)
  await page.goto('/')
  await hears
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(/Speech-to-noise .* dB/, {
    timeout: 30_000,
  })
  await accessible(page)
  // what was answered stays answered
  const answer = page.getByRole('radio', { name: /Two people/ })
  await answer.click()
  await page.reload()
  await expect(answer).toBeChecked()
  await page.getByRole('link', { name: 'The founder at the bench' }).click()
  await expect(verdict(page)).toContainText(/Speech-to-noise .* dB/)
  await expect(page.getByRole('navigation', { name: 'Stations' }).getByRole('link')).toHaveText([
    /Brief/,
    /Patch/,
    /Levels/,
    /Line-up/,
    /Proof/,
    /Roll/,
  ])
  await page.getByRole('link', { name: /IRON HUSH/ }).click()
  await expect(answer).toBeChecked()
  expect([strangers, refused]).toEqual([[], []])
})

test('night has its contrast too', { tag: '@long' }, async ({ page }) => {
  await open(page, 'levels')
  await page.getByRole('button', { name: 'Menu', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Night' }).click()
  await accessible(page)
  await page.keyboard.press('1')
  await expect(page.locator('h1').first()).toHaveText('Brief')
  await accessible(page)
  await page.getByRole('button', { name: 'Menu', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Day' }).click()
})
