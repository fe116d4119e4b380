import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import type { Stored } from '@iron-hush/core/contract'
import type { Gear } from '@iron-hush/core/model'
import { test } from './application'
import { accessible, open, settled, verdict } from './steps'

const panel = (page: Page) => page.getByRole('complementary', { name: 'Selected link' })
const tape = (page: Page) => page.getByRole('link', { name: /Patch/ })

/** Changes a thing on the shelf behind the page's back, as a person would on its sheet. */
async function rewire(page: Page, id: string, change: (gear: Gear) => Gear): Promise<void> {
  const all = (await (await page.request.get('/api/gear')).json()) as Stored<Gear>[]
  const { content: gear, revision } = all.find(({ content }) => content.id === id)!
  const answer = await page.request.put(`/api/gear/${id}`, {
    data: { baseRevision: revision, content: change(gear) },
  })
  expect(answer.status()).toBe(200)
}

async function add(page: Page, what: RegExp, choose: [string, RegExp][] = []): Promise<void> {
  await page.getByRole('button', { name: 'Add a box' }).click()
  const adding = page.getByRole('complementary', { name: 'Add to the chain' })
  await adding.getByRole('combobox', { name: 'What' }).click()
  await page.getByRole('option', { name: what }).first().click()
  for (const [field, option] of choose) {
    await adding.getByRole('combobox', { name: field }).click()
    await page.getByRole('option', { name: option }).first().click()
  }
  await adding.getByRole('button', { name: 'Add', exact: true }).click()
  await page.keyboard.press('Escape')
}

test(
  'a lapel on a phone is silent; the panel says why, finds the adapter, and the recording comes alive',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch', 5)
    await add(page, /^Plug-in lapel/, [['Stands', /under the chin/]])
    await add(page, /^Phone \(camera\)/, [['Fed by', /^Plug-in lapel/]])
    // adding it took the adapter along: without it nothing is heard
    await expect(tape(page)).not.toContainText(/needs? you/)
    await page.getByRole('button', { name: 'Link Plug-in lapel to Phone 2' }).click()
    await panel(page).getByRole('button', { name: 'remove', exact: true }).click()
    await expect(tape(page)).toContainText(/needs? you/)
    await expect(panel(page)).toContainText(/Nothing of .* is heard on Phone 2, headset socket/)
    await expect(panel(page)).toContainText('Nothing arrives.')
    await panel(page).getByRole('button', { name: 'Find a way' }).click()
    await accessible(page)
    await panel(page)
      .getByRole('list', { name: 'Ways' })
      .getByRole('button', { name: /^Three-to-four adapter/ })
      .click()
    await expect(panel(page)).toContainText(/At the input: typical/)
    await expect(panel(page).getByRole('region', { name: 'Contacts' })).toContainText(
      'Every contact does what it should',
    )
    await expect(tape(page)).not.toContainText(/needs? you/)
    // on Levels the run has a voice over its noise, all along
    await page.getByRole('link', { name: /Levels/ }).click()
    const run = page.locator('footer').getByText(/Plug-in lapel \u2192 Phone 2/)
    for (let turn = 0; turn < 12 && !(await run.isVisible()); turn++) await page.keyboard.press(']')
    await expect(run).toBeVisible()
    await expect(verdict(page)).toContainText(/Speech-to-noise \d+\.\d dB/)
    await expect(page.getByRole('img', { name: 'Capsule: floor' })).toHaveAccessibleName(
      /Capsule: floor [\d.]+, ceiling [\d.]+/,
    )
    await page.getByRole('link', { name: /Patch/ }).click()
    await settled(page)

    // it is derived: with the adapter wired the other way the phone is silent again, and says so
    const swapped = (wires: [string, string][]) => (gear: Gear) => ({
      ...gear,
      passive: { ...gear.passive!, wires },
    })
    await rewire(
      page,
      'three-to-four',
      swapped([
        ['tip', 'ring'],
        ['sleeve', 'second ring'],
      ]),
    )
    await page.reload()
    await page.getByRole('button', { name: 'Link Plug-in lapel to Phone 2' }).click()
    await expect(panel(page)).toContainText('Nothing arrives.')
    await rewire(
      page,
      'three-to-four',
      swapped([
        ['tip', 'sleeve'],
        ['sleeve', 'second ring'],
      ]),
    )
    await page.reload()
    await page.getByRole('button', { name: 'Link Plug-in lapel to Phone 2' }).click()
    await expect(panel(page)).toContainText(/At the input: typical/)
  },
)

