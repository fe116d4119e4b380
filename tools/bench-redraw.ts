// npm run bench:redraw: from a turned control to the redrawn map, in the running application (npm start first).
import { chromium } from '@playwright/test'
import { launchOptions } from './browser.mjs'

const frameMs = 1000 / 60
const base = process.env.IRON_HUSH_URL ?? 'http://127.0.0.1:4310'
const browser = await chromium.launch(launchOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
// the names that the loader gives to functions mean nothing in the page
await page.addInitScript('globalThis.__name = (each) => each')
const shoots = (await (await fetch(`${base}/api/shoots`)).json()) as {
  scenes: { id: string; name: string }[]
}[]
for (const { id, name } of shoots[0]!.scenes) {
  await page.goto(`${base}/scene/${id}/levels`)
  await page.locator('.map svg').waitFor()
  await page.waitForTimeout(1500)
  // the first run with something to turn
  const knob = page.locator('.controls [role="slider"][aria-disabled="false"]').first()
  for (let run = 0; run < 10 && !(await knob.isVisible()); run++) await page.keyboard.press(']')
  await knob.focus()
  const times = await knob.evaluate(async (element) => {
    const rounds: number[] = []
    /** Everything that the page does at once after a key, without the pause of a timer. */
    const drained = () =>
      new Promise<void>((resolve) => {
        const { port1, port2 } = new MessageChannel()
        port1.onmessage = () => resolve()
        port2.postMessage(undefined)
      })
    for (let turn = 0; turn < 140; turn++) {
      // up and down by turns: a step that the end of a scale refuses would count as fast
      const key = turn % 2 ? 'ArrowUp' : 'ArrowDown'
      const from = performance.now()
      element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
      await drained()
      // what the browser must have worked out before it can paint
      document.querySelector('.map svg')!.getBoundingClientRect()
      if (turn >= 40) rounds.push(performance.now() - from)
      await drained()
    }
    return rounds.sort((one, other) => one - other)
  })
  const at = (share: number) => (times[Math.floor((times.length - 1) * share)]! / frameMs).toPrecision(3)
  console.log(
    `a control turned to its map redrawn, "${name}", in frames: median ${at(0.5)}, 95th percentile ${at(0.95)}   aim 0.5`,
  )
}
await browser.close()
