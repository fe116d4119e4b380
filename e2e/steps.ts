import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

export async function open(page: Page, station: string, scene = 0): Promise<void> {
  const shoots = (await (await page.request.get('/api/shoots')).json()) as {
    demo: boolean
    scenes: { id: string }[]
  }[]
  const shoot = shoots.find(({ demo }) => demo)
  await page.goto(`/scene/${shoot!.scenes[scene]!.id}/${station}`)
  // a machine that does much else takes its time
  await expect(page.locator('h1').first()).toBeVisible({ timeout: 60_000 })
}
export const verdict = (page: Page) => page.locator('footer .say')
/** Waits until the server has all that this browser kept for it. */
export const settled = (page: Page) =>
  expect.poll(async () => (await page.evaluate(kept, 'parcels')).length).toBe(0)
/** Waits until this browser has kept how what was done last is undone. */
export const undoKept = (page: Page, name: string) =>
  expect.poll(async () => JSON.stringify(await page.evaluate(kept, 'histories'))).toContain(name)

/** Runs in the page: what a table of its storage holds. */
function kept(table: string): Promise<unknown[]> {
  return new Promise((resolve, reject) => {
    const opening = indexedDB.open('iron-hush')
    opening.onerror = () => reject(new Error('storage cannot be opened'))
    opening.onsuccess = () => {
      const db = opening.result
      const reading = db.transaction(table).objectStore(table).getAll()
      reading.onsuccess = () => {
        db.close()
        resolve(reading.result)
      }
    }
  })
}

export async function accessible(page: Page): Promise<void> {
  // a list that is still closing is not yet the page
  await expect(page.locator('.p-select-overlay')).toHaveCount(0)
  // nothing here is framed: to gather results in a page of their own would cost as much again
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze()
  expect(
    violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map(({ target }) => target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([])
}
