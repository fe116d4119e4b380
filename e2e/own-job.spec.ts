import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { parseJson, Patch, ShelfFile, shelfFor, shelfOf } from '@iron-hush/core/model'
import { apart, heardBeside } from '@iron-hush/core/tests'
import { test } from './application'
import { settled, undoKept, verdict } from './steps'

const shelf = shelfOf(
  parseJson(ShelfFile, readFileSync(new URL('../demo/shelf.json', import.meta.url), 'utf8'), 'shelf').gear,
)

/** As a new user would: a camera, who is heard, what with, and where there is one the second camera. The words are those of the page. */
const jobs: Record<string, { answers: [string, string, string]; second?: string }> = {
  'a reflex with automatic gain only, a lapel, one seated person': {
    answers: ['Old reflex', 'One person, seated', 'Plug-in lapel'],
  },
  'a phone and two speakers': { answers: ['Phone', 'Two people', 'Hand-held dynamic'] },
  'a short gun on phantom into a recorder and on into a mirrorless camera': {
    answers: ['Mirrorless', 'One person, seated', 'Short gun'],
  },
  'the feed of a desk in a hall, two cameras': {
    answers: ['Compact camcorder', 'A stage with a desk', 'Small cardioid'],
    second: 'Mirrorless',
  },
  'a ride on an engine with an action camera': {
    answers: ['Action camera', 'Something loud', 'Hand-held dynamic'],
  },
  'a camera that is not on the shelf': {
    answers: ['Not on the shelf: unmarked scale', 'One person, seated', 'On-camera gun'],
  },
}

/** In the short form of the tests too. */
const inShortForm = ['a camera that is not on the shelf']

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

/** Joins a second camera to what feeds the first: the offer says by what, and what it brings. */
async function joinSecond(page: Page, name: string): Promise<number> {
  await page.getByRole('link', { name: /Patch/ }).first().click()
  await page.getByRole('button', { name: 'Connect something after House desk' }).click()
  const offer = page.getByRole('button', { name: new RegExp(`^${name} camera`) })
  await expect(offer).toContainText(/by .*pad/, { timeout: 60_000 })
  await offer.click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: new RegExp(`^${name}`) }).first()).toBeVisible()
  return 3
}

/** Turns the first knob that the map shows by a step; where there is none, another aim is chosen. */
async function turnSomething(page: Page): Promise<void> {
  const knob = page.getByRole('slider').first()
  if (await knob.count()) {
    const before = await knob.getAttribute('aria-valuetext')
    await knob.focus()
    await page.keyboard.press('ArrowDown')
    if ((await knob.getAttribute('aria-valuetext')) === before) await page.keyboard.press('ArrowUp')
    await expect(knob).not.toHaveAttribute('aria-valuetext', before!)
    return
  }
  // some cameras have nothing to turn: then another aim
  await page.getByRole('combobox', { name: 'Where peaks should lie' }).click()
  await page.getByRole('option', { name: /^cautious/ }).click()
}

const sceneOf = (page: Page) => page.url().match(/scene\/([^/]+)/)![1]!
const storedPatch = async (page: Page, id: string) =>
  Patch.parse(((await (await page.request.get(`/api/scenes/${id}`)).json()) as { patch: unknown }).patch)

