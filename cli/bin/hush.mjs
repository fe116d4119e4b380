#!/usr/bin/env node
import { commandModule } from '../../tools/command.mjs'

/** Built where that is possible; else from its sources, which takes longer to start. */
const module = await commandModule().catch(async () => {
  const { register } = await import('tsx/esm/api')
  register()
  return new URL('../src/main.ts', import.meta.url).href
})
const { main } = await import(module)
process.exitCode = await main(process.argv)
