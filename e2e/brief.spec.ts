import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test('Brief: an edit in the paragraph moves the camera and the ranking, and can be undone', async ({
  page,
}) => {
  await open(page, 'brief')
  const plan = page.getByRole('img', { name: /Plan to scale/ })
  await expect(plan).toHaveAccessibleName(/camera 2\.7 m/)
  const far = page.locator('li', { hasText: 'on the camera supercardioid' }).locator('.figure')
  const before = await far.textContent()
  await page.getByRole('combobox', { name: 'Framing' }).click()
  await page.getByRole('option', { name: 'whole figure' }).click()
  await expect(plan).toHaveAccessibleName(/camera 5\.3 m/)
  await expect(far).not.toHaveText(before!)
  await page.getByRole('spinbutton', { name: 'Level of fans' }).fill('60')
  await page.keyboard.press('Tab')
  await expect(page.locator('li', { hasText: 'lapel' }).locator('.why')).toContainText('noise of the place')
  await accessible(page)
  await page.locator('h1').click()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(plan).toHaveAccessibleName(/camera 2\.7 m/)
  await page.keyboard.press('Control+Shift+z')
  await expect(plan).toHaveAccessibleName(/camera 5\.3 m/)
  await page.keyboard.press('Control+z')
  await settled(page)
})
