import { expect } from '@playwright/test'
import { test } from './application'
import { open, settled, verdict } from './steps'

test('killed outright, it recovers by itself at the next start', async ({ page, application }) => {
  test.setTimeout(120_000)
  await application.end('SIGKILL')
  await expect
    .poll(
      () =>
        page.request.get('/api/shoots').then(
          () => 'there',
          () => 'gone',
        ),
      { timeout: 20_000 },
    )
    .toBe('gone')
  await application.start()
  await open(page, 'levels')
  await expect(verdict(page)).toContainText('Speech-to-noise')
})

test('Ctrl-C and a second start: a change made while the server is gone arrives, and all is still there', async ({
  page,
  application,
}) => {
  test.setTimeout(120_000)
  await open(page, 'roll')
  await page.getByRole('button', { name: 'Roll take 1' }).click()
  await page.getByRole('button', { name: 'End take' }).click()
  await settled(page)
  await open(page, 'levels')
  const knob = page.getByRole('slider', { name: 'Recorder, Gain 2' })
  await expect(knob).toBeVisible()
  expect(await application.end('SIGINT')).toBe(0)
  await knob.focus()
  await page.keyboard.press('End')
  await expect(page.getByText(/server away, \d+ kept here/)).toBeVisible()
  await application.start()
  expect(application.output).toMatch(/Iron Hush is open at http:\/\/127\.0\.0\.1:\d+ \(\d+\.\d s\)/)
  await settled(page)
  await page.reload()
  await expect(knob).toHaveAttribute('aria-valuenow', '70')
  await open(page, 'roll')
  await expect(page.getByRole('list', { name: 'Takes' }).getByRole('listitem')).toHaveCount(1)
})
