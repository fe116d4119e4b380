import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test(
  'Gear: the shelf shows where figures come from, and remembers what is owned',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'gear')
    await page.getByRole('button', { name: /^Mirrorless/ }).click()
    await expect(page.locator('article')).toContainText('measured')
    await expect(page.locator('article')).toContainText('input ceiling')
    await accessible(page)
    await page.getByRole('button', { name: /^Small mixer/ }).click()
    await page.getByRole('spinbutton', { name: 'How many you own' }).fill('1')
    await page.keyboard.press('Tab')
    await settled(page)
    await page.reload()
    await expect(page.getByRole('button', { name: /^Small mixer.*1/ })).toBeVisible()
  },
)

test(
  'Gear: a figure as the sheet prints it, a copy of one\u2019s own, and a thing in use that stays',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'gear')
    await page.getByRole('button', { name: /^Short gun/ }).click()
    await page.getByRole('button', { name: 'Copy as mine' }).click()
    await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('My short gun')
    await page.getByRole('button', { name: /^sensitivity/ }).click()
    const figure = page.getByRole('complementary', { name: 'Selected figure' })
    await figure.getByRole('spinbutton', { name: 'As a sheet prints it' }).fill('20')
    await page.keyboard.press('Tab')
    await expect(figure).toContainText('is \u221233.98 dBV/Pa'.replace('\u2212', '-'))
    await figure.getByRole('button', { name: 'Use it' }).click()
    await expect(page.getByRole('button', { name: /^sensitivity/ })).toContainText('\u221233.98 dBV/Pa')
    await accessible(page)
    await settled(page)
    await page.reload()
    await page.getByRole('button', { name: /^My short gun/ }).click()
    await expect(page.getByRole('button', { name: /^sensitivity/ })).toContainText('\u221233.98 dBV/Pa')
    await page.getByRole('button', { name: 'Delete', exact: true }).click()
    await expect(page.getByRole('button', { name: /^My short gun/ })).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('button', { name: /^My short gun/ })).toBeVisible()
    await page.getByRole('button', { name: /^Short gun/ }).click()
    await page.getByRole('button', { name: 'Delete', exact: true }).click()
    await expect(page.getByRole('status')).toContainText(/used in The founder at the bench \(Boom\)/)
    await expect(page.getByRole('button', { name: /^Short gun/ })).toBeVisible()
    await settled(page)
  },
)

test(
  'Gear: a table is read line by line, and only what is good is taken, when it is said',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'gear')
    const table = [
      'thing,like,name,figure,value,unit,from',
      'my-ribbon,saltmarsh-ribbon,My ribbon,,,,',
      'my-ribbon,,,sensitivity,2,mV/Pa,measured',
      'my-ribbon,,,self noise,=1+1,,',
      'my-ribbon,,,impedance,-20,ohm,',
      'nobody,,,self noise,20,,',
    ].join('\n')
    await page
      .getByLabel('Import a gear file')
      .setInputFiles({ name: 'mine.csv', mimeType: 'text/csv', buffer: Buffer.from(table) })
    const file = page.getByRole('article', { name: 'Imported file' })
    await expect(file).toContainText('1 thing new or changed; 2 lines are good, 3 refused')
    await expect(file).toContainText('"=1+1" is not a number')
    await expect(file).toContainText('impedance was refused: it must be at least 0')
    await accessible(page)
    await file.getByRole('button', { name: 'Import 1' }).click()
    await page.getByRole('button', { name: /^My ribbon/ }).click()
    await expect(page.getByRole('button', { name: /^sensitivity/ })).toContainText('\u221253.98 dBV/Pa')
    const written = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Export table' }).click()
    expect(readFileSync(await (await written).path(), 'utf8')).toContain('my-ribbon,,My ribbon,Saltmarsh')
    await page
      .getByLabel('Import a gear file')
      .setInputFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from('[]') })
    await expect(page.getByRole('alert')).toContainText('not an Iron Hush shelf')
  },
)

test(
  'a thing of your own is made from a few answers before any scene is open, and changed to the last stage',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto('/')
    await page.getByRole('link', { name: 'Gear' }).click()
    await page.getByRole('button', { name: 'New', exact: true }).press('Enter')
    // the first question has the focus, not what lies behind the whole shelf
    await expect(page.getByRole('radio', { name: 'camera' })).toBeFocused()
    await page.keyboard.press('ArrowRight')
    await page.getByLabel('Add to the thing').selectOption({ label: 'sensitivity' })
    const sensitivity = page.getByRole('spinbutton', { name: 'sensitivity of the thing' })
    await expect(sensitivity).toHaveValue('\u221238 dBV/Pa')
    await sensitivity.fill('10 mV/Pa')
    await sensitivity.press('Tab')
    await expect(sensitivity).toHaveValue('\u221240 dBV/Pa')
    await sensitivity.fill('4,5 mV/Pa')
    await sensitivity.press('Tab')
    await expect(sensitivity).toHaveValue('\u221246.9 dBV/Pa')
    await page.getByRole('radio', { name: 'camera' }).click()
    await page.getByLabel('name of the thing').fill('Field reflex')
    await page.getByLabel('name of the thing').press('Tab')
    await page.getByRole('button', { name: 'Add to the shelf' }).click()
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Field reflex')

    // another scale, and a sentence where it cannot be
    await page.getByRole('button', { name: 'Change everything' }).click()
    const everything = page.getByRole('region', { name: 'Everything it is made of' })
    await everything.getByLabel('steps of Record level').fill('21')
    await everything.getByLabel('steps of Record level').press('Tab')
    await everything.getByLabel('initial of Record level').fill('20')
    await everything.getByLabel('initial of Record level').press('Tab')
    await everything.getByLabel('id of Record level').fill('dial')
    await everything.getByLabel('id of Record level').press('Tab')
    await expect(everything.getByRole('alert')).toContainText('level')
    await everything.getByLabel('id of Record level').fill('level')
    await everything.getByLabel('id of Record level').press('Tab')
    await expect(everything.getByRole('alert')).toHaveCount(0)
    await everything.getByRole('button', { name: 'Store' }).click()
    await expect(page.getByRole('row', { name: /Record level/ })).toContainText('20')
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(page.getByRole('row', { name: /Record level/ })).toContainText('30')
    await settled(page)
    await page.reload()
    await expect(page.getByRole('button', { name: /Field reflex/ })).toBeVisible()

    // and it films: the first page offers it like any other
    await page.goto('/')
    await expect(page.getByRole('radio', { name: /Field reflex/ })).toBeVisible()
  },
)
