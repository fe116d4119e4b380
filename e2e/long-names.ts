import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { SceneDocument } from '@iron-hush/core/contract'
import { uuidv7 } from '@iron-hush/core/model'

const latin = 'The founder\u2019s second-best microphone, borrowed from the tower'
const emoji =
  '\u{1F514}\u{1F468}\u200D\u{1F527} ringer at the bell \u{1F1E8}\u{1F1ED} with a long ladder \u{1F525}\u{1F525} and a'
const rightToLeft =
  '\u05DE\u05D9\u05E7\u05E8\u05D5\u05E4\u05D5\u05DF \u05D0\u05D7\u05D3 \u05DE\u05EA\u05D7\u05EA \u05DC\u05E1\u05D9\u05E0\u05E8 \u05E9\u05DC \u05D4\u05E9\u05D5\u05DC\u05D9\u05D4, \u05DE\u05E7\u05D5\u05DD \u05E9\u05E0\u05D9 12'
const unbroken = 'Aufnahmegerätehalterungsklemmenschraubenzieherfachablage'

/** Gives everything in a scene a name of some 60 letters: with emoji, from right to left, and without a gap. */
export async function renameAll(page: Page, scene: string): Promise<void> {
  const address = `/api/scenes/${scene}`
  const { revision, patch } = (await (await page.request.get(address)).json()) as SceneDocument
  const names = [latin, emoji, rightToLeft, unbroken]
  let given = 0
  const renamed = <T extends { name?: string }>(all: readonly T[]): T[] =>
    all.map((each) => ({ ...each, name: names[given++ % names.length]! }))
  const { sources, noises, places, ...brief } = patch.brief
  const answer = await page.request.post(`${address}/edits`, {
    data: {
      id: uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
      baseRevision: revision,
      edits: [
        {
          kind: 'change brief',
          to: { ...brief, sources: renamed(sources), noises: renamed(noises), places: renamed(places) },
        },
        { kind: 'set wiring', boxes: renamed(patch.boxes), links: patch.links },
        { kind: 'rename', name: emoji },
      ],
    },
  })
  if (!answer.ok()) throw new Error(await answer.text())
}

/** Puts a microphone with a name of some 60 letters without a gap on the shelf. */
export async function addLongNamed(page: Page): Promise<void> {
  const { gear } = JSON.parse(readFileSync(new URL('../demo/shelf.json', import.meta.url), 'utf8')) as {
    gear: { id: string; kind: string }[]
  }
  const microphone = gear.find(({ kind }) => kind === 'microphone')
  const content = { ...microphone, id: 'long-named', name: unbroken }
  const answer = await page.request.put('/api/gear/long-named', { data: { baseRevision: 0, content } })
  if (!answer.ok()) throw new Error(await answer.text())
}
