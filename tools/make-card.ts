// npm run make-card [FOLDER]: writes the stand-in card, a folder of small clips with known faults.
import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { standInCard } from '../core/src/card'
import { readOptions } from './options.mjs'

const [named] = readOptions('npm run make-card [FOLDER]', {}, 1).positionals
const folder = path.resolve(named ?? 'card')
mkdirSync(folder, { recursive: true })
for (const { name, holds, bytes } of standInCard) {
  writeFileSync(path.join(folder, name), await bytes())
  console.log(`${name.padEnd(22)} ${holds}`)
}
console.log(`\nWritten to ${folder}. Measure it on Proof, or with: npx hush measure "${folder}"`)
