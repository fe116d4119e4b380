#!/usr/bin/env node
import { pathToFileURL } from 'node:url'
import { commandProgram, needBundle } from '../../tools/bundles.mjs'

/** Built where that is possible; else from its sources, which takes longer to start. */
const module = await needBundle('cli').then(
  () => pathToFileURL(commandProgram).href,
  async () => {
    const { register } = await import('tsx/esm/api')
    register()
    return new URL('../src/main.ts', import.meta.url).href
  },
)
const { main } = await import(module)
process.exitCode = await main(process.argv)
