import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test('Patch: swap a box, put in a pad, add a box, and see what each would bring', async ({ page }) => {
  await open(page, 'patch')
  await page.getByRole('button', { name: 'Link Recorder to Camera' }).click()
  const panel = page.getByRole('complementary', { name: 'Selected link' })
  await expect(panel).toContainText(/Loses \d+\.\d dB/)
  const loss = async () => Number(/Loses (\d+\.\d) dB/.exec((await panel.textContent())!)![1])
  expect(await loss()).toBeLessThan(1)
  await panel.getByRole('button', { name: /Mini pad, 25 dB/ }).click()
  await expect.poll(loss).toBeGreaterThan(20)
  await accessible(page)
  // it has taken the place of the lead that was there; undo brings that back
  await page.keyboard.press('Control+z')
  await expect.poll(loss).toBeLessThan(1)
  await panel.getByRole('button', { name: 'Close' }).click()

  await page.getByRole('button', { name: /^Camera/ }).click()
  await page
    .getByRole('complementary', { name: 'Selected box' })
    .getByRole('button', { name: /Old reflex/ })
    .click()
  await expect(page.getByRole('button', { name: /^Camera.*Old reflex/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: /^Camera.*Mirrorless/ })).toBeVisible()
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Add a box' }).click()
  const add = page.getByRole('complementary', { name: 'Add to the chain' })
  await add.getByRole('combobox', { name: 'What' }).click()
  await page.getByRole('option', { name: /Action camera/ }).click()
  await add.getByRole('combobox', { name: 'Stands' }).click()
  await page.getByRole('option', { name: 'boom from above' }).click()
  await add.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('button', { name: /^Action camera/ })).toBeVisible()
  await expect(page.locator('.plan', { hasText: 'Action camera' })).toContainText('founder')
  await page.getByRole('button', { name: 'Remove from the chain' }).click()
  await expect(page.getByRole('button', { name: /^Action camera/ })).toHaveCount(0)
  await settled(page)
})

test(
  'Patch: what is not known yet stands in the chain, the rest answers, and it is exchanged later',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch')
    await page.getByRole('button', { name: 'Add a box' }).click()
    const add = page.getByRole('complementary', { name: 'Add to the chain' })
    await add.getByRole('combobox', { name: 'What' }).click()
    await page.getByRole('searchbox').last().fill('not known')
    await page.getByRole('option', { name: 'Camera, not known yet (camera)' }).click()
    await add.getByRole('combobox', { name: 'Fed by' }).click()
    await page.getByRole('option', { name: /^Recorder: line/ }).click()
    await expect(add).toContainText(/With .*lead|With .*cable|With .*pad/)
    await add.getByRole('button', { name: 'Add', exact: true }).click()
    const standing = page.getByRole('button', { name: /^Camera, not known yet/ }).first()
    await expect(standing).toBeVisible()
    // it is computed with, and the verdict of its run is a verdict
    const { origin, pathname } = new URL(page.url())
    await page.goto(origin + pathname.replace(/patch$/, 'levels'))
    await page.getByRole('radio', { name: 'all runs' }).click()
    await expect(page.getByRole('main')).toContainText('Camera, not known yet')
    await page.goto(origin + pathname)
    await standing.click()
    const panel = page.getByRole('complementary', { name: 'Selected box' })
    await panel.getByRole('button', { name: /Pocket mirrorless/ }).click()
    await expect(page.getByRole('button', { name: /^Pocket mirrorless/ }).first()).toBeVisible()
    await settled(page)
  },
)
