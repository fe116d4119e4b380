// Writes the published JSON Schemas into docs/schema, or with --check says whether they are up to date.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { z } from 'zod'
import {
  BalanceAnswer,
  LevelsAnswer,
  MeasureAnswer,
  Patch,
  ShelfFile,
  OddsAnswer,
  WiringAnswer,
} from '@iron-hush/core/model'

const folder = new URL('../docs/schema/', import.meta.url)
const published: Record<string, [z.ZodType, 'input' | 'output']> = {
  patch: [Patch, 'input'],
  shelf: [ShelfFile, 'input'],
  levels: [LevelsAnswer, 'output'],
  balance: [BalanceAnswer, 'output'],
  measure: [MeasureAnswer, 'output'],
  odds: [OddsAnswer, 'output'],
  wiring: [WiringAnswer, 'output'],
}

const check = process.argv.includes('--check')
mkdirSync(folder, { recursive: true })
let stale = 0
for (const [name, [schema, io]] of Object.entries(published)) {
  const file = new URL(`${name}.schema.json`, folder)
  const text = `${JSON.stringify(z.toJSONSchema(schema, { io, reused: 'ref' }), null, 2)}\n`
  if (!check) writeFileSync(file, text)
  else if (!existsSync(file) || readFileSync(file, 'utf8') !== text) {
    console.error(`docs/schema/${name}.schema.json is out of date; run npm run schemas.`)
    stale++
  }
}
process.exitCode = stale ? 1 : 0
