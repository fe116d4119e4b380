import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { build, type Plugin } from 'vite'

const source = fileURLToPath(new URL('src/offline.worker.ts', import.meta.url))
const kept = /(^(index\.html|icon\.svg|manifest\.webmanifest)|\.(js|css|woff2))$/

/** Builds the service worker after the page, for it lists the files that the browser keeps. */
export function keepFiles(): Plugin {
  let folder = ''
  return {
    name: 'keep-files',
    apply: 'build',
    configResolved: ({ root, build: { outDir } }) => void (folder = path.resolve(root, outDir)),
    closeBundle: {
      sequential: true,
      order: 'post',
      handler: async () => {
        await build({
          configFile: false,
          logLevel: 'warn',
          define: { __KEPT_FILES__: JSON.stringify(keptFiles(folder)) },
          build: {
            outDir: folder,
            emptyOutDir: false,
            copyPublicDir: false,
            rolldownOptions: { input: source, output: { format: 'iife', entryFileNames: 'sw.js' } },
          },
        })
      },
    },
  }
}

/** What is kept of a built page; files whose names say their content need no revision. */
function keptFiles(folder: string): { url: string; revision: string | null }[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => kept.test(file) && file !== 'sw.js')
    .toSorted()
    .map((file) => ({
      url: `/${file}`,
      revision: file.startsWith('assets/')
        ? null
        : createHash('sha256')
            .update(readFileSync(path.join(folder, file)))
            .digest('hex'),
    }))
}
