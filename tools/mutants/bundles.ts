// All test files as one script with the switches in it, evaluated afresh for every change. A file of it is evaluated when it
// is asked for, with what it needs that no other needed before it.
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { build, type Plugin } from 'esbuild'
import { withSwitches, type Change } from './changes'

export interface Bundle {
  changes: Change[]
  /** Path of the script. It exports a function for each test file, by name, that evaluates it. */
  script: string
}

/** Bundles test files of the core into `outDir`; changes are looked for in `folders` of it. Throws where it cannot be built. */
export async function bundleTests(
  root: string,
  tests: readonly string[],
  folders: readonly string[],
  outDir: string,
): Promise<Bundle> {
  const changes: Change[] = []
  const loaded = new Map<string, string>()
  const isChanged = (file: string) =>
    folders.some((folder) => file.startsWith(`core/src/${folder}/`)) && !/(\.test|\/index)\.ts$/.test(file)
  const load = (file: string): string => {
    const known = loaded.get(file)
    if (known !== undefined) return known
    let text = readFileSync(path.join(root, file), 'utf8')
    if (isChanged(file)) {
      const switched = withSwitches(file, text, changes.length)
      changes.push(...switched.changes)
      text = switched.text
    }
    // a bundle is in another folder than the files in it
    const place = path.join(root, file)
    text = text
      .replaceAll('import.meta.url', JSON.stringify(`file://${place}`))
      .replaceAll('import.meta.dirname', JSON.stringify(path.dirname(place)))
    loaded.set(file, text)
    return text
  }
  const plugin: Plugin = {
    name: 'switches',
    setup(building) {
      building.onLoad({ filter: /\.ts$/ }, (args) => ({
        contents: load(path.relative(root, args.path)),
        loader: 'ts',
      }))
    },
  }
  const script = path.join(outDir, 'tests.cjs')
  const files = tests.map((test) => `${JSON.stringify(test)}: () => require(${JSON.stringify(`./${test}`)})`)
  await build({
    stdin: { contents: `module.exports = {${files.join()}}`, resolveDir: root },
    outfile: script,
    bundle: true,
    format: 'cjs',
    platform: 'node',
    target: 'node20',
    packages: 'external',
    logLevel: 'error',
    plugins: [plugin],
  })
  return { changes, script }
}
