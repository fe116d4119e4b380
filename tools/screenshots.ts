// Writes docs/screenshots from the running application (npm start first), loaded with the demo.
import { chromium, type Page } from '@playwright/test'
import { launchOptions } from './browser.mjs'

const base = process.env.IRON_HUSH_URL ?? 'http://127.0.0.1:4310'
const folder = new URL('../docs/screenshots/', import.meta.url).pathname

const browser = await chromium.launch(launchOptions)
const listed = (await (await fetch(`${base}/api/shoots`)).json()) as {
  demo: boolean
  scenes: { id: string }[]
}[]
const demo = listed.find((each) => each.demo)!

async function shoot(
  name: string,
  station: string,
  scene: number,
  act?: (page: Page) => Promise<void>,
  size = { width: 1280, height: 800 },
) {
  const page = await browser.newPage({
    viewport: size,
    colorScheme: station === 'roll' ? 'dark' : 'light',
    hasTouch: size.width < 500,
  })
  await page.goto(`${base}/scene/${demo.scenes[scene]!.id}/${station}`)
  await page.locator('h1').first().waitFor()
  await page.waitForTimeout(500)
  await act?.(page)
  await page.waitForTimeout(400)
  await page.screenshot({ path: `${folder}${name}.png` })
  await page.close()
}

const first = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' })
await first.goto(base)
await first.getByRole('button', { name: 'Open this scene', disabled: false }).waitFor({ timeout: 60_000 })
await first.waitForTimeout(3000)
await first.screenshot({ path: `${folder}start.png` })
await first.close()

await shoot('levels', 'levels', 2)
await shoot('balance', 'levels', 2, async (page) => {
  await page.keyboard.press('b')
  await page.getByRole('region', { name: 'Proposal of Balance' }).waitFor()
})
await shoot('runs', 'levels', 0, async (page) => {
  await page.keyboard.press('a')
  await page
    .getByText(/^clips in/)
    .first()
    .waitFor()
})
await shoot('kits', 'levels', 0, async (page) => {
  await page.getByRole('radio', { name: 'kits' }).click()
  await page.getByRole('row', { name: /^No box works hard/ }).waitFor({ timeout: 60_000 })
  await page
    .getByRole('status')
    .filter({ hasText: 'powered and balanced' })
    .waitFor({ state: 'hidden', timeout: 90_000 })
})
await shoot('listen', 'levels', 2, async (page) => {
  await page.keyboard.press('b')
  await page.getByRole('region', { name: 'Proposal of Balance' }).waitFor()
  await page.keyboard.press('l')
  await page.getByRole('button', { name: 'Pause' }).waitFor()
})
await shoot('brief', 'brief', 0)
await shoot('patch', 'patch', 3)
await shoot('link', 'patch', 5, async (page) => {
  await page.getByRole('button', { name: 'Link Lapel to Interface' }).click()
  await page.getByRole('button', { name: 'Find a way' }).click()
  await page.waitForTimeout(2500)
})
await shoot('line-up', 'line-up', 2, async (page) => {
  const current = page.locator('li.open')
  for (const button of [
    'Seen, as planned',
    'Seen, as planned',
    'Seen, as planned',
    'Read its meter',
    '',
    ...Array(5).fill('Record a clip'),
  ]) {
    const before = (await current.locator('.title').textContent()) ?? ''
    if (button) await current.getByRole('button', { name: button }).click()
    else {
      await current.getByRole('spinbutton').fill('-30')
      await page.keyboard.press('Enter')
    }
    await page.waitForFunction(
      (title) => document.querySelector('li.open .title')?.textContent !== title,
      before,
    )
  }
  await page.waitForTimeout(3000)
})
await shoot('proof', 'proof', 2, async (page) => {
  await page.getByRole('button', { name: 'Measure the stand-in card' }).click()
  const clips = page.getByRole('list', { name: 'Clips of this scene' }).getByRole('button')
  await clips.nth(6).waitFor({ timeout: 60_000 })
  await clips.filter({ hasText: 'C-0042' }).click()
})
await shoot('gear', 'gear', 0, (page) => page.getByRole('button', { name: /^Two-track recorder/ }).click())
await shoot('before', 'roll', 0, (page) => page.getByRole('checkbox').first().check(), {
  width: 390,
  height: 844,
})
await shoot(
  'roll',
  'roll',
  1,
  async (page) => {
    await page.getByRole('button', { name: /Roll take/ }).click()
    await page.waitForTimeout(1500)
    await page.getByRole('button', { name: /Aircraft/ }).click()
    await page.waitForTimeout(1500)
    await page.getByRole('button', { name: /Rustle/ }).click()
  },
  { width: 390, height: 844 },
)
// last: it locks controls of the demo
await shoot('cures', 'levels', 2, async (page) => {
  for (const name of ['Lock Output level', 'Lock Pad']) await page.getByRole('button', { name }).click()
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'What would cure it?' }).click()
  await page
    .getByRole('button', { name: /^Unlock/ })
    .first()
    .waitFor()
  await page.waitForTimeout(4000)
})
await browser.close()
