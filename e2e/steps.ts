import { readFileSync } from 'node:fs'
import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import type { SceneDocument } from '@iron-hush/core/contract'
import { parseJson, Patch, uuidv7 } from '@iron-hush/core/model'

export async function open(page: Page, station: string, scene = 0): Promise<void> {
  const [shoot] = (await (await page.request.get('/api/shoots')).json()) as { scenes: { id: string }[] }[]
  await page.goto(`/scene/${shoot!.scenes[scene]!.id}/${station}`)
  await expect(page.locator('h1').first()).toBeVisible()
}
export const verdict = (page: Page) => page.locator('footer .say')
/** Waits until the server has all that this browser kept for it. */
export const settled = (page: Page) => expect.poll(() => page.evaluate(keptParcels)).toBe(0)

/** Runs in the page: how many parcels its storage holds. */
function keptParcels(): Promise<number> {
  return new Promise((resolve, reject) => {
    const opening = indexedDB.open('iron-hush')
    opening.onerror = () => reject(new Error('storage cannot be opened'))
    opening.onsuccess = () => {
      const db = opening.result
      const counting = db.transaction('parcels').objectStore('parcels').count()
      counting.onsuccess = () => {
        db.close()
        resolve(counting.result)
      }
    }
  })
}

export async function accessible(page: Page): Promise<void> {
  // a list that is still closing is not yet the page
  await expect(page.locator('.p-select-overlay')).toHaveCount(0)
  const { violations } = await new AxeBuilder({ page }).analyze()
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

/** Puts the chain of a scene back to how the demo has it, whatever other stories did to it. */
export async function asShipped(page: Page, scene: number, file: string): Promise<void> {
  const demo = new URL(`../demo/scenes/${file}.json`, import.meta.url)
  const { boxes, links } = parseJson(Patch, readFileSync(demo, 'utf8'), file)
  const [shoot] = (await (await page.request.get('/api/shoots')).json()) as { scenes: { id: string }[] }[]
  const { id } = shoot!.scenes[scene]!
  const { revision } = (await (await page.request.get(`/api/scenes/${id}`)).json()) as SceneDocument
  const change = uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
  const answer = await page.request.post(`/api/scenes/${id}/edits`, {
    data: { id: change, baseRevision: revision, edits: [{ kind: 'set wiring', boxes, links }] },
  })
  expect(answer.status()).toBe(200)
}
