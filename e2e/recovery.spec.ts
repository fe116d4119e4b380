import { execFileSync } from 'node:child_process'
import { expect } from '@playwright/test'
import { test } from './application'
import { open, settled, verdict } from './steps'

test(
  'killed outright, it recovers by itself at the next start',
  { tag: '@long' },
  async ({ page, application }) => {
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
  },
)

test('the server has no rights but those of nobody, whoever started it', async ({ application }) => {
  const users = execFileSync('ps', ['-o', 'user=', '--ppid', String(application.pid)], { encoding: 'utf8' })
  expect(users.trim()).not.toBe('')
  expect(users).not.toMatch(/root/)
})

test(
  'Ctrl-C and a second start: a change made while the server is gone arrives, and all is still there',
  { tag: '@long' },
  async ({ page, application }) => {
    test.setTimeout(120_000)
    await open(page, 'roll')
    await page.getByRole('button', { name: 'Roll take 1' }).click()
    await page.getByRole('button', { name: 'End take' }).click()
    await settled(page)
    await open(page, 'levels')
    const knob = page.getByRole('slider', { name: 'Recorder, Gain 2' })
    await expect(knob).toBeVisible()
    // long enough for what is fetched ahead
    await page.waitForTimeout(4000)
    expect(await application.end('SIGINT')).toBe(0)
    await knob.focus()
    await page.keyboard.press('End')
    await expect(page.getByText(/server away, \d+ kept here/)).toBeVisible()
    // stations that were not opened yet open all the same, and what cannot work now says so
    for (const station of ['Brief', 'Patch', 'Proof']) {
      await page.getByRole('navigation').getByRole('link', { name: station }).click()
      await expect(page.getByRole('heading', { level: 1, name: station })).toBeVisible()
    }
    await page.getByRole('navigation').getByRole('link', { name: 'Patch' }).click()
    await page.getByRole('button', { name: 'Patch sheet' }).click()
    await expect(page.getByText(/sheet cannot be made while the server is away/)).toBeVisible()
    await application.start()
    expect(application.output).toMatch(/Iron Hush is open at http:\/\/127\.0\.0\.1:\d+ \(\d+\.\d s\)/)
    await settled(page)
    await page.getByRole('navigation').getByRole('link', { name: 'Levels' }).click()
    await page.reload()
    await expect(knob).toHaveAttribute('aria-valuenow', '70')
    await open(page, 'roll')
    await expect(page.getByRole('list', { name: 'Takes' }).getByRole('listitem')).toHaveCount(1)
  },
)

test(
  'a backup is restored: what a device had done since is offered to it, and wins nothing by itself',
  { tag: '@long' },
  async ({ page, application }) => {
    test.setTimeout(180_000)
    const tool = (...args: string[]) =>
      execFileSync(process.execPath, args, {
        env: { ...process.env, IRON_HUSH_HOME: application.home },
        encoding: 'utf8',
      })
    const knob = page.getByRole('slider', { name: 'Recorder, Gain 2' })
    await open(page, 'levels')
    await expect(knob).toBeVisible()
    const before = await knob.getAttribute('aria-valuenow')
    const file = `${application.home}/story-${Date.now()}.hush-backup`
    expect(tool('tools/backup.mjs', file)).toMatch(/\d+ scenes/)
    await knob.focus()
    await page.keyboard.press('End')
    await open(page, 'roll')
    await page.getByRole('button', { name: 'Roll take 1' }).click()
    await page.getByRole('button', { name: 'End take' }).click()
    await settled(page)
    expect(() => tool('tools/restore.mjs', file)).toThrow()
    await application.end()
    expect(tool('tools/restore.mjs', file)).toMatch(/Restored as of .* kept as the database/)
    await application.start()

    await open(page, 'levels')
    await expect(knob).toHaveAttribute('aria-valuenow', before!)
    const aside = page.getByRole('region', { name: 'Refused and unreadable' })
    await expect(aside.getByText('A change of a scene is different there.')).toBeVisible()
    await expect(aside.getByText('A take is different there.')).toBeVisible()
    for (let left = 2; left > 0; left--)
      await aside.getByRole('button', { name: 'Store this one' }).first().click()
    await settled(page)
    await page.reload()
    await expect(knob).toHaveAttribute('aria-valuenow', '70')
    await open(page, 'roll')
    await expect(page.getByRole('list', { name: 'Takes' }).getByRole('listitem')).toHaveCount(1)
  },
)

test('what fails unexpectedly is said, with a way on, and once', async ({ page }) => {
  await open(page, 'levels')
  await page.evaluate(() => {
    for (const why of ['one', 'two']) void Promise.reject(new Error(why))
    // what the browser ends by itself is no fault
    void Promise.reject(new DOMException('stopped', 'AbortError'))
  })
  await expect(page.getByText('Something failed here that should not have.')).toHaveCount(1)
  await page.getByRole('button', { name: 'Reload the page' }).click()
  await expect(page.getByText('Something failed here')).toHaveCount(0)
  await expect(page.locator('h1')).toHaveText('Levels')
})
