// Each test file as one script with the switches in it, so that it can be evaluated afresh for every change.
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { build, type Plugin } from 'esbuild'
import { withSwitches, type Change } from './changes'

export interface Bundles {
  changes: Change[]
  /** Path of the script of each test file. */
  scripts: Map<string, string>
}

/** Bundles test files of the core into `outDir`; changes are looked for in `folders` of it. Throws where one cannot be built. */
export async function bundleTests(
  root: string,
  tests: readonly string[],
  folders: readonly string[],
  outDir: string,
): Promise<Bundles> {
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
    // a bundle stands elsewhere than the files in it
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
  const scripts = new Map<string, string>()
  for (const test of tests) {
    const outfile = path.join(outDir, `${test.replaceAll('/', '_')}.cjs`)
    await build({
      entryPoints: [path.join(root, test)],
      outfile,
      bundle: true,
      format: 'cjs',
      platform: 'node',
      target: 'node20',
      packages: 'external',
      logLevel: 'error',
      plugins: [plugin],
    })
    scripts.set(test, outfile)
  }
  return { changes, scripts }
}
