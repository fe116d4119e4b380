import { readdirSync, readFileSync } from 'node:fs'
import { type Gear, parseJson, Patch, ShelfFile, shelfOf } from '../model'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')

/** The shelf that ships. */
export const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)

/** A scene of the demo by its file, without its ending. */
export const scene = (file: string): Patch => parseJson(Patch, read(`scenes/${file}.json`), file)

/** Every scene of the demo. */
export const scenes = readdirSync(new URL('scenes/', demo)).map((file) => scene(file.replace('.json', '')))

/** A patch of two things of the shelf and nothing between them. */
export const pairOf = (out: Gear, from: string, into: Gear, to: string): Patch => ({
  ...scene('1-the-founder-at-the-bench'),
  boxes: [
    { id: 'one', gear: out.id, settings: {}, locked: [] },
    { id: 'two', gear: into.id, settings: {}, locked: [] },
  ],
  links: [{ id: 'link', from: { box: 'one', port: from }, to: { box: 'two', port: to }, pieces: [] }],
})
