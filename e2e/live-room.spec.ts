import { expect } from '@playwright/test'
import { normal, random } from '@iron-hush/core/signals'
import { test } from './application'
import { hearing, rateHz } from './hearing'
import { open } from './steps'

/** A clap every three seconds in a room of 0.6 s, over hiss. */
function claps(): Float32Array {
  const next = normal(random(2))
  return Float32Array.from({ length: 12 * rateHz }, (_, frame) => {
    const sinceS = ((frame / rateHz) % 3) - 1
    const tail = sinceS < 0 ? 0 : 0.3 * next() * 10 ** ((-3 * sinceS) / 0.6)
    return Math.max(-1, Math.min(1, tail + 0.0002 * next()))
  })
}

test.use(hearing(claps()))

test(
  'the reverberation of a room that is heard goes into the brief, its noise once a level is known',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'brief', 0)
    await page.getByText('Measure the room with this device').click()
    await page.getByRole('button', { name: 'Listen live' }).click()
    await page.getByRole('button', { name: 'Listen for a clap' }).click()
    const clap = page.getByRole('status').filter({ hasText: 'Reverberation' })
    await expect(clap).toContainText(/Reverberation 0\.(5|6)\d s/)
    await clap.getByRole('button', { name: 'Use it' }).click()
    await page.getByRole('button', { name: 'Listen to the noise' }).click()
    const noise = page.getByRole('status').filter({ hasText: 'dBFS(A)' })
    await expect(noise).toContainText('Relative until one level is known')
    await noise.getByRole('spinbutton').fill('48')
    await page.keyboard.press('Enter')
    await expect(noise).toContainText('48 dB(A)')
    await noise.getByRole('button', { name: 'Use it' }).click()
    await expect(page.locator('.paragraph, .words').first()).toContainText('48')
    await page.getByRole('button', { name: 'Undo' }).click()
  },
)
