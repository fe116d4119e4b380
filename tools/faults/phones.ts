import { chromium, type Page } from '@playwright/test'
import { launchOptions } from '../browser.mjs'

/** Minutes between two actions on a phone. */
const minutesEach = 2.5
const thingsEachRound = 4

interface Phone {
  page: Page
  name: string
  words: string[]
}

/**
 * Two phones on one scene that lose the network again and again, on which takes are rolled, ended and noted meanwhile; in
 * the end everything that was done is there once. Their clocks run on by minutes.
 */
export async function twoPhones(address: string, rounds: number, random: () => number) {
  const browser = await chromium.launch(launchOptions)
  const shoots = (await (await fetch(`${address}/api/shoots`)).json()) as { scenes: { id: string }[] }[]
  const scene = shoots[0]!.scenes[0]!.id
  const phone = async (name: string): Promise<Phone> => {
    const context = await browser.newContext({
      viewport: { width: 390, height: 844 },
      serviceWorkers: 'block',
    })
    const page = await context.newPage()
    await page.clock.install()
    await page.goto(`${address}/scene/${scene}/roll`)
    await page.getByRole('button', { name: /^Roll take/ }).waitFor()
    return { page, name, words: [] }
  }
  const phones = [await phone('first'), await phone('second')]
  let [done, conflicts, minutes] = [0, 0, 0]
  for (let round = 0; round < rounds; round++) {
    const off = phones.filter(() => random() < 0.7)
    for (const { page } of off) await page.context().setOffline(true)
    for (let thing = 0; thing < thingsEachRound; thing++) {
      for (const each of phones) done += await doSomething(each, `${round}.${thing}`, random)
      minutes += minutesEach
    }
    if (off.length === 2) conflicts++
    for (const { page } of off) await page.context().setOffline(false)
    for (const { page } of phones) await settled(page)
  }
  for (const { page } of phones) await endTake(page)
  for (const { page } of phones) await settled(page)
  const takes = (await (await fetch(`${address}/api/scenes/${scene}/takes?limit=1000`)).json()) as {
    content: { id: string; number: number; marks: { id: string; note: string }[] }
  }[]
  const notes = takes.flatMap(({ content }) => content.marks.map(({ note }) => note)).filter(Boolean)
  const words = phones.flatMap((each) => each.words)
  const lost = words.filter((word) => !notes.includes(word)).length
  const doubled =
    words.filter((word) => notes.filter((note) => note === word).length > 1).length +
    takes.length -
    new Set(takes.map(({ content }) => content.number)).size
  await browser.close()
  return { rounds, done, lost, doubled, conflicts, hours: minutes / 60 }
}

/** One thing as a hand does it: a take begins or ends, or a word is kept about this moment. */
async function doSomething(
  { page, name, words }: Phone,
  what: string,
  random: () => number,
): Promise<number> {
  await page.clock.fastForward(minutesEach * 60_000)
  const rolls = await page.getByRole('button', { name: 'End take' }).isVisible()
  if (!rolls)
    await page
      .getByRole('button', { name: /^Roll take/ })
      .click({ timeout: 2000 })
      .catch(() => undefined)
  else if (random() < 0.35) await endTake(page)
  else {
    const word = `${name} ${what}`
    // the take may end on the other phone while the hand is on its way
    const field = page.getByRole('textbox', { name: 'Word' })
    const opened = await page
      .getByRole('button', { name: /Word/ })
      .click({ timeout: 2000 })
      .then(() => field.fill(word, { timeout: 2000 }))
      .then(() => field.press('Enter', { timeout: 2000 }))
      .then(
        () => true,
        () => false,
      )
    if (!opened) return 0
    words.push(word)
  }
  return 1
}

async function endTake(page: Page): Promise<void> {
  const end = page.getByRole('button', { name: 'End take' })
  if (await end.isVisible()) await end.click({ timeout: 2000 }).catch(() => undefined)
}

/** Waits until the server has everything of a phone. */
async function settled(page: Page): Promise<void> {
  for (let tries = 0; tries < 100; tries++) {
    await page.clock.fastForward(3000)
    if (await page.evaluate(nothingWaits)) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('A phone still has something that the server does not take.')
}

/** Runs in the page. */
function nothingWaits(): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const opening = indexedDB.open('iron-hush')
    opening.onerror = () => reject(new Error('storage cannot be opened'))
    opening.onsuccess = () => {
      const db = opening.result
      const counting = db.transaction('parcels').objectStore('parcels').count()
      counting.onsuccess = () => {
        db.close()
        resolve(counting.result === 0)
      }
    }
  })
}
