// Cost of the page against stored data and size of the chain, in Debian's Chromium.
import { type Browser, chromium, type Page } from '@playwright/test'
import type { Patch } from '@iron-hush/core/model'
import { launchOptions } from './browser.mjs'
import { downAndUp, redrawnMs } from './page-timing'

const openings = 5
export const median = (all: readonly number[]) => [...all].sort((one, other) => one - other)[all.length >> 1]!

/** A page that has opened nothing yet. */
async function inNewPage<T>(browser: Browser, use: (page: Page) => Promise<T>): Promise<T> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  })
  const page = await context.newPage()
  // the names that the loader gives to functions mean nothing in the page
  await page.addInitScript('globalThis.__name = (each) => each')
  try {
    return await use(page)
  } finally {
    await context.close()
  }
}

/** From the address of Levels to the verdict, and from a letter in Find to its hits, ms. */
export async function storedPageCosts(base: string, scene: string): Promise<[string, number][]> {
  const browser = await chromium.launch(launchOptions)
  try {
    const opened: number[] = []
    for (let round = 0; round < openings; round++)
      opened.push(
        await inNewPage(browser, async (page) => {
          const from = performance.now()
          await page.goto(`${base}/scene/${scene}/levels`, { waitUntil: 'commit' })
          await page.locator('footer .say span').first().waitFor()
          return performance.now() - from
        }),
      )
    const searched = await inNewPage(browser, async (page) => {
      await page.goto(`${base}/scene/${scene}/levels`)
      await page.locator('footer .say span').first().waitFor()
      await page.getByRole('button', { name: 'Find' }).click()
      const field = page.getByRole('dialog', { name: 'Find' }).getByRole('textbox')
      // few hits and many, by turns
      return redrawnMs(
        field,
        [{ typed: 'boom' }, { typed: 'thing 9' }, { typed: 'no such' }],
        '[role="dialog"]',
      )
    })
    return [
      ['opening the page, to the verdict', median(opened)],
      ['a letter in Find', median(searched)],
    ]
  } finally {
    await browser.close()
  }
}

/** From a key on a control to the drawing that follows, on each station that draws the chain, ms. */
export async function drawingCosts(
  base: string,
  shoot: string,
  patches: readonly Patch[],
): Promise<[string, number[]][]> {
  const browser = await chromium.launch(launchOptions)
  const drawings = [
    { station: 'levels', slider: '.controls [role="slider"][aria-disabled="false"]', drawing: '.map svg' },
    { station: 'brief', slider: '.plan [role="slider"]', drawing: '.plan svg' },
  ]
  const found = new Map<string, number[]>(drawings.map(({ station }) => [station, []]))
  try {
    for (const patch of patches) {
      const scene = crypto.randomUUID()
      await fetch(`${base}/api/scenes/${scene}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ shoot, patch }),
      })
      for (const { station, slider, drawing } of drawings)
        found.get(station)!.push(
          await inNewPage(browser, async (page) => {
            await page.goto(`${base}/scene/${scene}/${station}`)
            await page.locator(drawing).first().waitFor()
            return median(await redrawnMs(page.locator(slider).first(), downAndUp, drawing))
          }),
        )
    }
    return [...found].map(([station, all]) => [`drawing ${station} after a key`, all])
  } finally {
    await browser.close()
  }
}