test(
  'a balanced output on a stereo camera inverts the right side, and the mono sum is gone',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch', 2)
    await page.getByRole('button', { name: /^Recorder/ }).click()
    await page
      .getByRole('complementary', { name: 'Selected box' })
      .getByRole('button', { name: /Field recorder, balanced output/ })
      .click()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Link Recorder to Camera' }).click()
    await expect(panel(page)).toContainText('The plugs do not go together')
    await panel(page)
      .getByRole('listitem')
      .filter({ hasText: 'remove' })
      .getByRole('button', { name: 'remove' })
      .click()
    await panel(page)
      .getByRole('button', { name: /^Jack to mini lead/ })
      .click()
    await expect(panel(page)).toContainText(
      /right of Camera, microphone in has the opposite polarity to left/,
    )
    await expect(page.locator('.plan', { hasText: 'Camera' })).toContainText(
      'to mono: founder and bell is gone',
    )
    await expect(page.locator('.plan', { hasText: 'Camera' })).toContainText('\u2212 founder and bell')
    await accessible(page)
    await settled(page)
    await rewire(page, 'jack-to-mini', (gear) => ({
      ...gear,
      passive: {
        ...gear.passive!,
        wires: [
          ['tip', 'tip'],
          ['tip', 'ring'],
          ['sleeve', 'sleeve'],
        ],
      },
    }))
    await page.reload()
    await expect(page.locator('.plan', { hasText: 'Camera' })).not.toContainText('to mono')
    await page.getByRole('button', { name: 'Link Recorder to Camera' }).click()
    await expect(panel(page).getByRole('region', { name: 'Contacts' })).not.toContainText('inverted')
  },
)

test(
  'headphones on the splitter pull the camera down, by as much as their ohms say',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch')
    const loss = async () => Number(/Loses (\d+\.\d) dB/.exec((await panel(page).textContent())!)![1])
    const feed = page.getByRole('button', { name: 'Link Recorder to Camera' })
    await feed.click()
    const alone = await loss()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Connect something after Recorder' }).click()
    const end = page.getByRole('complementary', { name: 'Selected end' })
    await expect(end.getByRole('combobox', { name: 'From socket' })).toContainText('by a splitter')
    await end.getByRole('textbox', { name: 'Search things' }).fill('in-ear')
    const offer = end.getByRole('button', { name: /^In-ear phones/ })
    await expect(offer).toContainText(/loaded down by \d+\.\d dB/, { timeout: 30_000 })
    await accessible(page)
    await offer.click()
    await page.keyboard.press('Escape')
    await feed.click()
    await expect(panel(page)).toContainText('Mini splitter')
    await expect(panel(page)).toContainText(/takes \d+ % of the current/)
    const loaded = await loss()
    expect(loaded).toBeGreaterThan(alone + 5)
    await settled(page)
    await rewire(page, 'saltmarsh-in-ear', (gear) => ({
      ...gear,
      ports: gear.ports.map((port) => ({ ...port, impedanceOhm: 600 })),
    }))
    await page.reload()
    await feed.click()
    expect(await loss()).toBeLessThan(alone + 2.5)
  },
)

test(
  'a way by other sockets, a sheet for the cage, and the radio said plainly',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'patch', 6)
    await page.locator('button.chip', { hasText: 'radio' }).first().click()
    await expect(panel(page)).toContainText('Both on 520.1 MHz')
    await expect(panel(page)).toContainText(/margin: \d+ dB in the open/)
    await expect(panel(page)).toContainText('local regulator')
    await accessible(page)
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Patch sheet' }).click()
    const file = await download
    expect(file.suggestedFilename()).toBe('three-at-the-mould-patch.pdf')
    const bytes = readFileSync(await file.path())
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(bytes.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(1)
  },
)
