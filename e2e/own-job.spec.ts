import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { applyEdits } from '@iron-hush/core/edits'
import { parseJson, Patch, ShelfFile, shelfOf } from '@iron-hush/core/model'
import { apart, heardBeside } from '../core/src/tests/on-samples'
import { test } from './application'
import { verdict } from './steps'

const shelf = shelfOf(
  parseJson(ShelfFile, readFileSync(new URL('../demo/shelf.json', import.meta.url), 'utf8'), 'shelf').gear,
)

/** As a new user would: a camera, who is heard, what with. The words are those of the page. */
const jobs = {
  'a reflex with automatic gain only, a lapel, one seated person': [
    'Old reflex',
    'One person, seated',
    'Plug-in lapel',
  ],
  'a phone and two speakers': ['Phone', 'Two people', 'Hand-held dynamic'],
  'a short gun on phantom into a recorder and on into a mirrorless camera': [
    'Mirrorless',
    'One person, seated',
    'Short gun',
  ],
  'the feed of a desk in a hall': ['Compact camcorder', 'A stage with a desk', 'Small cardioid'],
  'a ride on an engine with an action camera': ['Action camera', 'Something loud', 'Hand-held dynamic'],
  'a camera that is not on the shelf': [
    'Not on the shelf: unmarked scale',
    'One person, seated',
    'On-camera gun',
  ],
} satisfies Record<string, [string, string, string]>

/** Chooses an answer: touched where it is shown, found in the list where it is not. */
async function answer(page: Page, question: string, name: string): Promise<number> {
  const row = page.getByRole('radiogroup', { name: question })
  await expect(row.getByRole('radio').first()).toBeVisible()
  const shown = row.getByRole('radio', { name: new RegExp(`^\\W*${name}( |$)`) }).first()
  if (await shown.count()) {
    await shown.click()
    return 1
  }
  await page.getByRole('combobox', { name: `${question} Find on the shelf` }).click()
  await page.getByRole('option', { name, exact: true }).first().click()
  return 2
}

for (const [job, [camera, scene, microphone]] of Object.entries(jobs))
  test(`${job}: from the first page to a verdict that the samples confirm`, async ({ page }) => {
    test.setTimeout(180_000)
    await page.goto('/')
    let actions = await answer(page, 'What films?', camera)
    actions += await answer(page, 'Who is heard?', scene)
    actions += await answer(page, 'Heard with?', microphone)
    const open = page.getByRole('button', { name: 'Open this scene' })
    await expect(open).toBeEnabled({ timeout: 60_000 })
    await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(/headroom|overload|too hot/)
    await open.click()
    expect(actions + 1).toBeLessThanOrEqual(8)
    await expect(page.locator('h1')).toHaveText('Levels')
    await expect(verdict(page)).toContainText(/Clean|Usable|Noisy|Tight|Distorted|Lost/)
    await expect(verdict(page)).not.toContainText(/No sound|no power/)

    const id = page.url().match(/scene\/([^/]+)/)![1]!
    const stored = async () =>
      Patch.parse(((await (await page.request.get(`/api/scenes/${id}`)).json()) as { patch: unknown }).patch)
    const patch = await stored()
    for (const each of heardBeside(patch, shelf, 2))
      expect(apart(each), `${each.kind} of ${each.run}`).toBeLessThan(each.limited ? 4 : 0.3)
    expect(applyEdits(patch, [], shelf)).toEqual(patch)
  })

test('a planned scene is exported, deleted, brought back, imported again and equal', async ({ page }) => {
  await page.goto('/')
  const open = page.getByRole('button', { name: 'Open this scene' })
  await expect(open).toBeEnabled({ timeout: 60_000 })
  await open.click()
  await expect(page.locator('h1')).toHaveText('Levels')
  await page.getByRole('link', { name: /IRON HUSH/ }).click()
  const mine = page.getByRole('article').filter({ has: page.getByLabel('Name of My shoot') })
  const rows = mine.getByRole('link')
  await expect(rows).toHaveText(['One person, seated'])
  const act = async (what: string) => {
    await mine
      .getByRole('button', { name: /What to do with/ })
      .first()
      .click()
    await page.getByRole('menuitem', { name: what, exact: true }).click()
  }
  await act('Rename')
  await mine.getByRole('textbox', { name: 'Name of One person, seated' }).fill('The smith')
  await page.keyboard.press('Enter')
  await expect(rows).toHaveText(['The smith'])
  const downloading = page.waitForEvent('download')
  await act('Export')
  const file = await (await downloading).path()
  await act('Delete')
  await expect(rows).toHaveText([])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveText(['The smith'])
  await act('Delete')
  await expect(rows).toHaveText([])
  await page.getByLabel('Import a patch or a shoot').setInputFiles({
    name: 'the-smith.json',
    mimeType: 'application/json',
    buffer: readFileSync(file),
  })
  await expect(rows).toHaveText(['The smith'])
  await act('Copy')
  await expect(rows).toHaveText(['The smith', 'The smith, copy'])

  const written = parseJson(Patch, readFileSync(file, 'utf8'), 'the export')
  const href = await rows.first().getAttribute('href')
  const { patch } = (await (await page.request.get(`/api/scenes/${href!.split('/')[2]}`)).json()) as {
    patch: Patch
  }
  // what the shelf has is not kept twice
  expect({ ...patch, gear: [] }).toEqual({ ...written, gear: [] })
})

test('a file that is no patch is refused with a sentence, and nothing changes', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Import a patch or a shoot').setInputFiles({
    name: 'odd.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format": "iron-hush/patch", "version": 9}'),
  })
  await expect(page.getByText(/odd\.json was refused/)).toBeVisible()
})

test('which lead joins two sockets, without a scene', async ({ page }) => {
  await page.goto('/')
  const choose = async (label: string, name: string) => {
    await page.getByRole('combobox', { name: label }).click()
    await page.getByRole('searchbox').last().fill(name)
    await page.getByRole('option', { name }).first().click()
    await expect(page.getByRole('searchbox')).toHaveCount(0)
  }
  await choose('From which socket', 'Plug-in lapel')
  await choose('Into which socket', 'Phone: headset socket')
  const lead = page.getByRole('region', { name: 'Which lead?' })
  await expect(lead).toContainText(/Straight in: Nothing of/)
  await expect(lead).toContainText(/loses \d+\.\d dB/)
})
