// Writes the published JSON Schemas into docs/schema, or with --check says whether they are up to date.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { publishedSchemas } from '@iron-hush/core/model'

const folder = new URL('../docs/schema/', import.meta.url)
const check = process.argv.includes('--check')
mkdirSync(folder, { recursive: true })
let stale = 0
for (const [name, schema] of Object.entries(publishedSchemas())) {
  const file = new URL(`${name}.schema.json`, folder)
  const text = `${JSON.stringify(schema, null, 2)}\n`
  if (!check) writeFileSync(file, text)
  else if (!existsSync(file) || readFileSync(file, 'utf8') !== text) {
    console.error(`docs/schema/${name}.schema.json is out of date; run npm run schemas.`)
    stale++
  }
}
process.exitCode = stale ? 1 : 0
