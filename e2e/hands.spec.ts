import { expect } from '@playwright/test'
import { test } from './application'
import { open, settled } from './steps'

test(
  'Roll: keys belong to what has the focus, held ones act once, and takes are corrected and deleted',
  { tag: '@long' },
  async ({ page, context }) => {
    await open(page, 'roll', 1)
    await page.getByRole('button', { name: 'Roll take 1' }).focus()
    await page.keyboard.press('Space')
    await expect(page.getByText('ROLLING', { exact: true })).toBeVisible()

    // a key that is held down marks once
    const line = page.getByRole('img', { name: /^Take 1/ })
    await page.getByRole('heading', { level: 1 }).click()
    for (let held = 0; held < 5; held++) await page.keyboard.down('2')
    await page.keyboard.up('2')
    await expect(line).toHaveAccessibleName('Take 1, 1 marks')
    // Space on a mark marks; it does not end the take
    await page.getByRole('button', { name: /^Hum/ }).focus()
    await page.keyboard.press('Space')
    await expect(line).toHaveAccessibleName('Take 1, 2 marks')
    await expect(page.getByText('ROLLING', { exact: true })).toBeVisible()
    // a word may have spaces
    await page.getByRole('button', { name: /^Word/ }).click()
    await page.keyboard.type('by the door')
    await page.keyboard.press('Enter')
    await expect(line).toHaveAccessibleName('Take 1, 3 marks')

    // a second window sees the take that rolls, and starts none of its own
    const other = await context.newPage()
    await other.goto(page.url())
    await expect(other.getByText('ROLLING', { exact: true })).toBeVisible()
    await other.close()

    await page.getByRole('button', { name: 'End take' }).click()
    await page.getByRole('button', { name: 'Correct take 1' }).click()
    await page.getByRole('textbox', { name: 'Note on take 1' }).fill('the good one')
    await page.getByRole('button', { name: /^Delete the mark Hum/i }).click()
    await expect(page.getByRole('list', { name: 'Marks of take 1' }).getByRole('listitem')).toHaveCount(2)
    await page.getByRole('spinbutton', { name: 'Number of take 1' }).fill('12')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Correct take 12' }).waitFor()
    await page.getByRole('button', { name: 'Delete take 12' }).click()
    await expect(page.getByRole('list', { name: 'Takes' })).toHaveCount(0)
    await settled(page)

    // all of it can be undone after a reload, and nothing else is
    await page.reload()
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await expect(page.getByRole('list', { name: 'Takes' })).toContainText('the good one')
    await settled(page)
  },
)

test(
  'titles, addresses, Escape, Delete and undo are what people expect',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch')
    await expect(page).toHaveTitle(/^Patch – .* – Iron Hush$/)
    await page.keyboard.press('Tab')
    await expect(page.getByRole('link', { name: 'Skip to content' })).toBeFocused()

    const camera = page.getByRole('button', { name: /^Camera/ }).first()
    await camera.click()
    const panel = page.getByRole('complementary', { name: 'Selected box' })
    await expect(panel).toBeVisible()
    await expect(page).toHaveURL(/open=box:camera/)
    await page.reload()
    await expect(panel).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(panel).toHaveCount(0)
    await camera.click()
    await page.keyboard.press('Delete')
    await expect(page.getByRole('button', { name: /^Camera\b/ })).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(camera).toBeVisible()
    await page.keyboard.press('Control+y')
    await expect(page.getByRole('button', { name: /^Camera\b/ })).toHaveCount(0)
    await settled(page)
    // the change outlives the page, and so does the way back
    await page.reload()
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(camera).toBeVisible()
    await settled(page)

    await page.keyboard.press('3')
    await page.keyboard.press(']')
    await expect(page).toHaveURL(/levels\?run=/)
    const which = page.locator('footer .which')
    const chosen = await which.textContent()
    await page.getByRole('button', { name: 'Why?' }).click()
    await expect(page).toHaveURL(/why=open/)
    await page.reload()
    await expect(which).toHaveText(chosen!)
    await expect(page.getByRole('region', { name: 'Why' })).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page.getByRole('region', { name: 'Why' })).toHaveCount(0)

    // undo in a field is the field's own until what was typed is taken
    await page.keyboard.press('1')
    const distance = page.getByRole('spinbutton', { name: /^Distance of/ }).first()
    const before = await distance.inputValue()
    await distance.fill('3,5 m')
    await page.keyboard.press('Control+z')
    await expect(distance).toHaveValue(before)
    await distance.fill('3,5 m')
    await page.keyboard.press('Enter')
    await expect(distance).toHaveValue('3.5 m')
    await page.keyboard.press('Control+z')
    await expect(distance).toHaveValue(before)
    await settled(page)

    await page.goto(`${new URL(page.url()).origin}/no/such/page`)
    await expect(page.locator('.notices')).toContainText('There is no page at /no/such/page')
    // it lies on nothing
    const underContentPx = await page.evaluate(() => {
      const [content, notices] = ['main', '.notices'].map((each) =>
        document.querySelector(each)!.getBoundingClientRect(),
      )
      return notices!.top - content!.bottom
    })
    expect(underContentPx).toBeGreaterThanOrEqual(0)
  },
)

test('Find leads somewhere from every page', { tag: '@long' }, async ({ page }) => {
  const find = async (wanted: string) => {
    await page.getByRole('button', { name: 'Find' }).click()
    const dialog = page.getByRole('dialog', { name: 'Find' })
    await dialog.getByRole('textbox').fill(wanted)
    return dialog.getByRole('listitem')
  }
  await page.goto('/')
  // stations are those of a scene, and none is open yet
  await expect(await find('Line-up')).toHaveText('Nothing found by that name.')
  await page.keyboard.press('Escape')
  await (await find('The pour')).getByRole('button').click()
  await expect(page).toHaveURL(/\/scene\/[\w-]+\/levels/)
  await expect(page).toHaveTitle(/The pour/)
  await page.getByRole('link', { name: /IRON HUSH/ }).click()
  await expect(page.getByRole('radiogroup', { name: 'What films?' })).toBeVisible()
  await (await find('Line-up')).getByRole('button').first().click()
  await expect(page).toHaveTitle(/^Line-up – The pour/)
})
