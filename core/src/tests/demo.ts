import { readdirSync, readFileSync } from 'node:fs'
import { parseJson, Patch, ShelfFile, shelfOf } from '../model'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')

/** The shelf that ships. */
export const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)

/** A scene of the demo by its file, without its ending. */
export const scene = (file: string): Patch => parseJson(Patch, read(`scenes/${file}.json`), file)

/** Every scene of the demo. */
export const scenes = readdirSync(new URL('scenes/', demo)).map((file) => scene(file.replace('.json', '')))
