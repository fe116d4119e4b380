import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('Roll: two takes with marks, a verdict, a report; and nothing is lost while the server is away', async ({
    page,
    context,
  }, info) => {
    await open(page, 'roll')
    // in full before the first take, and what is ticked stays ticked
    const first = page.getByRole('list', { name: 'Before the first take' })
    const microphones = first.getByRole('checkbox', { name: /Recorder: .*phantom 1 on/ })
    await microphones.tap()
    await page.reload()
    await expect(microphones).toBeChecked()
    await accessible(page)
    await page.getByRole('button', { name: 'Roll take 1' }).tap()
    await expect(page.getByText('ROLLING', { exact: true })).toBeVisible()
    await page.getByRole('radio', { name: /track 2/ }).tap()
    await page.getByRole('button', { name: /Rustle/ }).tap()
    await page.getByRole('button', { name: /Aircraft/ }).tap()
    await page.getByRole('button', { name: 'Undo' }).last().tap()
    await accessible(page)
    await page.getByRole('button', { name: 'End take' }).tap()
    const later = page.getByRole('list', { name: 'Before this take' })
    // of the rest what was not ticked, as that of the camera was not
    await expect(
      later.getByRole('listitem').filter({ hasText: /linked to|Meters move|then clap/ }),
    ).toHaveCount(3)
    await expect(later.getByRole('listitem').filter({ hasText: /^ *Camera: / })).toHaveCount(1)
    await expect(later.getByRole('listitem').filter({ hasText: /^ *Recorder: / })).toHaveCount(0)
    await settled(page)

    await context.setOffline(true)
    await page.getByRole('button', { name: 'Roll take 2' }).tap()
    await page.getByRole('button', { name: /Hum/ }).tap()
    await page.getByRole('button', { name: /Word/ }).tap()
    await expect(page.getByRole('textbox', { name: 'Word' })).toBeFocused()
    await page.keyboard.type('=spare, by the "door"')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'End take' }).tap()
    await expect(page.locator('.stored')).toContainText(/kept here, server away/)
    await context.setOffline(false)
    await settled(page)
    await expect(page.locator('.stored')).toContainText('2 stored')

    await page
      .getByRole('group', { name: 'Verdict on take 2' })
      .getByRole('button', { name: 'good', exact: true })
      .tap()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Sound report' }).tap()
    const file = info.outputPath('report.csv')
    await (await download).saveAs(file)
    const lines = readFileSync(file, 'utf8').trim().split('\r\n')
    expect(lines[0]).toBe(
      'scene,take,what,time,local time,length,verdict,channels,note,changed since the take before',
    )
    expect(lines.filter((line) => /,\d+,take,/.test(line))).toHaveLength(2)
    expect(lines.find((line) => line.includes('rustle'))).toContain('"Recorder, track 2"')
    expect(lines.join()).not.toContain('aircraft')
    expect(lines.find((line) => line.includes('spare'))).toContain('"\'=spare, by the ""door"""')
    expect(lines.find((line) => line.includes(',2,take,'))).toContain(',good,')
    await settled(page)
  })
})
