// npm run bench:redraw: how long the page is busy when a station is opened and when something is turned there, in the
// running application (npm start first).
import { chromium, type Page } from '@playwright/test'
import { launchOptions } from './browser.mjs'
import { downAndUp, redrawnMs } from './page-timing'

const frameMs = 1000 / 60
/** Delay that a person notices: a long task by the W3C Long Tasks API, ms. */
const longTaskMs = 50
const base = process.env.IRON_HUSH_URL ?? 'http://127.0.0.1:4310'
const stations = ['Brief', 'Patch', 'Levels', 'Proof', 'Roll', 'Gear']
const rounds = 3

const browser = await chromium.launch(launchOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
// the names that the loader gives to functions mean nothing in the page
await page.addInitScript('globalThis.__name = (each) => each')
await page.addInitScript(watchLongTasks)
const shoots = (await (await fetch(`${base}/api/shoots`)).json()) as {
  scenes: { id: string; name: string }[]
}[]
const scenes = shoots[0]!.scenes

/** Runs in the page: keeps the duration of every task over 50 ms. */
function watchLongTasks(): void {
  const tasks: number[] = []
  Object.assign(globalThis, { longTasks: tasks })
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) tasks.push(duration)
  }).observe({ type: 'longtask' })
}

const middle = (values: number[], share = 0.5): number =>
  [...values].sort((one, other) => one - other)[Math.floor((values.length - 1) * share)]!

/** The longest task while a station is opened, ms; 0 where none is over 50. */
async function openingMs(where: Page, station: string): Promise<number> {
  await where.evaluate('longTasks.length = 0')
  await where
    .getByRole(station === 'Gear' ? 'banner' : 'navigation')
    .getByRole('link', { name: station })
    .first()
    .click()
  await where.waitForTimeout(500)
  return Math.max(0, ...((await where.evaluate('longTasks')) as number[]))
}

for (const { id, name } of scenes) {
  const opened = new Map<string, number[]>(stations.map((station) => [station, []]))
  for (let round = 0; round < rounds; round++) {
    // every round in a page that has opened no station yet
    await page.goto(`${base}/scene/${id}/roll`)
    await page.waitForTimeout(2500)
    for (const station of stations) opened.get(station)!.push(await openingMs(page, station))
  }
  const words = [...opened].map(
    ([station, times]) => `${station} ${(middle(times) / longTaskMs).toPrecision(2)}`,
  )
  console.log(`the longest task at opening, "${name}", in 50 ms: ${words.join(', ')}   aim 1`)
}

for (const { id, name } of scenes)
  for (const { station, slider, drawing } of [
    { station: 'levels', slider: '.controls [role="slider"][aria-disabled="false"]', drawing: '.map svg' },
    { station: 'brief', slider: '.plan [role="slider"]', drawing: '.plan svg' },
  ]) {
    await page.goto(`${base}/scene/${id}/${station}`)
    await page.locator(drawing).first().waitFor()
    await page.waitForTimeout(1500)
    const turned = page.locator(slider).first()
    // the first run with something to turn
    for (let run = 0; run < 10 && !(await turned.isVisible()); run++) await page.keyboard.press(']')
    if (!(await turned.isVisible())) continue
    await turned.focus()
    const times = await redrawnMs(turned, downAndUp, drawing)
    const at = (share: number) => (middle(times, share) / frameMs).toPrecision(3)
    console.log(
      `turned to redrawn on ${station}, "${name}", in frames: median ${at(0.5)}, 95th percentile ${at(0.95)}   aim 0.5`,
    )
  }
await browser.close()