for (const [job, { answers, second }] of Object.entries(jobs))
  test(
    `${job}: from the first page to a verdict that the samples confirm, and through a file and back`,
    { tag: inShortForm.includes(job) ? [] : '@long' },
    async ({ page }) => {
      test.setTimeout(240_000)
      await page.goto('/')
      let actions = 1
      for (const [index, question] of ['What films?', 'Who is heard?', 'Heard with?'].entries())
        actions += await answer(page, question, answers[index]!)
      const open = page.getByRole('button', { name: 'Open this scene' })
      await expect(open).toBeEnabled({ timeout: 60_000 })
      await expect(page.getByRole('region', { name: 'Verdict' })).toContainText(/headroom|overload|too hot/)
      const said = await page.getByRole('region', { name: 'Verdict' }).locator('.say').innerText()
      await open.click()
      await expect(page.locator('h1')).toHaveText('Levels')
      await expect(verdict(page)).toHaveText(said)
      if (second) actions += await joinSecond(page, second)
      expect(actions).toBeLessThanOrEqual(8)
      await expect(verdict(page)).toContainText(/Clean|Usable|Far away|Noisy|Tight|Distorted|Lost/)
      await expect(verdict(page)).not.toContainText(/No sound|no power/)

      await settled(page)
      const id = sceneOf(page)
      const planned = await storedPatch(page, id)
      expect(
        planned.boxes.filter(({ gear }) => shelfFor(planned, shelf).get(gear)?.kind === 'camera'),
      ).toHaveLength(second ? 2 : 1)
      for (const each of heardBeside(planned, shelf, 2))
        expect(apart(each), `${each.kind} of ${each.run}`).toBeLessThan(each.limited ? 4 : 0.3)

      await page.goto(`/scene/${id}/levels`)
      await expect(page.getByRole('img', { name: /Level map/ })).toBeVisible()
      await turnSomething(page)
      await settled(page)
      expect(await storedPatch(page, id)).not.toEqual(planned)
      await page.getByRole('button', { name: /^Balance/ }).click()
      const proposal = page.getByRole('region', { name: 'Proposal of Balance' })
      await expect(proposal).toContainText(/controls? to move|Nothing to change|No setting is better/, {
        timeout: 60_000,
      })
      if (await page.getByRole('button', { name: 'Accept all' }).count())
        await page.getByRole('button', { name: 'Accept all' }).click()
      await page.keyboard.press('Escape')
      await settled(page)
      const changed = await storedPatch(page, id)

      await page.goto('/')
      const mine = page.getByRole('article').filter({ has: page.getByLabel('Name of My shoot') })
      const rows = mine.getByRole('link')
      await expect(rows).toHaveCount(1)
      const act = async (what: string) => {
        await mine
          .getByRole('button', { name: /What to do with/ })
          .first()
          .click()
        await page.getByRole('menuitem', { name: what, exact: true }).click()
      }
      const downloading = page.waitForEvent('download')
      await act('Export')
      const file = readFileSync(await (await downloading).path())
      await act('Delete')
      await expect(rows).toHaveCount(0)
      await page.getByLabel('Import a patch or a shoot').setInputFiles({
        name: 'scene.json',
        mimeType: 'application/json',
        buffer: file,
      })
      await expect(rows).toHaveCount(1)
      const href = await rows.first().getAttribute('href')
      // what the shelf has is not kept twice
      expect({ ...(await storedPatch(page, href!.split('/')[2]!)), gear: [] }).toEqual({
        ...changed,
        gear: [],
      })
    },
  )

test('a planned scene is renamed, deleted, brought back and copied', { tag: '@long' }, async ({ page }) => {
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
  const address = await rows.first().getAttribute('href')
  await act('Delete')
  await expect(rows).toHaveText([])
  await undoKept(page, 'deleting The smith')
  // who comes by its old address is told, and opens it once it is back
  await page.goto(address!)
  await expect(page.getByText('There is no scene at this address')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveText(['The smith'])
  await rows.first().click()
  await expect(page.locator('h1')).toHaveText('Levels')
  await page.getByRole('link', { name: /IRON HUSH/ }).click()
  await act('Copy')
  await expect(rows).toHaveText(['The smith', 'The smith, copy'])
  // another of the same kind is told from the first
  await act('Rename')
  await mine.getByRole('textbox', { name: 'Name of The smith', exact: true }).fill('One person, seated')
  await page.keyboard.press('Enter')
  await expect(rows).toHaveText(['One person, seated', 'The smith, copy'])
  await expect(open).toBeEnabled({ timeout: 60_000 })
  await open.click()
  await expect(page.locator('h1')).toHaveText('Levels')
  await page.getByRole('link', { name: /IRON HUSH/ }).click()
  await expect(rows).toHaveText(['One person, seated', 'The smith, copy', 'One person, seated 2'])
})

test(
  'a file that is no patch is refused with a sentence, and nothing changes',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto('/')
    await page.getByLabel('Import a patch or a shoot').setInputFiles({
      name: 'odd.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"format": "iron-hush/patch", "version": 9}'),
    })
    await expect(page.getByText(/odd\.json was refused/)).toBeVisible()
  },
)

test('which lead joins two sockets, without a scene', { tag: '@long' }, async ({ page }) => {
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
