import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

export async function open(page: Page, station: string, scene = 0): Promise<void> {
  const [shoot] = (await (await page.request.get('/api/shoots')).json()) as { scenes: { id: string }[] }[]
  await page.goto(`/scene/${shoot!.scenes[scene]!.id}/${station}`)
  await expect(page.locator('h1').first()).toBeVisible()
}
export const verdict = (page: Page) => page.locator('footer .say')
export const settled = (page: Page) =>
  expect.poll(() => page.evaluate(() => localStorage.getItem('iron-hush.outbox') ?? '[]')).toBe('[]')

export async function accessible(page: Page): Promise<void> {
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
